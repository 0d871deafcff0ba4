package rafter.app.tickets.acts;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Writes;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Words;

/** Writes what was said on tickets, and who takes part in their mail. */
@Component
public class EntryStore {

    private static final Writes.Form ENTRY = Writes.insert(
            Writes.Stage.MESSAGES,
            MESSAGE,
            MESSAGE.ID,
            MESSAGE.TICKET,
            MESSAGE.SEQ,
            MESSAGE.KIND,
            MESSAGE.AT,
            MESSAGE.AUTHOR,
            MESSAGE.CONTACT_ID,
            MESSAGE.PERSON_ID,
            MESSAGE.FROM_ADDRESS,
            MESSAGE.REPLY_TO,
            MESSAGE.TO_ADDRESSES,
            MESSAGE.CC_ADDRESSES,
            MESSAGE.BCC_ADDRESSES,
            MESSAGE.SUBJECT,
            MESSAGE.MESSAGE_ID,
            MESSAGE.HTML,
            MESSAGE.TEXT,
            MESSAGE.WORDS,
            MESSAGE.FOLDED,
            MESSAGE.FOLDED_WORDS,
            MESSAGE.INBOUND_ID,
            MESSAGE.REMARK,
            MESSAGE.READER);
    private static final Writes.Form FILE_OF_ENTRY = Writes.insert(
            Writes.Stage.DEPENDENTS,
            ATTACHMENT,
            ATTACHMENT.MESSAGE_ID,
            ATTACHMENT.SHA256,
            ATTACHMENT.NAME,
            ATTACHMENT.MEDIA_TYPE,
            ATTACHMENT.SIZE,
            ATTACHMENT.CONTENT_ID,
            ATTACHMENT.POSITION);
    private static final Writes.Form PART =
            Writes.insertIfNew(Writes.Stage.DEPENDENTS, PARTICIPANT, PARTICIPANT.TICKET, PARTICIPANT.ADDRESS);

    private static final int READ_OF_A_TEXT = 200_000;
    private static final int MOST_TEXTS = 40;

    /** Which way of reading messages made an entry; rises when stored ones are to be read once more. */
    static final int READER = 1;

    private final DSLContext sql;
    private final Writes writes;

    EntryStore(DSLContext sql, Writes writes) {
        this.sql = sql;
        this.writes = writes;
    }

    /**
     * Adds an entry.
     *
     * @param seq the number that the event which tells of it will have
     */
    public MessageId add(TicketNumber ticket, int seq, NewMessage m) {
        NewMessage.Envelope envelope = m.envelope();
        MessageId id = new MessageId(writes.number(MESSAGE));
        writes.write(
                ENTRY,
                id,
                ticket,
                seq,
                m.kind().name(),
                m.at(),
                m.author(),
                m.contact().orElse(null),
                m.person().orElse(null),
                envelope.from(),
                envelope.replyTo(),
                String.join(", ", envelope.to()),
                String.join(", ", envelope.cc()),
                String.join(", ", envelope.bcc()),
                envelope.subject(),
                envelope.messageId().orElse(null),
                m.html(),
                m.text(),
                storedWords(m.text()),
                m.folded(),
                storedWordsOrNothing(m.folded()),
                m.inbound().orElse(null),
                m.remark(),
                READER);
        writes.pendingFor(ticket);
        envelope.messageId().ifPresent(writes::pendingFor);
        int position = 0;
        for (NewMessage.FileRef file : m.files()) {
            writes.write(
                    FILE_OF_ENTRY,
                    id,
                    file.sha256(),
                    file.name(),
                    file.mediaType(),
                    file.size(),
                    file.contentId(),
                    position++);
        }
        return id;
    }

    /** Shows an entry otherwise than before. */
    void rewrite(MessageId message, String html, String text, String folded, String remark) {
        sql.update(MESSAGE)
                .set(MESSAGE.HTML, html)
                .set(MESSAGE.TEXT, text)
                .set(MESSAGE.WORDS, storedWords(text))
                .set(MESSAGE.FOLDED, folded)
                .set(MESSAGE.FOLDED_WORDS, storedWordsOrNothing(folded))
                .set(MESSAGE.REMARK, remark)
                .set(MESSAGE.READER, READER)
                .where(MESSAGE.ID.eq(message))
                .execute();
    }

    private static String storedWordsOrNothing(String text) {
        return text.isBlank() ? "" : storedWords(text);
    }

    /** The words of a text as they are kept for finding; of a very long one its beginning. */
    static String storedWords(String text) {
        return Words.of(text.length() > READ_OF_A_TEXT ? text.substring(0, READ_OF_A_TEXT) : text)
                .stored();
    }

    /** Notes that these addresses take part in the ticket's mail. */
    public void takePart(TicketNumber ticket, Collection<String> addresses) {
        addresses.forEach(address -> writes.write(PART, ticket, address));
        writes.pendingFor(ticket);
    }

    /** Notes that those of another ticket take no part any more, but for whom this one's own mail came from or went to. */
    void leave(TicketNumber ticket, TicketNumber other) {
        var theirs = PARTICIPANT.as("theirs");
        Field<String> named = DSL.concat(
                DSL.inline(", "),
                MESSAGE.FROM_ADDRESS,
                DSL.inline(", "),
                MESSAGE.REPLY_TO,
                DSL.inline(", "),
                MESSAGE.TO_ADDRESSES,
                DSL.inline(", "),
                MESSAGE.CC_ADDRESSES,
                DSL.inline(", "));
        sql.deleteFrom(PARTICIPANT)
                .where(PARTICIPANT.TICKET.eq(ticket))
                .and(PARTICIPANT.ADDRESS.in(
                        DSL.select(theirs.ADDRESS).from(theirs).where(theirs.TICKET.eq(other))))
                .andNotExists(DSL.selectOne()
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(ticket))
                        .and(DSL.position(named, DSL.concat(DSL.inline(", "), PARTICIPANT.ADDRESS, DSL.inline(", ")))
                                .gt(0)))
                .execute();
    }

    /** Hides the words of a note; they are kept apart. */
    public void hide(MessageId message) {
        sql.update(MESSAGE)
                .set(MESSAGE.TAKEN_BACK, MESSAGE.HTML)
                .set(MESSAGE.HTML, "")
                .set(MESSAGE.TEXT, "")
                .set(MESSAGE.WORDS, "")
                .where(MESSAGE.ID.eq(message))
                .execute();
    }

    /** The texts of a ticket with what is folded away of them, the latest first, as far as they are of use for knowing quotations. */
    List<String> texts(TicketNumber ticket) {
        writes.settle(List.of(ticket));
        return textsBefore(ticket, Integer.MAX_VALUE);
    }

    /** What was written in a ticket before an entry, the latest first. */
    List<String> textsBefore(TicketNumber ticket, int seq) {
        var texts = new ArrayList<String>();
        int letters = 0;
        for (var row : sql.select(DSL.left(MESSAGE.TEXT, READ_OF_A_TEXT), DSL.left(MESSAGE.FOLDED, READ_OF_A_TEXT))
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(ticket))
                .and(MESSAGE.SEQ.lt(seq))
                .and(MESSAGE.KIND.ne(NewMessage.Kind.NOTE.name()))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(MOST_TEXTS)) {
            texts.add(row.value1() + "\n" + row.value2());
            letters += row.value1().length() + row.value2().length();
            if (letters > READ_OF_A_TEXT) {
                break;
            }
        }
        return texts;
    }

    /** Whether an entry with this Message-ID exists. */
    boolean knows(String messageId) {
        writes.settle(List.of(messageId));
        return writes.foreseen(MESSAGE.MESSAGE_ID, messageId, Boolean.class)
                .orElseGet(() -> sql.fetchExists(MESSAGE, MESSAGE.MESSAGE_ID.eq(messageId)));
    }

    /** Looks up several Message-IDs at once, for gathered work that asks for them one by one. */
    void foresee(Collection<String> messageIds) {
        Set<String> known = sql.select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .where(MESSAGE.MESSAGE_ID.in(messageIds))
                .fetchSet(MESSAGE.MESSAGE_ID);
        writes.foresee(
                MESSAGE.MESSAGE_ID,
                messageIds.stream().distinct().collect(Collectors.toMap(id -> id, known::contains)));
    }
}
