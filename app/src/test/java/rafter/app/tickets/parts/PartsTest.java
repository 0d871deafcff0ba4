package rafter.app.tickets.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_TASK;
import static rafter.database.Tables.TICKET_TIME;
import static rafter.database.Tables.TICKET_WATCHER;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Waiting;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Notes;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Decision;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Work;

/** The parts of the work: tasks, time, watchers, how a ticket was resolved, and what it is a part of. */
@ExtendWith(RunningApp.class)
class PartsTest extends Browsing {

    private final Acts acts = bean(Acts.class);
    private final Tickets tickets = bean(Tickets.class);
    private final Stopwatch watch = bean(Stopwatch.class);
    private final Notices notices = bean(Notices.class);

    private TicketNumber mail() {
        int nth = unique();
        String raw = "From: Ida <ida" + nth + "@parts" + nth + ".example>\nMessage-ID: <w" + nth
                + "@post.example>\nSubject: Parted " + nth + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Work work(TicketNumber number) {
        return tickets.find(number, imani()).orElseThrow().work();
    }

    private String token() throws Exception {
        return token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
    }

    private static Act.SetTask task(String what, Optional<Viewer> who) {
        return new Act.SetTask(OptionalInt.empty(), what, who.map(Viewer::id), Optional.empty());
    }

    private List<String> told(Viewer who, TicketNumber number) {
        return notices.of(who, Optional.empty(), 200).stream()
                .filter(notice -> notice.ticket().equals(number))
                .map(Notices.Notice::words)
                .toList();
    }

    @Test
    void tasks_are_added_ticked_off_and_dropped_by_plain_forms_and_stand_in_their_rows() throws Exception {
        TicketNumber number = mail();
        String token = token();
        String at = "/tickets/" + number;
        post(at + "/tasks", token, "what", "Ask the crew", "due", "2027-03-01T10:00");
        post(at + "/tasks", token, "what", "Look again");
        post(at + "/tasks/2/place", token, "place", "0");
        post(at + "/tasks/1/done", token, "done", "true");
        assertThat(sql().selectFrom(TICKET_TASK)
                        .where(TICKET_TASK.TICKET.eq(number))
                        .orderBy(TICKET_TASK.PLACE)
                        .fetch(TICKET_TASK.WHAT))
                .containsExactly("Look again", "Ask the crew");
        assertThat(sql().select(TICKET.TASKS_OPEN)
                        .from(TICKET)
                        .where(TICKET.NUMBER.eq(number))
                        .fetchSingle(TICKET.TASKS_OPEN))
                .isEqualTo(1);
        String page = get(at).body();
        assertThat(page).contains("1 of 2 done").contains("Look again");
        post(at + "/tasks/2/drop", token);
        assertThat(work(number).shownTasks()).extracting(Work.Task::what).containsExactly("Ask the crew");
        assertThat(get(at + "/parts/task?task=1").body())
                .contains("Ask the crew")
                .contains("2027-03-01T10:00");
    }

    @Test
    void a_task_that_a_colleague_changed_meanwhile_is_not_overwritten() throws Exception {
        TicketNumber number = mail();
        String token = token();
        acts.perform(number, task("First", Optional.empty()), imani());
        String form = get("/tickets/" + number + "/parts/task?task=1").body();
        String was = form.replaceAll("(?s).*name=\"was\" value=\"([^\"]*)\".*", "$1");
        acts.perform(number, new Act.SetTask(OptionalInt.of(1), "Theirs", Optional.empty(), Optional.empty()), sefa());
        var answer = post("/tickets/" + number + "/tasks", token, "task", "1", "what", "Mine", "was", was);
        assertThat(answer.body()).contains("Somebody changed that task meanwhile");
        assertThat(work(number).shownTasks()).extracting(Work.Task::what).containsExactly("Theirs");
    }

    @Test
    void undo_takes_back_what_was_done_and_nothing_else_can_be_done_by_it() throws Exception {
        TicketNumber number = mail();
        String token = token();
        Acts.Outcome outcome = acts.perform(number, task("Short", Optional.empty()), imani());
        String undo = ActJson.write(outcome.undo().orElseThrow());
        post("/tickets/" + number + "/parts/undo", token, "undo", undo);
        assertThat(work(number).shownTasks()).isEmpty();
        String other = ActJson.write(new Decision.Undo(new Act.Delete(), Optional.empty()));
        assertThat(post("/tickets/" + number + "/parts/undo", token, "undo", other)
                        .body())
                .contains("cannot be taken back here");
        assertThat(post("/tickets/" + number + "/parts/undo", token, "undo", "{")
                        .statusCode())
                .isEqualTo(422);
    }

    @Test
    void time_is_written_down_corrected_and_counted() throws Exception {
        TicketNumber number = mail();
        String token = token();
        String at = "/tickets/" + number;
        post(at + "/time", token, "amount", "1 h 5 m", "kind", "call", "billable", "true", "note", "the harbour");
        assertThat(post(at + "/time", token, "amount", "soon").body()).contains("“soon” is no amount of time");
        Work.TimeEntry entry = work(number).shownTime().getFirst();
        assertThat(entry.spent().time()).hasMinutes(65);
        assertThat(entry.spent().billable()).isTrue();
        assertThat(sql().select(TICKET_TIME.MINUTES)
                        .from(TICKET_TIME)
                        .where(TICKET_TIME.TICKET.eq(number))
                        .fetchSingle(TICKET_TIME.MINUTES))
                .isEqualTo(65);
        assertThat(sql().select(TICKET.MINUTES)
                        .from(TICKET)
                        .where(TICKET.NUMBER.eq(number))
                        .fetchSingle(TICKET.MINUTES))
                .isEqualTo(65);
        post(at + "/time/1/drop", token);
        assertThat(work(number).total()).isZero();
    }

    @Test
    void a_watch_follows_from_ticket_to_ticket_and_counts_no_pause() {
        TicketNumber one = mail();
        TicketNumber other = mail();
        watch.discard(imani());
        watch.start(one, imani());
        RunningApp.clock().tick(Duration.ofMinutes(7));
        watch.pause(imani());
        RunningApp.clock().tick(Duration.ofMinutes(30));
        watch.resume(imani());
        RunningApp.clock().tick(Duration.ofMinutes(3));
        Stopwatch.Stopped stopped = watch.start(other, imani()).orElseThrow();
        assertThat(stopped.ticket()).isEqualTo(one);
        assertThat(stopped.time()).contains(Duration.ofMinutes(10));
        assertThat(work(one).total()).hasMinutes(10);
        assertThat(watch.start(other, imani())).isEmpty();
        assertThat(watch.stop("", "", false, imani()).time()).isEmpty();
        assertThatThrownBy(() -> watch.stop("", "", false, imani())).isInstanceOf(Problem.NotFound.class);
        assertThat(work(other).total()).isZero();
        assertThat(bean(Waiting.class).of(imani())).containsEntry("watch", 0);
        watch.start(other, imani());
        assertThat(bean(Waiting.class).of(imani())).containsEntry("watch", 1);
        RunningApp.clock().tick(Duration.ofHours(15));
        Stopwatch.Stopped night = watch.stop("call", "", true, imani());
        assertThat(night.cut()).isTrue();
        assertThat(work(other).total()).hasHours(12);
    }

    @Test
    void watchers_hear_of_what_others_do_and_not_of_themselves() {
        TicketNumber number = mail();
        acts.perform(number, new Act.Watch(sefa().id(), true), imani());
        acts.perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        acts.perform(number, new Act.MoveTo(TicketState.IN_HAND.key()), sefa());
        assertThat(told(sefa(), number)).hasSize(1).first().asString().contains("set the state to Resolved");
        assertThat(sql().fetchCount(TICKET_WATCHER, TICKET_WATCHER.TICKET.eq(number)))
                .isEqualTo(1);
        acts.perform(number, new Act.Watch(sefa().id(), false), sefa());
        acts.perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        assertThat(told(sefa(), number)).hasSize(1);
    }

    @Test
    void who_is_given_a_task_is_told_and_a_team_is_mentioned_by_its_name() {
        TicketNumber number = mail();
        acts.perform(number, task("Ring them", Optional.of(sefa())), imani());
        acts.perform(number, task("My own", Optional.of(imani())), imani());
        assertThat(told(sefa(), number)).hasSize(1).first().asString().contains("has a task for you");
        assertThat(told(imani(), number)).isEmpty();
        var team = bean(rafter.app.house.access.Persons.class)
                .addTeam("Night watch " + unique(), RunningApp.ravi().id());
        String name = bean(rafter.app.house.access.Persons.class).teams().stream()
                .filter(one -> one.id().equals(team))
                .findFirst()
                .orElseThrow()
                .name();
        sql().insertInto(
                        rafter.database.Tables.TEAM_MEMBER,
                        rafter.database.Tables.TEAM_MEMBER.TEAM_ID,
                        rafter.database.Tables.TEAM_MEMBER.PERSON_ID)
                .values(team, odile().id())
                .execute();
        bean(Notes.class).note(number, "<p>@" + name + ", please look</p>", imani());
        assertThat(told(odile(), number)).hasSize(1).first().asString().contains("mentions you");
        assertThat(told(sefa(), number)).hasSize(1);
    }

    @Test
    void how_a_ticket_was_resolved_is_kept_with_its_words_and_taken_back() {
        TicketNumber number = mail();
        acts.perform(number, new Act.Conclude(new Work.Resolution("Left on deck", "Found it", "mislaid")), imani());
        var row =
                sql().selectFrom(RESOLUTION).where(RESOLUTION.TICKET.eq(number)).fetchSingle();
        assertThat(row.getWords()).contains("deck").contains("mislaid");
        assertThat(row.getPersonId()).isEqualTo(imani().id());
        acts.perform(number, new Act.Conclude(Work.Resolution.NONE), imani());
        assertThat(sql().fetchCount(RESOLUTION, RESOLUTION.TICKET.eq(number))).isZero();
    }

    @Test
    void tickets_are_parts_of_others_but_never_in_a_circle_not_even_when_two_try_at_once() {
        TicketNumber one = mail();
        TicketNumber two = mail();
        TicketNumber three = mail();
        acts.perform(two, new Act.PutUnder(Optional.of(one)), imani());
        acts.perform(three, new Act.PutUnder(Optional.of(two)), imani());
        assertThatThrownBy(() -> acts.perform(one, new Act.PutUnder(Optional.of(three)), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("already");
        assertThatThrownBy(
                        () -> acts.perform(one, new Act.PutUnder(Optional.of(new TicketNumber(99_999_999))), imani()))
                .hasMessageContaining("There is no ticket");
        for (int i = 0; i < 8; i++) {
            TicketNumber left = mail();
            TicketNumber right = mail();
            var both = List.of(
                    CompletableFuture.runAsync(() -> acts.perform(left, new Act.PutUnder(Optional.of(right)), imani())),
                    CompletableFuture.runAsync(() -> acts.perform(right, new Act.PutUnder(Optional.of(left)), sefa())));
            both.forEach(each -> each.exceptionally(e -> null).join());
            assertThat(work(left).parent().isPresent() && work(right).parent().isPresent())
                    .isFalse();
        }
    }

    @Test
    void a_watch_that_was_idle_counts_until_something_was_done_last_and_the_choice_is_ones_own() throws Exception {
        Stopwatch watch = bean(Stopwatch.class);
        watch.discard(imani());
        watch.start(mail(), imani());
        RunningApp.clock().tick(Duration.ofMinutes(20));
        watch.pause(Duration.ofMinutes(5), imani());
        RunningApp.clock().tick(Duration.ofMinutes(30));
        assertThat(watch.stop("", "", false, imani()).time()).contains(Duration.ofMinutes(15));
        watch.choose(new Stopwatch.Choice(true, 10), imani());
        assertThat(watch.choice(imani().id())).isEqualTo(new Stopwatch.Choice(true, 10));
        assertThat(watch.choice(odile().id())).isEqualTo(new Stopwatch.Choice(false, 0));
        assertThatThrownBy(() -> watch.choose(new Stopwatch.Choice(true, 121), imani()))
                .hasMessageContaining("1 to 120 minutes");
        watch.choose(new Stopwatch.Choice(false, 0), imani());
    }
}
