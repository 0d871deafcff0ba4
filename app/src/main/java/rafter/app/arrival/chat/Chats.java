package rafter.app.arrival.chat;

import static rafter.database.Tables.CHAT;
import static rafter.database.Tables.CHAT_LINE;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.acts.Traces;
import rafter.core.chat.Gathering;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.ChatRecord;

/** What is kept of chats: each belongs to one ticket. */
@Component
public class Chats {

    /** A panel whose last sign of life is older is not open. */
    public static final Duration HERE = Duration.ofSeconds(40);

    /** Whoever typed this lately is typing. */
    private static final Duration TYPING = Duration.ofSeconds(7);

    private static final rafter.database.tables.Ticket OWN = TICKET.as("own");

    /** Who ended a chat. */
    public enum EndedBy {
        CUSTOMER,
        US,
        GONE
    }

    /** On which page somebody began it. */
    public record Place(String page, String title, String language, String searched) {}

    /**
     * A chat.
     *
     * @param name what they say that they are called; blank: nothing yet
     * @param answeredAt when a person of ours first said something
     * @param seenAt when the customer's panel was last known to be open
     * @param read up to which line the customer has seen it
     * @param ourRead up to which line we have
     * @param mailed up to which line it was sent by mail
     */
    public record Chat(
            long id,
            long site,
            TicketNumber ticket,
            String name,
            Place place,
            Gathering.Progress progress,
            int lastSeq,
            Instant beganAt,
            Optional<Instant> answeredAt,
            Optional<Instant> endedAt,
            Optional<EndedBy> endedBy,
            Instant seenAt,
            Optional<Instant> typingAt,
            int read,
            int ourRead,
            int mailed) {

        public boolean ended() {
            return endedAt.isPresent();
        }

        /** Whether the customer's panel is open. */
        public boolean here(Instant now) {
            return !ended() && now.isBefore(seenAt.plus(HERE));
        }

        /** Whether the customer is typing. */
        public boolean typing(Instant now) {
            return typingAt.filter(at -> now.isBefore(at.plus(TYPING))).isPresent();
        }
    }

    private final DSLContext sql;

    Chats(DSLContext sql) {
        this.sql = sql;
    }

    /** Begins one; {@code begun} is the key that the panel made for it. */
    @Transactional(propagation = Propagation.MANDATORY)
    long begin(String begun, long site, TicketNumber ticket, Place place, Instant now) {
        return sql.insertInto(CHAT)
                .set(CHAT.BEGUN, begun)
                .set(CHAT.SITE_ID, site)
                .set(CHAT.TICKET, ticket)
                .set(CHAT.PAGE, place.page())
                .set(CHAT.TITLE, place.title())
                .set(CHAT.LANGUAGE, place.language())
                .set(CHAT.SEARCHED, place.searched())
                .set(CHAT.BEGAN_AT, now)
                .set(CHAT.SEEN_AT, now)
                .returning(CHAT.ID)
                .fetchSingle(CHAT.ID);
    }

    /** One of them. */
    public Optional<Chat> find(long id) {
        return sql.selectFrom(CHAT).where(CHAT.ID.eq(id)).fetchOptional(Chats::chat);
    }

    /** The one that a panel began under a key. */
    Optional<Chat> begun(String key) {
        return sql.selectFrom(CHAT).where(CHAT.BEGUN.eq(key)).fetchOptional(Chats::chat);
    }

    /** The chat of a ticket, or of one that became a part of it; of several the one that goes on, or the last. */
    public Optional<Chat> of(TicketNumber ticket) {
        return sql.selectFrom(CHAT)
                .where(about(Traces.number(ticket)))
                .orderBy(CHAT.ENDED_AT.isNull().desc(), CHAT.ID.desc())
                .limit(1)
                .fetchOptional(Chats::chat);
    }

    private static Condition about(Field<TicketNumber> ticket) {
        return CHAT.TICKET.in(Traces.withParts(ticket));
    }

    /** Whether there is a chat of a ticket. */
    static Condition any(Field<TicketNumber> ticket) {
        return DSL.exists(DSL.selectOne().from(CHAT).where(about(ticket)));
    }

    /** The ticket on which a chat goes on, of the chat's own: the one that this became a part of, or this itself. */
    public static Condition goesOn(rafter.database.tables.Ticket own) {
        return TICKET.NUMBER.eq(DSL.coalesce(own.JOINED_INTO, own.NUMBER));
    }

    /** Those that go on, the oldest first. */
    public List<Chat> going() {
        return sql.selectFrom(CHAT)
                .where(CHAT.ENDED_AT.isNull())
                .orderBy(CHAT.BEGAN_AT)
                .fetch(Chats::chat);
    }

    /** Those that go on whose panel was last open before an instant. */
    List<Chat> unseenSince(Instant before, int most) {
        return sql.selectFrom(CHAT)
                .where(CHAT.ENDED_AT.isNull())
                .and(CHAT.SEEN_AT.lt(before))
                .orderBy(CHAT.SEEN_AT)
                .limit(most)
                .fetch(Chats::chat);
    }

    /** How long those took that ended since an instant and had an answer, from that to the end; the latest, some. */
    List<Duration> lengths(Instant since, int most) {
        return sql.select(CHAT.ANSWERED_AT, CHAT.ENDED_AT)
                .from(CHAT)
                .where(CHAT.ENDED_AT.gt(since))
                .and(CHAT.ANSWERED_AT.isNotNull())
                .orderBy(CHAT.ENDED_AT.desc())
                .limit(most)
                .fetch(r -> Duration.between(r.value1(), r.value2()));
    }

    private static Chat chat(ChatRecord r) {
        return new Chat(
                r.getId(),
                r.getSiteId(),
                r.getTicket(),
                r.getName(),
                new Place(r.getPage(), r.getTitle(), r.getLanguage(), r.getSearched()),
                new Gathering.Progress(Optional.ofNullable(r.getAsked()), r.getAskedAgain(), Set.of(r.getGathered())),
                r.getLastSeq(),
                r.getBeganAt(),
                Optional.ofNullable(r.getAnsweredAt()),
                Optional.ofNullable(r.getEndedAt()),
                Optional.ofNullable(r.getEndedBy()).map(EndedBy::valueOf),
                r.getSeenAt(),
                Optional.ofNullable(r.getTypingAt()),
                r.getReadSeq(),
                r.getOurReadSeq(),
                r.getMailedSeq());
    }

    /**
     * How it stands for whoever waits in it.
     *
     * @param with who of us has it, or spoke last; blank: nobody yet
     * @param place one: the next; 0: it does not wait for anybody to come
     */
    public record Standing(String with, int place, boolean rated) {}

    /** How a chat stands. O(those that wait before it). */
    public Standing standing(Chat chat) {
        var ticket = sql.select(PERSON.NAME, TICKET.TURN, TICKET.RATING, TICKET.TEAM_ID, TICKET.OPEN)
                .from(OWN)
                .join(TICKET)
                .on(goesOn(OWN))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(TICKET.OWNER_ID))
                .where(OWN.NUMBER.eq(chat.ticket()))
                .fetchSingle();
        String owner = ticket.value1();
        boolean waits = owner == null
                && !chat.ended()
                && ticket.value5()
                && ticket.value2().equals(Turn.OURS.name());
        int place = waits
                ? 1
                        + sql.fetchCount(
                                CHAT.join(TICKET).on(TICKET.NUMBER.eq(CHAT.TICKET)),
                                CHAT.ENDED_AT
                                        .isNull()
                                        .and(CHAT.BEGAN_AT.lt(chat.beganAt()))
                                        .and(TICKET.OWNER_ID.isNull())
                                        .and(TICKET.OPEN)
                                        .and(TICKET.TURN.eq(Turn.OURS.name()))
                                        .and(TICKET.TEAM_ID.isNotDistinctFrom(ticket.value4())))
                : 0;
        return new Standing(owner == null ? lastSpeaker(chat.id()) : owner, place, ticket.value3() != null);
    }

    /** In how many chats of a site somebody waits for one of us. */
    public int waiting(long site) {
        return sql.fetchCount(
                CHAT.join(TICKET).on(TICKET.NUMBER.eq(CHAT.TICKET)),
                CHAT.ENDED_AT
                        .isNull()
                        .and(CHAT.SITE_ID.eq(site))
                        .and(TICKET.OWNER_ID.isNull())
                        .and(TICKET.OPEN)
                        .and(TICKET.TURN.eq(Turn.OURS.name())));
    }

    private String lastSpeaker(long chat) {
        return sql.select(CHAT_LINE.AUTHOR)
                .from(CHAT_LINE)
                .where(CHAT_LINE.CHAT_ID.eq(chat))
                .and(CHAT_LINE.WHO.eq(ChatLines.Who.PERSON.name()))
                .orderBy(CHAT_LINE.SEQ.desc())
                .limit(1)
                .fetchOptional(CHAT_LINE.AUTHOR)
                .orElse("");
    }

    /** How far the helper has come. */
    @Transactional(propagation = Propagation.MANDATORY)
    void progress(long chat, Gathering.Progress progress) {
        sql.update(CHAT)
                .set(CHAT.ASKED, progress.asked().orElse(null))
                .set(CHAT.ASKED_AGAIN, progress.again())
                .set(CHAT.GATHERED, new HashSet<>(progress.done()).toArray(String[]::new))
                .where(CHAT.ID.eq(chat))
                .execute();
    }

    /** What the customer says that they are called. */
    @Transactional(propagation = Propagation.MANDATORY)
    void named(long chat, String name) {
        sql.update(CHAT).set(CHAT.NAME, name).where(CHAT.ID.eq(chat)).execute();
    }

    /** The panels of these chats are open. */
    public void seen(Collection<Long> chats, Instant now) {
        if (!chats.isEmpty()) {
            sql.update(CHAT)
                    .set(CHAT.SEEN_AT, now)
                    .where(CHAT.ID.in(chats))
                    .and(CHAT.SEEN_AT.lt(now))
                    .execute();
        }
    }

    /** The customer types. */
    void typing(long chat, Instant now) {
        sql.update(CHAT).set(CHAT.TYPING_AT, now).where(CHAT.ID.eq(chat)).execute();
    }

    /** The customer has seen the lines up to one; false: they had before. */
    boolean read(long chat, int seq) {
        return read(CHAT.ID.eq(chat), CHAT.READ_SEQ, seq);
    }

    /** We have seen the lines up to one; false: we had before. */
    public boolean ourRead(TicketNumber ticket, int seq) {
        return read(CHAT.TICKET.eq(ticket), CHAT.OUR_READ_SEQ, seq);
    }

    private boolean read(Condition which, Field<Integer> mark, int seq) {
        return sql.update(CHAT)
                        .set(mark, DSL.least(DSL.val(seq), CHAT.LAST_SEQ))
                        .where(which)
                        .and(mark.lt(DSL.least(DSL.val(seq), CHAT.LAST_SEQ)))
                        .execute()
                > 0;
    }

    /** Ends one; false: it had ended. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean end(long chat, EndedBy by, Instant now) {
        return sql.update(CHAT)
                        .set(CHAT.ENDED_AT, now)
                        .set(CHAT.ENDED_BY, by.name())
                        .where(CHAT.ID.eq(chat))
                        .and(CHAT.ENDED_AT.isNull())
                        .execute()
                > 0;
    }

    /** One that had ended goes on. */
    @Transactional(propagation = Propagation.MANDATORY)
    void goOn(long chat) {
        sql.update(CHAT)
                .setNull(CHAT.ENDED_AT)
                .setNull(CHAT.ENDED_BY)
                .where(CHAT.ID.eq(chat))
                .execute();
    }

    /** What was said up to a line has been sent by mail. */
    @Transactional(propagation = Propagation.MANDATORY)
    void mailed(long chat, int seq) {
        sql.update(CHAT).set(CHAT.MAILED_SEQ, seq).where(CHAT.ID.eq(chat)).execute();
    }
}
