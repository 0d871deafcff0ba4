package rafter.app.handout.people;

import static rafter.database.Tables.CONSULT_RULES;

import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.consult.ConsultRules;
import rafter.core.id.PersonId;
import tools.jackson.databind.json.JsonMapper;

/** How this workspace consults. */
@Component
public class ConsultSettings {

    /** The rules as they are kept; {@code version} rises with every change. */
    public record Kept(ConsultRules rules, int version) {}

    private record Document(boolean accountPerson, boolean lead, long answerMinutes, double units, boolean mail) {
        static Document of(ConsultRules rules) {
            return new Document(
                    rules.accountPerson(), rules.lead(), rules.answerWithin().toMinutes(), rules.units(), rules.mail());
        }

        ConsultRules rules() {
            return new ConsultRules(accountPerson, lead, Duration.ofMinutes(answerMinutes), units, mail);
        }
    }

    private static final short ONLY = 1;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<ConsultRules> current =
            new BrieflyCached<>(Duration.ofSeconds(1), () -> kept().rules());

    ConsultSettings(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** The rules; a change of another node's is seen within a second. */
    public ConsultRules rules() {
        return current.get();
    }

    /** The rules as they are kept, looked up now. */
    public Kept kept() {
        return sql.selectFrom(CONSULT_RULES)
                .fetchOptional(r -> new Kept(
                        JSON.readValue(r.getDocument().data(), Document.class).rules(), r.getVersion()))
                .orElse(new Kept(ConsultRules.usual(), 0));
    }

    /**
     * Changes them.
     *
     * @throws Problem.Invalid when something is wrong with them
     * @throws Problem.Stale when somebody changed them since
     */
    @Transactional
    public void save(ConsultRules rules, int version, PersonId by) {
        guard.houseRules(by);
        List<String> faults = rules.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        JSONB document = JSONB.valueOf(JSON.writeValueAsString(Document.of(rules)));
        int changed = sql.insertInto(CONSULT_RULES)
                .set(CONSULT_RULES.ID, ONLY)
                .set(CONSULT_RULES.DOCUMENT, document)
                .set(CONSULT_RULES.VERSION, version + 1)
                .onConflict(CONSULT_RULES.ID)
                .doUpdate()
                .set(CONSULT_RULES.DOCUMENT, document)
                .set(CONSULT_RULES.VERSION, version + 1)
                .where(CONSULT_RULES.VERSION.eq(version))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody changed these rules while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        audit.note(by, "changed how we consult", "");
        current.forget();
    }
}
