package rafter.app.house.notices;

import static rafter.database.Tables.NOTICE_RULE;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.text.Placeholders;

/** What the workspace chose of the notices that Rafter gives by itself: whether they are given at all, and in which words. */
@Component
public class NoticeRules {

    static final int LONGEST = 300;

    /** What stands in the words of a notice: Rafter’s own words, and the ticket’s number. */
    public static final Set<String> PLACEHOLDERS = Set.of("words", "ticket");

    /**
     * What was chosen of one kind.
     *
     * @param words blank: Rafter’s own
     */
    public record Rule(Notices.Kind kind, boolean active, String words) {

        Notices.Told worded(Notices.Told told) {
            return words.isBlank()
                    ? told
                    : new Notices.Told(
                            told.person(),
                            told.ticket(),
                            told.at(),
                            told.kind(),
                            Placeholders.fill(
                                    words,
                                    Map.of(
                                            "words",
                                            told.words(),
                                            "ticket",
                                            told.ticket().toString())));
        }
    }

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<Map<String, Rule>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    NoticeRules(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    private Map<String, Rule> read() {
        return sql.selectFrom(NOTICE_RULE)
                .fetchMap(
                        NOTICE_RULE.KIND,
                        r -> new Rule(Notices.Kind.valueOf(r.getKind()), r.getActive(), r.getWords()));
    }

    /** What was chosen of a kind; a change of another node's is seen within a second. */
    public Rule get(Notices.Kind kind) {
        return current.get().getOrDefault(kind.name(), new Rule(kind, true, ""));
    }

    /**
     * Chooses.
     *
     * @throws Problem.Invalid when its words cannot be used
     */
    @Transactional
    public void choose(Rule rule, PersonId by) {
        guard.houseRules(by);
        if (rule.words().length() > LONGEST) {
            throw new Problem.Invalid("A notice has at most " + LONGEST + " letters.");
        }
        List<String> unknown = Placeholders.unknown(rule.words(), PLACEHOLDERS);
        if (!unknown.isEmpty()) {
            throw new Problem.Invalid("There is no placeholder {" + String.join("}, {", unknown)
                    + "} here. There are {words}, which are Rafter’s own, and {ticket}.");
        }
        sql.insertInto(NOTICE_RULE)
                .set(NOTICE_RULE.KIND, rule.kind().name())
                .set(NOTICE_RULE.ACTIVE, rule.active())
                .set(NOTICE_RULE.WORDS, rule.words())
                .onConflict(NOTICE_RULE.KIND)
                .doUpdate()
                .set(NOTICE_RULE.ACTIVE, rule.active())
                .set(NOTICE_RULE.WORDS, rule.words())
                .execute();
        audit.note(by, "changed a notice", rule.kind().name());
        current.forget();
    }
}
