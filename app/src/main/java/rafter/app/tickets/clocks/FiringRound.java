package rafter.app.tickets.clocks;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import rafter.app.house.access.Person;
import rafter.app.promises.targets.Terms;
import rafter.core.criteria.Facts;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.target.Step;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.database.tables.records.StepTimerRecord;

/**
 * What the tickets of one round of firing have to do with.
 *
 * @param names their customers' names
 * @param people who works here
 * @param members who is in which team
 */
record FiringRound(
        Instant now,
        Terms terms,
        Map<TicketNumber, List<TicketEvent>> events,
        Map<TicketNumber, Facts> customers,
        Map<TicketNumber, String> names,
        Map<PersonId, Person> people,
        Map<TeamId, List<PersonId>> members) {

    /**
     * A step that fires now.
     *
     * @param tardy whether nobody was there to fire it in time
     */
    public record Firing(StepTimerRecord timer, TargetClock clock, Step step, boolean tardy) {}

    /** The ticket of a step as it stands. */
    Ticket ticket(Firing one) {
        return Ticket.replay(events.getOrDefault(one.timer().getTicket(), List.of()));
    }
}
