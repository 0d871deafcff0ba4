package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Conduct;

/** Times that people set for tickets: how they are written, and what happens when they come. */
@Component
public class TicketTimes {

    private final DSLContext sql;
    private final TicketStore store;
    private final Targets targets;

    TicketTimes(DSLContext sql, TicketStore store, Targets targets) {
        this.sql = sql;
        this.store = store;
        this.targets = targets;
    }

    /**
     * A time as a form writes it: local to the zone of this workspace, or an instant; blank for none.
     *
     * @throws Problem.Invalid when it is neither
     */
    public Optional<Instant> read(String written) {
        if (written.isBlank()) {
            return Optional.empty();
        }
        try {
            return Optional.of(
                    written.endsWith("Z")
                            ? Instant.parse(written)
                            : LocalDateTime.parse(written.strip())
                                    .atZone(targets.terms().zone())
                                    .toInstant());
        } catch (DateTimeParseException e) {
            throw new Problem.Invalid("“" + written + "” is no date with a time. Nothing was changed.");
        }
    }

    /** A time as a form shows it. */
    public String local(Instant at) {
        return LocalDateTime.ofInstant(at, targets.terms().zone())
                .truncatedTo(ChronoUnit.MINUTES)
                .toString();
    }

    /** A time as {@link #read} reads it, in the form in which {@link rafter.core.ticket.Conduct#standing} remembers times. */
    public String standing(String written) {
        return read(written).map(Instant::toString).orElse("");
    }

    /**
     * Brings back what is to come back by now, each ticket once; its owner is told.
     *
     * @param most so many at once
     * @return how many came back
     */
    @Transactional
    public int broughtBack(Instant now, int most) {
        List<TicketNumber> due = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.BRING_BACK_AT.le(now))
                .and(TicketStore.understood())
                .orderBy(TICKET.BRING_BACK_AT)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
        for (TicketNumber number : due) {
            TicketStore.Held held = store.hold(number);
            store.append(held, Conduct.broughtBack(held.ticket(), now), now);
        }
        return due.size();
    }
}
