package rafter.app.arrival.mail;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.id.TicketNumber;

class ReplyMarkTest {

    private static final byte[] SECRET = {1, 2, 3};
    private static final MailServer SERVER = new MailServer("x", 1, MailServer.Security.NONE, "", "");
    private static final Mailbox HELP = new Mailbox(
            1,
            "Help",
            "help@ternpassage.example",
            Optional.empty(),
            true,
            true,
            Mailbox.AfterFetch.MARK_READ,
            SERVER,
            "INBOX",
            SERVER,
            Optional.empty(),
            0,
            new Mailbox.Status(Mailbox.Health.NEW, "", Optional.empty()),
            0);

    @Test
    void a_mark_is_read_back_whatever_the_letters_case() {
        String marked = ReplyMark.address(HELP, new TicketNumber(4471), SECRET);
        assertThat(marked).startsWith("help+t4471.").endsWith("@ternpassage.example");
        assertThat(ReplyMark.ticket(marked, SECRET)).hasValue(new TicketNumber(4471));
        assertThat(ReplyMark.ticket(marked.toUpperCase(), SECRET)).hasValue(new TicketNumber(4471));
        assertThat(ReplyMark.plain(marked)).isEqualTo(HELP.address());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "help@ternpassage.example",
                "help+t4471@ternpassage.example",
                "help+t4471.000000000000@ternpassage.example",
                "",
                "+t1.123456789012@x",
                "help+news@x"
            })
    void what_carries_no_true_mark_tells_no_ticket(String address) {
        assertThat(ReplyMark.ticket(address, SECRET)).isEmpty();
    }

    @Test
    void the_mark_of_one_ticket_is_no_good_for_another_nor_under_another_secret() {
        var random = new Random(1);
        for (int i = 0; i < 200; i++) {
            long ticket = random.nextInt(1_000_000);
            String marked = ReplyMark.address(HELP, new TicketNumber(ticket), SECRET);
            assertThat(ReplyMark.ticket(marked.replace("+t" + ticket + ".", "+t" + (ticket + 1) + "."), SECRET))
                    .isEmpty();
            assertThat(ReplyMark.ticket(marked, new byte[] {9})).isEmpty();
        }
    }
}
