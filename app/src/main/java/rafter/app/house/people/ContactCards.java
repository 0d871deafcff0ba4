package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_HANDLE;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.ZoneId;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Query;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.text.Phone;
import rafter.core.text.Words;
import rafter.database.tables.records.ContactRecord;

/** What is written down about contacts, and what people change of it. */
@Component
public class ContactCards {

    private static final int LONGEST_NAME = 200;
    private static final int MOST_LINES = 20;
    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";

    /** Within the transaction: a contact belongs to another company now, or to none. */
    public record Moved(ContactId contact, Optional<Company> before, Optional<Company> after) {}

    private final DSLContext sql;
    private final Companies companies;
    private final OwnFields fields;
    private final Audit audit;
    private final ApplicationEventPublisher events;
    private final Guard guard;

    ContactCards(
            DSLContext sql,
            Companies companies,
            OwnFields fields,
            Audit audit,
            ApplicationEventPublisher events,
            Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.companies = companies;
        this.fields = fields;
        this.audit = audit;
        this.events = events;
    }

    /**
     * What is written down about a contact.
     *
     * @throws Problem.NotFound when there is none of this id
     */
    @Transactional(readOnly = true)
    public ContactCard get(ContactId id) {
        var row = sql.selectFrom(CONTACT)
                .where(CONTACT.ID.eq(id))
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("There is no such contact."));
        List<String> addresses = sql.select(CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(id))
                .orderBy(CONTACT_ADDRESS.ADDRESS)
                .fetch(CONTACT_ADDRESS.ADDRESS);
        List<String> phones = sql.select(CONTACT_PHONE.WRITTEN)
                .from(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(id))
                .orderBy(CONTACT_PHONE.POSITION)
                .fetch(CONTACT_PHONE.WRITTEN);
        return card(row, addresses, phones);
    }

    static ContactCard card(ContactRecord row, List<String> addresses, List<String> phones) {
        return new ContactCard(
                row.getId(),
                row.getName(),
                Optional.ofNullable(row.getCompanyId()),
                addresses,
                phones,
                row.getLanguage(),
                row.getZone(),
                OwnFields.read(row.getOwn()),
                row.getVersion());
    }

    /**
     * A contact has room for so many lines.
     *
     * @throws Problem.Invalid when these are more
     */
    static void insistOnRoom(Collection<String> addresses, Collection<?> phones) {
        if (addresses.size() > MOST_LINES) {
            throw new Problem.Invalid("A contact has at most " + MOST_LINES + " mail addresses." + KEPT);
        }
        if (phones.size() > MOST_LINES) {
            throw new Problem.Invalid("A contact has at most " + MOST_LINES + " telephone numbers." + KEPT);
        }
    }

    /**
     * Writes down what somebody typed about a contact.
     *
     * @param typed as it was typed; its version is the one that was seen
     * @throws Problem.Invalid when something of it cannot be; nothing is saved then
     * @throws Problem.Stale when somebody else changed it meanwhile
     */
    @Transactional
    public void save(ContactCard typed, PersonId by) {
        guard.work(by);
        ContactCard was = get(typed.id());
        String name = typed.name().strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw new Problem.Invalid("A contact has a name of at most " + LONGEST_NAME + " letters." + KEPT);
        }
        if (!Languages.known(typed.language())) {
            throw new Problem.Invalid("Choose one of the languages, or none." + KEPT);
        }
        if (!typed.zone().isEmpty() && !ZoneId.getAvailableZoneIds().contains(typed.zone())) {
            throw new Problem.Invalid("“" + typed.zone() + "” is not a time zone. Write it like Europe/Oslo." + KEPT);
        }
        Optional<Company> company = typed.company()
                .map(id -> companies.find(id).orElseThrow(() -> new Problem.Invalid("That company is gone." + KEPT)));
        Map<String, String> own = fields.filled(OwnField.Bearer.CONTACT, typed.own(), was.own());
        int changed = update(sql, typed, own).execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody else changed this contact meanwhile. What you typed is still here; look at theirs in another window before you save.");
        }
        saveAddresses(typed);
        savePhones(typed);
        if (!was.company().equals(typed.company())) {
            events.publishEvent(new Moved(typed.id(), was.company().flatMap(companies::find), company));
        }
        audit.note(by, "changed contact", name);
    }

    /** Writes down a contact that is still in the state it was seen in, without its addresses and telephone numbers. */
    static Query update(DSLContext sql, ContactCard card, Map<String, String> own) {
        String name = card.name().strip();
        return sql.update(CONTACT)
                .set(CONTACT.NAME, name)
                .set(CONTACT.NAME_WORDS, Words.of(name).stored())
                .set(CONTACT.COMPANY_ID, card.company().orElse(null))
                .set(CONTACT.LANGUAGE, card.language())
                .set(CONTACT.ZONE, card.zone())
                .set(CONTACT.OWN, OwnFields.written(own))
                .set(CONTACT.OWN_FOLDED, OwnFields.folded(own))
                .set(CONTACT.VERSION, CONTACT.VERSION.plus(1))
                .where(CONTACT.ID.eq(card.id()))
                .and(CONTACT.VERSION.eq(card.version()));
    }

    private void saveAddresses(ContactCard typed) {
        List<String> addresses = typed.addresses().stream()
                .map(Contacts::normal)
                .filter(a -> !a.isEmpty())
                .distinct()
                .toList();
        boolean known = !addresses.isEmpty()
                || typed.phones().stream().anyMatch(phone -> !phone.isBlank())
                || sql.fetchExists(CONTACT_HANDLE, CONTACT_HANDLE.CONTACT_ID.eq(typed.id()));
        if (!known || addresses.size() > MOST_LINES) {
            throw new Problem.Invalid(
                    "A contact has a mail address, a telephone or a name on a network by which they are recognised, and at most "
                            + MOST_LINES + " mail addresses." + KEPT);
        }
        sql.deleteFrom(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(typed.id()))
                .and(CONTACT_ADDRESS.ADDRESS.notIn(addresses))
                .execute();
        addresses.forEach(address -> saveAddress(typed.id(), address));
    }

    private void saveAddress(ContactId contact, String address) {
        if (!Contacts.isAddress(address)) {
            throw new Problem.Invalid("“" + address + "” is not a mail address." + KEPT);
        }
        sql.insertInto(CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS, CONTACT_ADDRESS.FOLDED, CONTACT_ADDRESS.CONTACT_ID)
                .values(address, Words.fold(address), contact)
                .onConflictDoNothing()
                .execute();
        if (!sql.fetchExists(
                CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS.eq(address), CONTACT_ADDRESS.CONTACT_ID.eq(contact))) {
            throw new Problem.Invalid(address + " belongs to another contact already." + KEPT);
        }
    }

    private void savePhones(ContactCard typed) {
        keepPhones(typed.id(), typed.phones());
    }

    /** Keeps these telephone numbers of a contact and no others, each once. */
    void keepPhones(ContactId contact, List<String> written) {
        var phones = new LinkedHashMap<String, Phone>();
        for (String line : written) {
            Phone phone = Phone.of(line)
                    .orElseThrow(() -> new Problem.Invalid("“" + line
                            + "” is not a telephone number. Write it with digits, such as +47 55 01 02 03." + KEPT));
            phones.putIfAbsent(phone.digits(), phone);
        }
        insistOnRoom(List.of(), phones.values());
        sql.deleteFrom(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(contact))
                .execute();
        int position = 0;
        for (Phone phone : phones.values()) {
            sql.insertInto(
                            CONTACT_PHONE,
                            CONTACT_PHONE.CONTACT_ID,
                            CONTACT_PHONE.DIGITS,
                            CONTACT_PHONE.WRITTEN,
                            CONTACT_PHONE.POSITION)
                    .values(contact, phone.digits(), phone.written(), position++)
                    .execute();
        }
    }
}
