package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.RunningApp;
import rafter.app.arrival.mail.ReplyMark;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.TicketEvent;
import rafter.database.Tables;

/** Messages that are processed together become what they become one by one. */
@ExtendWith(RunningApp.class)
class IntakeTogetherTest {

    private static final int MAILS = 40;

    private final Inbox inbox = bean(Inbox.class);
    private final Tickets tickets = bean(Tickets.class);

    /** Who writes, what it answers, and to which address; the same for every round of a seed. */
    private record Plan(int sender, int answers, boolean marked) {}

    private static List<Plan> plans(long seed) {
        var random = new Random(seed);
        var plans = new ArrayList<Plan>();
        for (int i = 0; i < MAILS; i++) {
            int answers = i > 0 && random.nextInt(3) == 0 ? random.nextInt(i) : -1;
            boolean own = answers >= 0 && random.nextBoolean();
            // Nobody opens so many that only the first of them are acknowledged: which these are would depend on the
            // order.
            plans.add(new Plan(own ? plans.get(answers).sender() : i % 11, answers, random.nextInt(4) == 0));
        }
        return plans;
    }

    private long receive(String raw) {
        return inbox.receive(RunningApp.help().id(), java.util.Optional.empty(), raw.getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
    }

    private static String marked(TicketNumber ticket) {
        return ReplyMark.address(
                RunningApp.help(), ticket, bean(Workspaces.class).current().secret());
    }

    private static String mail(String from, String id, String more, String to, String subject) {
        return "From: " + from + "\nTo: " + to + "\nMessage-ID: <" + id + "@post.example>\n" + more + "Subject: "
                + subject + "\n\nWords of " + id + "\n";
    }

    /** What became of a round: for each mail the first mail of its ticket, and for each ticket what happened to it. */
    private List<String> live(long seed, Consumer<Long> eachReceived) {
        int round = unique();
        TicketNumber before = RunningApp.ticketOf(first(round));
        var ids = new ArrayList<Long>();
        for (Plan plan : plans(seed)) {
            int i = ids.size();
            String answers =
                    plan.answers() < 0 ? "" : "In-Reply-To: <r" + round + "m" + plan.answers() + "@post.example>\n";
            String from = "w" + plan.sender() + "r" + round + "@post.example";
            String to = plan.marked() ? marked(before) : "help@ternpassage.example";
            ids.add(receive(mail(from, "r" + round + "m" + i, answers, to, "Mail " + i)));
            eachReceived.accept(ids.getLast());
        }
        bean(Processor.class).processAll();
        return told(ids, before);
    }

    /** A ticket that was there before, of the first sender. */
    private long first(int round) {
        long id = receive(mail(
                "w0r" + round + "@post.example", "r" + round + "before", "", "help@ternpassage.example", "Before"));
        bean(Processor.class).processAll();
        return id;
    }

    private List<String> told(List<Long> ids, TicketNumber before) {
        Map<TicketNumber, String> names = new HashMap<>(Map.of(before, "before"));
        var told = new ArrayList<String>();
        for (int i = 0; i < ids.size(); i++) {
            TicketNumber ticket = RunningApp.ticketOf(ids.get(i));
            names.putIfAbsent(ticket, "of mail " + i);
            told.add(i + " is on the one " + names.get(ticket));
        }
        for (TicketNumber ticket : names.keySet().stream().sorted().toList()) {
            List<TicketEvent> events = tickets.events(List.of(ticket)).getOrDefault(ticket, List.of());
            var row = sql().selectFrom(Tables.TICKET)
                    .where(Tables.TICKET.NUMBER.eq(ticket))
                    .fetchSingle();
            told.add(names.get(ticket) + ": " + inOrder(events) + " " + row.getState() + " " + row.getTurn() + " "
                    + row.getMessages() + " " + row.getLastSeq() + " entries " + count(ticket) + ", clocks "
                    + clocks(ticket));
            assertThat(row.getLastSeq()).isEqualTo(events.size());
        }
        // The order of tickets is not theirs to keep: an answer waits for what it answers, and others overtake it.
        return told.stream().sorted().toList();
    }

    /** What happened; where others go on with it stands last, for in which order they come is not its own to keep. */
    private static List<String> inOrder(List<TicketEvent> events) {
        return events.stream()
                .map(event -> event.getClass().getSimpleName())
                .sorted(Comparator.comparing(name -> name.equals("Continued")))
                .toList();
    }

    private static int count(TicketNumber ticket) {
        return sql().fetchCount(Tables.MESSAGE, Tables.MESSAGE.TICKET.eq(ticket));
    }

    private static List<String> clocks(TicketNumber ticket) {
        return sql().selectFrom(Tables.TICKET_CLOCK)
                .where(Tables.TICKET_CLOCK.TICKET.eq(ticket))
                .orderBy(Tables.TICKET_CLOCK.OBJECTIVE)
                .fetch(r -> r.getObjective() + " " + r.getState());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void together_they_become_what_they_become_one_by_one(long seed) {
        List<String> alone = live(seed, id -> bean(Processor.class).processAll());
        List<String> together = live(seed, id -> {});
        assertThat(together).isEqualTo(alone);
    }

    @Test
    void somebody_who_writes_many_at_once_is_acknowledged_five_times_an_hour() {
        String from = "many" + unique() + "@post.example";
        for (int i = 0; i < 9; i++) {
            receive(mail(from, "many" + unique(), "", "help@ternpassage.example", "One of many"));
        }
        bean(Processor.class).processAll();
        assertThat(sql().fetchCount(Tables.ACKNOWLEDGEMENT, Tables.ACKNOWLEDGEMENT.ADDRESS.eq(from)))
                .isEqualTo(5);
    }

    @Test
    void a_machine_that_writes_many_at_once_gets_ten_tickets_and_the_rest_is_set_aside() {
        int nth = unique();
        String words = "Your request was received and will be answered by the next of our people who is free ";
        var ids = new ArrayList<Long>();
        for (int i = 0; i < 14; i++) {
            String from = "desk+" + i + "@machine" + nth + ".example";
            ids.add(receive(
                    mail(from, "machine" + unique(), "", "help@ternpassage.example", words + "no " + unique())));
        }
        bean(Processor.class).processAll();
        assertThat(states(ids)).containsEntry("DONE", 10L).containsEntry("ASIDE", 4L);
        long later = receive(mail(
                "desk+x@machine" + nth + ".example",
                "machine" + unique(),
                "",
                "help@ternpassage.example",
                words + "no 1"));
        bean(Processor.class).processAll();
        assertThat(states(List.of(later))).containsOnlyKeys("ASIDE");
    }

    private static Map<String, Long> states(List<Long> ids) {
        return sql().selectFrom(Tables.INBOUND).where(Tables.INBOUND.ID.in(ids)).fetch(Tables.INBOUND.STATE).stream()
                .collect(Collectors.groupingBy(state -> state, Collectors.counting()));
    }

    @Test
    void several_who_process_mail_of_the_same_strangers_at_once_make_one_contact_of_each() throws Exception {
        int round = unique();
        var ids = new ArrayList<Long>();
        for (int i = 0; i < 160; i++) {
            // Each batch has them in another order than the one before.
            int sender = i / 32 % 2 == 0 ? i % 32 : 31 - i % 32;
            String from = "s" + sender + "r" + round + "@post.example";
            ids.add(receive(mail(from, "s" + unique(), "", "help@ternpassage.example", "Mail " + unique())));
        }
        try (var workers = Executors.newFixedThreadPool(4)) {
            Callable<Integer> work = () -> bean(Processor.class).processAll();
            for (Future<Integer> worker : workers.invokeAll(Collections.nCopies(4, work))) {
                worker.get();
            }
        }
        bean(Processor.class).processAll();
        assertThat(states(ids)).containsOnlyKeys("DONE");
        for (int sender = 0; sender < 32; sender++) {
            assertThat(sql().fetchCount(
                                    Tables.CONTACT,
                                    Tables.CONTACT.NAME.eq("s" + sender + "r" + round + "@post.example")))
                    .isEqualTo(1);
        }
    }

    @Test
    void two_mails_of_one_message_id_are_two_entries_and_the_id_is_the_firsts() {
        String id = "twice" + unique();
        long one = receive(mail("a@post.example", id, "", "help@ternpassage.example", "First of two"));
        TicketNumber other = new TicketNumber(
                receive(mail("a@post.example", id, "X-Other: yes\n", "help@ternpassage.example", "Second of two")));
        bean(Processor.class).processAll();
        assertThat(List.of(RunningApp.ticketOf(one), RunningApp.ticketOf(other.value())))
                .doesNotHaveDuplicates();
        assertThat(sql().fetchCount(Tables.MESSAGE, Tables.MESSAGE.MESSAGE_ID.eq("<" + id + "@post.example>")))
                .isEqualTo(1);
    }

    @Test
    void a_large_mail_among_small_ones_is_read_when_it_is_its_turn() {
        String large = mail("big@post.example", "big" + unique(), "", "help@ternpassage.example", "A long story")
                + "word ".repeat(60_000);
        TicketNumber small = new TicketNumber(
                receive(mail("small@post.example", "small" + unique(), "", "help@ternpassage.example", "A short one")));
        long big = receive(large);
        bean(Processor.class).processAll();
        assertThat(RunningApp.ticketOf(big)).isNotEqualTo(RunningApp.ticketOf(small.value()));
        assertThat(sql().select(Tables.MESSAGE.TEXT)
                        .from(Tables.MESSAGE)
                        .where(Tables.MESSAGE.INBOUND_ID.eq(big))
                        .fetchSingle()
                        .value1())
                .hasSizeGreaterThan(200_000);
    }
}
