package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/**
 * The parts of the work on a ticket, as they stand after its events.
 *
 * @param watching who is told of what happens to it, and of what
 * @param tasks in their order; those that were dropped are among them, so that they can be brought back
 * @param time the time that was spent on it, in the order in which it was written down; with what was taken out again
 * @param resolution how it was resolved, as somebody wrote it down
 * @param parent the ticket that it is a part of the trouble of
 * @param rated what the customer said of it
 * @param calls the telephone calls about it, those taken out again among them
 * @param meetings the meetings about it, those called off among them
 * @param helps what others were asked to do, in the order in which they were asked
 * @param talks the questions that were asked beside it, in that order
 * @param await what brings it back by itself, beside a time
 */
public record Work(
        Map<PersonId, Set<Interest>> watching,
        List<Task> tasks,
        List<TimeEntry> time,
        Resolution resolution,
        Optional<TicketNumber> parent,
        Optional<Rated> rated,
        List<Call> calls,
        List<Meeting> meetings,
        List<Help> helps,
        List<Talk> talks,
        Optional<Await> await) {

    /** Of a ticket on which nothing of the kind was done. */
    public static final Work NONE = new Work(
            Map.of(),
            List.of(),
            List.of(),
            Resolution.NONE,
            Optional.empty(),
            Optional.empty(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            Optional.empty());

    public Work {
        watching = Map.copyOf(watching);
        talks = List.copyOf(talks);
        tasks = List.copyOf(tasks);
        time = List.copyOf(time);
        calls = List.copyOf(calls);
        meetings = List.copyOf(meetings);
        helps = List.copyOf(helps);
    }

    /**
     * Something to be done for a ticket.
     *
     * @param id its number on this ticket
     * @param person who is to do it; nothing: whoever has the ticket
     * @param due by when
     * @param doneAt since when it is done
     * @param gone whether it was dropped
     */
    public record Task(
            int id,
            String what,
            Optional<PersonId> person,
            Optional<Instant> due,
            Optional<Instant> doneAt,
            boolean gone) {

        /** Whether it is still to be done. */
        public boolean open() {
            return !gone && doneAt.isEmpty();
        }
    }

    /**
     * Time that was spent.
     *
     * @param at when it began
     * @param kind what it was spent on, in a word
     * @param billable whether somebody pays for it
     */
    public record Spent(PersonId person, Instant at, Duration time, String kind, boolean billable, String note) {}

    /**
     * Time that was spent, as it stands now.
     *
     * @param id its number on this ticket
     * @param gone whether it was taken out again
     */
    public record TimeEntry(int id, Spent spent, boolean gone) {}

    /**
     * How a ticket was resolved.
     *
     * @param was what it was
     * @param done what was done about it
     * @param cause why it came to be, in a word or two
     */
    public record Resolution(String was, String done, String cause) {

        /** Nobody wrote anything down. */
        public static final Resolution NONE = new Resolution("", "", "");

        /** Whether nobody wrote anything down. */
        public boolean none() {
            return was.isEmpty() && done.isEmpty() && cause.isEmpty();
        }
    }

    /** What a customer thinks of how they were helped. */
    public enum Rating {
        GOOD,
        FAIR,
        POOR;

        /** As people read it. */
        public String word() {
            return name().charAt(0) + name().substring(1).toLowerCase(Locale.ROOT);
        }
    }

    /** What a customer said of how they were helped. */
    public record Rated(Rating rating, String comment, Instant at) {}

    /** A task by its number, whether it was dropped or not. */
    public Optional<Task> task(int id) {
        return tasks.stream().filter(task -> task.id() == id).findFirst();
    }

    /** Time by its number, whether it was taken out or not. */
    public Optional<TimeEntry> time(int id) {
        return time.stream().filter(entry -> entry.id() == id).findFirst();
    }

    /** A call by its number, whether it was taken out or not. */
    public Optional<Call> call(int id) {
        return calls.stream().filter(call -> call.id() == id).findFirst();
    }

    /** A meeting by its number, whether it was called off or not. */
    public Optional<Meeting> meeting(int id) {
        return meetings.stream().filter(meeting -> meeting.id() == id).findFirst();
    }

    /** What somebody was asked to do, by its number. */
    public Optional<Help> help(int id) {
        return helps.stream().filter(help -> help.id() == id).findFirst();
    }

    /** The ids of the people of whom something is still wanted. */
    public Set<String> helpers() {
        return helps.stream()
                .filter(Help::open)
                .flatMap(help -> help.wanted().person().stream())
                .map(PersonId::toString)
                .collect(Collectors.toSet());
    }

    /** The ids of the teams of which something is still wanted. */
    public Set<String> helpingTeams() {
        return helps.stream()
                .filter(Help::open)
                .flatMap(help -> help.wanted().team().stream())
                .map(TeamId::toString)
                .collect(Collectors.toSet());
    }

    /** The calls that stand. */
    public List<Call> shownCalls() {
        return calls.stream().filter(call -> !call.gone()).toList();
    }

    /** The tasks that were not dropped. */
    public List<Task> shownTasks() {
        return tasks.stream().filter(task -> !task.gone()).toList();
    }

    /** The time that stands. */
    public List<TimeEntry> shownTime() {
        return time.stream().filter(entry -> !entry.gone()).toList();
    }

    /** All time that stands, added up. */
    public Duration total() {
        return shownTime().stream().map(entry -> entry.spent().time()).reduce(Duration.ZERO, Duration::plus);
    }

    /** All time that stands, in minutes, of each entry the one that was begun counted whole. */
    public int minutes() {
        return shownTime().stream().mapToInt(entry -> minutes(entry.spent())).sum();
    }

    /** Time in whole minutes; one that was begun counts. */
    public static int minutes(Spent spent) {
        return (int) spent.time().plusSeconds(59).toMinutes();
    }

    /** How many tasks are still to be done. */
    public int openTasks() {
        return (int) tasks.stream().filter(Task::open).count();
    }

    /** Who is told of what happens to it. */
    public Set<PersonId> watchers() {
        return watching.keySet();
    }

    /** A question that was asked beside it. */
    public Optional<Talk> talk(int id) {
        return talks.stream().filter(talk -> talk.id() == id).findFirst();
    }

    /** The work after one more event. */
    Work after(TicketEvent.OfWork event) {
        return switch (event) {
            case TicketEvent.Watched e -> watched(e.person(), e.on() ? Interest.ALL : Set.of());
            case TicketEvent.WatchedFor e -> watched(e.person(), e.of());
            case TicketEvent.Awaits e -> awaiting(e.what());
            case TicketEvent.SideAsked e ->
                withTalks(plus(
                        talks,
                        new Talk(
                                e.talk(),
                                e.person(),
                                e.team(),
                                e.actor(),
                                e.at(),
                                e.question(),
                                Optional.empty(),
                                false)));
            case TicketEvent.SideAnswered e ->
                talk(e.talk(), talk -> talk.answered(new Talk.Answer(e.at(), e.actor(), e.words())));
            case TicketEvent.SideDropped e -> talk(e.talk(), Talk::takenBack);
            case TicketEvent.TaskSet e -> with(set(e));
            case TicketEvent.TaskTicked e ->
                with(each(
                        tasks,
                        task -> task.id() == e.task()
                                ? new Task(
                                        task.id(),
                                        task.what(),
                                        task.person(),
                                        task.due(),
                                        e.done() ? Optional.of(e.at()) : Optional.empty(),
                                        task.gone())
                                : task));
            case TicketEvent.TaskDropped e ->
                with(each(
                        tasks,
                        task -> task.id() == e.task()
                                ? new Task(task.id(), task.what(), task.person(), task.due(), task.doneAt(), e.gone())
                                : task));
            case TicketEvent.TasksOrdered e -> with(ordered(e.order()));
            case TicketEvent.TimeSpent e -> withTime(spent(e));
            case TicketEvent.TimeDropped e ->
                withTime(each(
                        time,
                        entry -> entry.id() == e.stint() ? new TimeEntry(entry.id(), entry.spent(), e.gone()) : entry));
            case TicketEvent.Concluded e -> ended(e.resolution(), parent, rated);
            case TicketEvent.PutUnder e -> ended(resolution, e.parent(), rated);
            case TicketEvent.WasRated e ->
                ended(resolution, parent, Optional.of(new Rated(e.rating(), e.comment(), e.at())));
            case TicketEvent.CallLogged e ->
                others(put(calls, call(e.call()), new Call(e.call(), e.said(), false)), meetings, helps);
            case TicketEvent.CallDropped e ->
                others(
                        each(calls, call -> call.id() == e.call() ? new Call(call.id(), call.said(), e.gone()) : call),
                        meetings,
                        helps);
            case TicketEvent.MeetingSet e -> others(calls, planned(e), helps);
            case TicketEvent.MeetingOff e ->
                others(
                        calls,
                        each(
                                meetings,
                                one -> one.id() == e.meeting()
                                        ? new Meeting(one.id(), one.plan(), one.version() + 1, e.off())
                                        : one),
                        helps);
            case TicketEvent.HelpAsked e ->
                others(
                        calls,
                        meetings,
                        plus(helps, new Help(e.help(), e.wanted(), e.at(), e.actor(), Optional.empty())));
            case TicketEvent.HelpEnded e ->
                withResult(e.help(), Optional.of(new Help.Result(e.at(), e.actor(), e.result(), e.withdrawn())));
            case TicketEvent.HelpReopened e -> withResult(e.help(), Optional.empty());
        };
    }

    private Work watched(PersonId person, Set<Interest> of) {
        var next = new HashMap<>(watching);
        if (of.isEmpty()) {
            next.remove(person);
        } else {
            next.put(person, Set.copyOf(of));
        }
        return new Work(next, tasks, time, resolution, parent, rated, calls, meetings, helps, talks, await);
    }

    private Work with(List<Task> next) {
        return new Work(watching, next, time, resolution, parent, rated, calls, meetings, helps, talks, await);
    }

    private Work withTime(List<TimeEntry> next) {
        return new Work(watching, tasks, next, resolution, parent, rated, calls, meetings, helps, talks, await);
    }

    private Work ended(Resolution how, Optional<TicketNumber> under, Optional<Rated> said) {
        return new Work(watching, tasks, time, how, under, said, calls, meetings, helps, talks, await);
    }

    private Work others(List<Call> called, List<Meeting> met, List<Help> helped) {
        return new Work(watching, tasks, time, resolution, parent, rated, called, met, helped, talks, await);
    }

    private Work withTalks(List<Talk> next) {
        return new Work(watching, tasks, time, resolution, parent, rated, calls, meetings, helps, next, await);
    }

    /** The work on a ticket that waits for something before it comes back, or for nothing any more. */
    Work awaiting(Optional<Await> next) {
        return new Work(watching, tasks, time, resolution, parent, rated, calls, meetings, helps, talks, next);
    }

    private Work talk(int id, UnaryOperator<Talk> change) {
        return withTalks(each(talks, talk -> talk.id() == id ? change.apply(talk) : talk));
    }

    private Work withResult(int id, Optional<Help.Result> result) {
        return others(
                calls,
                meetings,
                each(
                        helps,
                        help -> help.id() == id
                                ? new Help(id, help.wanted(), help.askedAt(), help.askedBy(), result)
                                : help));
    }

    private List<Meeting> planned(TicketEvent.MeetingSet e) {
        Optional<Meeting> before = meeting(e.meeting());
        return put(
                meetings,
                before,
                new Meeting(
                        e.meeting(),
                        e.plan(),
                        before.map(one -> one.version() + 1).orElse(0),
                        before.map(Meeting::off).orElse(false)));
    }

    /** In the place of what was there before; at the end when there was nothing. */
    private static <T> List<T> put(List<T> all, Optional<T> before, T after) {
        return before.isPresent() ? each(all, one -> one.equals(before.get()) ? after : one) : plus(all, after);
    }

    private List<Task> set(TicketEvent.TaskSet e) {
        Optional<Task> before = task(e.task());
        var after = new Task(
                e.task(),
                e.what(),
                e.person(),
                e.due(),
                before.flatMap(Task::doneAt),
                before.map(Task::gone).orElse(false));
        return before.isPresent() ? each(tasks, task -> task.id() == e.task() ? after : task) : plus(tasks, after);
    }

    private List<TimeEntry> spent(TicketEvent.TimeSpent e) {
        var after = new TimeEntry(e.stint(), e.spent(), false);
        return time(e.stint()).isPresent()
                ? each(time, entry -> entry.id() == e.stint() ? after : entry)
                : plus(time, after);
    }

    /** Those that are named in their new order, then the others in that which they had. */
    private List<Task> ordered(List<Integer> order) {
        var next = new ArrayList<>(tasks);
        next.sort(Comparator.comparingInt(task -> place(order, task.id())));
        return next;
    }

    private static int place(List<Integer> order, int id) {
        int at = order.indexOf(id);
        return at < 0 ? order.size() : at;
    }

    private static <T> List<T> each(List<T> all, UnaryOperator<T> change) {
        return all.stream().map(change).toList();
    }

    private static <T> List<T> plus(List<T> all, T one) {
        var more = new ArrayList<>(all);
        more.add(one);
        return more;
    }
}
