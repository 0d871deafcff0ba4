package rafter.core.rule;

import java.math.BigDecimal;
import java.util.List;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.target.TargetClock;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What rules can ask about a ticket: what lists can, and besides what is counted from its events. */
public final class RuleFacts {

    private RuleFacts() {}

    /**
     * What is known of a ticket.
     *
     * @param customer what is known of its customer and of what they wrote, and how many tickets they had before
     * @param events all that happened to it
     * @param ticket their fold
     */
    public static Facts of(Facts customer, List<TicketEvent> events, Ticket ticket, List<TargetClock> clocks) {
        Facts known = customer;
        for (TicketEvent event : events) {
            known = TicketFacts.ofCustomer(known, event);
        }
        int theirs = 0;
        int ours = 0;
        int reopened = 0;
        boolean ended = false;
        for (TicketEvent event : events) {
            if (event instanceof TicketEvent.CustomerWrote wrote && !wrote.automatic()) {
                theirs++;
            } else if (event instanceof TicketEvent.WeWrote wrote && !wrote.automatic()) {
                ours++;
            } else if (event instanceof TicketEvent.StateChanged changed) {
                reopened += ended && !changed.state().ending() ? 1 : 0;
                ended = changed.state().ending();
            }
        }
        return TicketFacts.withTimes(TicketFacts.of(known, ticket), ticket, clocks)
                .with(KnownField.CUSTOMER_MESSAGES, count(theirs))
                .with(KnownField.OUR_MESSAGES, count(ours))
                .with(KnownField.REOPENINGS, count(reopened));
    }

    private static Fact count(int many) {
        return new Fact.Amount(BigDecimal.valueOf(many));
    }

    /** Whether a ticket takes part in rules at all: what is a part of another one, or in the bin, does not. */
    public static boolean readFor(Ticket ticket) {
        return ticket.joined().isEmpty()
                && !ticket.discarded()
                && !ticket.state().equals(TicketState.CLOSED);
    }
}
