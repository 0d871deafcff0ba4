package rafter.app.tickets.parts;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

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
            String rated) {

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
    public View of(TicketNumber number, Ticket ticket, Viewer me) {
        Work work = ticket.work();
        Map<PersonId, Person> people = work.equals(Work.NONE)
                ? Map.of()
                : persons.all().stream().collect(Collectors.toMap(Person::id, Function.identity()));
        Instant now = clock.instant();
        ZoneId zone = targets.zone();
        return new View(
                work.shownTasks().stream()
                        .map(task -> new TaskLine(
                                task.id(),
                                task.what(),
                                task.person().map(id -> name(people, id)).orElse(""),
                                task.due().map(at -> Say.when(at, now, zone)).orElse(""),
                                task.open() && task.due().filter(now::isAfter).isPresent(),
                                task.doneAt().isPresent()))
                        .toList(),
                work.shownTime().reversed().stream()
                        .map(entry -> line(entry, people, now, zone))
                        .toList(),
                work.total().isZero() ? "" : Amount.written(work.total()),
                work.watchers().stream().map(id -> name(people, id)).sorted().toList(),
                work.watchers().contains(me.id()),
                work.resolution(),
                work.parent()
                        .flatMap(parent ->
                                others(TICKET.NUMBER.eq(parent), 1, me).stream().findFirst()),
                others(TICKET.PARENT.eq(number), CHILDREN_SHOWN, me),
                work.rated()
                        .map(rated -> rated.rating().word()
                                + (rated.comment().isEmpty() ? "" : ": “" + rated.comment() + "”"))
                        .orElse(""));
    }

    private static TimeLine line(Work.TimeEntry entry, Map<PersonId, Person> people, Instant now, ZoneId zone) {
        Work.Spent spent = entry.spent();
        return new TimeLine(
                entry.id(),
                name(people, spent.person()),
                Amount.written(spent.time()),
                spent.kind(),
                Say.when(spent.at(), now, zone),
                spent.note(),
                spent.billable());
    }

    private static String name(Map<PersonId, Person> people, PersonId id) {
        return Optional.ofNullable(people.get(id)).map(Person::name).orElse("Somebody");
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
