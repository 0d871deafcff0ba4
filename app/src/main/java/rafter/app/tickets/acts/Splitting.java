package rafter.app.tickets.acts;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Writes;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.database.tables.records.MessageRecord;

/**
 * Makes a ticket of a message that was about something else, and takes that back. The message stays readable where it arrived; its identity
 * as a mail goes with it, so that answers to it are put where it went. Clocks begin there when it was written.
 */
@Component
class Splitting {

    private static final Pattern ANSWER = Pattern.compile("(?i)^\\s*((re|aw|sv|antw|fwd?|wg)\\s*:\\s*)+");
    private static final int LONGEST_SUBJECT = 300;

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final EntryStore entries;
    private final Clock clock;

    Splitting(DSLContext sql, Writes writes, TicketStore store, EntryStore entries, Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.entries = entries;
        this.clock = clock;
    }

    /**
     * Splits a message off a ticket that is held.
     *
     * @throws Problem.Invalid when it cannot be; nothing happens then
     */
    Acts.Outcome split(TicketStore.Held held, Act.Split split, Viewer by) {
        Conduct.unsplittable(held.events(), split.message()).ifPresent(why -> {
            throw new Problem.Invalid(why);
        });
        MessageRecord row = row(split.message());
        Instant now = clock.instant();
        var who = new Actor.Person(by.id());
        TicketNumber into =
                open(held.ticket(), row, subject(split.subject(), row, held.ticket()), who, now, held.number());
        store.append(held, List.of(new TicketEvent.SplitOff(now, who, split.message(), into)), now);
        return Acts.Outcome.undoneBy(new Act.PutBack(split.message()));
    }

    private MessageRecord row(MessageId message) {
        return sql.selectFrom(MESSAGE).where(MESSAGE.ID.eq(message)).fetchSingle();
    }

    private static String subject(String typed, MessageRecord row, Ticket ticket) {
        String subject = typed.isBlank() ? ANSWER.matcher(row.getSubject()).replaceFirst("") : typed;
        String known = subject.isBlank() ? ticket.subject() : subject.strip();
        return known.length() > LONGEST_SUBJECT ? known.substring(0, LONGEST_SUBJECT) : known;
    }

    private TicketNumber open(
            Ticket from, MessageRecord row, String subject, Actor who, Instant now, TicketNumber number) {
        ContactId contact = Optional.ofNullable(row.getContactId()).orElse(from.contact());
        var customer = new Actor.Contact(contact);
        List<NewMessage.FileRef> files = files(row.getId());
        forgetIdentity(row.getId());
        return writes.gather(() -> {
            TicketStore.Held begun = store.begin(new TicketEvent.Opened(
                    row.getAt(),
                    customer,
                    TicketEvent.Origin.CUSTOMER,
                    from.way(),
                    subject,
                    contact,
                    from.priority(),
                    from.team()));
            MessageId copy = entries.add(begun.number(), begun.nextSeq(), copy(row, files));
            store.append(
                    begun,
                    List.of(
                            new TicketEvent.CustomerWrote(row.getAt(), customer, copy, false),
                            new TicketEvent.Linked(now, who, number, "it was split off from there")),
                    now);
            entries.takePart(begun.number(), List.of(row.getFromAddress()));
            writes.settle(List.of(begun.number()));
            goesInto(row.getId(), copy);
            return begun.number();
        });
    }

    /** Two entries never have one identity. */
    private void forgetIdentity(MessageId message) {
        sql.update(MESSAGE)
                .setNull(MESSAGE.MESSAGE_ID)
                .setNull(MESSAGE.INBOUND_ID)
                .where(MESSAGE.ID.eq(message))
                .execute();
    }

    private void goesInto(MessageId message, MessageId copy) {
        sql.update(MESSAGE)
                .set(MESSAGE.SPLIT_INTO, copy)
                .where(MESSAGE.ID.eq(message))
                .execute();
    }

    private List<NewMessage.FileRef> files(MessageId message) {
        return sql.selectFrom(ATTACHMENT)
                .where(ATTACHMENT.MESSAGE_ID.eq(message))
                .orderBy(ATTACHMENT.POSITION)
                .fetch(f -> new NewMessage.FileRef(
                        f.getSha256(), f.getName(), f.getMediaType(), f.getSize(), f.getContentId()));
    }

    private static NewMessage copy(MessageRecord row, List<NewMessage.FileRef> files) {
        return new NewMessage(
                NewMessage.Kind.CUSTOMER,
                row.getAt(),
                row.getAuthor(),
                Optional.ofNullable(row.getContactId()),
                Optional.empty(),
                new NewMessage.Envelope(
                        row.getFromAddress(),
                        row.getReplyTo(),
                        addresses(row.getToAddresses()),
                        addresses(row.getCcAddresses()),
                        row.getSubject(),
                        Optional.ofNullable(row.getMessageId())),
                row.getHtml(),
                row.getText(),
                row.getFolded(),
                Optional.ofNullable(row.getInboundId()),
                row.getRemark(),
                files);
    }

    private static List<String> addresses(String written) {
        return written.isEmpty() ? List.of() : List.of(written.split(", "));
    }

    /**
     * Puts a message back that was split off, unless somebody went on with it there.
     *
     * @throws Problem.Invalid when it was not split off, or somebody wrote on the ticket that it became
     */
    Acts.Outcome putBack(TicketStore.Held held, Act.PutBack back, Viewer by) {
        TicketNumber from = Conduct.splitInto(held.events(), back.message())
                .orElseThrow(
                        () -> new Problem.Invalid("It was not split off, or is back already. Nothing was changed."));
        TicketStore.Held there = store.hold(from, by);
        if (there.ticket().joinedInto().isPresent() || there.ticket().messages() > 1) {
            throw new Problem.Invalid("Somebody wrote on ticket " + from + " meanwhile. Join it into ticket "
                    + held.number() + " instead. Nothing was changed.");
        }
        Instant now = clock.instant();
        var who = new Actor.Person(by.id());
        moveIdentityBack(back.message());
        if (!there.ticket().discarded()) {
            store.append(
                    there,
                    List.of(new TicketEvent.Discarded(
                            now, who, "its message was put back into ticket " + held.number())),
                    now);
        }
        store.append(held, List.of(new TicketEvent.SplitBack(now, who, back.message(), from)), now);
        return new Acts.Outcome(true, Optional.empty());
    }

    private void moveIdentityBack(MessageId message) {
        MessageId copyId = row(message).getSplitInto();
        if (copyId == null) {
            return;
        }
        MessageRecord copy = row(copyId);
        sql.update(MESSAGE)
                .setNull(MESSAGE.MESSAGE_ID)
                .setNull(MESSAGE.INBOUND_ID)
                .where(MESSAGE.ID.eq(copyId))
                .execute();
        sql.update(MESSAGE)
                .set(MESSAGE.MESSAGE_ID, copy.getMessageId())
                .set(MESSAGE.INBOUND_ID, copy.getInboundId())
                .setNull(MESSAGE.SPLIT_INTO)
                .where(MESSAGE.ID.eq(message))
                .execute();
    }
}
