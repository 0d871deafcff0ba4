package rafter.app.house.criteria;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/** Times and clocks of a ticket as criteria ask for them. */
final class TimeSql {

    private TimeSql() {}

    static Condition elapsed(Criteria.Test test, Field<Instant> began) {
        List<Instant> bounds = test.values().stream().map(Instant::parse).toList();
        if (bounds.isEmpty()) {
            return DSL.falseCondition();
        }
        return test.operator() == Operator.AT_LEAST
                ? began.le(bounds.stream().max(Comparator.naturalOrder()).orElseThrow())
                : began.ge(bounds.stream().min(Comparator.naturalOrder()).orElseThrow());
    }

    static Condition due(Criteria.Test test, Field<Instant> due) {
        return switch (test.operator()) {
            case RUNS, IS_SET -> due.isNotNull();
            case RUNS_NOT, IS_EMPTY -> due.isNull();
            case AT_RISK -> anyAtRisk(test);
            case WITHIN, LATE, SOON ->
                test.values().isEmpty()
                        ? DSL.falseCondition()
                        : due.le(test.values().stream()
                                .map(Instant::parse)
                                .max(Comparator.naturalOrder())
                                .orElseThrow());
            default -> DSL.falseCondition();
        };
    }

    static Condition clock(KnownField objective, Criteria.Test test) {
        var running = DSL.selectOne()
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(TICKET.NUMBER))
                .and(TICKET_CLOCK.OBJECTIVE.eq(DSL.inline(objective.name())))
                .and(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.DUE_AT.isNotNull());
        return switch (test.operator()) {
            case RUNS -> DSL.exists(running);
            case RUNS_NOT -> DSL.notExists(running);
            case AT_RISK -> DSL.exists(running.and(atRisk(test)));
            default -> DSL.exists(running.and(due(test, TICKET_CLOCK.DUE_AT)));
        };
    }

    /** A clock that comes to be at risk by then, and is not late by then. */
    private static Condition atRisk(Criteria.Test test) {
        return DSL.or(WordSql.each(
                test.values(),
                value -> TICKET_CLOCK
                        .RISK_AT
                        .le(Instant.parse(value))
                        .and(TICKET_CLOCK.DUE_AT.gt(Instant.parse(value)))));
    }

    /** Any clock of the ticket. */
    private static Condition anyAtRisk(Criteria.Test test) {
        return DSL.exists(DSL.selectOne()
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(TICKET.NUMBER))
                .and(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(atRisk(test)));
    }
}
