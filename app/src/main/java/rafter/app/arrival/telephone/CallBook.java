package rafter.app.arrival.telephone;

import static rafter.database.Tables.CALL;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.Course;
import rafter.database.tables.records.CallRecord;

/** What is kept of calls: each as it stands after everything that was told of it, and what whoever has it writes down. */
@Component
public class CallBook {

    private static final rafter.database.tables.Ticket OWN = TICKET.as("own");

    /**
     * A call.
     *
     * @param outsideId by which the exchange knows it
     * @param number theirs, as the exchange writes it; blank when they hide it
     * @param ticket what it is about; nothing when it was too short to become a ticket
     * @param opened the ticket that it opened, if it did
     * @param entry the entry that shows our part of it
     * @param person who has it, or had it last
     * @param rung whom the exchange was asked to ring at last
     * @param word with which colleague there is a word before it is handed over
     * @param since since when it stands as it does
     * @param message how long they spoke on our machine
     * @param noticedAt when the notice was played that it is recorded
     * @param afterUntil until when whoever had it is not free
     */
    public record Call(
            long id,
            long provider,
            String outsideId,
            long line,
            boolean incoming,
            String number,
            Optional<TicketNumber> ticket,
            Optional<TicketNumber> opened,
            Optional<MessageId> entry,
            Optional<PersonId> person,
            Optional<PersonId> rung,
            Course.State state,
            Optional<PersonId> word,
            Instant beganAt,
            Optional<Instant> takenAt,
            Instant since,
            Optional<Instant> endedAt,
            Optional<Course.Outcome> outcome,
            Duration waited,
            Duration talked,
            Duration held,
            Optional<Duration> message,
            Optional<Instant> noticedAt,
            boolean recorded,
            String notes,
            int notesVersion,
            Optional<Instant> afterUntil) {

        /** Whether it goes on. */
        public boolean goesOn() {
            return endedAt.isEmpty();
        }

        /** Whether somebody of ours has it now. */
        public boolean taken() {
            return goesOn() && state != Course.State.WAITING;
        }

        /** Whose it is: who has it, or else whom the exchange rings. */
        public Optional<PersonId> whose() {
            return person.or(() -> rung);
        }
    }

    /**
     * A call that waits, and the owner of the ticket on which it goes on, whom the exchange does not ring yet.
     *
     * @param tickets the one that the call is about, and the one that it became a part of
     */
    record Wanted(Call call, List<TicketNumber> tickets, PersonId owner) {}

    private final DSLContext sql;

    CallBook(DSLContext sql) {
        this.sql = sql;
    }

    // ------------------------------------------------------------------ reading

    /** One of them. */
    public Optional<Call> find(long id) {
        return sql.selectFrom(CALL).where(CALL.ID.eq(id)).fetchOptional(CallBook::call);
    }

    /** One of them as its exchange knows it. */
    Optional<Call> find(long provider, String outsideId) {
        return sql.selectFrom(CALL)
                .where(CALL.PROVIDER_ID.eq(provider))
                .and(CALL.OUTSIDE_ID.eq(outsideId))
                .fetchOptional(CallBook::call);
    }

    /** One of them, kept from others until the transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    Optional<Call> hold(long provider, String outsideId) {
        return sql.selectFrom(CALL)
                .where(CALL.PROVIDER_ID.eq(provider))
                .and(CALL.OUTSIDE_ID.eq(outsideId))
                .forUpdate()
                .fetchOptional(CallBook::call);
    }

    /** The call about a ticket, or about one that became a part of it, that goes on, or else the last one. */
    public Optional<Call> of(TicketNumber ticket) {
        return sql.selectFrom(CALL)
                .where(about(ticket))
                .orderBy(CALL.ENDED_AT.isNull().desc(), CALL.BEGAN_AT.desc())
                .limit(1)
                .fetchOptional(CallBook::call);
    }

    /** All calls about a ticket, the latest first; some. */
    public List<Call> all(TicketNumber ticket, int most) {
        return sql.selectFrom(CALL)
                .where(about(ticket))
                .orderBy(CALL.BEGAN_AT.desc(), CALL.ID.desc())
                .limit(most)
                .fetch(CallBook::call);
    }

    private static Condition about(TicketNumber ticket) {
        return CALL.TICKET.in(Traces.withParts(Traces.number(ticket)));
    }

    /** The calls from or to the same number before one, the latest first; some. */
    List<Call> earlier(Call call, int most) {
        return sql.selectFrom(CALL)
                .where(CALL.DIGITS.eq(call.number().replaceAll("\\D", "")))
                .and(CALL.BEGAN_AT.lt(call.beganAt()))
                .orderBy(CALL.BEGAN_AT.desc())
                .limit(most)
                .fetch(CallBook::call);
    }

    /** Those that go on, the oldest first. */
    public List<Call> going() {
        return sql.selectFrom(CALL)
                .where(CALL.ENDED_AT.isNull())
                .orderBy(CALL.BEGAN_AT)
                .fetch(CallBook::call);
    }

    /** The calls of customers that wait for whoever got their tickets, the oldest first. */
    List<Wanted> wanted() {
        return sql.select(CALL.fields())
                .select(TICKET.NUMBER, TICKET.OWNER_ID)
                .from(CALL)
                .join(OWN)
                .on(OWN.NUMBER.eq(CALL.TICKET))
                .join(TICKET)
                .on(TICKET.NUMBER.eq(DSL.coalesce(OWN.JOINED_INTO, OWN.NUMBER)))
                .where(CALL.ENDED_AT.isNull())
                .and(CALL.STATE.eq(Course.State.WAITING.name()))
                .and(CALL.INCOMING)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.OWNER_ID.isDistinctFrom(CALL.RUNG_ID))
                .orderBy(CALL.BEGAN_AT)
                .fetch(r -> new Wanted(
                        call(r.into(CALL)), List.of(r.get(CALL.TICKET), r.get(TICKET.NUMBER)), r.get(TICKET.OWNER_ID)));
    }

    /** The call that somebody has now, or the one after which they are not free yet. */
    public Optional<Call> of(PersonId person, Instant now) {
        return sql.selectFrom(CALL)
                .where(CALL.PERSON_ID.eq(person))
                .and(CALL.ENDED_AT.isNull().and(CALL.STATE.ne("WAITING")).or(CALL.AFTER_UNTIL.gt(now)))
                .orderBy(CALL.ENDED_AT.isNull().desc(), CALL.BEGAN_AT.desc())
                .limit(1)
                .fetchOptional(CallBook::call);
    }

    /** Those that are over, the latest first, before one of them; some. */
    public List<Call> past(Optional<Long> before, boolean unansweredOnly, int most) {
        Condition earlier = before.flatMap(this::find)
                .map(one -> DSL.row(CALL.BEGAN_AT, CALL.ID).lt(DSL.row(DSL.val(one.beganAt()), DSL.val(one.id()))))
                .orElse(DSL.noCondition());
        return sql.selectFrom(CALL)
                .where(CALL.ENDED_AT.isNotNull())
                .and(
                        unansweredOnly
                                ? CALL.OUTCOME
                                        .ne(Course.Outcome.ANSWERED.name())
                                        .and(CALL.INCOMING)
                                : DSL.noCondition())
                .and(earlier)
                .orderBy(CALL.BEGAN_AT.desc(), CALL.ID.desc())
                .limit(most)
                .fetch(CallBook::call);
    }

    /** The ticket on which what is about a ticket goes on: the one that it became a part of, or itself. */
    public TicketNumber goesOn(TicketNumber ticket) {
        return sql.select(DSL.coalesce(OWN.JOINED_INTO, OWN.NUMBER))
                .from(OWN)
                .where(OWN.NUMBER.eq(ticket))
                .fetchSingle(r -> r.value1());
    }

    private static Call call(CallRecord r) {
        return new Call(
                r.getId(),
                r.getProviderId(),
                r.getOutsideId(),
                r.getLineId(),
                r.getIncoming(),
                r.getNumber(),
                Optional.ofNullable(r.getTicket()),
                Optional.ofNullable(r.getOpened()),
                Optional.ofNullable(r.getMessageId()),
                Optional.ofNullable(r.getPersonId()),
                Optional.ofNullable(r.getRungId()),
                Course.State.valueOf(r.getState()),
                Optional.ofNullable(r.getWordId()),
                r.getBeganAt(),
                Optional.ofNullable(r.getTakenAt()),
                r.getSince(),
                Optional.ofNullable(r.getEndedAt()),
                Optional.ofNullable(r.getOutcome()).map(Course.Outcome::valueOf),
                Duration.ofMillis(r.getWaitedMs()),
                Duration.ofMillis(r.getTalkedMs()),
                Duration.ofMillis(r.getHeldMs()),
                Optional.ofNullable(r.getMessageSeconds()).map(Duration::ofSeconds),
                Optional.ofNullable(r.getNoticedAt()),
                r.getRecorded(),
                r.getNotes(),
                r.getNotesVersion(),
                Optional.ofNullable(r.getAfterUntil()));
    }

    // ------------------------------------------------------------------ writing

    /** Begins one; {@code rung} is who of ours calls, where we do. */
    @Transactional(propagation = Propagation.MANDATORY)
    long begin(
            long provider,
            String outsideId,
            long line,
            boolean incoming,
            String number,
            Optional<TicketNumber> ticket,
            Optional<PersonId> rung,
            Instant at) {
        return sql.insertInto(CALL)
                .set(CALL.PROVIDER_ID, provider)
                .set(CALL.OUTSIDE_ID, outsideId)
                .set(CALL.LINE_ID, line)
                .set(CALL.INCOMING, incoming)
                .set(CALL.NUMBER, number)
                .set(CALL.DIGITS, number.replaceAll("\\D", ""))
                .set(CALL.TICKET, ticket.orElse(null))
                .set(CALL.RUNG_ID, rung.orElse(null))
                .set(CALL.STATE, Course.State.WAITING.name())
                .set(CALL.BEGAN_AT, at)
                .set(CALL.SINCE, at)
                .returning(CALL.ID)
                .fetchSingle(CALL.ID);
    }

    /** One that began by a key of ours is not to be: the exchange would not. */
    @Transactional(propagation = Propagation.MANDATORY)
    void undo(long id) {
        sql.deleteFrom(CALL).where(CALL.ID.eq(id)).and(CALL.STATE.eq("WAITING")).execute();
    }

    /** How it went up to now. */
    @Transactional(propagation = Propagation.MANDATORY)
    void went(long id, Course course) {
        sql.update(CALL)
                .set(CALL.STATE, course.state().name())
                .set(CALL.SINCE, course.since())
                .set(CALL.TAKEN_AT, course.takenAt().orElse(null))
                .set(CALL.ENDED_AT, course.endedAt().orElse(null))
                .set(CALL.WAITED_MS, course.waited().toMillis())
                .set(CALL.TALKED_MS, course.talked().toMillis())
                .set(CALL.HELD_MS, course.held().toMillis())
                .set(
                        CALL.MESSAGE_SECONDS,
                        course.message().map(length -> (int) length.toSeconds()).orElse(null))
                .set(
                        CALL.PERSON_ID,
                        course.people().isEmpty() ? null : course.people().getLast())
                // A word is over once they speak again with whom they call, whoever that is.
                .set(
                        CALL.WORD_ID,
                        course.state() == Course.State.HELD
                                ? CALL.WORD_ID
                                : DSL.inline((Long) null, CALL.WORD_ID.getDataType()))
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** Which ticket it is about. */
    @Transactional(propagation = Propagation.MANDATORY)
    void about(long id, Optional<TicketNumber> ticket) {
        sql.update(CALL)
                .set(CALL.TICKET, ticket.orElse(null))
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** It opened a ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    void opened(long id, TicketNumber ticket) {
        sql.update(CALL)
                .set(CALL.TICKET, ticket)
                .set(CALL.OPENED, ticket)
                .where(CALL.ID.eq(id))
                .execute();
    }

    @Transactional(propagation = Propagation.MANDATORY)
    void shownBy(long id, MessageId entry) {
        sql.update(CALL).set(CALL.MESSAGE_ID, entry).where(CALL.ID.eq(id)).execute();
    }

    /** It is over, and what follows was done. */
    @Transactional(propagation = Propagation.MANDATORY)
    void over(long id, Course.Outcome outcome, Optional<Instant> afterUntil) {
        sql.update(CALL)
                .set(CALL.OUTCOME, outcome.name())
                .set(CALL.AFTER_UNTIL, afterUntil.orElse(null))
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** The notice was played. */
    @Transactional(propagation = Propagation.MANDATORY)
    void noticed(long id, Instant at) {
        sql.update(CALL).set(CALL.NOTICED_AT, at).where(CALL.ID.eq(id)).execute();
    }

    /** Whom the exchange is asked to ring; false: it is asked so already, or they have it. */
    boolean ring(long id, PersonId person) {
        return sql.update(CALL)
                        .set(CALL.RUNG_ID, person)
                        .where(CALL.ID.eq(id))
                        .and(CALL.ENDED_AT.isNull())
                        .and(CALL.STATE.eq("WAITING"))
                        .and(CALL.RUNG_ID.isDistinctFrom(person))
                        .execute()
                > 0;
    }

    /** The exchange rings nobody. */
    void ringsNobody(long id) {
        sql.update(CALL).setNull(CALL.RUNG_ID).where(CALL.ID.eq(id)).execute();
    }

    /** With whom there is a word; nothing: with nobody any more. */
    void word(long id, Optional<PersonId> person) {
        sql.update(CALL)
                .set(CALL.WORD_ID, person.orElse(null))
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** Whoever had it is free again. */
    void free(long id, Instant now) {
        sql.update(CALL)
                .set(CALL.AFTER_UNTIL, DSL.least(CALL.AFTER_UNTIL, DSL.val(now)))
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** Keeps what is typed while they speak; false: somebody else wrote meanwhile. */
    boolean notes(long id, String notes, int version) {
        return sql.update(CALL)
                        .set(CALL.NOTES, notes)
                        .set(CALL.NOTES_VERSION, version + 1)
                        .where(CALL.ID.eq(id))
                        .and(CALL.NOTES_VERSION.eq(version))
                        .execute()
                > 0;
    }

    /** As which call of its ticket it is written down, with the notes as they are. */
    @Transactional(propagation = Propagation.MANDATORY)
    void logged(long id, int call, int version) {
        sql.update(CALL)
                .set(CALL.LOGGED, call)
                .set(CALL.LOGGED_VERSION, version)
                .where(CALL.ID.eq(id))
                .execute();
    }

    /** As which call of its ticket one is written down; nothing: not yet. */
    Optional<Integer> logged(long id) {
        return sql.select(CALL.LOGGED).from(CALL).where(CALL.ID.eq(id)).fetchOptional(CALL.LOGGED);
    }

    /** Those after which somebody typed more than is written down, and are free by now; some. */
    List<Call> unwritten(Instant now, int most) {
        return sql.selectFrom(CALL)
                .where(CALL.LOGGED.isNotNull())
                .and(CALL.LOGGED_VERSION.lt(CALL.NOTES_VERSION))
                .and(CALL.ENDED_AT.isNotNull())
                .and(CALL.AFTER_UNTIL.isNull().or(CALL.AFTER_UNTIL.le(now)))
                .limit(most)
                .fetch(CallBook::call);
    }
}
