package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_MAIL;
import static rafter.database.Tables.RULE_PASSED;
import static rafter.database.Tables.RULE_READING;
import static rafter.database.Tables.RULE_RUN;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Writes;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Happening;
import rafter.core.rule.Reading;

/** Which readings of the book there were, and what rules did in them. */
@Component
class RuleLog {

    /**
     * A reading of the book for a ticket.
     *
     * @param ofSeq the number of the event that it was for
     * @param readSeq how many events the ticket had then
     * @param depth zero where a person or a customer caused it; more where a rule did
     */
    public record Past(
            long id,
            TicketNumber ticket,
            Instant at,
            long edition,
            Reading.Trigger trigger,
            int ofSeq,
            int readSeq,
            int depth) {}

    /** What a rule did in a reading; {@code afterSeq} is how many events the ticket had after it. */
    public record Run(
            long reading,
            TicketNumber ticket,
            String rule,
            Instant at,
            int afterSeq,
            List<String> done,
            List<String> failed) {}

    /** A time at which a rule on the clock is due on a ticket: the moment it counts from, and the how manieth it is. */
    public record Due(String rule, Instant base, int nth) {}

    /** So many mails rules write on one ticket, to one address and in all within an hour. */
    private static final int MAILS_OF_TICKET = 5;

    private static final int MAILS_TO_ADDRESS = 10;
    private static final int MAILS = 1_000;
    private static final Duration HOUR = Duration.ofHours(1);

    /** What was done in a reading refers to it, so readings go before. */
    private static final Writes.Form READING = Writes.insert(
            Writes.Stage.MESSAGES,
            RULE_READING,
            RULE_READING.ID,
            RULE_READING.TICKET,
            RULE_READING.AT,
            RULE_READING.EDITION_ID,
            RULE_READING.TRIGGER,
            RULE_READING.ABOUT,
            RULE_READING.RULE_ID,
            RULE_READING.OF_SEQ,
            RULE_READING.READ_SEQ,
            RULE_READING.DEPTH);

    private static final Writes.Form RUN = Writes.insert(
            Writes.Stage.DEPENDENTS,
            RULE_RUN,
            RULE_RUN.READING_ID,
            RULE_RUN.TICKET,
            RULE_RUN.RULE_ID,
            RULE_RUN.AT,
            RULE_RUN.BASE_AT,
            RULE_RUN.NTH,
            RULE_RUN.AFTER_SEQ,
            RULE_RUN.HANDED_TO,
            RULE_RUN.DONE,
            RULE_RUN.FAILED);
    private static final Writes.Form PASSED = Writes.insertIfNew(
            Writes.Stage.DEPENDENTS,
            RULE_PASSED,
            RULE_PASSED.TICKET,
            RULE_PASSED.RULE_ID,
            RULE_PASSED.BASE_AT,
            RULE_PASSED.NTH);

    private final DSLContext sql;
    private final Writes writes;

    RuleLog(DSLContext sql, Writes writes) {
        this.sql = sql;
        this.writes = writes;
    }

    // ------------------------------------------------------------------ readings

    long reading(
            TicketNumber ticket, Instant at, long edition, Reading.Trigger trigger, int ofSeq, int readSeq, int depth) {
        long id = writes.number(RULE_READING);
        writes.write(
                READING,
                id,
                ticket,
                at,
                edition,
                word(trigger),
                about(trigger).toArray(String[]::new),
                trigger instanceof Reading.Trigger.Time(String rule) ? rule : "",
                ofSeq,
                readSeq,
                (short) depth);
        return id;
    }

    private static String word(Reading.Trigger trigger) {
        return switch (trigger) {
            case Reading.Trigger.Came came -> "came";
            case Reading.Trigger.Happened happened -> happened.what().key();
            case Reading.Trigger.Time time -> "time";
        };
    }

    private static Set<String> about(Reading.Trigger trigger) {
        return trigger instanceof Reading.Trigger.Happened(Happening what, Set<String> about) ? about : Set.of();
    }

    private static Reading.Trigger trigger(String word, String[] about, String rule) {
        return switch (word) {
            case "came" -> new Reading.Trigger.Came();
            case "time" -> new Reading.Trigger.Time(rule);
            default -> new Reading.Trigger.Happened(Happening.of(word).orElse(Happening.STATE), Set.of(about));
        };
    }

    /** The last readings for a ticket, the newest first. */
    List<Past> readings(TicketNumber ticket, int most) {
        return sql.selectFrom(RULE_READING)
                .where(RULE_READING.TICKET.eq(ticket))
                .orderBy(RULE_READING.ID.desc())
                .limit(most)
                .fetch(r -> new Past(
                        r.getId(),
                        r.getTicket(),
                        r.getAt(),
                        r.getEditionId(),
                        trigger(r.getTrigger(), r.getAbout(), r.getRuleId()),
                        r.getOfSeq(),
                        r.getReadSeq(),
                        r.getDepth()));
    }

    // ------------------------------------------------------------------ what was done

    void ran(Run run, Optional<Due> due, Optional<PersonId> handedTo) {
        writes.write(
                RUN,
                run.reading(),
                run.ticket(),
                run.rule(),
                run.at(),
                due.map(Due::base).orElse(null),
                due.map(one -> (short) one.nth()).orElse((short) 0),
                run.afterSeq(),
                handedTo.orElse(null),
                run.done().toArray(String[]::new),
                run.failed().toArray(String[]::new));
        writes.pendingFor(RULE_RUN);
    }

    /** Whether a rule could not do something within the last hour before a time, so that nobody is told of each. */
    boolean failedOfLate(String rule, Instant now) {
        writes.settle(List.of(RULE_RUN));
        return sql.fetchExists(
                RULE_RUN,
                RULE_RUN.RULE_ID.eq(rule),
                RULE_RUN.AT.gt(now.minus(HOUR)),
                DSL.cardinality(RULE_RUN.FAILED).gt(0));
    }

    /** What rules did on a ticket, by the reading in which they did it, in order. */
    Map<Long, List<Run>> runs(TicketNumber ticket) {
        return sql
                .selectFrom(RULE_RUN)
                .where(RULE_RUN.TICKET.eq(ticket))
                .orderBy(RULE_RUN.ID)
                .fetch(RuleLog::run)
                .stream()
                .collect(Collectors.groupingBy(Run::reading));
    }

    private static Run run(rafter.database.tables.records.RuleRunRecord r) {
        return new Run(
                r.getReadingId(),
                r.getTicket(),
                r.getRuleId(),
                r.getAt(),
                r.getAfterSeq(),
                List.of(r.getDone()),
                List.of(r.getFailed()));
    }

    /** What a rule did last, the newest first. */
    List<Run> last(String rule, int most) {
        return sql.selectFrom(RULE_RUN)
                .where(RULE_RUN.RULE_ID.eq(rule))
                .orderBy(RULE_RUN.AT.desc(), RULE_RUN.ID.desc())
                .limit(most)
                .fetch(RuleLog::run);
    }

    /** How often each rule did something since a time, by weeks counted from then. */
    Map<String, Map<Integer, Long>> weekly(Instant since) {
        var week = DSL.field(
                "floor(extract(epoch from ({0} - {1})) / 604800)::int", Integer.class, RULE_RUN.AT, DSL.inline(since));
        var found = new java.util.HashMap<String, Map<Integer, Long>>();
        sql.select(RULE_RUN.RULE_ID, week, DSL.count())
                .from(RULE_RUN)
                .where(RULE_RUN.AT.ge(since))
                .groupBy(RULE_RUN.RULE_ID, week)
                .forEach(r -> found.computeIfAbsent(r.value1(), id -> new java.util.TreeMap<>())
                        .put(r.value2(), r.value3().longValue()));
        return found;
    }

    /** To whom a rule handed last; the next in turn comes after them. */
    Optional<PersonId> lastHanded(String rule) {
        writes.settle(List.of(RULE_RUN));
        return sql.select(RULE_RUN.HANDED_TO)
                .from(RULE_RUN)
                .where(RULE_RUN.RULE_ID.eq(rule))
                .and(RULE_RUN.HANDED_TO.isNotNull())
                .orderBy(RULE_RUN.AT.desc(), RULE_RUN.ID.desc())
                .limit(1)
                .fetchOptional(RULE_RUN.HANDED_TO);
    }

    // ------------------------------------------------------------------ the clock

    /** The times on tickets that are dealt with, by ticket; of one with none nothing. */
    Map<TicketNumber, Set<Due>> dealtWith(Collection<TicketNumber> tickets) {
        return sql
                .select(RULE_RUN.TICKET, RULE_RUN.RULE_ID, RULE_RUN.BASE_AT, RULE_RUN.NTH)
                .from(RULE_RUN)
                .where(RULE_RUN.TICKET.in(tickets))
                .and(RULE_RUN.BASE_AT.isNotNull())
                .unionAll(DSL.select(RULE_PASSED.TICKET, RULE_PASSED.RULE_ID, RULE_PASSED.BASE_AT, RULE_PASSED.NTH)
                        .from(RULE_PASSED)
                        .where(RULE_PASSED.TICKET.in(tickets)))
                .stream()
                .collect(Collectors.groupingBy(
                        r -> r.value1(),
                        Collectors.mapping(r -> new Due(r.value2(), r.value3(), r.value4()), Collectors.toSet())));
    }

    /** Notes that a time passed by without the rule matching. */
    void passed(TicketNumber ticket, Due due) {
        writes.write(PASSED, ticket, due.rule(), due.base(), (short) due.nth());
    }

    /** Forgets what passed by on a ticket that takes part in rules no more. */
    void forgetPassed(TicketNumber ticket) {
        sql.deleteFrom(RULE_PASSED).where(RULE_PASSED.TICKET.eq(ticket)).execute();
    }

    // ------------------------------------------------------------------ mails

    /** Why a rule may not write another mail now; nothing when it may, and that is noted then. */
    Optional<String> capped(TicketNumber ticket, String address, Instant now) {
        Instant since = now.minus(HOUR);
        if (sql.fetchCount(RULE_MAIL, RULE_MAIL.TICKET.eq(ticket), RULE_MAIL.AT.gt(since)) >= MAILS_OF_TICKET) {
            return Optional.of("rules wrote " + MAILS_OF_TICKET + " mails on this ticket within the hour");
        }
        if (sql.fetchCount(RULE_MAIL, RULE_MAIL.ADDRESS.eq(address), RULE_MAIL.AT.gt(since)) >= MAILS_TO_ADDRESS) {
            return Optional.of("rules wrote " + MAILS_TO_ADDRESS + " mails to " + address + " within the hour");
        }
        if (sql.fetchCount(RULE_MAIL, RULE_MAIL.AT.gt(since)) >= MAILS) {
            return Optional.of("rules wrote " + MAILS + " mails within the hour");
        }
        sql.insertInto(RULE_MAIL)
                .set(RULE_MAIL.TICKET, ticket)
                .set(RULE_MAIL.ADDRESS, address)
                .set(RULE_MAIL.AT, now)
                .execute();
        return Optional.empty();
    }
}
