package rafter.app.tickets.outside;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import rafter.core.id.TicketNumber;
import rafter.database.tables.records.OutsideThreadRecord;

/**
 * A conversation with third parties.
 *
 * @param answered whether they wrote last
 * @param nextNudge when they are reminded next
 */
public record OutsideThread(
        long id,
        TicketNumber ticket,
        List<String> addresses,
        String subject,
        boolean answered,
        Instant writtenAt,
        Optional<Instant> nextNudge,
        int nudgesLeft) {

    public OutsideThread {
        addresses = List.copyOf(addresses);
    }

    static OutsideThread of(OutsideThreadRecord r) {
        return new OutsideThread(
                r.getId(),
                r.getTicket(),
                Arrays.asList(r.getAddresses()),
                r.getSubject(),
                r.getAnswered(),
                r.getWrittenAt(),
                Optional.ofNullable(r.getNextNudge()),
                r.getNudgesLeft());
    }
}
