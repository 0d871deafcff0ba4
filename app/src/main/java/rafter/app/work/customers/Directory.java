package rafter.app.work.customers;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;
import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.platform.Trigrams;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** Contacts as a list, by name. Counts of tickets are of those that the reader may see. */
@Component
class Directory {

    /** Further than this nobody counts. */
    static final int COUNTED = 4_000;

    /** So many are not gathered any more. */
    private static final int MANY = COUNTED;

    private static final Field<String> COMPANY_NAME = DSL.lower(COMPANY.NAME);

    private final DSLContext sql;

    Directory(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * Which contacts.
     *
     * @param words what stands in their name, address, telephone or company's name; blank: anything
     * @param company of which company; empty: of any, or of none
     * @param open only those who have an open ticket
     */
    public record Asked(String words, Optional<CompanyId> company, boolean open) {}

    /**
     * A contact in the list.
     *
     * @param address one of theirs; blank when they have none
     * @param more how many further addresses they have
     * @param open how many open tickets they have
     */
    public record Person(
            ContactId id,
            String name,
            Optional<CompanyId> companyId,
            String company,
            String plan,
            String address,
            int more,
            String phone,
            int open) {}

    /** A part of the contacts, by name. */
    @Transactional(readOnly = true)
    ByName.Part<Person> contacts(Asked asked, ByName.From<ContactId> from, Viewer me) {
        return ByName.part(
                from,
                id -> sql.select(CONTACT.NAME_WORDS, CONTACT.ID)
                        .from(CONTACT)
                        .where(CONTACT.ID.eq(id))
                        .fetchOptional()
                        .map(r -> new ByName.Place<>(r.value1(), r.value2())),
                (place, backwards) -> people(asked, place, backwards, me));
    }

    private List<Person> people(Asked asked, Optional<ByName.Place<ContactId>> place, boolean backwards, Viewer me) {
        Field<String> address = DSL.field(DSL.select(DSL.min(CONTACT_ADDRESS.ADDRESS))
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID)));
        Field<Integer> addresses =
                DSL.field(DSL.selectCount().from(CONTACT_ADDRESS).where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID)));
        Field<String> phone = DSL.field(DSL.select(CONTACT_PHONE.WRITTEN)
                .from(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(CONTACT.ID))
                .orderBy(CONTACT_PHONE.POSITION)
                .limit(1));
        return sql.select(
                        CONTACT.ID,
                        CONTACT.NAME,
                        CONTACT.COMPANY_ID,
                        COMPANY.NAME,
                        COMPANY.PLAN,
                        address,
                        addresses,
                        phone,
                        openOf(CONTACT.ID, me))
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(matches(asked, me))
                .and(ByName.beyond(CONTACT.NAME_WORDS, CONTACT.ID, place, backwards))
                .orderBy(ByName.order(CONTACT.NAME_WORDS, CONTACT.ID, backwards))
                .limit(ByName.PAGE + 1)
                .fetch(r -> new Person(
                        r.value1(),
                        r.value2(),
                        Optional.ofNullable(r.value3()),
                        Say.orBlank(r.value4()),
                        Say.orBlank(r.value5()),
                        Say.orBlank(r.value6()),
                        Math.max(0, r.value7() - 1),
                        Say.orBlank(r.value8()),
                        r.value9()));
    }

    /** How many contacts there are of these, counted no further than {@link #COUNTED}. */
    @Transactional(readOnly = true)
    int count(Asked asked, Viewer me) {
        return sql.fetchCount(
                DSL.selectOne().from(CONTACT).where(matches(asked, me)).limit(COUNTED));
    }

    private Condition matches(Asked asked, Viewer me) {
        return words(asked.words())
                .and(asked.company().map(CONTACT.COMPANY_ID::eq).orElse(DSL.noCondition()))
                .and(
                        asked.open()
                                ? DSL.exists(DSL.selectOne()
                                        .from(me.tickets())
                                        .where(TICKET.CONTACT_ID.eq(CONTACT.ID))
                                        .and(TICKET.OPEN))
                                : DSL.noCondition());
    }

    /**
     * That words stand in something of a contact. Few are gathered from the indexes of what they stand in; of many the first in the order of
     * names are met soon enough.
     */
    private Condition words(String typed) {
        String asked = typed.strip().toLowerCase(Locale.ROOT);
        if (asked.isEmpty()) {
            return DSL.noCondition();
        }
        List<Select<Record1<ContactId>>> found = found(typed, asked);
        var all = found.stream().reduce(Select::unionAll).orElseThrow();
        boolean many = sql.fetchCount(DSL.selectOne().from(all.asTable("found")).limit(MANY)) == MANY;
        return many
                ? stands(typed, asked)
                : CONTACT.ID.in(DSL.select(DSL.field(DSL.name("found", "id"), CONTACT.ID.getDataType()))
                        .from(all.asTable("found", "id")));
    }

    /** The same, asked of one contact after the other. */
    private static Condition stands(String typed, String asked) {
        String words = Words.of(asked).stored().strip();
        Condition named = words.isEmpty()
                ? DSL.falseCondition()
                : Trigrams.of(CONTACT.NAME_WORDS).contains(words);
        Condition written = DSL.exists(DSL.selectOne()
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))
                .and(Trigrams.of(CONTACT_ADDRESS.ADDRESS).contains(asked)));
        var firm = COMPANY.as("firm");
        Condition theirs = DSL.exists(DSL.selectOne()
                .from(firm)
                .where(firm.ID.eq(CONTACT.COMPANY_ID))
                .and(Trigrams.of(DSL.lower(firm.NAME)).contains(asked)));
        Condition called = Phone.asked(typed)
                .map(digits -> DSL.exists(DSL.selectOne()
                        .from(CONTACT_PHONE)
                        .where(CONTACT_PHONE.CONTACT_ID.eq(CONTACT.ID))
                        .and(Trigrams.of(CONTACT_PHONE.DIGITS).contains(digits))))
                .orElse(DSL.falseCondition());
        return named.or(written).or(theirs).or(called);
    }

    private static List<Select<Record1<ContactId>>> found(String typed, String asked) {
        var named = CONTACT.as("named");
        var theirs = CONTACT.as("theirs");
        String words = Words.of(asked).stored().strip();
        var found = new ArrayList<Select<Record1<ContactId>>>();
        found.add(DSL.select(CONTACT_ADDRESS.CONTACT_ID)
                .from(CONTACT_ADDRESS)
                .where(Trigrams.of(CONTACT_ADDRESS.ADDRESS).contains(asked)));
        found.add(DSL.select(theirs.ID)
                .from(theirs)
                .where(theirs.COMPANY_ID.in(DSL.select(COMPANY.ID)
                        .from(COMPANY)
                        .where(Trigrams.of(COMPANY_NAME).contains(asked)))));
        if (!words.isEmpty()) {
            found.add(DSL.select(named.ID)
                    .from(named)
                    .where(Trigrams.of(named.NAME_WORDS).contains(words)));
        }
        Phone.asked(typed)
                .ifPresent(digits -> found.add(DSL.select(CONTACT_PHONE.CONTACT_ID)
                        .from(CONTACT_PHONE)
                        .where(Trigrams.of(CONTACT_PHONE.DIGITS).contains(digits))));
        return found;
    }

    private static Field<Integer> openOf(Field<ContactId> contact, Viewer me) {
        return DSL.field(DSL.selectCount()
                .from(me.tickets())
                .where(TICKET.CONTACT_ID.eq(contact))
                .and(TICKET.OPEN));
    }
}
