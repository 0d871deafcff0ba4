package rafter.app.arrival.intake;

import static rafter.database.Tables.FILE;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.INBOUND_ORIGIN;
import static rafter.database.Tables.MESSAGE;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Files;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.Writes;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.database.tables.records.InboundRecord;

/** Messages as they came, and how far each has got. */
@Component
public class Inbox {

    /** A message that was set aside. */
    public record Aside(
            long id,
            String sender,
            String subject,
            Instant receivedAt,
            String reason,
            String detail,
            long mailbox,
            long size) {}

    /**
     * A message that is being processed.
     *
     * @param raw its bytes as they came, unless it is large
     */
    record Claimed(InboundRecord row, Optional<byte[]> raw) {}

    /**
     * Where a message lies in its mailbox.
     *
     * @param validity the generation of the numbers (RFC 3501, 2.3.1.1)
     * @param uid its number
     */
    public record Origin(long validity, long uid) {}

    /** What became of a message. */
    sealed interface Outcome {
        /** It is an entry on this ticket. */
        record Entry(TicketNumber ticket) implements Outcome {}

        /** It is kept and nothing follows from it. */
        record Ignored(String reason) implements Outcome {}

        /** An administrator has to look at it. */
        record Aside(String reason, String detail) implements Outcome {}

        /** This became of it because a rule of arriving mail, or its junk score, decided. */
        record Decided(Outcome outcome, String by) implements Outcome {}
    }

    private static final Writes.Form FINISH = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> sql.update(INBOUND)
                    .set(INBOUND.PROCESSED_AT, (Instant) null)
                    .set(INBOUND.SENDER, (String) null)
                    .set(INBOUND.SUBJECT, (String) null)
                    .set(INBOUND.STATE, (String) null)
                    .set(INBOUND.TICKET, (TicketNumber) null)
                    .set(INBOUND.REASON, (String) null)
                    .set(INBOUND.DETAIL, (String) null)
                    .set(INBOUND.DECIDED_BY, (String) null)
                    .where(INBOUND.ID.eq(DSL.val(null, INBOUND.ID))));

    private final DSLContext sql;
    private final Writes writes;
    private final Files files;
    private final LiveNews news;
    private final Audit audit;
    private final Clock clock;
    private final Guard guard;

    Inbox(DSLContext sql, Writes writes, Files files, LiveNews news, Audit audit, Clock clock, Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.writes = writes;
        this.files = files;
        this.news = news;
        this.audit = audit;
        this.clock = clock;
    }

    /**
     * Keeps a message raw. Receiving the same one again changes nothing, be it by another road or from another mailbox.
     *
     * @param origin where it lies in its mailbox; nothing when it comes from elsewhere
     * @return its id when it is new
     */
    @Transactional
    public Optional<Long> receive(long mailbox, Optional<Origin> origin, byte[] raw) {
        MessageKey key = MessageKey.of(raw);
        if (origin.isEmpty()) {
            return keep(mailbox, raw, key, key.key(), "WAITING", "");
        }
        sql.execute("select pg_advisory_xact_lock(7402, ?)", (int) mailbox);
        if (sql.fetchExists(
                INBOUND_ORIGIN,
                at(mailbox, origin.get()).and(INBOUND_ORIGIN.UID.eq(origin.get().uid())))) {
            return Optional.empty();
        }
        int beside = sql.fetchCount(
                INBOUND_ORIGIN, INBOUND_ORIGIN.CONTENT_KEY.eq(key.key()).and(at(mailbox, origin.get())));
        byte[] own = key.beside(beside);
        Optional<Long> id = keep(mailbox, raw, key, own, "WAITING", "");
        long known = id.orElseGet(() ->
                sql.select(INBOUND.ID).from(INBOUND).where(INBOUND.KEY.eq(own)).fetchSingle(INBOUND.ID));
        sql.insertInto(
                        INBOUND_ORIGIN,
                        INBOUND_ORIGIN.MAILBOX_ID,
                        INBOUND_ORIGIN.VALIDITY,
                        INBOUND_ORIGIN.UID,
                        INBOUND_ORIGIN.CONTENT_KEY,
                        INBOUND_ORIGIN.INBOUND_ID)
                .values(mailbox, origin.get().validity(), origin.get().uid(), key.key(), known)
                .onConflictDoNothing()
                .execute();
        return id;
    }

    private static Condition at(long mailbox, Origin origin) {
        return INBOUND_ORIGIN.MAILBOX_ID.eq(mailbox).and(INBOUND_ORIGIN.VALIDITY.eq(origin.validity()));
    }

    /** Notes a message that is too large to be fetched, by its header alone. */
    @Transactional
    public void receiveTooLarge(long mailbox, byte[] header, long size) {
        String reason =
                "It has " + rafter.app.platform.Say.size(size) + ", more than is fetched. It was left in the mailbox.";
        MessageKey key = MessageKey.of(header);
        keep(mailbox, header, key, key.key(), "ASIDE", reason);
    }

    /** Notes a message that the mail server has but does not hand out, so that somebody looks for it there. */
    @Transactional
    public void receiveWithoutText(long mailbox, long validity, long uid, long size) {
        String reason = "The mail server gave no text for its message " + uid + " ("
                + rafter.app.platform.Say.size(size) + "). It was left in the mailbox; look at it there.";
        byte[] stand = ("X-Rafter-Missing: " + mailbox + "/" + validity + "/" + uid + "\r\n\r\n")
                .getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        MessageKey key = MessageKey.of(stand);
        keep(mailbox, stand, key, key.key(), "ASIDE", reason);
    }

    private Optional<Long> keep(long mailbox, byte[] raw, MessageKey key, byte[] own, String state, String reason) {
        if (sql.fetchExists(INBOUND, INBOUND.KEY.eq(own))) {
            return Optional.empty();
        }
        Optional<Long> id = sql.insertInto(INBOUND)
                .set(INBOUND.KEY, own)
                .set(INBOUND.MAILBOX_ID, mailbox)
                .set(INBOUND.RAW, files.keep(raw))
                .set(INBOUND.RECEIVED_AT, clock.instant())
                .set(INBOUND.STATE, state)
                .set(INBOUND.REASON, reason)
                .set(INBOUND.RFC_MESSAGE_ID, key.messageId())
                .set(INBOUND.REFERS_TO, key.refersTo().toArray(new String[0]))
                .onConflict(INBOUND.KEY)
                .doNothing()
                .returning(INBOUND.ID)
                .fetchOptional(INBOUND.ID);
        id.ifPresent(one -> news.mailArrived());
        return id;
    }

    /**
     * The next messages that wait and that nobody else works on; held until the transaction ends. A message waits for an earlier
     * one that it answers, so that both find the same ticket.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    List<Claimed> claim(int most) {
        var earlier = INBOUND.as("earlier");
        // Large ones are read one at a time, when it is their turn.
        var small = DSL.when(FILE.SIZE.le((long) Files.LARGE), FILE.CONTENT);
        return sql.select(INBOUND.fields())
                .select(small)
                .from(INBOUND)
                .join(FILE)
                .on(FILE.SHA256.eq(INBOUND.RAW))
                .where(INBOUND.STATE.eq(DSL.inline("WAITING")))
                .and(INBOUND.NOT_BEFORE.isNull().or(INBOUND.NOT_BEFORE.le(clock.instant())))
                .andNotExists(DSL.selectOne()
                        .from(earlier)
                        .where(earlier.STATE.eq(DSL.inline("WAITING")))
                        .and(earlier.ID.lt(INBOUND.ID))
                        .and(earlier.RFC_MESSAGE_ID.eq(DSL.any(INBOUND.REFERS_TO))))
                .orderBy(INBOUND.ID)
                .limit(most)
                .forUpdate()
                .of(INBOUND)
                .skipLocked()
                .fetch(r -> {
                    byte[] raw = r.get(small);
                    InboundRecord row = r.into(INBOUND);
                    return new Claimed(row, Optional.ofNullable(raw));
                });
    }

    /** Writes down what became of a message. */
    @Transactional(propagation = Propagation.MANDATORY)
    void finish(long id, Outcome outcome, String sender, String subject) {
        finish(id, outcome, "", sender, subject);
    }

    private void finish(long id, Outcome outcome, String by, String sender, String subject) {
        switch (outcome) {
            case Outcome.Entry e -> finish(id, sender, subject, "DONE", e.ticket(), "", "", by);
            case Outcome.Ignored i -> finish(id, sender, subject, "IGNORED", null, i.reason(), "", by);
            case Outcome.Aside a -> finish(id, sender, subject, "ASIDE", null, a.reason(), a.detail(), by);
            case Outcome.Decided d -> finish(id, d.outcome(), d.by(), sender, subject);
        }
    }

    private void finish(
            long id,
            String sender,
            String subject,
            String state,
            @Nullable TicketNumber ticket,
            String reason,
            String detail,
            String by) {
        writes.write(FINISH, clock.instant(), sender, subject, state, ticket, reason, detail, by, id);
    }

    /** Leaves a message to another node for a while; that counts as no try. */
    @Transactional
    public void leave(long id, Instant until) {
        sql.update(INBOUND)
                .set(INBOUND.NOT_BEFORE, until)
                .where(INBOUND.ID.eq(id))
                .and(INBOUND.STATE.eq("WAITING"))
                .execute();
    }

    /** Counts one more try that failed, and sets the message aside after the last. */
    @Transactional
    public void failed(long id, int mostTries, String reason, String detail) {
        sql.update(INBOUND)
                .set(INBOUND.ATTEMPTS, INBOUND.ATTEMPTS.plus(1))
                .set(
                        INBOUND.STATE,
                        DSL.when(INBOUND.ATTEMPTS.ge(mostTries - 1), "ASIDE").otherwise("WAITING"))
                .set(INBOUND.REASON, reason)
                .set(INBOUND.DETAIL, detail)
                .where(INBOUND.ID.eq(id))
                .and(INBOUND.STATE.eq("WAITING"))
                .execute();
    }

    /** What was set aside, the newest first. */
    public List<Aside> aside(int offset, int limit) {
        return sql.select(INBOUND.asterisk(), FILE.SIZE)
                .from(INBOUND)
                .join(FILE)
                .on(FILE.SHA256.eq(INBOUND.RAW))
                .where(INBOUND.STATE.eq(DSL.inline("ASIDE")))
                .orderBy(INBOUND.ID.desc())
                .offset(offset)
                .limit(limit)
                .fetch(Inbox::aside);
    }

    private static Aside aside(Record r) {
        return new Aside(
                r.get(INBOUND.ID),
                r.get(INBOUND.SENDER),
                r.get(INBOUND.SUBJECT),
                r.get(INBOUND.RECEIVED_AT),
                r.get(INBOUND.REASON),
                r.get(INBOUND.DETAIL),
                r.get(INBOUND.MAILBOX_ID),
                r.get(FILE.SIZE));
    }

    /** How many messages were set aside. */
    public int asideCount() {
        return sql.fetchCount(INBOUND, INBOUND.STATE.eq(DSL.inline("ASIDE")));
    }

    /**
     * Lets a message that was set aside be processed again.
     *
     * @param asPerson treat it as a person's, whatever its headers say
     */
    @Transactional
    public void tryAgain(long id, boolean asPerson, PersonId by) {
        guard.houseRules(by);
        int changed = sql.update(INBOUND)
                .set(INBOUND.STATE, "WAITING")
                .set(INBOUND.ATTEMPTS, 0)
                .set(INBOUND.DETAIL, asPerson ? Processor.AS_PERSON : "")
                .where(INBOUND.ID.eq(id))
                .and(INBOUND.STATE.eq("ASIDE"))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("That message is not set aside any more; somebody has dealt with it.");
        }
        audit.note(by, asPerson ? "made a ticket of set-aside mail" : "tried set-aside mail again", Long.toString(id));
        news.mailArrived();
    }

    /** Takes a message off the list of those set aside; it stays kept. */
    @Transactional
    public void dismiss(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(INBOUND)
                .set(INBOUND.STATE, "IGNORED")
                .where(INBOUND.ID.eq(id))
                .and(INBOUND.STATE.eq("ASIDE"))
                .execute();
        audit.note(by, "dismissed set-aside mail", Long.toString(id));
    }

    /** Puts a dismissed message back among those set aside. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(INBOUND)
                .set(INBOUND.STATE, "ASIDE")
                .where(INBOUND.ID.eq(id))
                .and(INBOUND.STATE.eq("IGNORED"))
                .execute();
        audit.note(by, "brought set-aside mail back", Long.toString(id));
    }

    /**
     * The bytes of a message as they came.
     *
     * @throws Problem.NotFound when there is none of this id
     */
    public byte[] raw(long id) {
        return sql.select(INBOUND.RAW)
                .from(INBOUND)
                .where(INBOUND.ID.eq(id))
                .fetchOptional(INBOUND.RAW)
                .map(files::read)
                .orElseThrow(() -> new Problem.NotFound("There is no such message."));
    }

    /** The last messages that opened a ticket, or that were decided about before, the newest first. */
    List<InboundRecord> sorted(int most) {
        return sql.selectFrom(INBOUND)
                .where(INBOUND.STATE.in(DSL.inline("DONE"), DSL.inline("ASIDE"), DSL.inline("IGNORED")))
                .and(INBOUND.DECIDED_BY
                        .ne("")
                        .or(DSL.exists(DSL.selectOne()
                                .from(MESSAGE)
                                .where(MESSAGE.INBOUND_ID.eq(INBOUND.ID))
                                .and(MESSAGE.SEQ.eq(2)))))
                .orderBy(INBOUND.ID.desc())
                .limit(most)
                .fetch();
    }

    /** How many messages each rule of arriving mail, or the junk score, decided about since then, by its id. */
    Map<String, Integer> decided(Instant since) {
        return sql.select(INBOUND.DECIDED_BY, DSL.count())
                .from(INBOUND)
                .where(INBOUND.DECIDED_BY.ne(""))
                .and(INBOUND.RECEIVED_AT.gt(since))
                .groupBy(INBOUND.DECIDED_BY)
                .fetchMap(INBOUND.DECIDED_BY, DSL.count());
    }

    /** How many messages wait. */
    public int waiting() {
        return sql.fetchCount(INBOUND, INBOUND.STATE.eq(DSL.inline("WAITING")));
    }
}
