package rafter.app.tickets.parts;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Colleagues;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Call;
import rafter.core.ticket.Help;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;
import rafter.core.time.WorkingTime;

/** What the page of a ticket shows of the parts of the work. */
@Component
public class Parts {

    private static final int CHILDREN_SHOWN = 50;

    /**
     * The parts of the work, as the page shows them.
     *
     * @param total all time on it, in words; blank when there is none
     * @param watching whether the reader watches it
     * @param rated what the customer said, in words; blank when they said nothing
     */
    public record View(
            List<TaskLine> tasks,
            List<TimeLine> time,
            String total,
            List<String> watchers,
            boolean watching,
            Work.Resolution resolution,
            Optional<Other> parent,
            List<Other> children,
            String rated,
            List<CallLine> calls,
            List<MeetingLine> meetings,
            List<HelpLine> helps,
            List<TalkLine> talks) {

        /** How many of the children are open still. */
        public long childrenOpen() {
            return children.stream().filter(Other::open).count();
        }

        /** How many tasks are done. */
        public long tasksDone() {
            return tasks.stream().filter(TaskLine::done).count();
        }
    }

    /** A task in a line. */
    public record TaskLine(int id, String what, String who, String due, boolean late, boolean done) {}

    /** Time in a line. */
    public record TimeLine(
            int id, String who, String amount, String kind, String when, String note, boolean billable) {}

    /** A call in a line. */
    public record CallLine(int id, String words, String when, String notes) {}

    /** A meeting in a line. */
    public record MeetingLine(int id, String title, String when, String place, int invited, boolean past) {}

    /**
     * Help in a line.
     *
     * @param result what came of it; blank: it is wanted still
     * @param mine whether the reader may hand it back
     * @param used how much of its working time is used, of a hundred; below zero when no time was set
     */
    public record HelpLine(
            int id,
            String whom,
            String request,
            String due,
            boolean late,
            boolean open,
            String result,
            boolean mine,
            int used) {}

    /**
     * A question beside the ticket, in a line.
     *
     * @param answer what somebody said to it; blank: nobody answered yet
     * @param mine whether the reader may answer it
     * @param asked whether the reader may take it back
     */
    public record TalkLine(
            int id,
            String who,
            String whom,
            String question,
            String when,
            String answer,
            boolean mine,
            boolean asked) {}

    /** Another ticket. */
    public record Other(TicketNumber number, String subject, String state, boolean open) {}

    private final DSLContext sql;
    private final Persons persons;
    private final TicketStates states;
    private final Targets targets;
    private final Clock clock;

    Parts(DSLContext sql, Persons persons, TicketStates states, Targets targets, Clock clock) {
        this.sql = sql;
        this.persons = persons;
        this.states = states;
        this.targets = targets;
        this.clock = clock;
    }

    /** The parts of the work on a ticket. */
    public View of(TicketNumber number, Ticket ticket, Colleagues people, Traces.Found traces, Viewer me) {
        Work work = ticket.work();
        Instant now = clock.instant();
        ZoneId zone = targets.zone();
        return new View(
                work.shownTasks().stream()
                        .map(task -> line(task, people, now, zone))
                        .toList(),
                work.shownTime().reversed().stream()
                        .map(entry -> line(entry, people, now, zone))
                        .toList(),
                work.total().isZero() ? "" : Amount.written(work.total()),
                work.watchers().stream().map(people::name).sorted().toList(),
                work.watchers().contains(me.id()),
                work.resolution(),
                work.parent()
                        .flatMap(parent ->
                                others(TICKET.NUMBER.eq(parent), 1, me).stream().findFirst()),
                traces.may(OwnTrace.CHILDREN) ? others(TICKET.PARENT.eq(number), CHILDREN_SHOWN, me) : List.of(),
                work.rated()
                        .map(rated -> rated.rating().word()
                                + (rated.comment().isEmpty() ? "" : ": “" + rated.comment() + "”"))
                        .orElse(""),
                work.shownCalls().reversed().stream()
                        .map(call -> line(call, people, now, zone))
                        .toList(),
                work.meetings().stream()
                        .filter(meeting -> !meeting.off())
                        .map(meeting -> line(meeting, now, zone))
                        .toList(),
                helps(work, people, me, now, zone),
                talks(work, people, me, now, zone));
    }

    private static TaskLine line(Work.Task task, Colleagues people, Instant now, ZoneId zone) {
        return new TaskLine(
                task.id(),
                task.what(),
                task.person().map(people::name).orElse(""),
                task.due().map(at -> Say.when(at, now, zone)).orElse(""),
                task.open() && task.due().filter(now::isAfter).isPresent(),
                task.doneAt().isPresent());
    }

    private static CallLine line(Call call, Colleagues people, Instant now, ZoneId zone) {
        Call.Said said = call.said();
        String with = said.with().isEmpty() ? "the customer" : said.with();
        String who = people.name(said.person());
        return new CallLine(
                call.id(),
                (said.incoming() ? with + " called " + who : who + " called " + with)
                        + (said.length().isZero() ? ", nobody answered" : ", " + Amount.written(said.length())),
                Say.when(said.at(), now, zone),
                said.notes());
    }

    private static MeetingLine line(Meeting meeting, Instant now, ZoneId zone) {
        Meeting.Plan plan = meeting.plan();
        return new MeetingLine(
                meeting.id(),
                plan.title(),
                Say.when(plan.at(), now, zone) + ", " + Amount.written(plan.length()),
                plan.place(),
                plan.invited().size(),
                plan.at().plus(plan.length()).isBefore(now));
    }

    private List<HelpLine> helps(Work work, Colleagues people, Viewer me, Instant now, ZoneId zone) {
        if (work.helps().isEmpty()) {
            return List.of();
        }
        Set<TeamId> mine = persons.teamsOf(me.id());
        return work.helps().stream()
                .filter(help -> help.result().filter(Help.Result::withdrawn).isEmpty())
                .map(help -> {
                    Help.Wanted wanted = help.wanted();
                    boolean asked = wanted.person().filter(me.id()::equals).isPresent()
                            || wanted.team().filter(mine::contains).isPresent();
                    return new HelpLine(
                            help.id(),
                            wanted.person()
                                    .map(people::name)
                                    .or(() -> wanted.team().map(people::team))
                                    .orElse(""),
                            wanted.request(),
                            wanted.due().map(at -> Say.when(at, now, zone)).orElse(""),
                            help.open() && wanted.due().filter(now::isAfter).isPresent(),
                            help.open(),
                            help.result().map(Help.Result::words).orElse(""),
                            asked || me.role().has(Right.HAND_OVER_ANY),
                            help.open() ? used(help, now) : -1);
                })
                .toList();
    }

    /** How much of the working time is used that there was for help. */
    private int used(Help help, Instant now) {
        if (help.wanted().due().isEmpty()) {
            return -1;
        }
        WorkingTime hours = targets.terms().hours();
        Instant due = help.wanted().due().get();
        long all = hours.between(help.askedAt(), due).toSeconds();
        long gone = hours.between(help.askedAt(), now.isBefore(due) ? now : due).toSeconds();
        return all == 0 ? 100 : (int) (100 * gone / all);
    }

    private List<TalkLine> talks(Work work, Colleagues people, Viewer me, Instant now, ZoneId zone) {
        if (work.talks().isEmpty()) {
            return List.of();
        }
        Set<TeamId> mine = persons.teamsOf(me.id());
        return work.talks().stream()
                .filter(talk -> !talk.dropped())
                .map(talk -> new TalkLine(
                        talk.id(),
                        name(people, talk.by()),
                        talk.person()
                                .map(people::name)
                                .or(() -> talk.team().map(people::team))
                                .orElse(""),
                        talk.question(),
                        Say.when(talk.at(), now, zone),
                        talk.answer()
                                .map(answer -> name(people, answer.by()) + ": " + answer.words())
                                .orElse(""),
                        talk.open()
                                && (talk.person().filter(me.id()::equals).isPresent()
                                        || talk.team().filter(mine::contains).isPresent()),
                        talk.open()
                                && (talk.by().equals(new Actor.Person(me.id()))
                                        || me.role().has(Right.HAND_OVER_ANY))))
                .toList();
    }

    private static String name(Colleagues people, Actor actor) {
        return actor instanceof Actor.Person person ? people.name(person.id()) : "Rafter";
    }

    private static TimeLine line(Work.TimeEntry entry, Colleagues people, Instant now, ZoneId zone) {
        Work.Spent spent = entry.spent();
        return new TimeLine(
                entry.id(),
                people.name(spent.person()),
                Amount.written(spent.time()),
                spent.kind(),
                Say.when(spent.at(), now, zone),
                spent.note(),
                spent.billable());
    }

    private List<Other> others(org.jooq.Condition which, int most, Viewer me) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE, TICKET.OPEN)
                .from(me.tickets())
                .where(which)
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(r -> new Other(r.value1(), r.value2(), states.name(r.value3()), r.value4()));
    }
}
