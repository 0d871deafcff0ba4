package rafter.app.work.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;

/** Two contacts that are one person become one, with everything that was theirs, and two again. */
@ExtendWith(RunningApp.class)
class JoiningTest extends Browsing {

    private final Joining joining = bean(Joining.class);
    private final ContactCards cards = bean(ContactCards.class);
    private final int nth = unique();
    private final String office = "dov" + nth + "@joined" + nth + ".example";
    private final String home = "dov.home" + nth + "@letters" + nth + ".example";
    private final TicketNumber first = mail(office);
    private final TicketNumber second = mail(home);
    private final ContactId kept = contact(first);
    private final ContactId gone = contact(second);

    private static TicketNumber mail(String from) {
        String raw = "From: Dov <" + from + ">\nMessage-ID: <j" + unique() + "@post.example>\nSubject: Joined\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static ContactId contact(TicketNumber number) {
        return bean(Tickets.class).find(number, imani()).orElseThrow().contact();
    }

    private void phones(ContactId contact, String... phones) {
        ContactCard card = cards.get(contact);
        cards.save(
                new ContactCard(
                        contact,
                        card.name(),
                        card.company(),
                        card.addresses(),
                        List.of(phones),
                        contact.equals(gone) ? "de" : "",
                        "",
                        Map.of(),
                        card.version()),
                imani().id());
    }

    @Test
    void everything_of_the_one_is_the_others_and_their_mail_still_finds_them() {
        phones(kept, "+47 55 01 0" + nth);
        phones(gone, "+47 55 02 0" + nth);
        assertThat(joining.preview(kept, gone, imani()).tickets()).isEqualTo(1);
        joining.join(kept, gone, imani());
        assertThat(contact(second)).isEqualTo(kept);
        assertThat(cards.get(kept).addresses()).containsExactlyInAnyOrder(office, home);
        assertThat(cards.get(kept).phones()).hasSize(2);
        assertThat(cards.get(kept).language()).isEqualTo("de");
        assertThatThrownBy(() -> cards.get(gone)).isInstanceOf(Problem.NotFound.class);
        assertThat(contact(mail(home))).isEqualTo(kept);
        assertThat(bean(Contacts.class).find(home).orElseThrow().id()).isEqualTo(kept);
    }

    @Test
    void taken_back_each_has_what_was_theirs_and_the_tickets_of_before() {
        phones(gone, "+47 55 03 0" + nth);
        long join = joining.join(kept, gone, imani());
        TicketNumber since = mail(home);
        assertThat(joining.takeBack(join, imani())).isEqualTo(gone);
        assertThat(contact(first)).isEqualTo(kept);
        assertThat(contact(second)).isEqualTo(gone);
        assertThat(contact(since)).as("what came meanwhile stays").isEqualTo(kept);
        assertThat(cards.get(gone).addresses()).containsExactly(home);
        assertThat(cards.get(gone).phones()).hasSize(1);
        assertThat(cards.get(kept).phones()).isEmpty();
        assertThatThrownBy(() -> joining.takeBack(join, imani())).isInstanceOf(Problem.Stale.class);
        joining.join(kept, gone, imani());
        assertThat(contact(second)).isEqualTo(kept);
    }

    @Test
    void one_contact_cannot_be_joined_with_itself_nor_one_that_is_gone() {
        assertThatThrownBy(() -> joining.join(kept, kept, imani())).isInstanceOf(Problem.NotFound.class);
        joining.join(kept, gone, imani());
        assertThatThrownBy(() -> joining.join(kept, gone, imani())).isInstanceOf(Problem.NotFound.class);
    }

    @Test
    void by_plain_pages_it_is_previewed_done_and_undone_and_old_links_lead_on() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        String preview = get("/contacts/" + kept + "/join/" + gone).body();
        assertThat(preview).contains(home).contains("One ticket of Dov");
        String done = post("/contacts/" + kept + "/join/" + gone, token).body();
        assertThat(done).contains("They are one contact now");
        assertThat(get("/contacts/" + gone).uri().getPath()).isEqualTo("/contacts/" + kept);
        String undo = done.replaceAll("(?s).*action=\"(/contacts/joins/\\d+/undo)\".*", "$1");
        assertThat(post(undo, token).body()).contains("They are two contacts again");
        assertThat(Optional.of(contact(second))).contains(gone);
    }
}
