package rafter.app.house.fields;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.PERSON;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.BrieflyCached;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.Id;
import rafter.core.id.PersonId;

/** What people and companies that stand in own fields are called. */
@Component
class FieldNames {

    private static final int OFFERED = 300;

    private final DSLContext sql;
    /** A list shows a name in each of its rows. */
    private final BrieflyCached<Map<PersonId, String>> everybody =
            new BrieflyCached<>(Duration.ofSeconds(1), this::everybody);

    FieldNames(DSLContext sql) {
        this.sql = sql;
    }

    private Map<PersonId, String> everybody() {
        return sql.select(PERSON.ID, PERSON.NAME).from(PERSON).fetchMap(PERSON.ID, PERSON.NAME);
    }

    /** The name of one that stands in a field of a kind. */
    String name(OwnField.Kind kind, String id) {
        Optional<String> name = kind == OwnField.Kind.PERSON
                ? Id.read(id, PersonId::new)
                        .flatMap(one -> Optional.ofNullable(everybody.get().get(one)))
                : Id.read(id, CompanyId::new)
                        .flatMap(one -> sql.select(COMPANY.NAME)
                                .from(COMPANY)
                                .where(COMPANY.ID.eq(one))
                                .fetchOptional(COMPANY.NAME));
        return name.orElse("somebody who is gone");
    }

    /** Who can stand in a field of a kind, and one who stands there already, by id; of companies the first by name. */
    Map<String, String> offered(OwnField.Kind kind, String also) {
        return switch (kind) {
            case PERSON -> people(also);
            case COMPANY -> firms();
            case TEXT, LONG, NUMBER, DATE, CHOICE, SEVERAL, TREE, TICK, LINK -> Map.of();
        };
    }

    private Map<String, String> firms() {
        return sql.select(COMPANY.ID, COMPANY.NAME).from(COMPANY).orderBy(COMPANY.NAME).limit(OFFERED).fetch().stream()
                .collect(Collectors.toMap(r -> r.value1().toString(), r -> r.value2()));
    }

    private Map<String, String> people(String also) {
        return sql
                .select(PERSON.ID, PERSON.NAME)
                .from(PERSON)
                .where(PERSON.ACTIVE)
                .or(Id.read(also, PersonId::new).map(PERSON.ID::eq).orElse(DSL.falseCondition()))
                .fetch()
                .stream()
                .collect(Collectors.toMap(r -> r.value1().toString(), r -> r.value2()));
    }

    /**
     * The one that somebody means, by number or by name.
     *
     * @return blank for a blank text; nothing when there is none or more than one of that name
     */
    Optional<String> meant(OwnField.Kind kind, String typed) {
        if (typed.isEmpty()) {
            return Optional.of("");
        }
        List<? extends Id> found = kind == OwnField.Kind.PERSON ? persons(typed) : companies(typed);
        return found.size() == 1 ? Optional.of(found.getFirst().toString()) : Optional.empty();
    }

    private List<PersonId> persons(String typed) {
        return sql.select(PERSON.ID)
                .from(PERSON)
                .where(PERSON.ACTIVE)
                .and(Id.read(typed, PersonId::new)
                        .map(PERSON.ID::eq)
                        .orElse(DSL.lower(PERSON.NAME).eq(DSL.lower(DSL.val(typed)))))
                .limit(2)
                .fetch(PERSON.ID);
    }

    private List<CompanyId> companies(String typed) {
        return sql.select(COMPANY.ID)
                .from(COMPANY)
                .where(Id.read(typed, CompanyId::new)
                        .map(COMPANY.ID::eq)
                        .orElse(DSL.lower(COMPANY.NAME).eq(DSL.lower(DSL.val(typed)))))
                .limit(2)
                .fetch(COMPANY.ID);
    }
}
