package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** What was said on a ticket that became a part of another one is read there. */
@ExtendWith(RunningApp.class)
class JoinedTicketsTest {

    private static TicketNumber ticket(String words) {
        clock().tick(Duration.ofMinutes(3));
        int n = unique();
        String raw = "From: j" + n + "@post.example\nMessage-ID: <j" + n + "@post.example>\nSubject: " + words
                + "\n\nText of " + words;
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static List<Conversation.Entry> said(TicketNumber number) {
        return bean(TicketPage.class).load(number, imani(), true, Optional.empty()).items().stream()
                .filter(item ->
                        item instanceof Conversation.Entry entry && entry.css().equals("customer"))
                .map(Conversation.Entry.class::cast)
                .toList();
    }

    @Test
    void the_messages_of_both_stand_in_the_order_in_which_they_were_written() {
        TicketNumber first = ticket("first");
        TicketNumber second = ticket("second");
        TicketNumber third = ticket("third");
        bean(Acts.class).perform(third, new Act.Join(first), imani());
        bean(Acts.class).perform(first, new Act.Join(second), imani());
        assertThat(said(second))
                .extracting(Conversation.Entry::html)
                .satisfiesExactly(
                        one -> assertThat(one).contains("Text of first"),
                        two -> assertThat(two).contains("Text of second"),
                        three -> assertThat(three).contains("Text of third"));
        assertThat(said(second))
                .extracting(Conversation.Entry::via)
                .satisfiesExactly(
                        one -> assertThat(one).endsWith(", on " + first),
                        two -> assertThat(two).doesNotContain(", on "),
                        three -> assertThat(three).endsWith(", on " + third));
        assertThat(said(first))
                .as("its own page goes on showing what became a part of it")
                .hasSize(2);
        assertThat(said(third)).hasSize(1);
    }
}
