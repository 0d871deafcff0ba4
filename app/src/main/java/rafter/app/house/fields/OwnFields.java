package rafter.app.house.fields;

import static rafter.database.Tables.OWN_FIELD;

import java.time.Duration;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.util.MultiValueMap;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.OwnField;
import rafter.database.tables.records.OwnFieldRecord;
import tools.jackson.databind.json.JsonMapper;

/** The fields that administrators add to tickets, contacts and companies, and what these have in them as their rows keep it. */
@Component
public class OwnFields {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final FieldNames names;
    private final BrieflyCached<List<AddedField>> fields = new BrieflyCached<>(Duration.ofSeconds(1), this::stored);

    OwnFields(DSLContext sql, FieldNames names) {
        this.sql = sql;
        this.names = names;
    }

    /** All of them, in order; a change of another node's is seen within a second. */
    public List<AddedField> all() {
        return fields.get();
    }

    /** Reads them anew at the next look, for one of them was changed here. */
    void forget() {
        fields.forget();
    }

    private List<AddedField> stored() {
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

    /** One that is asked for, by its key. */
    public Optional<AddedField> asked(OwnField.Bearer bearer, String key) {
        return shown(bearer).stream().filter(field -> field.key().equals(key)).findFirst();
    }

    private static AddedField field(OwnFieldRecord r) {
        return new AddedField(
                new OwnField(r.getId(), OwnField.Bearer.valueOf(r.getBearer()), OwnField.Kind.valueOf(r.getKind())),
                r.getName(),
                Arrays.asList(r.getChoices()),
                r.getHelp(),
                r.getPreset(),
                r.getShown(),
                r.getPosition(),
                r.getVersion());
    }

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
                String value = normalised(field, text, before)
                        .orElseThrow(() -> new Problem.Invalid("“" + text + "” cannot stand in “" + field.name()
                                + "”, which holds " + field.holds() + ". Nothing was changed."));
                if (!value.equals(before)) {
                    changes.put(field.key(), value);
                }
            });
        }
        return changes;
    }

    /**
     * A value as it is kept; nothing when it cannot stand there. People and companies can be named, too, when one alone is called so.
     *
     * @param was what there is now, which may stay though it could not be chosen any more
     */
    public Optional<String> normalised(AddedField field, String typed, String was) {
        if (typed.strip().equals(was)) {
            return Optional.of(was);
        }
        OwnField.Kind kind = field.field().kind();
        return kind == OwnField.Kind.PERSON || kind == OwnField.Kind.COMPANY
                ? names.meant(kind, typed.strip())
                : field.normalised(typed, was);
    }

    /** What people call what stands in a field: people and companies by their names. */
    public String said(OwnField field, String kept) {
        return switch (field.kind()) {
            case PERSON, COMPANY -> kept.isEmpty() ? "" : names.name(field.kind(), kept);
            case SEVERAL -> String.join(", ", field.values(kept));
            case TEXT, LONG, NUMBER, DATE, CHOICE, TREE, TICK, LINK -> kept;
        };
    }

    /** What people call the field of a key. */
    public String name(String key) {
        return all().stream()
                .filter(field -> field.key().equals(key))
                .findFirst()
                .map(AddedField::name)
                .orElse("a field that is gone");
    }

    /** What people call what stands in the field of a key. */
    public String said(String key, String kept) {
        return OwnField.of(key).map(field -> said(field, kept)).orElse(kept);
    }

    /** What people call what stands in the fields of something, by their keys. */
    public Map<String, String> said(Map<String, String> values) {
        var said = new TreeMap<String, String>();
        values.forEach((key, kept) -> said.put(key, said(key, kept)));
        return said;
    }

    /** What stands in the fields of something that are asked for, in order. */
    public List<OwnValue> values(OwnField.Bearer bearer, Map<String, String> own) {
        return shown(bearer).stream()
                .filter(field -> !own.getOrDefault(field.key(), "").isEmpty())
                .map(field -> {
                    String kept = own.getOrDefault(field.key(), "");
                    return new OwnValue(
                            field.name(),
                            said(field.field(), kept),
                            field.field().kind() == OwnField.Kind.LINK);
                })
                .toList();
    }

    /**
     * What stands in a field, for reading.
     *
     * @param link whether it leads to an address of the web
     */
    public record OwnValue(String name, String value, boolean link) {}

    /** Fields as a form sends them: of several ticks each on a line of its own. */
    public static Map<String, String> typed(MultiValueMap<String, String> form) {
        var typed = new HashMap<String, String>();
        form.forEach((name, values) -> typed.put(
                name,
                OwnField.of(name).isPresent()
                        ? String.join("\n", values)
                        : values.stream().findFirst().map(Say::orBlank).orElse("")));
        return typed;
    }

    /**
     * What somebody typed into fields that are not asked for any more, since their form was opened: what they are told, or blank.
     *
     * @param was what stands in them
     */
    public String notAsked(OwnField.Bearer bearer, Map<String, String> typed, Map<String, String> was) {
        return all().stream()
                .filter(field -> field.bearer() == bearer && !field.shown())
                .filter(field -> !typed.getOrDefault(field.key(), "").isBlank()
                        && !typed.getOrDefault(field.key(), "").equals(was.getOrDefault(field.key(), "")))
                .map(field -> " “" + field.name() + "” is not asked for any more, so “"
                        + typed.getOrDefault(field.key(), "").strip() + "” was not saved in it.")
                .collect(Collectors.joining());
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

    /** The texts and sets among them as they are compared: letter case aside, and a line each. */
    public static JSONB folded(Map<String, String> values) {
        var folded = new TreeMap<String, String>();
        values.forEach((key, value) -> OwnField.of(key)
                .filter(field -> field.kind().written() || field.type() == FieldType.SET)
                .ifPresent(field -> folded.put(key, field.compared(value))));
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
