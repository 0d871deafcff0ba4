package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_MAIL;
import static rafter.database.Tables.RULE_PASSED;
import static rafter.database.Tables.RULE_READING;
import static rafter.database.Tables.RULE_RUN;

import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
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
    record Past(
            long id,
            TicketNumber ticket,
            Instant at,
            long edition,
            Reading.Trigger trigger,
            int ofSeq,
            int readSeq,
            int depth) {}

    /** What a rule did in a reading; {@code afterSeq} is how many events the ticket had after it. */
    record Run(
            long reading,
            TicketNumber ticket,
            String rule,
            Instant at,
            int afterSeq,
            List<String> done,
            List<String> failed) {}

    /** A time at which a rule on the clock is due on a ticket: the moment it counts from, and the how manieth it is. */
    record Due(String rule, Instant base, int nth) {}

    /** So many mails rules write on one ticket, to one address and in all within an hour. */
    private static final int MAILS_OF_TICKET = 5;

    private static final int MAILS_TO_ADDRESS = 10;
    private static final int MAILS = 1_000;
    private static final Duration HOUR = Duration.ofHours(1);

    private final DSLContext sql;

    RuleLog(DSLContext sql) {
        this.sql = sql;
    }

    // ------------------------------------------------------------------ readings

    long reading(
            TicketNumber ticket, Instant at, long edition, Reading.Trigger trigger, int ofSeq, int readSeq, int depth) {
        return sql.insertInto(RULE_READING)
                .set(RULE_READING.TICKET, ticket)
                .set(RULE_READING.AT, at)
                .set(RULE_READING.EDITION_ID, edition)
                .set(RULE_READING.TRIGGER, word(trigger))
                .set(RULE_READING.ABOUT, about(trigger).toArray(String[]::new))
                .set(RULE_READING.RULE_ID, trigger instanceof Reading.Trigger.Time(String rule) ? rule : "")
                .set(RULE_READING.OF_SEQ, ofSeq)
                .set(RULE_READING.READ_SEQ, readSeq)
                .set(RULE_READING.DEPTH, (short) depth)
                .returning(RULE_READING.ID)
                .fetchSingle(RULE_READING.ID);
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
        sql.insertInto(RULE_RUN)
                .set(RULE_RUN.READING_ID, run.reading())
                .set(RULE_RUN.TICKET, run.ticket())
                .set(RULE_RUN.RULE_ID, run.rule())
                .set(RULE_RUN.AT, run.at())
                .set(RULE_RUN.BASE_AT, due.map(Due::base).orElse(null))
                .set(RULE_RUN.NTH, due.map(one -> (short) one.nth()).orElse((short) 0))
                .set(RULE_RUN.AFTER_SEQ, run.afterSeq())
                .set(RULE_RUN.HANDED_TO, handedTo.orElse(null))
                .set(RULE_RUN.DONE, run.done().toArray(String[]::new))
                .set(RULE_RUN.FAILED, run.failed().toArray(String[]::new))
                .execute();
    }

    /** Whether a rule could not do something within the last hour before a time, so that nobody is told of each. */
    boolean failedOfLate(String rule, Instant now) {
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
        return sql.select(RULE_RUN.HANDED_TO)
                .from(RULE_RUN)
                .where(RULE_RUN.RULE_ID.eq(rule))
                .and(RULE_RUN.HANDED_TO.isNotNull())
                .orderBy(RULE_RUN.AT.desc(), RULE_RUN.ID.desc())
                .limit(1)
                .fetchOptional(RULE_RUN.HANDED_TO);
    }

    // ------------------------------------------------------------------ the clock

    /** The times on a ticket that are dealt with. */
    Set<Due> dealtWith(TicketNumber ticket) {
        var found = new HashSet<Due>();
        sql.select(RULE_RUN.RULE_ID, RULE_RUN.BASE_AT, RULE_RUN.NTH)
                .from(RULE_RUN)
                .where(RULE_RUN.TICKET.eq(ticket))
                .and(RULE_RUN.BASE_AT.isNotNull())
                .unionAll(DSL.select(RULE_PASSED.RULE_ID, RULE_PASSED.BASE_AT, RULE_PASSED.NTH)
                        .from(RULE_PASSED)
                        .where(RULE_PASSED.TICKET.eq(ticket)))
                .forEach(r -> found.add(new Due(r.value1(), r.value2(), r.value3())));
        return found;
    }

    /** Notes that a time passed by without the rule matching. */
    void passed(TicketNumber ticket, Due due) {
        sql.insertInto(RULE_PASSED)
                .set(RULE_PASSED.TICKET, ticket)
                .set(RULE_PASSED.RULE_ID, due.rule())
                .set(RULE_PASSED.BASE_AT, due.base())
                .set(RULE_PASSED.NTH, (short) due.nth())
                .onConflictDoNothing()
                .execute();
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
