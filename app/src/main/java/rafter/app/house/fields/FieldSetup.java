package rafter.app.house.fields;

import static rafter.database.Tables.OWN_FIELD;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.criteria.ChoiceTree;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;

/** Adds, changes and takes out of use the fields that administrators give to tickets, contacts and companies. */
@Component
public class FieldSetup {

    /** More than these of one bearer no page has room for. */
    private static final int MOST = 60;

    private static final int LONGEST_NAME = 40;
    private static final int LONGEST_HELP = 300;
    private static final int MOST_CHOICES = 100;
    private static final int MOST_OF_A_TREE = 500;

    private final DSLContext sql;
    private final OwnFields fields;
    private final Audit audit;
    private final Guard guard;

    FieldSetup(DSLContext sql, OwnFields fields, Audit audit, Guard guard) {
        this.sql = sql;
        this.fields = fields;
        this.audit = audit;
        this.guard = guard;
    }

    /**
     * What an administrator types about a field.
     *
     * @param choices one a line; only what has choices has any, and those of a tree are pushed in by two blanks a level
     * @param help what is said beside it
     * @param preset what stands in it to begin with
     */
    public record Typed(String name, String choices, String help, String preset) {}

    /**
     * Adds a field.
     *
     * @throws Problem.Invalid when it cannot be
     */
    @Transactional
    public long add(Typed typed, OwnField.Bearer bearer, OwnField.Kind kind, PersonId by) {
        guard.houseRules(by);
        checkRoom(bearer, 0);
        String called = checkName(typed.name(), 0);
        List<String> choices = checkChoices(kind, typed.choices());
        long id = sql.insertInto(OWN_FIELD)
                .set(OWN_FIELD.NAME, called)
                .set(OWN_FIELD.BEARER, bearer.name())
                .set(OWN_FIELD.KIND, kind.name())
                .set(OWN_FIELD.CHOICES, choices.toArray(String[]::new))
                .set(OWN_FIELD.HELP, checkHelp(typed.help()))
                .set(OWN_FIELD.PRESET, checkPreset(new OwnField(0, bearer, kind), choices, typed))
                .set(
                        OWN_FIELD.POSITION,
                        DSL.select(DSL.coalesce(DSL.max(OWN_FIELD.POSITION), 0).plus(1))
                                .from(OWN_FIELD)
                                .asField())
                .returning(OWN_FIELD.ID)
                .fetchSingle(OWN_FIELD.ID);
        fields.forget();
        audit.note(by, "own field added", called);
        return id;
    }

    /**
     * Changes what a field is called and what it offers; what there is in it stays.
     *
     * @throws Problem.Stale when somebody else changed it meanwhile
     */
    @Transactional
    public void change(AddedField was, Typed typed, boolean shown, int position, PersonId by) {
        guard.houseRules(by);
        List<String> choices = checkChoices(was.field().kind(), typed.choices());
        if (shown) {
            checkRoom(was.bearer(), was.field().id());
        }
        int changed = sql.update(OWN_FIELD)
                .set(OWN_FIELD.NAME, checkName(typed.name(), was.field().id()))
                .set(OWN_FIELD.CHOICES, choices.toArray(String[]::new))
                .set(OWN_FIELD.HELP, checkHelp(typed.help()))
                .set(OWN_FIELD.PRESET, checkPreset(was.field(), choices, typed))
                .set(OWN_FIELD.SHOWN, shown)
                .set(OWN_FIELD.POSITION, position)
                .set(OWN_FIELD.VERSION, OWN_FIELD.VERSION.plus(1))
                .where(OWN_FIELD.ID.eq(was.field().id()))
                .and(OWN_FIELD.VERSION.eq(was.version()))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody else changed this field meanwhile. What you typed is still here; look at theirs in another window before you save.");
        }
        fields.forget();
        audit.note(by, "own field changed", typed.name().strip());
    }

    /** Fields that are not asked for take no room. */
    private void checkRoom(OwnField.Bearer bearer, long own) {
        if (sql.fetchCount(
                        OWN_FIELD,
                        OWN_FIELD.BEARER.eq(bearer.name()),
                        DSL.condition(OWN_FIELD.SHOWN),
                        OWN_FIELD.ID.ne(own))
                >= MOST) {
            throw new Problem.Invalid("There are " + MOST + " fields of " + bearer.words()
                    + " already, and their page has no room for more. Nothing was saved yet.");
        }
    }

    private static String checkHelp(String help) {
        if (help.strip().length() > LONGEST_HELP) {
            throw new Problem.Invalid(
                    "What is said beside a field has at most " + LONGEST_HELP + " letters. Nothing was saved yet.");
        }
        return help.strip();
    }

    private String checkPreset(OwnField field, List<String> choices, Typed typed) {
        var offering = new AddedField(field, typed.name(), choices, "", "", true, 0, 0);
        return fields.normalised(offering, typed.preset(), "")
                .orElseThrow(() ->
                        new Problem.Invalid("“" + typed.preset() + "” cannot stand in it to begin with, for it holds "
                                + offering.holds() + ". Nothing was saved yet."));
    }

    /**
     * Asks for a field no more; what stands in it stays.
     *
     * @return whether it was asked for until now
     */
    @Transactional
    public boolean hide(AddedField field, PersonId by) {
        guard.houseRules(by);
        int changed = sql.update(OWN_FIELD)
                .set(OWN_FIELD.SHOWN, false)
                .set(OWN_FIELD.VERSION, OWN_FIELD.VERSION.plus(1))
                .where(OWN_FIELD.ID.eq(field.field().id()))
                .and(OWN_FIELD.SHOWN)
                .execute();
        fields.forget();
        if (changed > 0) {
            audit.note(by, "own field taken out of use", field.name());
        }
        return changed > 0;
    }

    private String checkName(String name, long own) {
        String called = name.strip();
        if (called.isEmpty() || called.length() > LONGEST_NAME) {
            throw new Problem.Invalid(
                    "A field has a name of at most " + LONGEST_NAME + " letters. Nothing was saved yet.");
        }
        if (sql.fetchExists(
                OWN_FIELD,
                DSL.lower(OWN_FIELD.NAME).eq(DSL.lower(DSL.val(called))).and(OWN_FIELD.ID.ne(own)))) {
            throw new Problem.Invalid("There is a field called “" + called + "” already. Nothing was saved yet.");
        }
        return called;
    }

    private static List<String> checkChoices(OwnField.Kind kind, String choices) {
        if (!kind.hasChoices()) {
            return List.of();
        }
        int most = kind == OwnField.Kind.TREE ? MOST_OF_A_TREE : MOST_CHOICES;
        List<String> all = kind == OwnField.Kind.TREE ? tree(choices) : lines(choices);
        if (all.size() < 2 || all.size() > most) {
            throw new Problem.Invalid(
                    "Write at least two choices, one a line, and at most " + most + ". Nothing was saved yet.");
        }
        if (all.stream().anyMatch(one -> one.length() > OwnField.LONGEST)) {
            throw new Problem.Invalid("A choice has at most " + OwnField.LONGEST + " letters. Nothing was saved yet.");
        }
        return all;
    }

    private static List<String> lines(String choices) {
        return choices.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .distinct()
                .toList();
    }

    private static List<String> tree(String choices) {
        try {
            return ChoiceTree.indented(choices).all();
        } catch (IllegalArgumentException e) {
            throw new Problem.Invalid(e.getMessage() + " Nothing was saved yet.");
        }
    }
}
