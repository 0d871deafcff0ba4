package rafter.app.promises.policies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.jooq.JSONB;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Companies;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.clocks.Recalculation;
import rafter.app.tickets.clocks.StepFiring;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.CompanyId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.target.Rehearsal;
import rafter.core.target.Step;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.database.Tables;

/** Promises from the draft to the ticket: into force, steps, rehearsal. The clock stands on a Monday at ten in Oslo. */
@ExtendWith(RunningApp.class)
class PromisesTest {

    private static final Step SOON = new Step(
            "soon",
            Objective.FIRST_REPLY,
            new Step.When.Before(Duration.ofMinutes(30)),
            List.of(new Act.Notify(Act.Whom.LEAD, "", "Ticket {number} of {customer} is due at {due}")));
    private static final Step DUE = new Step(
            "due",
            Objective.FIRST_REPLY,
            new Step.When.After(Duration.ZERO),
            List.of(
                    new Act.Notify(Act.Whom.LEAD, "", "{number} is late"),
                    new Act.RaisePriority(),
                    new Act.Tag("late"),
                    new Act.Note("Late: {subject}")));

    private static int weeks = 10;
    private PromiseBook before;

    /** Each test has a Monday of its own, for editions only ever follow each other. */
    @BeforeEach
    void on_a_monday_of_its_own() {
        RunningApp.clock().set(RunningApp.MONDAY.plus(Duration.ofDays(7L * weeks++)));
        before = bean(TargetDrafts.class).current().inForce();
    }

    @AfterEach
    void put_back() {
        force(before);
        RunningApp.clock().set(RunningApp.MONDAY);
    }

    private static long force(PromiseBook book) {
        TargetDrafts drafts = bean(TargetDrafts.class);
        PersonId me = RunningApp.ravi().id();
        drafts.save(book, drafts.current().version(), me, "test");
        if (!drafts.current().changed()) {
            return 0;
        }
        RunningApp.clock().tick(Duration.ofSeconds(1));
        long edition = drafts.putIntoForce(drafts.current().version(), me);
        bean(Recalculation.class).run(edition);
        return edition;
    }

    private static Policy policy(String name, Criteria criteria, int hours, Step... steps) {
        var within = new EnumMap<Priority, Duration>(Priority.class);
        for (Priority priority : Priority.values()) {
            within.put(priority, Duration.ofHours(hours));
        }
        var goals = Map.of(
                Objective.FIRST_REPLY,
                Goal.usual(Objective.FIRST_REPLY, within),
                Objective.RESOLUTION,
                Goal.usual(Objective.RESOLUTION, within));
        return new Policy(
                "test-" + name,
                name,
                "",
                true,
                criteria,
                Optional.of(bean(TargetDrafts.class).current().book().defaultCalendar()),
                goals,
                List.of(steps));
    }

    private PromiseBook with(Policy... policies) {
        return before.withPolicies(List.of(policies));
    }

    private static TicketNumber ticket(String from) {
        int nth = unique();
        String raw =
                "From: " + from + "\nMessage-ID: <p" + nth + "@post.example>\nSubject: Promise " + nth + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static Instant due(TicketNumber ticket) {
        return sql().select(Tables.TICKET.NEXT_DUE)
                .from(Tables.TICKET)
                .where(Tables.TICKET.NUMBER.eq(ticket))
                .fetchSingle(Tables.TICKET.NEXT_DUE);
    }

    /** What the lead was told of these tickets; others are open too. */
    private static List<String> told(TicketNumber... tickets) {
        return bean(Notices.class).of(odile(), Optional.empty(), 2000).stream()
                .filter(n -> List.of(tickets).contains(n.ticket()))
                .map(Notices.Notice::words)
                .toList();
    }

    private static Optional<Instant> timer(TicketNumber ticket) {
        return Optional.ofNullable(sql().select(org.jooq.impl.DSL.min(Tables.STEP_TIMER.DUE_AT))
                .from(Tables.STEP_TIMER)
                .where(Tables.STEP_TIMER.TICKET.eq(ticket))
                .fetchSingle(r -> r.value1()));
    }

    private static int fireAll() {
        int all = 0;
        for (int n = bean(StepFiring.class).fireDue(100);
                n > 0;
                n = bean(StepFiring.class).fireDue(100)) {
            all += n;
        }
        return all;
    }

    @Test
    void a_change_counts_for_nothing_until_it_is_put_into_force_and_then_open_tickets_follow_exactly_once() {
        force(with(policy("four", Criteria.everything(), 4)));
        TicketNumber number = ticket("kim@post.example");
        Instant four = due(number);
        TargetDrafts drafts = bean(TargetDrafts.class);
        draft(with(policy("four", Criteria.everything(), 2)));
        assertThat(drafts.current().changed()).isTrue();
        assertThat(due(number)).isEqualTo(four);
        RunningApp.clock().tick(Duration.ofSeconds(1));
        long edition = drafts.putIntoForce(
                drafts.current().version(), RunningApp.ravi().id());
        bean(Recalculation.class).run(edition);
        assertThat(due(number)).isEqualTo(four.minus(Duration.ofHours(2)));
        BackgroundWork.Work work = drafts.editions(1).getFirst().work().orElseThrow();
        assertThat(work.finished()).isTrue();
        assertThat(work.done()).isEqualTo(work.total()).isPositive();
        bean(Recalculation.class).run(edition);
        assertThat(drafts.editions(1).getFirst().work()).contains(work);
    }

    @Test
    void a_draft_that_somebody_else_changed_is_not_overwritten_and_a_faulty_one_does_not_come_into_force() {
        TargetDrafts drafts = bean(TargetDrafts.class);
        int version = drafts.current().version();
        drafts.save(with(), version, RunningApp.ravi().id(), "test");
        assertThatThrownBy(() -> drafts.save(before, version, RunningApp.ravi().id(), "test"))
                .isInstanceOf(Problem.Stale.class);
        draft(with(policy("a", new Criteria.Any(List.of()), 1)));
        assertThatThrownBy(() -> drafts.putIntoForce(
                        drafts.current().version(), RunningApp.ravi().id()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("would match nothing");
        drafts.discard(drafts.current().version(), RunningApp.ravi().id());
        assertThat(drafts.current().changed()).isFalse();
        assertThatThrownBy(() -> drafts.putIntoForce(
                        drafts.current().version(), RunningApp.ravi().id()))
                .hasMessageContaining("Nothing was changed");
    }

    @Test
    void the_plan_decides_and_a_plan_bought_later_moves_the_open_ticket() {
        force(with(
                policy("anchor", Criteria.test(KnownField.PLAN, Operator.IS, "Anchor"), 1),
                policy("all", Criteria.everything(), 4)));
        int nth = unique();
        String domain = "firm" + nth + ".example";
        CompanyId firm =
                bean(Companies.class).save(Optional.empty(), "Firm " + nth, "", domain, Map.of(), Guard.ITSELF);
        TicketNumber number = ticket("ann@" + domain);
        Instant four = due(number);
        bean(Companies.class).save(Optional.of(firm), "Firm " + nth, "Anchor", domain, Map.of(), Guard.ITSELF);
        assertThat(due(number)).isEqualTo(four.minus(Duration.ofHours(3)));
        assertThat(bean(Tickets.class).find(number, odile()).orElseThrow().seq())
                .isEqualTo(4);
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.CLOSED.key()), imani());
        bean(Companies.class).save(Optional.of(firm), "Firm " + nth, "", domain, Map.of(), Guard.ITSELF);
        assertThat(sql().select(Tables.TICKET_CLOCK.POLICY)
                        .from(Tables.TICKET_CLOCK)
                        .where(Tables.TICKET_CLOCK.TICKET.eq(number))
                        .fetchSet(Tables.TICKET_CLOCK.POLICY))
                .containsExactly("test-anchor");
    }

    private static List<String> policies(TicketNumber ticket) {
        return sql().selectDistinct(Tables.TICKET_CLOCK.POLICY)
                .from(Tables.TICKET_CLOCK)
                .where(Tables.TICKET_CLOCK.TICKET.eq(ticket))
                .and(Tables.TICKET_CLOCK.STATE.eq("RUNNING"))
                .fetch(Tables.TICKET_CLOCK.POLICY);
    }

    @Test
    void promises_that_ask_about_words_or_the_customer_hold_for_a_new_mail_at_once() {
        force(with(
                policy("words", Criteria.test(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "stranded"), 1),
                policy("plan", Criteria.test(KnownField.PLAN, Operator.IS, "Anchor"), 2),
                policy("rest", Criteria.everything(), 4)));
        int nth = unique();
        String words = "From: kim@post.example\nMessage-ID: <stranded" + nth
                + "@post.example>\nSubject: Help\n\nWe are stranded on the quay";
        TicketNumber stranded = RunningApp.ticketOf(
                RunningApp.take(words.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        TicketNumber anchor = ticket("somebody@brightwater.example");
        TicketNumber other = ticket("kim@post.example");
        assertThat(policies(stranded)).containsExactly("test-words");
        assertThat(policies(anchor)).containsExactly("test-plan");
        assertThat(policies(other)).containsExactly("test-rest");
        assertThat(List.of(due(stranded), due(anchor), due(other))).isSorted();
    }

    @Test
    void a_step_fires_once_at_its_instant_and_does_what_it_says() {
        force(with(policy("all", Criteria.everything(), 4, SOON, DUE)));
        TicketNumber number = ticket("Kim Berg <kim@post.example>");
        Instant due = due(number);
        fireAll();
        assertThat(told(number)).isEmpty();
        assertThat(timer(number)).hasValue(due.minus(Duration.ofMinutes(30)));
        RunningApp.clock().set(due.minus(Duration.ofMinutes(30)));
        fireAll();
        assertThat(fireAll()).isZero();
        assertThat(told(number)).singleElement().asString().startsWith("Ticket " + number + " of Kim Berg is due at ");
        RunningApp.clock().set(due);
        fireAll();
        var ticket = bean(Tickets.class).find(number, odile()).orElseThrow();
        assertThat(ticket.priority()).isEqualTo(Priority.P2);
        assertThat(ticket.tags()).contains("late");
        assertThat(sql().fetchCount(
                                Tables.MESSAGE, Tables.MESSAGE.TICKET.eq(number).and(Tables.MESSAGE.KIND.eq("NOTE"))))
                .isOne();
        assertThat(fireAll()).isZero();
        assertThat(told(number)).hasSize(2);
    }

    @Test
    void a_step_does_not_fire_when_the_clock_is_held_met_or_moved_meanwhile() {
        force(with(policy("all", Criteria.everything(), 4, SOON)));
        TicketNumber held = ticket("held@post.example");
        TicketNumber met = ticket("met@post.example");
        Instant soon = due(held).minus(Duration.ofMinutes(30));
        RunningApp.clock().tick(Duration.ofMinutes(10));
        bean(Acts.class).perform(held, new Act.MoveTo(TicketState.WITH_PARTNER.key()), imani());
        bean(Acts.class).perform(met, new Act.MoveTo(TicketState.CLOSED.key()), imani());
        // As if a timer had been left behind by another node.
        sql().insertInto(Tables.STEP_TIMER)
                .select(sql().select(
                                Tables.TICKET_CLOCK.TICKET,
                                Tables.TICKET_CLOCK.OBJECTIVE,
                                Tables.TICKET_CLOCK.STARTED_AT,
                                org.jooq.impl.DSL.val("soon"),
                                org.jooq.impl.DSL.val(soon))
                        .from(Tables.TICKET_CLOCK)
                        .where(Tables.TICKET_CLOCK.TICKET.in(held, met))
                        .and(Tables.TICKET_CLOCK.OBJECTIVE.eq("FIRST_REPLY")))
                .onConflictDoNothing()
                .execute();
        RunningApp.clock().set(soon.plusSeconds(1));
        fireAll();
        assertThat(told(held, met)).isEmpty();
        bean(Acts.class).perform(held, new Act.MoveTo(TicketState.IN_HAND.key()), imani());
        RunningApp.clock().set(due(held).minus(Duration.ofMinutes(30)));
        fireAll();
        assertThat(told(held)).hasSize(1);
    }

    @Test
    void after_an_outage_only_the_latest_of_each_kind_fires_and_says_that_it_comes_late() {
        Step early = new Step(
                "early",
                Objective.FIRST_REPLY,
                new Step.When.Used(50),
                List.of(new Act.Notify(Act.Whom.LEAD, "", "half of {number}")));
        force(with(policy("all", Criteria.everything(), 4, early, SOON)));
        TicketNumber number = ticket("late@post.example");
        RunningApp.clock().set(due(number).minus(Duration.ofMinutes(1)));
        fireAll();
        assertThat(told(number))
                .singleElement()
                .asString()
                .contains("is due at")
                .contains("This comes late");
        assertThat(sql().fetchCount(Tables.STEP_FIRED, Tables.STEP_FIRED.TICKET.eq(number)))
                .isEqualTo(2);
        assertThat(bean(Traces.class).of(number).may(OwnTrace.STEPS)).isTrue();
    }

    @Test
    void an_edition_raises_no_alarm_for_moments_long_past() {
        force(with(policy("all", Criteria.everything(), 4)));
        TicketNumber number = ticket("past@post.example");
        RunningApp.clock().set(due(number).plus(Duration.ofMinutes(5)));
        force(with(policy("all", Criteria.everything(), 4, SOON, DUE)));
        fireAll();
        assertThat(told(number)).isEmpty();
    }

    @Test
    void two_nodes_at_once_fire_each_step_once() throws Exception {
        force(with(policy("all", Criteria.everything(), 4, SOON)));
        var numbers = new ArrayList<TicketNumber>();
        for (int i = 0; i < 60; i++) {
            numbers.add(ticket("many" + i + "@post.example"));
        }
        RunningApp.clock()
                .set(due(numbers.getLast()).minus(Duration.ofMinutes(30)).plusSeconds(1));
        Callable<Integer> node = () -> {
            int all = 0;
            for (int i = 0; i < 120; i++) {
                all += bean(StepFiring.class).fireDue(7);
            }
            return all;
        };
        try (var pool = Executors.newFixedThreadPool(3)) {
            int fired = 0;
            for (var one : pool.invokeAll(List.of(node, node, node))) {
                fired += one.get();
            }
            assertThat(fired).isGreaterThanOrEqualTo(60);
        }
        assertThat(told(numbers.toArray(new TicketNumber[0]))).hasSize(60).doesNotHaveDuplicates();
    }

    @Test
    void a_firing_that_breaks_in_the_middle_leaves_nothing_done_and_everything_to_do() {
        force(with(policy("all", Criteria.everything(), 4, DUE)));
        TicketNumber number = ticket("broken@post.example");
        RunningApp.clock().set(due(number));
        sql().execute(
                        "create function no_notes() returns trigger language plpgsql as $$ begin raise exception 'no'; end $$");
        sql().execute("create trigger no_notes before insert on notice for each row execute function no_notes()");
        try {
            assertThatThrownBy(() -> bean(StepFiring.class).fireDue(10)).isInstanceOf(RuntimeException.class);
        } finally {
            sql().execute("drop trigger no_notes on notice");
            sql().execute("drop function no_notes()");
        }
        assertThat(sql().fetchCount(Tables.STEP_FIRED, Tables.STEP_FIRED.TICKET.eq(number)))
                .isZero();
        assertThat(bean(Tickets.class).find(number, odile()).orElseThrow().tags())
                .isEmpty();
        assertThat(fireAll()).isPositive();
        assertThat(told(number)).hasSize(1);
    }

    @Test
    void a_rehearsal_says_what_would_have_been_and_changes_nothing() {
        force(with(policy("all", Criteria.everything(), 4)));
        TicketNumber number = ticket("rehearsed@post.example");
        Instant opened = RunningApp.clock().instant();
        RunningApp.clock().tick(Duration.ofHours(3));
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        TargetDrafts drafts = bean(TargetDrafts.class);
        draft(with(policy("all", Criteria.everything(), 2)));
        JSONB row = clockRow(number);
        Rehearsals rehearsals = bean(Rehearsals.class);
        long id = rehearsals.start(
                opened,
                RunningApp.clock().instant().plusSeconds(1),
                RunningApp.ravi().id());
        assertThat(rehearsals.find(id).work().finished()).isFalse();
        rehearsals.run(id);
        Rehearsal.Result result = rehearsals.find(id).result().orElseThrow();
        assertThat(result.changed())
                .contains(new Rehearsal.Changed(
                        number, Objective.RESOLUTION, started(number), Rehearsal.Ending.MET, Rehearsal.Ending.MISSED));
        assertThat(clockRow(number)).isEqualTo(row);
        assertThatThrownBy(
                        () -> rehearsals.start(opened, opened, RunningApp.ravi().id()))
                .hasMessageContaining("ends before it begins");
    }

    private static void draft(PromiseBook book) {
        TargetDrafts drafts = bean(TargetDrafts.class);
        drafts.save(book, drafts.current().version(), RunningApp.ravi().id(), "test");
    }

    @Test
    void a_rehearsal_that_is_cancelled_ends_without_a_result() {
        draft(with(policy("all", Criteria.everything(), 2)));
        Rehearsals rehearsals = bean(Rehearsals.class);
        long id = rehearsals.start(
                RunningApp.MONDAY,
                RunningApp.clock().instant().plusSeconds(1),
                RunningApp.ravi().id());
        assertThatThrownBy(() -> rehearsals.cancel(id, imani().id())).isInstanceOf(Problem.NoRight.class);
        rehearsals.cancel(id, RunningApp.ravi().id());
        rehearsals.run(id);
        assertThat(rehearsals.find(id).work().cancelled()).isTrue();
        assertThat(rehearsals.find(id).result()).isEmpty();
    }

    private static Instant started(TicketNumber number) {
        return sql().select(Tables.TICKET.OPENED_AT)
                .from(Tables.TICKET)
                .where(Tables.TICKET.NUMBER.eq(number))
                .fetchSingle(Tables.TICKET.OPENED_AT);
    }

    private static JSONB clockRow(TicketNumber number) {
        return sql().fetchValue(
                                        "select jsonb_agg(to_jsonb(c) order by objective) from ticket_clock c where ticket = ?",
                                        number)
                        instanceof JSONB json
                ? json
                : JSONB.valueOf("{}");
    }

    @Test
    void the_terms_of_this_node_follow_an_edition_at_once() {
        force(with(policy("only", Criteria.everything(), 7)));
        assertThat(bean(Targets.class).terms().editions().latest().book().policies())
                .extracting(Policy::name)
                .containsExactly("only");
    }
}
