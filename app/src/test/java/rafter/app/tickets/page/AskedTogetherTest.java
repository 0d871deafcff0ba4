package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.jooq.Configuration;
import org.jooq.ExecuteContext;
import org.jooq.ExecuteListener;
import org.jooq.ExecuteListenerProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** The page of a ticket asks for what it shows together, however much that is. */
@ExtendWith(RunningApp.class)
class AskedTogetherTest extends Browsing {

    private static final int MOST = 20;

    private static TicketNumber mail(String sender, String subject) {
        clock().tick(Duration.ofMinutes(3));
        String raw = "From: Line <" + sender + ">\nMessage-ID: <t" + unique() + "@post.example>\nSubject: " + subject
                + "\n\nText";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    /**
     * What is asked of the database while a page is made, by the thread that makes it; without what is read whole, and kept for a second.
     */
    private List<String> asked(String path) throws Exception {
        var asked = new ConcurrentLinkedQueue<String>();
        Configuration running = sql().configuration();
        ExecuteListenerProvider[] before = running.executeListenerProviders();
        running.set(() -> new ExecuteListener() {
            @Override
            public void executeStart(ExecuteContext context) {
                String query = String.valueOf(context.sql());
                if (Thread.currentThread().isVirtual() && query.contains("?")) {
                    asked.add(query);
                }
            }
        });
        try {
            assertThat(get(path).statusCode()).isEqualTo(200);
        } finally {
            running.set(before);
        }
        return List.copyOf(asked);
    }

    @Test
    void a_ticket_of_many_entries_asks_no_more_often_than_one_of_one_entry() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String sender = "together" + unique() + "@seamail.example";
        TicketNumber small = mail(sender, "Small");
        TicketNumber large = mail(sender, "Large");
        for (int i = 0; i < 8; i++) {
            mail(sender, "Re: [" + large + "] Large");
        }
        for (int i = 0; i < 3; i++) {
            bean(Acts.class)
                    .perform(mail("other" + unique() + "@seamail.example", "Part"), new Act.Join(large), imani());
        }
        assertThat(bean(Traces.class).of(small).there().values()).containsOnly(false);
        assertThat(bean(Traces.class).of(large).may(OwnTrace.JOINED)).isTrue();
        for (TicketNumber each : List.of(small, large)) {
            bean(Acts.class).perform(each, new Act.Watch(imani().id(), true), imani());
            asked("/tickets/" + each);
        }
        List<String> few = asked("/tickets/" + small);
        List<String> many = asked("/tickets/" + large);
        assertThat(few).hasSizeBetween(10, MOST);
        // Those that became parts of it are looked for twice, their events are read, and they stand among what it is
        // linked to.
        assertThat(many.size()).as("%s", many).isLessThanOrEqualTo(few.size() + 5);
        assertThat(few).as("nothing is asked twice").doesNotHaveDuplicates();
    }
}
