package rafter.app.tickets.rules;

import static rafter.database.Tables.MESSAGE;

import java.time.Instant;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.Ids;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TicketNumber;
import rafter.core.rule.RuleTrial;
import rafter.core.target.Reckoning;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.TicketEvent;

/** Tickets as they stood, for asking rules about them. */
@Component
class RulePast {

    private static final Set<KnownField> OF_CLOCKS = EnumSet.of(
            KnownField.NEXT_TARGET,
            KnownField.FIRST_REPLY,
            KnownField.NEXT_REPLY,
            KnownField.RESOLUTION,
            KnownField.PICK_UP,
            KnownField.REGULAR_UPDATE);

    private static final Set<EventKind> CAME_WITH = EnumSet.of(
            EventKind.OPENED, EventKind.CUSTOMER_WROTE, EventKind.WE_WROTE, EventKind.FIELD, EventKind.LINKED);

    /** What was written on a ticket, and when. */
    public record Said(Instant at, String text) {}

    private final DSLContext sql;
    private final Targets targets;

    RulePast(DSLContext sql, Targets targets) {
        this.sql = sql;
        this.targets = targets;
    }

    /** What was written on tickets, by whomever but a machine of ours, in order. */
    Map<TicketNumber, List<Said>> said(Collection<TicketNumber> numbers) {
        return sql
                .select(MESSAGE.TICKET, MESSAGE.AT, MESSAGE.TEXT)
                .from(MESSAGE)
                .where(Ids.among(MESSAGE.TICKET, numbers))
                .and(MESSAGE.KIND.ne("AUTOMATIC"))
                .orderBy(MESSAGE.TICKET, MESSAGE.SEQ)
                .fetchGroups(MESSAGE.TICKET, r -> new Said(r.value2(), r.value3()))
                .entrySet()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    /**
     * A ticket as it stood at an instant.
     *
     * @param asked what rules ask about; what none asks is not reckoned
     */
    RuleTrial.Stood stood(
            Facts customer, List<TicketEvent> events, List<Said> said, Instant at, Set<KnownField> asked) {
        Facts known = asked.contains(KnownField.ANY_MESSAGE)
                ? customer.with(
                        KnownField.ANY_MESSAGE,
                        said.stream()
                                .filter(one -> !one.at().isAfter(at))
                                .map(Said::text)
                                .toList())
                : customer;
        boolean clocks = asksClocks(asked);
        Terms terms = targets.terms();
        return new RuleTrial.Stood(
                known, events, all -> clocks ? Reckoning.reckon(all, customer, terms.editions(), at) : List.of());
    }

    /** Whether any of these is asked of a clock. */
    static boolean asksClocks(Set<KnownField> asked) {
        return asked.stream().anyMatch(OF_CLOCKS::contains);
    }

    /** The events with which a ticket came; what a rule did at the same instant is none of them. */
    static List<TicketEvent> arrival(List<TicketEvent> events) {
        Instant opened = events.getFirst().at();
        return events.stream()
                .takeWhile(event -> !event.at().isAfter(opened) && CAME_WITH.contains(EventKind.of(event)))
                .toList();
    }
}
