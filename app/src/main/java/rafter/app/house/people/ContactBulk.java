package rafter.app.house.people;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.people.IncomingContact;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** Adds many contacts in one go, and says of others what would become of those that are there. */
@Component
public class ContactBulk {

    private final DSLContext sql;
    private final Companies companies;
    private final ContactCards cards;
    private final OwnFields fields;
    private final Clock clock;

    ContactBulk(DSLContext sql, Companies companies, ContactCards cards, OwnFields fields, Clock clock) {
        this.sql = sql;
        this.companies = companies;
        this.cards = cards;
        this.fields = fields;
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

    /** The companies of these names; those that there are not yet are added, without a plan. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Map<String, CompanyId> companiesMade(Collection<String> names, PersonId by) {
        var known = new HashMap<>(companies(names));
        for (String name : new LinkedHashSet<>(names)) {
            if (!name.isBlank() && !known.containsKey(folded(name))) {
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
        if (all.isEmpty()) {
            return;
        }
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
                    one.company().isBlank()
                            ? one.addresses().stream()
                                    .filter(ofAddresses::containsKey)
                                    .findFirst()
                                    .map(ofAddresses::get)
                                    .orElse(null)
                            : firms.get(folded(one.company())),
                    one.language(),
                    one.zone(),
                    OwnFields.written(own),
                    OwnFields.folded(own),
                    now);
        }
        // Rows come back in the order in which they went in.
        List<ContactId> ids = insert.returning(CONTACT.ID).fetch(CONTACT.ID);
        addAddresses(all, ids);
        addPhones(all, ids);
    }

    private void addAddresses(List<IncomingContact> all, List<ContactId> ids) {
        var insert = sql.insertInto(
                CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS, CONTACT_ADDRESS.FOLDED, CONTACT_ADDRESS.CONTACT_ID);
        for (int i = 0; i < all.size(); i++) {
            for (String address : all.get(i).addresses()) {
                insert = insert.values(address, Words.fold(address), ids.get(i));
            }
        }
        insert.execute();
    }

    private void addPhones(List<IncomingContact> all, List<ContactId> ids) {
        var insert = sql.insertInto(
                CONTACT_PHONE,
                CONTACT_PHONE.CONTACT_ID,
                CONTACT_PHONE.DIGITS,
                CONTACT_PHONE.WRITTEN,
                CONTACT_PHONE.POSITION);
        boolean any = false;
        for (int i = 0; i < all.size(); i++) {
            int position = 0;
            for (String written : all.get(i).phones()) {
                Phone phone = Phone.of(written).orElseThrow();
                insert = insert.values(ids.get(i), phone.digits(), phone.written(), position++);
                any = true;
            }
        }
        if (any) {
            insert.execute();
        }
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

    /** What is written down about a contact. */
    public ContactCard card(ContactId contact) {
        return cards.get(contact);
    }
}
