package rafter.app.tickets.rating;

import static rafter.database.Tables.RATING_RULE;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;

/** The house rule on whether and when customers are asked how they were helped. */
@Component
public class RatingRules {

    static final Duration LONGEST_WAIT = Duration.ofDays(30);
    static final Duration LONGEST_REST = Duration.ofDays(365);

    /**
     * The rule.
     *
     * @param after so long after a ticket was resolved
     * @param rest a customer is asked at most once in so long
     */
    public record Rule(int version, boolean asks, Duration after, Duration rest) {

        private Rule checked() {
            require(after.compareTo(LONGEST_WAIT) <= 0, "They are asked after 0 to 720 hours.");
            require(rest.compareTo(LONGEST_REST) <= 0, "A customer is left alone for 0 to 365 days.");
            return this;
        }

        private static void require(boolean fine, String words) {
            if (!fine) {
                throw new Problem.Invalid(words + " Nothing was saved yet; what you typed is still here.");
            }
        }
    }

    private final DSLContext sql;
    private final Audit audit;
    private final Clock clock;

    RatingRules(DSLContext sql, Audit audit, Clock clock) {
        this.sql = sql;
        this.audit = audit;
        this.clock = clock;
    }

    /** The rule as it is now. */
    public Rule current() {
        return sql.selectFrom(RATING_RULE)
                .fetchSingle(r -> new Rule(
                        r.getVersion(),
                        r.getAsks(),
                        Duration.ofHours(r.getAfterHours()),
                        Duration.ofDays(r.getRestDays())));
    }

    /**
     * Changes the rule. Tickets that were resolved before it began to ask are left alone.
     *
     * @throws Problem.Stale when somebody changed it since its version
     */
    @Transactional
    public void change(Rule rule, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        rule.checked();
        Instant now = clock.instant();
        int changed = sql.update(RATING_RULE)
                .set(RATING_RULE.VERSION, RATING_RULE.VERSION.plus(1))
                .set(
                        RATING_RULE.SEEN_UNTIL,
                        DSL.when(RATING_RULE.ASKS.isFalse(), DSL.val(now)).otherwise(RATING_RULE.SEEN_UNTIL))
                .set(RATING_RULE.ASKS, rule.asks())
                .set(RATING_RULE.AFTER_HOURS, (int) rule.after().toHours())
                .set(RATING_RULE.REST_DAYS, (int) rule.rest().toDays())
                .where(RATING_RULE.VERSION.eq(rule.version()))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody changed this rule while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        audit.note(me.id(), "changed the rule on ratings", rule.asks() ? "on" : "off");
    }

    /** Until when resolved tickets were looked at. */
    Instant seenUntil() {
        return sql.select(RATING_RULE.SEEN_UNTIL).from(RATING_RULE).fetchSingle(RATING_RULE.SEEN_UNTIL);
    }

    void seen(Instant until) {
        sql.update(RATING_RULE)
                .set(RATING_RULE.SEEN_UNTIL, until)
                .where(RATING_RULE.SEEN_UNTIL.lt(until))
                .execute();
    }
}
