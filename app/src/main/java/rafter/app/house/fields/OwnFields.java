package rafter.app.house.fields;

import static rafter.database.Tables.OWN_FIELD;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.text.Words;
import rafter.database.tables.records.OwnFieldRecord;
import tools.jackson.databind.json.JsonMapper;

/** The fields that administrators add to tickets, contacts and companies, and what these have in them as their rows keep it. */
@Component
public class OwnFields {

    /** More than these of one kind no page has room for. */
    public static final int MOST = 40;

    private static final int LONGEST_NAME = 40;
    private static final int MOST_CHOICES = 100;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;

    OwnFields(DSLContext sql, Audit audit, Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.audit = audit;
    }

    /** All of them, in order. */
    public List<AddedField> all() {
        return sql.selectFrom(OWN_FIELD)
                .orderBy(OWN_FIELD.POSITION, OWN_FIELD.ID)
                .fetch(OwnFields::field);
    }

    /** Those that are asked for, in order. */
    public List<AddedField> shown(OwnField.Bearer bearer) {
        return all().stream()
                .filter(field -> field.shown() && field.bearer() == bearer)
                .toList();
    }

    public Optional<AddedField> find(long id) {
        return sql.selectFrom(OWN_FIELD).where(OWN_FIELD.ID.eq(id)).fetchOptional(OwnFields::field);
    }

    private static AddedField field(OwnFieldRecord r) {
        return new AddedField(
                new OwnField(r.getId(), OwnField.Bearer.valueOf(r.getBearer()), OwnField.Kind.valueOf(r.getKind())),
                r.getName(),
                Arrays.asList(r.getChoices()),
                r.getShown(),
                r.getPosition(),
                r.getVersion());
    }

    /**
     * Adds a field.
     *
     * @param choices one a line; only a choice has any
     * @throws Problem.Invalid when it cannot be
     */
    @Transactional
    public long add(String name, OwnField.Bearer bearer, OwnField.Kind kind, String choices, PersonId by) {
        guard.houseRules(by);
        if (sql.fetchCount(OWN_FIELD, OWN_FIELD.BEARER.eq(bearer.name())) >= MOST) {
            throw new Problem.Invalid("There are " + MOST + " fields of " + bearer.words()
                    + " already, and their page has no room for more.");
        }
        String called = checkName(name, 0);
        long id = sql.insertInto(OWN_FIELD)
                .set(OWN_FIELD.NAME, called)
                .set(OWN_FIELD.BEARER, bearer.name())
                .set(OWN_FIELD.KIND, kind.name())
                .set(OWN_FIELD.CHOICES, checkChoices(kind, choices))
                .set(
                        OWN_FIELD.POSITION,
                        DSL.select(DSL.coalesce(DSL.max(OWN_FIELD.POSITION), 0).plus(1))
                                .from(OWN_FIELD)
                                .asField())
                .returning(OWN_FIELD.ID)
                .fetchSingle(OWN_FIELD.ID);
        audit.note(by, "own field added", called);
        return id;
    }

    /**
     * Changes what a field is called and what it offers; what there is in it stays.
     *
     * @throws Problem.Stale when somebody else changed it meanwhile
     */
    @Transactional
    public void change(AddedField was, String name, String choices, boolean shown, int position, PersonId by) {
        guard.houseRules(by);
        int changed = sql.update(OWN_FIELD)
                .set(OWN_FIELD.NAME, checkName(name, was.field().id()))
                .set(OWN_FIELD.CHOICES, checkChoices(was.field().kind(), choices))
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
        audit.note(by, "own field changed", name.strip());
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

    private static String[] checkChoices(OwnField.Kind kind, String choices) {
        if (kind != OwnField.Kind.CHOICE) {
            return new String[0];
        }
        String[] all = choices.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .distinct()
                .toArray(String[]::new);
        if (all.length < 2 || all.length > MOST_CHOICES) {
            throw new Problem.Invalid(
                    "Write at least two choices, one a line, and at most " + MOST_CHOICES + ". Nothing was saved yet.");
        }
        if (Arrays.stream(all).anyMatch(one -> one.length() > OwnField.LONGEST)) {
            throw new Problem.Invalid("A choice has at most " + OwnField.LONGEST + " letters. Nothing was saved yet.");
        }
        return all;
    }

    // ------------------------------------------------------------------ what stands in them

    /**
     * What changes when somebody fills the fields of something; fields that are not named keep what they have.
     *
     * @param typed by the field's key, as somebody typed it; blank to have none
     * @param was what stands in them now
     * @return by the field's key, blank to have none; only what becomes another
     * @throws Problem.Invalid when one cannot be its field's value
     */
    public Map<String, String> changes(OwnField.Bearer bearer, Map<String, String> typed, Map<String, String> was) {
        var changes = new LinkedHashMap<String, String>();
        for (AddedField field : shown(bearer)) {
            Optional.ofNullable(typed.get(field.key())).ifPresent(text -> {
                String before = was.getOrDefault(field.key(), "");
                String value = field.normalised(text, before)
                        .orElseThrow(() -> new Problem.Invalid("“" + text + "” cannot stand in “" + field.name()
                                + "”, which holds " + field.holds() + ". Nothing was changed."));
                if (!value.equals(before)) {
                    changes.put(field.key(), value);
                }
            });
        }
        return changes;
    }

    /** What stands in the fields of something once they are filled so. */
    public Map<String, String> filled(OwnField.Bearer bearer, Map<String, String> typed, Map<String, String> was) {
        var filled = new TreeMap<>(was);
        filled.putAll(changes(bearer, typed, was));
        filled.values().removeIf(String::isEmpty);
        return filled;
    }

    /** Values as a row keeps them. */
    public static JSONB written(Map<String, String> values) {
        return JSONB.valueOf(JSON.writeValueAsString(new TreeMap<>(values)));
    }

    /** The texts among them as they are compared: letter case and accents aside. */
    public static JSONB folded(Map<String, String> values) {
        var folded = new TreeMap<String, String>();
        values.forEach((key, value) -> {
            if (OwnField.of(key)
                    .filter(field -> field.kind() == OwnField.Kind.TEXT)
                    .isPresent()) {
                folded.put(key, Words.fold(value));
            }
        });
        return JSONB.valueOf(JSON.writeValueAsString(folded));
    }

    /** Reads the values of a row. */
    public static Map<String, String> read(JSONB written) {
        var values = new TreeMap<String, String>();
        JSON.readTree(written.data())
                .properties()
                .forEach(entry -> values.put(entry.getKey(), entry.getValue().asString("")));
        return values;
    }
}
