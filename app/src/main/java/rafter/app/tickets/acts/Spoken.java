package rafter.app.tickets.acts;

import static rafter.database.Tables.MESSAGE;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;

/** What is spoken with customers, as entries of tickets: one of us speaking with them is an answer, as one in writing is. */
@Component
public class Spoken {

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;

    Spoken(DSLContext sql, TicketStore store, EntryStore entries) {
        this.sql = sql;
        this.store = store;
        this.entries = entries;
    }

    /** Opens a ticket of which we begin to speak. */
    @Transactional(propagation = Propagation.MANDATORY)
    public TicketNumber open(Way way, OurAddress ours, ContactId contact, String subject, PersonId by, Instant now) {
        var opened = new TicketEvent.Opened(
                now, new Actor.Person(by), TicketEvent.Origin.OURS, way, subject, contact, Priority.P3, ours.team());
        TicketStore.Held held = store.begin(opened);
        store.append(held, List.of(new TicketEvent.OwnerChanged(now, new Actor.Person(by), Optional.of(by))), now);
        return held.number();
    }

    /** One of us speaks with the customer: an unowned ticket becomes theirs; it stays our turn until somebody says otherwise. */
    @Transactional(propagation = Propagation.MANDATORY)
    public MessageId took(TicketNumber number, PersonId person, String author, String words, Instant now) {
        TicketStore.Held held = store.hold(number);
        MessageId entry = entries.add(
                number,
                held.nextSeq(),
                new NewMessage(
                        NewMessage.Kind.PUBLIC,
                        now,
                        author,
                        Optional.empty(),
                        Optional.of(person),
                        NewMessage.Envelope.NONE,
                        SafeHtml.fromText(words),
                        words,
                        Optional.empty(),
                        "",
                        List.of()));
        Turn then = held.ticket().open() ? held.ticket().turn() : Turn.NOBODY;
        store.append(held, Conduct.answered(held.ticket(), now, person, entry, then), now);
        return entry;
    }

    /** What a ticket began with is told otherwise, for it went on or is over. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tellFirst(TicketNumber number, String words) {
        sql.select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .orderBy(MESSAGE.SEQ)
                .limit(1)
                .fetchOptional(MESSAGE.ID)
                .ifPresent(entry -> tell(entry, words));
    }

    /** What was spoken is told otherwise, for it went on or is over. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(MessageId entry, String words) {
        entries.rewrite(entry, SafeHtml.fromText(words), words, "", "");
    }
}
