package rafter.app.arrival.chat;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.CHAT;
import static rafter.database.Tables.CHAT_LINE;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.core.id.MessageId;

/** What was said in chats: the lines of each are numbered from one without gaps. */
@Component
public class ChatLines {

    private static final int MOST_LINES = 1000;

    /** Who says a line. */
    public enum Who {
        CUSTOMER,
        PERSON,
        /** The helper: Rafter itself. */
        HELPER,
        /** Nobody: something happened. */
        HAPPENED
    }

    /** A file that a line brought. */
    public record LineFile(long id, String name, String mediaType, long size) {}

    /**
     * One line.
     *
     * @param choices what can be pressed instead of typing it
     * @param press whose answer this is; whether it helped is asked below it
     */
    public record Line(
            int seq,
            Who who,
            String author,
            String text,
            Instant at,
            List<String> choices,
            Optional<Long> press,
            List<LineFile> files) {}

    /** A line to be added. */
    record Said(
            String once,
            Who who,
            String author,
            String text,
            Instant at,
            Optional<MessageId> entry,
            List<String> choices,
            Optional<Long> press) {

        Said(String once, Who who, String author, String text, Instant at, Optional<MessageId> entry) {
            this(once, who, author, text, at, entry, List.of(), Optional.empty());
        }
    }

    private final DSLContext sql;

    ChatLines(DSLContext sql) {
        this.sql = sql;
    }

    /** What was said as an entry came under this key, so that saying it again says nothing. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void key(long chat, MessageId entry, String once) {
        sql.update(CHAT_LINE)
                .set(CHAT_LINE.ONCE, once)
                .where(CHAT_LINE.CHAT_ID.eq(chat))
                .and(CHAT_LINE.MESSAGE_ID.eq(entry))
                .execute();
    }

    /** Whether a line came under this key. */
    public boolean said(long chat, String once) {
        return sql.fetchExists(CHAT_LINE, CHAT_LINE.CHAT_ID.eq(chat), CHAT_LINE.ONCE.eq(once));
    }

    /** Adds a line at the end; its number. The chat is held until the transaction ends, so that numbers have no gaps. */
    @Transactional(propagation = Propagation.MANDATORY)
    int add(long chat, Said line) {
        int seq = sql.update(CHAT)
                .set(CHAT.LAST_SEQ, CHAT.LAST_SEQ.plus(1))
                .where(CHAT.ID.eq(chat))
                .returning(CHAT.LAST_SEQ)
                .fetchSingle(CHAT.LAST_SEQ);
        if (line.who() == Who.PERSON) {
            sql.update(CHAT)
                    .set(CHAT.ANSWERED_AT, DSL.coalesce(CHAT.ANSWERED_AT, DSL.val(line.at())))
                    .set(CHAT.OUR_READ_SEQ, seq)
                    .where(CHAT.ID.eq(chat))
                    .execute();
        }
        sql.insertInto(CHAT_LINE)
                .set(CHAT_LINE.CHAT_ID, chat)
                .set(CHAT_LINE.SEQ, seq)
                .set(CHAT_LINE.ONCE, line.once())
                .set(CHAT_LINE.WHO, line.who().name())
                .set(CHAT_LINE.AUTHOR, line.author())
                .set(CHAT_LINE.TEXT, line.text())
                .set(CHAT_LINE.AT, line.at())
                .set(CHAT_LINE.MESSAGE_ID, line.entry().orElse(null))
                .set(CHAT_LINE.CHOICES, line.choices().toArray(String[]::new))
                .set(CHAT_LINE.PRESS_ID, line.press().orElse(null))
                .execute();
        return seq;
    }

    /** What can be pressed instead of answering the last line, or whether it helped. */
    @Transactional(propagation = Propagation.MANDATORY)
    void offer(long chat, List<String> choices, Optional<Long> press) {
        sql.update(CHAT_LINE)
                .set(CHAT_LINE.CHOICES, choices.toArray(String[]::new))
                .set(CHAT_LINE.PRESS_ID, press.orElse(null))
                .where(CHAT_LINE.CHAT_ID.eq(chat))
                .and(CHAT_LINE.SEQ.eq(DSL.select(CHAT.LAST_SEQ).from(CHAT).where(CHAT.ID.eq(chat))))
                .execute();
    }

    /** Nothing is asked any more below what answered a press. */
    @Transactional(propagation = Propagation.MANDATORY)
    void answeredPress(long chat, long press) {
        sql.update(CHAT_LINE)
                .setNull(CHAT_LINE.PRESS_ID)
                .where(CHAT_LINE.CHAT_ID.eq(chat))
                .and(CHAT_LINE.PRESS_ID.eq(press))
                .execute();
    }

    /** The lines after one, in order. */
    public List<Line> after(long chat, int after) {
        var rows = sql.selectFrom(CHAT_LINE)
                .where(CHAT_LINE.CHAT_ID.eq(chat))
                .and(CHAT_LINE.SEQ.gt(after))
                .orderBy(CHAT_LINE.SEQ)
                .limit(MOST_LINES)
                .fetch();
        Map<MessageId, List<LineFile>> files = files(rows.getValues(CHAT_LINE.MESSAGE_ID));
        return rows.map(r -> new Line(
                r.getSeq(),
                Who.valueOf(r.getWho()),
                r.getAuthor(),
                r.getText(),
                r.getAt(),
                Arrays.asList(r.getChoices()),
                Optional.ofNullable(r.getPressId()),
                r.getMessageId() == null ? List.of() : files.getOrDefault(r.getMessageId(), List.of())));
    }

    private Map<MessageId, List<LineFile>> files(List<MessageId> entries) {
        List<MessageId> there = entries.stream().filter(Objects::nonNull).toList();
        return there.isEmpty()
                ? Map.of()
                : sql.selectFrom(ATTACHMENT)
                        .where(ATTACHMENT.MESSAGE_ID.in(there))
                        .orderBy(ATTACHMENT.POSITION)
                        .fetchGroups(
                                ATTACHMENT.MESSAGE_ID,
                                r -> new LineFile(r.getId(), r.getName(), r.getMediaType(), r.getSize()));
    }

    /** The content of a file that was said in a chat, by its digest; nothing of any other. */
    Optional<Record> file(long chat, long file) {
        return sql.select(ATTACHMENT.SHA256, ATTACHMENT.NAME, ATTACHMENT.MEDIA_TYPE)
                .from(ATTACHMENT)
                .join(CHAT_LINE)
                .on(CHAT_LINE.MESSAGE_ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(ATTACHMENT.ID.eq(file))
                .and(CHAT_LINE.CHAT_ID.eq(chat))
                .fetchOptional(r -> r);
    }

    /** Which of these entries the customer has seen in their panel, and which wait for them; others are not among them. */
    Map<MessageId, Boolean> seen(Collection<MessageId> entries) {
        return entries.isEmpty()
                ? Map.of()
                : sql.select(CHAT_LINE.MESSAGE_ID, CHAT.READ_SEQ.ge(CHAT_LINE.SEQ))
                        .from(CHAT_LINE)
                        .join(CHAT)
                        .on(CHAT.ID.eq(CHAT_LINE.CHAT_ID))
                        .where(CHAT_LINE.MESSAGE_ID.in(entries))
                        .and(CHAT_LINE.WHO.in(Who.PERSON.name(), Who.HELPER.name()))
                        .fetchMap(r -> r.value1(), r -> r.value2());
    }
}
