package rafter.app.house.people;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Query;
import org.jooq.impl.DSL;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.people.IncomingContact;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** Adds and changes many contacts in one go. */
@Component
public class ContactBulk {

    private final DSLContext sql;
    private final Companies companies;
    private final ContactLines lines;
    private final OwnFields fields;
    private final Audit audit;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    ContactBulk(
            DSLContext sql,
            Companies companies,
            ContactLines lines,
            OwnFields fields,
            Audit audit,
            ApplicationEventPublisher events,
            Clock clock) {
        this.sql = sql;
        this.companies = companies;
        this.lines = lines;
        this.fields = fields;
        this.audit = audit;
        this.events = events;
        this.clock = clock;
    }

    /** Whose these addresses are, by address. */
    public Map<String, ContactId> owners(Collection<String> addresses) {
        return sql.select(CONTACT_ADDRESS.ADDRESS, CONTACT_ADDRESS.CONTACT_ID)
                .from(CONTACT_ADDRESS)
                // One array, for a list of thousands of texts is compared one by one.
                .where(CONTACT_ADDRESS.ADDRESS.eq(DSL.any(addresses.toArray(String[]::new))))
                .fetchMap(CONTACT_ADDRESS.ADDRESS, CONTACT_ADDRESS.CONTACT_ID);
    }

    /** The companies of these names, by their name in lower case. */
    public Map<String, CompanyId> companies(Collection<String> names) {
        Set<String> wanted = names.stream().map(ContactBulk::folded).collect(Collectors.toSet());
        return sql
                .select(COMPANY.NAME, COMPANY.ID)
                .from(COMPANY)
                .where(DSL.lower(COMPANY.NAME).eq(DSL.any(wanted.toArray(String[]::new))))
                .fetch()
                .stream()
                .collect(Collectors.toMap(r -> folded(r.value1()), r -> r.value2(), (first, second) -> first));
    }

    private static String folded(String name) {
        return name.strip().toLowerCase(Locale.ROOT);
    }

    /** Whether a company is named that there is not yet. */
    public boolean isNew(String company, Map<String, CompanyId> known) {
        return !company.isBlank() && !known.containsKey(folded(company));
    }

    /** The companies of these names; those that there are not yet are added, without a plan. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Map<String, CompanyId> companiesMade(Collection<String> names, PersonId by) {
        var known = new HashMap<>(companies(names));
        for (String name : new LinkedHashSet<>(names)) {
            if (isNew(name, known)) {
                known.put(folded(name), companies.save(Optional.empty(), name.strip(), "", "", Map.of(), by));
            }
        }
        return known;
    }

    /** Most files have nothing for own fields, and then nothing is asked about them. */
    private Map<String, String> filled(IncomingContact contact) {
        return contact.own().isEmpty() ? Map.of() : fields.filled(OwnField.Bearer.CONTACT, contact.own(), Map.of());
    }

    /** Why values of own fields cannot be; nothing when they can. */
    public Optional<String> hindrance(IncomingContact contact) {
        try {
            filled(contact);
            return Optional.empty();
        } catch (Problem.Invalid e) {
            return Optional.of(e.words());
        }
    }

    /**
     * Adds contacts of whose addresses none is anybody's.
     *
     * @param firms the companies by their name in lower case
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void add(List<IncomingContact> all, Map<String, CompanyId> firms) {
        if (!all.isEmpty()) {
            addLines(all, addRows(all, firms));
        }
    }

    private List<ContactId> addRows(List<IncomingContact> all, Map<String, CompanyId> firms) {
        Instant now = clock.instant();
        Map<String, CompanyId> ofAddresses = companies.ofAddresses(all.stream()
                .filter(one -> one.company().isBlank())
                .flatMap(one -> one.addresses().stream())
                .toList());
        var insert = sql.insertInto(
                CONTACT,
                CONTACT.NAME,
                CONTACT.NAME_WORDS,
                CONTACT.COMPANY_ID,
                CONTACT.LANGUAGE,
                CONTACT.ZONE,
                CONTACT.OWN,
                CONTACT.OWN_FOLDED,
                CONTACT.CREATED_AT);
        for (IncomingContact one : all) {
            Map<String, String> own = filled(one);
            String name = one.name().isEmpty() ? one.addresses().getFirst() : one.name();
            insert = insert.values(
                    name,
                    Words.of(name).stored(),
                    company(one, firms, ofAddresses).orElse(null),
                    one.language(),
                    one.zone(),
                    OwnFields.written(own),
                    OwnFields.folded(own),
                    now);
        }
        // Rows come back in the order in which they went in.
        return insert.returning(CONTACT.ID).fetch(CONTACT.ID);
    }

    /** The company that is named, or the one that an address belongs to. */
    private static Optional<CompanyId> company(
            IncomingContact one, Map<String, CompanyId> firms, Map<String, CompanyId> ofAddresses) {
        return one.company().isBlank()
                ? one.addresses().stream()
                        .filter(ofAddresses::containsKey)
                        .findFirst()
                        .map(ofAddresses::get)
                : Optional.ofNullable(firms.get(folded(one.company())));
    }

    private void addLines(List<IncomingContact> all, List<ContactId> ids) {
        var addresses = new ArrayList<ContactLines.Address>();
        var phones = new ArrayList<ContactLines.Telephone>();
        for (int i = 0; i < all.size(); i++) {
            ContactId id = ids.get(i);
            all.get(i).addresses().forEach(address -> addresses.add(new ContactLines.Address(id, address)));
            List<String> written = all.get(i).phones();
            IntStream.range(0, written.size())
                    .forEach(position -> phones.add(new ContactLines.Telephone(id, written.get(position), position)));
        }
        lines.addAddresses(addresses);
        lines.addPhones(phones);
    }

    /** A contact as it would be with what a file has of it; nothing is taken away from it. */
    public ContactCard with(ContactCard card, IncomingContact more, Map<String, CompanyId> firms) {
        var addresses = new ArrayList<>(card.addresses());
        more.addresses().stream().filter(one -> !addresses.contains(one)).forEach(addresses::add);
        var phones = new ArrayList<>(card.phones());
        Set<String> known = phones.stream()
                .flatMap(one -> Phone.of(one).stream())
                .map(Phone::digits)
                .collect(Collectors.toCollection(LinkedHashSet::new));
        more.phones().stream()
                .filter(one ->
                        Phone.of(one).filter(phone -> known.add(phone.digits())).isPresent())
                .forEach(phones::add);
        var own = new HashMap<>(card.own());
        own.putAll(more.own());
        return new ContactCard(
                card.id(),
                more.name().isEmpty() ? card.name() : more.name(),
                Optional.ofNullable(firms.get(folded(more.company()))).or(card::company),
                addresses,
                phones,
                more.language().isEmpty() ? card.language() : more.language(),
                more.zone().isEmpty() ? card.zone() : more.zone(),
                own,
                card.version());
    }

    /** What is written down about each of these contacts, read at once. */
    @Transactional(readOnly = true)
    public Map<ContactId, ContactCard> cards(Collection<ContactId> contacts) {
        if (contacts.isEmpty()) {
            return Map.of();
        }
        Map<ContactId, List<String>> addresses = lines.addresses(CONTACT_ADDRESS.CONTACT_ID.in(contacts));
        Map<ContactId, List<String>> phones =
                lines.phones(CONTACT_PHONE.WRITTEN, CONTACT_PHONE.CONTACT_ID.in(contacts));
        return sql
                .selectFrom(CONTACT)
                .where(CONTACT.ID.in(contacts))
                .fetch(row -> ContactCards.card(
                        row,
                        addresses.getOrDefault(row.getId(), List.of()),
                        phones.getOrDefault(row.getId(), List.of())))
                .stream()
                .collect(Collectors.toMap(ContactCard::id, card -> card));
    }

    /** A contact as it is, and as it will be with what a file has of it. */
    public record Change(ContactCard was, ContactCard next) {}

    /**
     * Writes down what {@link #with} made of contacts, together.
     *
     * @throws Problem.Invalid when one of them has more lines than there is room for; nothing is changed then
     * @throws Problem.Stale when somebody else changed one of them meanwhile; nothing is changed then
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void change(List<Change> all, PersonId by) {
        if (all.isEmpty()) {
            return;
        }
        all.forEach(one ->
                ContactCards.insistOnRoom(one.next().addresses(), one.next().phones()));
        int[] changed = sql.batch(all.stream().map(this::update).toList()).execute();
        if (Arrays.stream(changed).anyMatch(rows -> rows == 0)) {
            throw new Problem.Stale("Somebody else changed this contact meanwhile.");
        }
        lines.addAddresses(all.stream().flatMap(ContactBulk::newAddresses).toList());
        lines.addPhones(all.stream().flatMap(ContactBulk::newPhones).toList());
        all.stream()
                .filter(one -> !one.was().company().equals(one.next().company()))
                .forEach(one -> events.publishEvent(new ContactCards.Moved(
                        one.next().id(),
                        one.was().company().flatMap(companies::find),
                        one.next().company().flatMap(companies::find))));
        audit.notes(
                by,
                "changed contact",
                all.stream().map(one -> one.next().name()).toList());
    }

    private Query update(Change one) {
        ContactCard next = one.next();
        Map<String, String> own = next.own().equals(one.was().own())
                ? next.own()
                : fields.filled(OwnField.Bearer.CONTACT, next.own(), one.was().own());
        return ContactCards.update(sql, next, own);
    }

    private static Stream<ContactLines.Address> newAddresses(Change one) {
        return one.next().addresses().stream()
                .filter(address -> !one.was().addresses().contains(address))
                .map(address -> new ContactLines.Address(one.next().id(), address));
    }

    private static Stream<ContactLines.Telephone> newPhones(Change one) {
        int had = one.was().phones().size();
        List<String> phones = one.next().phones();
        return IntStream.range(had, phones.size())
                .mapToObj(i -> new ContactLines.Telephone(one.next().id(), phones.get(i), i));
    }
}
