package rafter.app.work.customers;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.COMPANY_DOMAIN;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** Contacts and companies as lists, by name. Counts of tickets are of those that the reader may see. */
@Component
class Directory {

    /** So many stand on a page. */
    static final int PAGE = 50;

    /** Further than this nobody counts. */
    static final int COUNTED = 4_000;

    /** So many are not gathered any more. */
    private static final int MANY = COUNTED;

    private static final Duration YEAR = Duration.ofDays(365);
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
    record Asked(String words, Optional<CompanyId> company, boolean open) {}

    /**
     * A contact in the list.
     *
     * @param address one of theirs; blank when they have none
     * @param more how many further addresses they have
     * @param open how many open tickets they have
     */
    record Person(
            ContactId id,
            String name,
            Optional<CompanyId> companyId,
            String company,
            String plan,
            String address,
            int more,
            String phone,
            int open) {}

    /**
     * A company in the list.
     *
     * @param people how many contacts it has
     * @param open how many open tickets they have
     */
    record Firm(CompanyId id, String name, String plan, String domains, int people, int open) {}

    /**
     * A part of a list.
     *
     * @param earlier whether there is something before it
     * @param later whether there is something after it
     */
    record Part<T>(List<T> rows, boolean earlier, boolean later) {}

    /** Where a part of a list begins or ends. */
    sealed interface From<T> {
        /** At the top. */
        record Top<T>() implements From<T> {}

        /** After one that is known by its id; one that is gone means the top. */
        record After<T>(T id) implements From<T> {}

        /** Before one, likewise. */
        record Before<T>(T id) implements From<T> {}
    }

    // ------------------------------------------------------------------ contacts

    /** A part of the contacts, by name. */
    @Transactional(readOnly = true)
    Part<Person> contacts(Asked asked, From<ContactId> from, Viewer me) {
        return part(
                from,
                id -> sql.select(CONTACT.NAME_WORDS, CONTACT.ID)
                        .from(CONTACT)
                        .where(CONTACT.ID.eq(id))
                        .fetchOptional()
                        .map(r -> new Place<>(r.value1(), r.value2())),
                (place, backwards) -> people(asked, place, backwards, me));
    }

    private List<Person> people(Asked asked, Optional<Place<ContactId>> place, boolean backwards, Viewer me) {
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
                .and(beyond(CONTACT.NAME_WORDS, CONTACT.ID, place, backwards))
                .orderBy(order(CONTACT.NAME_WORDS, CONTACT.ID, backwards))
                .limit(PAGE + 1)
                .fetch(r -> new Person(
                        r.value1(),
                        r.value2(),
                        Optional.ofNullable(r.value3()),
                        text(r.value4()),
                        text(r.value5()),
                        text(r.value6()),
                        Math.max(0, r.value7() - 1),
                        text(r.value8()),
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
        Condition named = words.isEmpty() ? DSL.falseCondition() : CONTACT.NAME_WORDS.contains(words);
        Condition written = DSL.exists(DSL.selectOne()
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))
                .and(CONTACT_ADDRESS.ADDRESS.contains(asked)));
        var firm = COMPANY.as("firm");
        Condition theirs = DSL.exists(DSL.selectOne()
                .from(firm)
                .where(firm.ID.eq(CONTACT.COMPANY_ID))
                .and(DSL.lower(firm.NAME).contains(asked)));
        Condition called = Phone.asked(typed)
                .map(digits -> DSL.exists(DSL.selectOne()
                        .from(CONTACT_PHONE)
                        .where(CONTACT_PHONE.CONTACT_ID.eq(CONTACT.ID))
                        .and(CONTACT_PHONE.DIGITS.contains(digits))))
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
                .where(CONTACT_ADDRESS.ADDRESS.contains(asked)));
        found.add(DSL.select(theirs.ID)
                .from(theirs)
                .where(theirs.COMPANY_ID.in(DSL.select(COMPANY.ID).from(COMPANY).where(COMPANY_NAME.contains(asked)))));
        if (!words.isEmpty()) {
            found.add(DSL.select(named.ID).from(named).where(named.NAME_WORDS.contains(words)));
        }
        Phone.asked(typed)
                .ifPresent(digits -> found.add(DSL.select(CONTACT_PHONE.CONTACT_ID)
                        .from(CONTACT_PHONE)
                        .where(CONTACT_PHONE.DIGITS.contains(digits))));
        return found;
    }

    private static Field<Integer> openOf(Field<ContactId> contact, Viewer me) {
        return DSL.field(DSL.selectCount()
                .from(me.tickets())
                .where(TICKET.CONTACT_ID.eq(contact))
                .and(TICKET.OPEN));
    }

    // ------------------------------------------------------------------ companies

    /** A part of the companies whose name or domain has these words in it, by name. */
    @Transactional(readOnly = true)
    Part<Firm> companies(String words, From<CompanyId> from, Viewer me) {
        return part(
                from,
                id -> sql.select(COMPANY_NAME, COMPANY.ID)
                        .from(COMPANY)
                        .where(COMPANY.ID.eq(id))
                        .fetchOptional()
                        .map(r -> new Place<>(r.value1(), r.value2())),
                (place, backwards) -> firms(words, place, backwards, me));
    }

    private List<Firm> firms(String words, Optional<Place<CompanyId>> place, boolean backwards, Viewer me) {
        String asked = words.strip().toLowerCase(Locale.ROOT);
        Field<String> domains =
                DSL.field(DSL.select(DSL.listAgg(COMPANY_DOMAIN.DOMAIN, ", ").withinGroupOrderBy(COMPANY_DOMAIN.DOMAIN))
                        .from(COMPANY_DOMAIN)
                        .where(COMPANY_DOMAIN.COMPANY_ID.eq(COMPANY.ID)));
        Condition meant = asked.isEmpty()
                ? DSL.noCondition()
                : COMPANY_NAME
                        .contains(asked)
                        .or(COMPANY.ID.in(DSL.select(COMPANY_DOMAIN.COMPANY_ID)
                                .from(COMPANY_DOMAIN)
                                .where(COMPANY_DOMAIN.DOMAIN.contains(asked))));
        return sql.select(COMPANY.ID, COMPANY.NAME, COMPANY.PLAN, domains, people(COMPANY.ID), open(COMPANY.ID, me))
                .from(COMPANY)
                .where(meant)
                .and(beyond(COMPANY_NAME, COMPANY.ID, place, backwards))
                .orderBy(order(COMPANY_NAME, COMPANY.ID, backwards))
                .limit(PAGE + 1)
                .fetch(r -> new Firm(r.value1(), r.value2(), r.value3(), text(r.value4()), r.value5(), r.value6()));
    }

    private static Field<Integer> people(Field<CompanyId> company) {
        return DSL.field(DSL.selectCount().from(CONTACT).where(CONTACT.COMPANY_ID.eq(company)));
    }

    private static Field<Integer> open(Field<CompanyId> company, Viewer me) {
        return DSL.field(DSL.selectCount()
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .and(TICKET.OPEN));
    }

    /**
     * How it stands with a company.
     *
     * @param late how many of its open tickets are over a target
     * @param year how many requests it made within a year
     */
    record Figures(int people, int open, int late, int year) {}

    /** How it stands with a company now. */
    @Transactional(readOnly = true)
    Figures figures(CompanyId company, Viewer me, Instant now) {
        return sql.select(
                        DSL.field(DSL.selectCount().from(CONTACT).where(CONTACT.COMPANY_ID.eq(company))),
                        DSL.count().filterWhere(TICKET.OPEN),
                        DSL.count().filterWhere(DSL.condition(TICKET.OPEN).and(TICKET.NEXT_DUE.le(now))),
                        DSL.count().filterWhere(TICKET.OPENED_AT.ge(now.minus(YEAR))))
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .andNot(TICKET.DISCARDED)
                .fetchSingle(r -> new Figures(r.value1(), r.value2(), r.value3(), r.value4()));
    }

    /** A ticket of a company, with who wrote. */
    record Theirs(TicketNumber number, String subject, String state, String contact, Instant changed) {}

    /** The latest tickets of a company, open ones or ended ones. */
    @Transactional(readOnly = true)
    List<Theirs> tickets(CompanyId company, boolean open, int most, Viewer me) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE, CONTACT.NAME, TICKET.CHANGED_AT)
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .and(TICKET.OPEN.eq(open))
                .andNot(TICKET.DISCARDED)
                .orderBy(TICKET.CHANGED_AT.desc(), TICKET.NUMBER.desc())
                .limit(most)
                .fetch(r -> new Theirs(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
    }

    // ------------------------------------------------------------------ parts of lists

    /** Where something stands in an order by name. */
    private record Place<T>(String name, T id) {}

    private interface Finding<T> {
        Optional<Place<T>> find(T id);
    }

    private interface Reading<R, T> {
        List<R> read(Optional<Place<T>> from, boolean backwards);
    }

    private static <R, T> Part<R> part(From<T> from, Finding<T> finding, Reading<R, T> reading) {
        return switch (from) {
            case From.Top<T> top -> forwards(reading.read(Optional.empty(), false), false);
            case From.After<T>(T id) -> {
                Optional<Place<T>> place = finding.find(id);
                yield forwards(reading.read(place, false), place.isPresent());
            }
            case From.Before<T>(T id) -> {
                Optional<Place<T>> place = finding.find(id);
                yield place.isEmpty()
                        ? forwards(reading.read(place, false), false)
                        : backwards(reading.read(place, true));
            }
        };
    }

    private static <R> Part<R> forwards(List<R> rows, boolean earlier) {
        boolean later = rows.size() > PAGE;
        return new Part<>(later ? rows.subList(0, PAGE) : rows, earlier, later);
    }

    private static <R> Part<R> backwards(List<R> rows) {
        boolean earlier = rows.size() > PAGE;
        var kept = new ArrayList<>(earlier ? rows.subList(0, PAGE) : rows);
        Collections.reverse(kept);
        return new Part<>(kept, earlier, true);
    }

    private static <T> Condition beyond(Field<String> name, Field<T> id, Optional<Place<T>> place, boolean backwards) {
        return place.map(from -> backwards
                        ? DSL.row(name, id).lt(from.name(), from.id())
                        : DSL.row(name, id).gt(from.name(), from.id()))
                .orElse(DSL.noCondition());
    }

    private static List<OrderField<?>> order(Field<String> name, Field<?> id, boolean backwards) {
        return backwards ? List.of(name.desc(), id.desc()) : List.of(name, id);
    }

    private static String text(@org.jspecify.annotations.Nullable String value) {
        return value == null ? "" : value;
    }
}
