package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** The parts of the work on a ticket: what follows from the acts on them, and that each can be taken back. */
class WorkTest {

    private static final TicketNumber NUMBER = new TicketNumber(4471);
    private static final Instant NOW = Instant.parse("2027-05-01T09:00:00Z");
    private static final PersonId IMANI = new PersonId(1);
    private static final Doer AGENT = new Doer(new Actor.Person(IMANI), false, false);
    private static final Doer LEAD = new Doer(new Actor.Person(new PersonId(2)), true, false);

    private static Decision decide(Work work, Act.OfWork act, Doer doer) {
        return new WorkDeciding(NUMBER, work, doer, ActTest.HOUSE, NOW).decide(act);
    }

    private static Decision.Done done(Work work, Act.OfWork act) {
        return (Decision.Done) decide(work, act, AGENT);
    }

    private static Work after(Work work, Decision.Done done) {
        Work next = work;
        for (TicketEvent event : done.events()) {
            next = next.after((TicketEvent.OfWork) event);
        }
        return next;
    }

    private static Work doing(Work work, Act.OfWork... acts) {
        Work next = work;
        for (Act.OfWork act : acts) {
            next = after(next, done(next, act));
        }
        return next;
    }

    private static String refused(Work work, Act.OfWork act, Doer doer) {
        return ((Decision.Refused) decide(work, act, doer)).words();
    }

    private static Act.SetTask task(String what) {
        return new Act.SetTask(OptionalInt.empty(), what, Optional.empty(), Optional.empty());
    }

    private static Work.Spent spent(PersonId person, long minutes) {
        return new Work.Spent(person, NOW.minusSeconds(3600), Duration.ofMinutes(minutes), "call", true, "");
    }

    private static List<String> tasks(Work work) {
        return work.shownTasks().stream().map(Work.Task::what).toList();
    }

    @Test
    void tasks_are_numbered_as_they_come_and_a_number_is_never_given_twice() {
        Work work = doing(Work.NONE, task("One"), task(" Two "), new Act.DropTask(2, true), task("Three"));
        assertThat(work.shownTasks()).extracting(Work.Task::id).containsExactly(1, 3);
        assertThat(tasks(work)).containsExactly("One", "Three");
        assertThat(work.openTasks()).isEqualTo(2);
        assertThat(doing(work, new Act.TickTask(3, true)).openTasks()).isEqualTo(1);
    }

    @Test
    void a_dropped_task_comes_back_as_it_was_done_or_not() {
        Work work = doing(Work.NONE, task("One"), new Act.TickTask(1, true), new Act.DropTask(1, true));
        assertThat(work.shownTasks()).isEmpty();
        Work back = doing(work, new Act.DropTask(1, false));
        assertThat(back.task(1).flatMap(Work.Task::doneAt)).contains(NOW);
    }

    @Test
    void tasks_are_put_into_another_order_and_stay_there() {
        Work work = doing(Work.NONE, task("A"), task("B"), task("C"), new Act.OrderTask(3, 0));
        assertThat(tasks(work)).containsExactly("C", "A", "B");
        assertThat(tasks(doing(work, task("D")))).containsExactly("C", "A", "B", "D");
        assertThat(tasks(doing(work, new Act.OrderTask(3, 99)))).containsExactly("A", "B", "C");
        assertThat(done(work, new Act.OrderTask(3, -5)).events()).isEmpty();
    }

    @Test
    void a_task_says_what_for_whom_and_by_when_within_reason() {
        assertThat(refused(Work.NONE, task("  "), AGENT)).contains("Nothing was changed");
        assertThat(refused(Work.NONE, task("x".repeat(301)), AGENT)).contains("300");
        var gone = new Act.SetTask(OptionalInt.empty(), "x", Optional.of(new PersonId(9)), Optional.empty());
        assertThat(refused(Work.NONE, gone, AGENT)).contains("does not work here");
        var far = new Act.SetTask(
                OptionalInt.empty(), "x", Optional.empty(), Optional.of(NOW.plus(Duration.ofDays(900))));
        assertThat(refused(Work.NONE, far, AGENT)).contains("two years");
        assertThat(refused(Work.NONE, new Act.TickTask(4, true), AGENT)).contains("not there any more");
        assertThat(decide(Work.NONE, task("x".repeat(300)), AGENT)).isInstanceOf(Decision.Done.class);
        Work full = Work.NONE;
        for (int i = 0; i < WorkDeciding.MOST_TASKS; i++) {
            full = doing(full, task("Task"));
        }
        assertThat(refused(full, task("One more"), AGENT)).contains("at most 100");
    }

    @Test
    void time_adds_up_and_what_is_corrected_counts_once() {
        Work work = doing(
                Work.NONE,
                new Act.SpendTime(OptionalInt.empty(), spent(IMANI, 25)),
                new Act.SpendTime(OptionalInt.empty(), spent(IMANI, 10)),
                new Act.SpendTime(OptionalInt.of(1), spent(IMANI, 30)));
        assertThat(work.total()).hasMinutes(40);
        assertThat(doing(work, new Act.DropTime(2, true)).total()).hasMinutes(30);
        assertThat(doing(work, new Act.DropTime(2, true), new Act.DropTime(2, false))
                        .total())
                .hasMinutes(40);
    }

    @Test
    void ones_own_time_is_ones_own_and_leads_correct_that_of_others() {
        PersonId other = new PersonId(3);
        var theirs = new Act.SpendTime(OptionalInt.empty(), spent(other, 10));
        assertThat(refused(Work.NONE, theirs, AGENT)).contains("your own time");
        Work work = after(Work.NONE, (Decision.Done) decide(Work.NONE, theirs, LEAD));
        assertThat(refused(work, new Act.SpendTime(OptionalInt.of(1), spent(IMANI, 5)), AGENT))
                .contains("your own time");
        assertThat(refused(work, new Act.DropTime(1, true), AGENT)).contains("your own time");
        assertThat(decide(work, new Act.DropTime(1, true), LEAD)).isInstanceOf(Decision.Done.class);
    }

    @Test
    void time_is_from_a_minute_to_a_day_and_lies_behind_us() {
        for (long minutes : new long[] {0, -5, 24 * 60 + 1}) {
            assertThat(refused(Work.NONE, new Act.SpendTime(OptionalInt.empty(), spent(IMANI, minutes)), AGENT))
                    .contains("how long");
        }
        var later = new Work.Spent(IMANI, NOW.plusSeconds(1), Duration.ofMinutes(5), "", false, "");
        assertThat(refused(Work.NONE, new Act.SpendTime(OptionalInt.empty(), later), AGENT))
                .contains("not come yet");
        var day = new Act.SpendTime(OptionalInt.empty(), spent(IMANI, 24 * 60));
        assertThat(decide(Work.NONE, day, AGENT)).isInstanceOf(Decision.Done.class);
        var wordy = new Work.Spent(IMANI, NOW, Duration.ofMinutes(5), "k".repeat(41), false, "");
        assertThat(refused(Work.NONE, new Act.SpendTime(OptionalInt.empty(), wordy), AGENT))
                .contains("40");
    }

    @Test
    void a_ticket_is_no_part_of_itself() {
        assertThat(refused(Work.NONE, new Act.PutUnder(Optional.of(NUMBER)), AGENT))
                .contains("itself");
        assertThat(doing(Work.NONE, new Act.PutUnder(Optional.of(new TicketNumber(1))))
                        .parent())
                .contains(new TicketNumber(1));
    }

    @Test
    void who_has_left_is_made_to_watch_nothing_and_can_be_taken_off() {
        var left = new PersonId(9);
        assertThat(refused(Work.NONE, new Act.Watch(left, true), AGENT)).contains("does not work here");
        Work watched = Work.NONE.after(new TicketEvent.Watched(NOW, AGENT.actor(), left, true));
        assertThat(doing(watched, new Act.Watch(left, false)).watchers()).isEmpty();
    }

    @Test
    void a_resolution_is_kept_without_blanks_around_it_and_has_its_limits() {
        var typed = new Work.Resolution(" left on deck ", " found ", " mislaid ");
        Work work = doing(Work.NONE, new Act.Conclude(typed));
        assertThat(work.resolution()).isEqualTo(new Work.Resolution("left on deck", "found", "mislaid"));
        assertThat(refused(work, new Act.Conclude(new Work.Resolution("x".repeat(5001), "", "")), AGENT))
                .contains("5,000");
        assertThat(refused(work, new Act.Conclude(new Work.Resolution("", "x".repeat(5001), "")), AGENT))
                .contains("5,000");
        assertThat(refused(work, new Act.Conclude(new Work.Resolution("", "", "c".repeat(81))), AGENT))
                .contains("80");
        assertThat(doing(work, new Act.Conclude(Work.Resolution.NONE))
                        .resolution()
                        .none())
                .isTrue();
    }

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static Act.OfWork any(Random random) {
        int id = 1 + random.nextInt(4);
        return switch (random.nextInt(18)) {
            case 0 -> new Act.Watch(new PersonId(1 + random.nextInt(3)), random.nextBoolean());
            case 1 -> task("Task " + random.nextInt(9));
            case 2 ->
                new Act.SetTask(OptionalInt.of(id), "Other " + random.nextInt(9), Optional.of(IMANI), Optional.of(NOW));
            case 3 -> new Act.TickTask(id, random.nextBoolean());
            case 4 -> new Act.DropTask(id, random.nextBoolean());
            case 5 -> new Act.OrderTask(id, random.nextInt(5));
            case 6 ->
                new Act.SpendTime(
                        random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(id),
                        spent(IMANI, 1 + random.nextInt(60)));
            case 7 -> new Act.DropTime(id, random.nextBoolean());
            case 8 ->
                new Act.LogCall(
                        random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(id),
                        said("Notes " + random.nextInt(9)));
            case 9 -> new Act.DropCall(id, random.nextBoolean());
            case 10 ->
                new Act.SetMeeting(
                        random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(id),
                        plan("Look " + random.nextInt(9)));
            case 11 -> new Act.CallOffMeeting(id, random.nextBoolean());
            case 12 -> new Act.AskHelp(wanted(Optional.of(IMANI), "Part " + random.nextInt(9)));
            case 13 -> new Act.EndHelp(id, "Done", random.nextBoolean());
            case 14 ->
                new Act.WatchFor(IMANI, random.nextBoolean() ? Set.of() : Set.of(Interest.values()[random.nextInt(3)]));
            case 15 ->
                new Act.WaitFor(
                        random.nextBoolean() ? Set.of() : Set.of(Await.Happening.values()[random.nextInt(4)]),
                        random.nextBoolean() ? "" : "Note " + random.nextInt(3));
            case 16 -> new Act.AskBeside(Optional.of(IMANI), Optional.empty(), "Question " + random.nextInt(9));
            default -> new Act.Conclude(new Work.Resolution("was " + random.nextInt(3), "", ""));
        };
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void whatever_is_done_can_be_taken_back_and_then_it_stands_as_before(long seed) {
        var random = new Random(seed);
        Work work = Work.NONE;
        for (int i = 0; i < 40; i++) {
            if (!(decide(work, any(random), AGENT) instanceof Decision.Done done)
                    || done.events().isEmpty()) {
                continue;
            }
            Work next = after(work, done);
            Decision.Undo undo = done.undo().orElseThrow();
            assertThat(WorkDeciding.standing(next, (Act.OfWork) undo.act())).isEqualTo(undo.seen());
            Work back = after(next, done(next, (Act.OfWork) undo.act()));
            assertThat(back.shownTasks()).isEqualTo(work.shownTasks());
            assertThat(back.shownTime()).isEqualTo(work.shownTime());
            assertThat(back.watching()).isEqualTo(work.watching());
            assertThat(back.await()).isEqualTo(work.await());
            assertThat(questions(back)).isEqualTo(questions(work));
            assertThat(back.resolution()).isEqualTo(work.resolution());
            assertThat(back.shownCalls()).isEqualTo(work.shownCalls());
            assertThat(planned(back)).isEqualTo(planned(work));
            assertThat(wanted(back)).isEqualTo(wanted(work));
            work = next;
        }
    }

    private static List<Meeting.Plan> planned(Work work) {
        return work.meetings().stream()
                .filter(one -> !one.off())
                .map(Meeting::plan)
                .toList();
    }

    private static List<String> questions(Work work) {
        return work.talks().stream().filter(Talk::open).map(Talk::question).toList();
    }

    private static List<Integer> wanted(Work work) {
        return work.helps().stream().filter(Help::open).map(Help::id).toList();
    }

    private static Call.Said said(String notes) {
        return new Call.Said(true, IMANI, NOW.minusSeconds(60), Duration.ofMinutes(2), "Dov", notes);
    }

    private static Meeting.Plan plan(String title) {
        return new Meeting.Plan(title, NOW.plusSeconds(9000), Duration.ofHours(1), "the quay", List.of());
    }

    private static Help.Wanted wanted(Optional<PersonId> person, String request) {
        return new Help.Wanted(
                person, person.isPresent() ? Optional.empty() : Optional.of(new TeamId(2)), request, Optional.empty());
    }

    @Test
    void a_call_that_has_not_come_yet_or_takes_longer_than_a_day_is_refused_and_one_nobody_answered_is_not() {
        var later = new Call.Said(true, IMANI, NOW.plusSeconds(60), Duration.ZERO, "", "");
        assertThat(refused(Work.NONE, new Act.LogCall(OptionalInt.empty(), later), AGENT))
                .contains("not come yet");
        var longer = new Call.Said(true, IMANI, NOW, Duration.ofHours(25), "", "");
        assertThat(refused(Work.NONE, new Act.LogCall(OptionalInt.empty(), longer), AGENT))
                .contains("24 hours");
        var unanswered = new Call.Said(false, IMANI, NOW, Duration.ZERO, "", "");
        assertThat(doing(Work.NONE, new Act.LogCall(OptionalInt.empty(), unanswered))
                        .shownCalls())
                .hasSize(1);
    }

    @Test
    void a_meeting_has_a_title_a_time_to_come_and_people_with_addresses_and_counts_how_often_it_was_changed() {
        assertThat(refused(Work.NONE, new Act.SetMeeting(OptionalInt.empty(), plan(" ")), AGENT))
                .contains("title");
        var past = new Meeting.Plan("Look", NOW.minusSeconds(1), Duration.ofHours(1), "", List.of());
        assertThat(refused(Work.NONE, new Act.SetMeeting(OptionalInt.empty(), past), AGENT))
                .contains("to come");
        var nobody = new Meeting.Plan("Look", NOW.plusSeconds(60), Duration.ofHours(1), "", List.of("nobody"));
        assertThat(refused(Work.NONE, new Act.SetMeeting(OptionalInt.empty(), nobody), AGENT))
                .contains("“nobody” is not a mail address");
        Work changed = doing(
                Work.NONE,
                new Act.SetMeeting(OptionalInt.empty(), plan("Look")),
                new Act.SetMeeting(OptionalInt.of(1), plan("Look again")),
                new Act.CallOffMeeting(1, true));
        assertThat(changed.meeting(1).orElseThrow().version()).isEqualTo(2);
        assertThat(refused(changed, new Act.SetMeeting(OptionalInt.of(1), plan("More")), AGENT))
                .contains("not there any more");
    }

    @Test
    void help_is_handed_back_by_who_was_asked_with_a_result_once_and_taken_back_by_who_asked() {
        var sefa = new PersonId(3);
        Work asked = doing(Work.NONE, new Act.AskHelp(wanted(Optional.of(sefa), "Look at the crane")));
        assertThat(refused(asked, new Act.EndHelp(1, "It works", false), AGENT)).contains("Who was asked hands back");
        var helper = new Doer(new Actor.Person(sefa), false, false);
        assertThat(refused(asked, new Act.EndHelp(1, " ", false), helper)).contains("Say what came of it");
        Work back = after(asked, (Decision.Done) decide(asked, new Act.EndHelp(1, "It works", false), helper));
        assertThat(back.help(1).orElseThrow().result().orElseThrow().words()).isEqualTo("It works");
        assertThat(refused(back, new Act.EndHelp(1, "Twice", false), helper)).contains("already");
        assertThat(refused(asked, new Act.EndHelp(1, "", true), helper)).contains("Who asked for help");
        assertThat(doing(asked, new Act.EndHelp(1, "", true))
                        .help(1)
                        .orElseThrow()
                        .open())
                .isFalse();
        Work ofTeam = doing(Work.NONE, new Act.AskHelp(wanted(Optional.empty(), "Look")));
        assertThat(doing(ofTeam, new Act.EndHelp(1, "Looked", false))
                        .help(1)
                        .orElseThrow()
                        .open())
                .as("anybody of the team that was asked")
                .isFalse();
    }

    @Test
    void help_is_asked_of_one_person_or_one_team_and_says_what_is_wanted() {
        var both = new Help.Wanted(Optional.of(IMANI), Optional.of(new TeamId(2)), "Look", Optional.empty());
        assertThat(refused(Work.NONE, new Act.AskHelp(both), AGENT)).contains("one person, or one team");
        var none = new Help.Wanted(Optional.empty(), Optional.empty(), "Look", Optional.empty());
        assertThat(refused(Work.NONE, new Act.AskHelp(none), AGENT)).contains("one person, or one team");
        assertThat(refused(Work.NONE, new Act.AskHelp(wanted(Optional.of(IMANI), " ")), AGENT))
                .contains("Say what is wanted");
    }

    @Test
    void the_first_answer_to_a_question_counts_and_the_second_is_told_who_was_first() {
        var asked = new Act.AskBeside(Optional.empty(), Optional.of(new TeamId(2)), " Is the crane free? ");
        Work work = doing(Work.NONE, asked);
        assertThat(work.talk(1).orElseThrow().question()).isEqualTo("Is the crane free?");
        Work answered = doing(work, new Act.AnswerBeside(1, "From noon on"));
        assertThat(answered.talk(1).orElseThrow().open()).isFalse();
        assertThat(refused(answered, new Act.AnswerBeside(1, "No"), LEAD)).contains("Person 1 answered that question");
        assertThat(refused(answered, new Act.DropBeside(1), AGENT)).contains("answered already");
        assertThat(refused(work, new Act.AnswerBeside(1, " "), AGENT)).contains("Write an answer");
    }

    @Test
    void only_who_asked_takes_a_question_back_and_leads() {
        Work work = doing(Work.NONE, new Act.AskBeside(Optional.of(IMANI), Optional.empty(), "Free?"));
        Doer other = new Doer(new Actor.Person(new PersonId(3)), false, false);
        assertThat(refused(work, new Act.DropBeside(1), other)).contains("Who asked");
        assertThat(decide(work, new Act.DropBeside(1), LEAD)).isInstanceOf(Decision.Done.class);
        Work dropped = doing(work, new Act.DropBeside(1));
        assertThat(refused(dropped, new Act.AnswerBeside(1, "Yes"), AGENT)).contains("taken back");
    }

    @Test
    void a_question_goes_to_one_person_or_one_team_that_are_there() {
        assertThat(refused(Work.NONE, new Act.AskBeside(Optional.empty(), Optional.empty(), "Free?"), AGENT))
                .contains("one person, or one team");
        assertThat(refused(Work.NONE, new Act.AskBeside(Optional.of(new PersonId(9)), Optional.empty(), "?"), AGENT))
                .contains("does not work here");
        assertThat(refused(Work.NONE, new Act.AskBeside(Optional.of(IMANI), Optional.empty(), " "), AGENT))
                .contains("Write a question");
    }

    @Test
    void who_watches_for_some_things_is_a_watcher_and_for_nothing_is_none() {
        Work work = doing(Work.NONE, new Act.WatchFor(IMANI, Set.of(Interest.STATE)));
        assertThat(work.watchers()).containsExactly(IMANI);
        assertThat(work.watching()).containsEntry(IMANI, Set.of(Interest.STATE));
        assertThat(doing(work, new Act.WatchFor(IMANI, Set.of())).watchers()).isEmpty();
        assertThat(doing(Work.NONE, new Act.Watch(IMANI, true)).watching()).containsEntry(IMANI, Interest.ALL);
    }
}
