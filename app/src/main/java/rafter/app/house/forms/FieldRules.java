package rafter.app.house.forms;

import static rafter.database.Tables.FIELD_RULE;

import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.criteria.OwnField;
import rafter.core.form.FieldRule;
import rafter.core.id.PersonId;

/** What forms do with fields of tickets that match; a change of another node's is seen within a second. */
@Component
public class FieldRules {

    private static final int MOST = 200;

    /** A rule as it is kept. */
    public record Kept(long id, FieldRule rule, int version) {}

    private final DSLContext sql;
    private final OwnFields fields;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<List<Kept>> rules = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    FieldRules(DSLContext sql, OwnFields fields, Audit audit, Guard guard) {
        this.sql = sql;
        this.fields = fields;
        this.audit = audit;
        this.guard = guard;
    }

    /** All rules, by field. */
    public List<Kept> all() {
        return rules.get();
    }

    private List<Kept> read() {
        return sql.selectFrom(FIELD_RULE)
                .orderBy(FIELD_RULE.FIELD_ID, FIELD_RULE.ID)
                .fetch(row -> new Kept(
                        row.getId(),
                        new FieldRule(
                                row.getFieldId(),
                                FieldRule.Effect.valueOf(row.getEffect()),
                                Arrays.asList(row.getChoices()),
                                CriteriaJson.read(row.getCriteria().data())),
                        row.getVersion()));
    }

    public Optional<Kept> find(long id) {
        return all().stream().filter(one -> one.id() == id).findFirst();
    }

    /**
     * Saves a rule.
     *
     * @param id 0 for a new one
     * @throws Problem.Invalid when it cannot be so
     * @throws Problem.Stale when somebody else changed it meanwhile
     */
    @Transactional
    public void save(long id, FieldRule rule, int version, PersonId by) {
        guard.houseRules(by);
        Terms.check(rule.when());
        AddedField field = fields.find(rule.field())
                .filter(one -> one.bearer() == OwnField.Bearer.TICKET)
                .orElseThrow(() -> new Problem.Invalid("Choose a field of tickets." + Terms.KEPT));
        check(rule, field);
        write(id, rule, version);
        rules.forget();
        audit.note(by, "saved rule of field", field.name());
    }

    private static void check(FieldRule rule, AddedField field) {
        boolean narrows = rule.effect() == FieldRule.Effect.NARROW;
        if (narrows && !field.field().kind().hasChoices()) {
            throw new Problem.Invalid("“" + field.name() + "” has no choices that could be fewer." + Terms.KEPT);
        }
        if (narrows && (rule.choices().isEmpty() || !field.choices().containsAll(rule.choices()))) {
            throw new Problem.Invalid("Choose what “" + field.name() + "” offers then." + Terms.KEPT);
        }
        if (rule.effect() == FieldRule.Effect.SHOW && rule.when().equals(Criteria.everything())) {
            throw new Problem.Invalid("Say when it is shown; without a rule it always is." + Terms.KEPT);
        }
    }

    private void write(long id, FieldRule rule, int version) {
        boolean narrows = rule.effect() == FieldRule.Effect.NARROW;
        String[] choices = narrows ? rule.choices().toArray(String[]::new) : new String[0];
        JSONB criteria = JSONB.valueOf(CriteriaJson.write(rule.when()));
        if (id == 0) {
            if (sql.fetchCount(FIELD_RULE) >= MOST) {
                throw new Problem.Invalid("There are at most " + MOST + " such rules." + Terms.KEPT);
            }
            sql.insertInto(FIELD_RULE)
                    .set(FIELD_RULE.FIELD_ID, rule.field())
                    .set(FIELD_RULE.EFFECT, rule.effect().name())
                    .set(FIELD_RULE.CHOICES, choices)
                    .set(FIELD_RULE.CRITERIA, criteria)
                    .execute();
        } else if (sql.update(FIELD_RULE)
                        .set(FIELD_RULE.EFFECT, rule.effect().name())
                        .set(FIELD_RULE.CHOICES, choices)
                        .set(FIELD_RULE.CRITERIA, criteria)
                        .set(FIELD_RULE.VERSION, version + 1)
                        .where(FIELD_RULE.ID.eq(id))
                        .and(FIELD_RULE.VERSION.eq(version))
                        .execute()
                == 0) {
            throw new Problem.Stale("Somebody else changed this rule meanwhile, or took it away." + Terms.KEPT);
        }
    }

    /** Takes a rule away. */
    @Transactional
    public Kept remove(long id, PersonId by) {
        guard.houseRules(by);
        Kept was = find(id).orElseThrow(() -> new Problem.NotFound("There is no such rule any more."));
        sql.deleteFrom(FIELD_RULE).where(FIELD_RULE.ID.eq(id)).execute();
        rules.forget();
        audit.note(by, "took rule of field away", Long.toString(was.rule().field()));
        return was;
    }
}
