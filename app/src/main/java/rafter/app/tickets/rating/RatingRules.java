package rafter.app.tickets.rating;

import static rafter.database.Tables.RATING_RULE;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.MailPreview;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/** The house rule on whether, when and in which words customers are asked how they were helped. */
@Component
public class RatingRules {

    static final Duration LONGEST_WAIT = Duration.ofDays(30);
    static final Duration LONGEST_REST = Duration.ofDays(365);

    /** How the question reads while it is typed. */
    static final MailPreview PREVIEW = new MailPreview(
            Placeholder.forRating(),
            Placeholder.named(Map.of(
                    Placeholder.TICKET, "4471",
                    Placeholder.SUBJECT, "Freight slot for Thursday shows as cancelled",
                    Placeholder.CUSTOMER, "Dov Reiss",
                    Placeholder.FIRST_NAME, "Dov",
                    Placeholder.WORKSPACE, "Tern Passage Ferries",
                    Placeholder.RATING, "Good, fair or poor: three links")));

    /**
     * The rule.
     *
     * @param after so long after a ticket was resolved
     * @param rest a customer is asked at most once in so long
     */
    public record Rule(int version, boolean asks, Duration after, Duration rest, String subject, String body) {

        private Rule checked() {
            require(!subject.isBlank() && !body.isBlank(), "The question needs a subject and a text.");
            require(
                    subject.length() <= 200 && body.length() <= 5000,
                    "The subject has at most 200 letters, the text 5,000.");
            List<String> unknown = PREVIEW.unknown(subject, body);
            require(
                    unknown.isEmpty(),
                    "There is no placeholder {" + String.join("}, {", unknown) + "}. Choose from those listed.");
            require(
                    body.contains("{" + Placeholder.RATING.key() + "}"),
                    "The text has to have {rating} in it: there the customer finds what to press.");
            require(after.compareTo(LONGEST_WAIT) <= 0, "They are asked after 0 to 720 hours.");
            require(rest.compareTo(LONGEST_REST) <= 0, "A customer is left alone for 0 to 365 days.");
            return this;
        }

        private static void require(boolean fine, String words) {
            if (!fine) {
                throw new Problem.Invalid(words + " Nothing was saved yet; what you typed is still here.");
            }
        }

        /** The text as a customer reads it who is meant by these values. */
        String filled(Map<String, String> values) {
            return Placeholders.fill(body, values);
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
                        Duration.ofDays(r.getRestDays()),
                        r.getSubject(),
                        r.getBody()));
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
                .set(RATING_RULE.SUBJECT, rule.subject().strip())
                .set(RATING_RULE.BODY, rule.body())
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
