package rafter.app.work.search;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Trigrams;
import rafter.core.criteria.OwnField;
import rafter.core.id.ContactId;
import rafter.core.id.Id;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** Finds contacts and companies by name, address, telephone, or what stands in an own field; a name may be mistyped. */
@Component
class PeopleSearch {

    private static final int MOST = 8;
    /** Among so many of a name the likest are looked for. */
    private static final int NAMESAKES = 200;

    /**
     * A contact or company that was found.
     *
     * @param go the address of its page, or of its tickets
     */
    public record Who(Id id, String name, String detail, String go) {}

    private final DSLContext sql;
    private final OwnFields fields;

    PeopleSearch(DSLContext sql, OwnFields fields) {
        this.sql = sql;
        this.fields = fields;
    }

    /** Contacts by name, address, telephone or field. */
    List<Who> people(String asked) {
        String words = Words.of(asked).stored().strip();
        Map<ContactId, String> addresses = sql.select(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(Trigrams.of(CONTACT_ADDRESS.ADDRESS)
                        .contains(asked.strip().toLowerCase(Locale.ROOT)))
                .limit(MOST)
                .fetchMap(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS);
        Map<ContactId, String> phones = phones(asked);
        Field<String> address = DSL.field(DSL.select(DSL.min(CONTACT_ADDRESS.ADDRESS))
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID)));
        var ids = new LinkedHashSet<>(addresses.keySet());
        ids.addAll(phones.keySet());
        ids.addAll(named(Trigrams.of(CONTACT.NAME_WORDS).contains(words)));
        ids.addAll(named(anyStands(OwnField.Bearer.CONTACT, asked, CONTACT.OWN, CONTACT.OWN_FOLDED)));
        if (ids.isEmpty() && words.length() > 3) {
            // Only who is called nothing like it could have been mistyped.
            ids.addAll(named(DSL.condition("{0} % {1}", Trigrams.of(CONTACT.NAME_WORDS), DSL.val(words))));
        }
        return ids.isEmpty()
                ? List.of()
                : sql.select(CONTACT.ID, CONTACT.NAME, address, COMPANY.NAME)
                        .from(CONTACT)
                        .leftJoin(COMPANY)
                        .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                        .where(CONTACT.ID.in(ids))
                        .orderBy(
                                DSL.field("similarity({0}, {1})", Double.class, CONTACT.NAME_WORDS, DSL.val(words))
                                        .desc(),
                                CONTACT.ID)
                        .limit(MOST)
                        .fetch(r -> new Who(
                                r.value1(),
                                r.value2(),
                                detail(phones.getOrDefault(r.value1(), ""), r.value3(), r.value4()),
                                "/contacts/" + r.value1()));
    }

    /** Whose telephone number has these digits in it, with the number. */
    private Map<ContactId, String> phones(String asked) {
        Optional<String> digits = Phone.asked(asked);
        return digits.isEmpty()
                ? Map.of()
                : sql.select(CONTACT_PHONE.CONTACT_ID, DSL.min(CONTACT_PHONE.WRITTEN))
                        .from(CONTACT_PHONE)
                        .where(Trigrams.of(CONTACT_PHONE.DIGITS).contains(digits.get()))
                        .groupBy(CONTACT_PHONE.CONTACT_ID)
                        .limit(MOST)
                        .fetchMap(CONTACT_PHONE.CONTACT_ID, DSL.min(CONTACT_PHONE.WRITTEN));
    }

    private static String detail(String phone, @Nullable String address, @Nullable String company) {
        return Stream.of(phone, address == null ? "" : address, company == null ? "" : company)
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(", "));
    }

    private List<ContactId> named(Condition like) {
        return sql.select(CONTACT.ID).from(CONTACT).where(like).limit(NAMESAKES).fetch(CONTACT.ID);
    }

    /** Companies by name or field. */
    List<Who> companies(String asked) {
        String words = asked.strip().toLowerCase(Locale.ROOT);
        Field<String> name = Trigrams.of(DSL.lower(COMPANY.NAME));
        return sql.select(COMPANY.ID, COMPANY.NAME, COMPANY.PLAN)
                .from(COMPANY)
                .where(name.contains(words)
                        .or(
                                words.length() > 3
                                        ? DSL.condition("{0} % {1}", name, DSL.val(words))
                                        : DSL.falseCondition())
                        .or(anyStands(OwnField.Bearer.COMPANY, asked, COMPANY.OWN, COMPANY.OWN_FOLDED)))
                .orderBy(
                        DSL.field("similarity({0}, {1})", Double.class, name, DSL.val(words))
                                .desc(),
                        COMPANY.ID)
                .limit(MOST)
                .fetch(r -> new Who(r.value1(), r.value2(), r.value3(), "/people/companies/" + r.value1()));
    }

    /** Whether any field of contacts or companies holds what is looked for. */
    private Condition anyStands(OwnField.Bearer bearer, String asked, Field<JSONB> own, Field<JSONB> folded) {
        return fields.shown(bearer).stream()
                .flatMap(
                        field -> FieldConditions.stands(field, asked)
                                .map(has -> has.apply(FieldConditions.column(field, own, folded)))
                                .stream())
                .reduce(DSL.falseCondition(), Condition::or);
    }
}
