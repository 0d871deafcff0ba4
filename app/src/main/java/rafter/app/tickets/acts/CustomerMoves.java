package rafter.app.tickets.acts;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Say;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.TicketEvent;

/** Gives tickets to another contact, for two contacts turned out to be one person, or two after all. */
@Component
public class CustomerMoves {

    private final DSLContext sql;
    private final TicketStore store;

    CustomerMoves(DSLContext sql, TicketStore store) {
        this.sql = sql;
        this.store = store;
    }

    /** The tickets of a contact, all of them, for whoever moves them. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<TicketNumber> of(ContactId contact) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CONTACT_ID.eq(contact))
                .orderBy(TICKET.NUMBER)
                .fetch(TICKET.NUMBER);
    }

    /** Moves a ticket, if it is still its former contact's; promises that depend on their company follow. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void move(TicketNumber number, ContactId from, ContactId to, Instant now, Actor by) {
        TicketStore.Held held = store.hold(number);
        if (!held.ticket().contact().equals(from)) {
            return;
        }
        TicketEvent.CustomerKnown before = known(from);
        TicketEvent.CustomerKnown after = known(to);
        sql.update(TICKET)
                .set(TICKET.CONTACT_ID, to)
                .where(TICKET.NUMBER.eq(number))
                .execute();
        sql.update(MESSAGE)
                .set(MESSAGE.CONTACT_ID, to)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.CONTACT_ID.eq(from))
                .execute();
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.CustomerIs(now, by, to));
        if (!before.equals(after)) {
            events.add(new TicketEvent.CustomerChanged(now, Actor.system(), before, after));
        }
        store.append(held, events, now);
    }

    /** Lets entries of a contact on tickets of others be another's. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void authorship(ContactId from, ContactId to) {
        sql.update(MESSAGE)
                .set(MESSAGE.CONTACT_ID, to)
                .where(MESSAGE.CONTACT_ID.eq(from))
                .execute();
    }

    private TicketEvent.CustomerKnown known(ContactId contact) {
        return sql.select(CONTACT.COMPANY_ID, COMPANY.PLAN)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(contact))
                .fetchSingle(
                        r -> new TicketEvent.CustomerKnown(Optional.ofNullable(r.value1()), Say.orBlank(r.value2())));
    }
}
