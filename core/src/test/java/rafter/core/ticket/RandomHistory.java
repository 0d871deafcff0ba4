package rafter.core.ticket;

import static java.time.DayOfWeek.*;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.target.Editions;
import rafter.core.target.Objective;
import rafter.core.target.Promise;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** Histories of tickets as people might make them, from a seed. */
public final class RandomHistory {

    private static final WorkCalendar CALENDAR = WorkCalendar.weekly(
            "Office", ZoneId.of("Europe/Oslo"), LocalTime.of(8, 0), LocalTime.of(17, 0), MONDAY, TUESDAY, THURSDAY);
    public static final WorkingTime HOURS = WorkingTime.of(CALENDAR);
    public static final Editions EDITIONS = Editions.always(promise(), CALENDAR);

    private RandomHistory() {}

    private static Promise promise() {
        var durations = new EnumMap<Objective, Map<Priority, Duration>>(Objective.class);
        for (Objective objective : Objective.values()) {
            // P4 promises nothing, so that lifting is part of the histories.
            durations.put(
                    objective,
                    Map.of(
                            Priority.P1, Duration.ofHours(1 + objective.ordinal()),
                            Priority.P2, Duration.ofHours(4 + objective.ordinal()),
                            Priority.P3, Duration.ofHours(9 + objective.ordinal())));
        }
        return new Promise(durations);
    }

    /** Between one and forty events, as acts of the customer and of ours. */
    public static List<TicketEvent> of(long seed) {
        var random = new Random(seed);
        Instant at = Instant.parse("2027-03-01T07:00:00Z").plusSeconds(random.nextInt(2_000_000));
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.Opened(
                at,
                new Actor.Contact(new ContactId(1)),
                TicketEvent.Origin.values()[random.nextInt(2)],
                Way.by("email"),
                "Any",
                new ContactId(1),
                Priority.values()[random.nextInt(4)],
                Optional.empty()));
        int acts = random.nextInt(20);
        for (int i = 0; i < acts; i++) {
            at = at.plusSeconds(random.nextInt(60_000));
            events.addAll(act(random, Ticket.replay(events), at));
        }
        return events;
    }

    private static List<TicketEvent> act(Random random, Ticket ticket, Instant at) {
        var person = new Actor.Person(new PersonId(1 + random.nextInt(3)));
        return switch (random.nextInt(12)) {
            case 0, 1 ->
                Conduct.customerWrote(
                        ticket, at, new Actor.Contact(new ContactId(1)), new MessageId(5), random.nextInt(5) == 0);
            case 2, 3 -> Conduct.answered(ticket, at, person.id(), new MessageId(5), Turn.values()[random.nextInt(4)]);
            case 4 ->
                List.of(new TicketEvent.StateChanged(
                        at, person, TicketState.shipped().get(random.nextInt(6))));
            case 5 -> List.of(new TicketEvent.PriorityChanged(at, person, Priority.values()[random.nextInt(4)]));
            case 7 ->
                List.of(new TicketEvent.TimeAgreed(
                        at,
                        person,
                        random.nextInt(4) == 0
                                ? Optional.empty()
                                : Optional.of(at.plusSeconds(random.nextInt(400_000))),
                        ""));
            case 8 ->
                random.nextBoolean()
                        ? List.of(new TicketEvent.BringBackSet(at, person, Optional.of(at.plusSeconds(90_000))))
                        : Conduct.broughtBack(ticket, at);
            case 6 -> List.of(new TicketEvent.OwnerChanged(at, person, Optional.of(person.id())));
            case 9 ->
                List.of(
                        ticket.joinedInto().isPresent()
                                ? new TicketEvent.Parted(
                                        at, person, ticket.joinedInto().orElseThrow())
                                : new TicketEvent.Joined(at, person, new TicketNumber(7)));
            case 10 ->
                List.of(
                        ticket.discarded()
                                ? new TicketEvent.Restored(at, person)
                                : new TicketEvent.Discarded(at, person, "it was no request"));
            default -> List.of(new TicketEvent.TagsChanged(at, person, Set.of("lost")));
        };
    }
}
