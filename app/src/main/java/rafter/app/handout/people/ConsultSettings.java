package rafter.app.handout.people;

import static rafter.database.Tables.CONSULT_RULES;

import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.OneDocument;
import rafter.app.platform.Problem;
import rafter.core.consult.ConsultRules;
import rafter.core.id.PersonId;

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

    private final OneDocument<Document> document;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<ConsultRules> current =
            new BrieflyCached<>(Duration.ofSeconds(1), () -> kept().rules());

    ConsultSettings(DSLContext sql, Audit audit, Guard guard) {
        this.document = OneDocument.rowOf(sql, CONSULT_RULES, Document.class);
        this.audit = audit;
        this.guard = guard;
    }

    /** The rules; a change of another node's is seen within a second. */
    public ConsultRules rules() {
        return current.get();
    }

    /** The rules as they are kept, looked up now. */
    public Kept kept() {
        return document.kept()
                .map(kept -> new Kept(kept.document().rules(), kept.version()))
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
        document.save(Document.of(rules), version);
        audit.note(by, "changed how we consult", "");
        current.forget();
    }
}
