package rafter.app.tickets.acts;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Company;
import rafter.app.house.people.ContactCards;
import rafter.core.id.CompanyId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.EventJson;
import rafter.core.ticket.TicketEvent;

/** Lets open tickets know when their customer's company or plan becomes another one, for promises depend on it. */
@Component
class CustomerNews {

    private static final TicketEvent.CustomerKnown NOBODY = new TicketEvent.CustomerKnown(Optional.empty(), "");

    private final DSLContext sql;
    private final TicketStore store;
    private final Clock clock;

    CustomerNews(DSLContext sql, TicketStore store, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.clock = clock;
    }

    @EventListener
    void onPlan(Companies.PlanChanged change) {
        Optional<CompanyId> company = Optional.of(change.company());
        tell(
                CONTACT.COMPANY_ID.eq(change.company()),
                new TicketEvent.CustomerKnown(company, change.before()),
                new TicketEvent.CustomerKnown(company, change.after()));
    }

    @EventListener
    void onJoined(Companies.Joined joined) {
        tell(
                CONTACT.ID.in(joined.contacts()),
                NOBODY,
                new TicketEvent.CustomerKnown(Optional.of(joined.company()), joined.plan()));
    }

    @EventListener
    void onMoved(ContactCards.Moved moved) {
        tell(CONTACT.ID.eq(moved.contact()), known(moved.before()), known(moved.after()));
    }

    private static TicketEvent.CustomerKnown known(Optional<Company> company) {
        return company.map(c -> new TicketEvent.CustomerKnown(Optional.of(c.id()), c.plan()))
                .orElse(NOBODY);
    }

    private void tell(Condition contacts, TicketEvent.CustomerKnown before, TicketEvent.CustomerKnown after) {
        var event = new TicketEvent.CustomerChanged(clock.instant(), Actor.system(), before, after);
        appendToEnded(contacts, EventJson.write(event));
        List<TicketNumber> open = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(contacts)
                .and(DSL.condition(TICKET.OPEN))
                .orderBy(TICKET.NUMBER)
                .fetch(TICKET.NUMBER);
        for (TicketNumber number : open) {
            store.append(store.hold(number), List.of(event), event.at());
        }
    }

    /** Tickets that are over only learn of it, all at once: their clocks have ended and stay as they are. */
    private void appendToEnded(Condition contacts, EventJson.Kept event) {
        var over = DSL.not(DSL.condition(TICKET.OPEN))
                .and(TICKET.CONTACT_ID.in(DSL.select(CONTACT.ID).from(CONTACT).where(contacts)));
        sql.update(TICKET)
                .set(TICKET.LAST_SEQ, TICKET.LAST_SEQ.plus(1))
                .set(TICKET.FORM, DSL.greatest(TICKET.FORM, DSL.inline((short) EventJson.FORM)))
                .where(over)
                .execute();
        sql.insertInto(
                        TICKET_EVENT,
                        TICKET_EVENT.TICKET,
                        TICKET_EVENT.SEQ,
                        TICKET_EVENT.AT,
                        TICKET_EVENT.KIND,
                        TICKET_EVENT.VERSION,
                        TICKET_EVENT.ACTOR,
                        TICKET_EVENT.BODY)
                .select(DSL.select(
                                TICKET.NUMBER,
                                TICKET.LAST_SEQ,
                                DSL.val(event.at()),
                                DSL.val(event.kind()),
                                DSL.val((short) event.version()),
                                DSL.val(event.actor()),
                                DSL.val(JSONB.valueOf(event.body())))
                        .from(TICKET)
                        .where(over))
                .execute();
    }
}
