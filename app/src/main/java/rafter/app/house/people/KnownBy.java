package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_HANDLE;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.text.Phone;
import rafter.core.text.Words;
import rafter.database.tables.records.ContactHandleRecord;

/** Contacts known by their telephone, or by their name on a network; never by what they call themselves. */
@Component
public class KnownBy {

    private static final int MOST = 10;

    private static final int LONGEST_NAME = 200;
    private static final int LONGEST_ABOUT = 500;

    /**
     * Who writes on a network.
     *
     * @param handle their name there, which is theirs alone
     * @param name what they call themselves
     * @param about what they say of themselves
     * @param followers how many people read them
     * @param contact nobody yet while they have no ticket
     */
    public record Author(
            long provider, String handle, String name, String about, int followers, Optional<ContactId> contact) {}

    private final DSLContext sql;
    private final Contacts contacts;
    private final FieldInputs inputs;

    KnownBy(DSLContext sql, Contacts contacts, FieldInputs inputs) {
        this.sql = sql;
        this.contacts = contacts;
        this.inputs = inputs;
    }

    /** Those who are known by what somebody typed: a mail address, a telephone, or a name on a network. */
    public List<ContactId> said(String typed) {
        String bare = typed.strip();
        if (bare.startsWith("@")) {
            return sql.select(CONTACT_HANDLE.CONTACT_ID)
                    .from(CONTACT_HANDLE)
                    .where(DSL.lower(CONTACT_HANDLE.HANDLE).eq(bare.toLowerCase(Locale.ROOT)))
                    .and(CONTACT_HANDLE.CONTACT_ID.isNotNull())
                    .fetch(CONTACT_HANDLE.CONTACT_ID);
        }
        return bare.contains("@")
                ? contacts.find(bare).map(Contact::id).stream().toList()
                : ofNumber(bare).stream().map(Contact::id).toList();
    }

    // ------------------------------------------------------------------ telephones

    /** Those who have a number, a few; nobody where it is hidden or too short to tell. */
    public List<Contact> ofNumber(String number) {
        Optional<String> asked = Phone.asked(number).filter(digits -> digits.length() >= ContactLines.END);
        if (asked.isEmpty()) {
            return List.of();
        }
        String digits = asked.get();
        return sql
                .select(CONTACT_PHONE.CONTACT_ID, CONTACT_PHONE.DIGITS)
                .from(CONTACT_PHONE)
                .where(ContactLines.end().eq(ContactLines.end(digits)))
                .orderBy(CONTACT_PHONE.CONTACT_ID)
                .fetch()
                .stream()
                .filter(row -> same(row.value2(), digits))
                .map(row -> row.value1())
                .distinct()
                .limit(MOST)
                .map(contacts::get)
                .toList();
    }

    /** Two numbers are one when the longer one only says besides where it is. */
    private static boolean same(String one, String other) {
        String bare = one.replaceFirst("^0+", "");
        return bare.endsWith(other) || other.endsWith(bare);
    }

    /** Writes a number down of a contact who has it not yet. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void addNumber(ContactId contact, String number) {
        Phone.of(number)
                .ifPresent(phone -> sql.insertInto(CONTACT_PHONE)
                        .set(CONTACT_PHONE.CONTACT_ID, contact)
                        .set(CONTACT_PHONE.DIGITS, phone.digits())
                        .set(CONTACT_PHONE.WRITTEN, phone.written())
                        .set(
                                CONTACT_PHONE.POSITION,
                                DSL.select(DSL.coalesce(DSL.max(CONTACT_PHONE.POSITION), DSL.inline(-1))
                                                .plus(1))
                                        .from(CONTACT_PHONE)
                                        .where(CONTACT_PHONE.CONTACT_ID.eq(contact))
                                        .asField())
                        .onConflictDoNothing()
                        .execute());
    }

    /** The numbers of a contact, as they were written. */
    public List<String> numbers(ContactId contact) {
        return sql.select(CONTACT_PHONE.WRITTEN)
                .from(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(contact))
                .orderBy(CONTACT_PHONE.POSITION)
                .fetch(CONTACT_PHONE.WRITTEN);
    }

    /**
     * Makes a contact of whom no mail address is known.
     *
     * @throws Problem.Invalid when they have no name
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Contact make(String name, Optional<CompanyId> company, Instant now) {
        String bare = name.strip();
        if (bare.isEmpty() || bare.length() > LONGEST_NAME) {
            throw new Problem.Invalid("Write who it is, in at most " + LONGEST_NAME
                    + " letters. Nothing was saved; what you typed is still here.");
        }
        var begins = inputs.presets(OwnField.Bearer.CONTACT);
        ContactId id = sql.insertInto(CONTACT)
                .set(CONTACT.NAME, bare)
                .set(CONTACT.NAME_WORDS, Words.of(bare).stored())
                .set(CONTACT.COMPANY_ID, company.orElse(null))
                .set(CONTACT.OWN, OwnFields.written(begins))
                .set(CONTACT.OWN_FOLDED, OwnFields.folded(begins))
                .set(CONTACT.CREATED_AT, now)
                .returning(CONTACT.ID)
                .fetchSingle(CONTACT.ID);
        return contacts.get(id);
    }

    // ------------------------------------------------------------------ networks

    private static Author author(ContactHandleRecord r) {
        return new Author(
                r.getProviderId(),
                r.getHandle(),
                r.getName(),
                r.getAbout(),
                r.getFollowers(),
                Optional.ofNullable(r.getContactId()));
    }

    /** Who writes on a network under a name, as far as we have met them. */
    public Optional<Author> author(long provider, String handle) {
        return sql.selectFrom(CONTACT_HANDLE)
                .where(CONTACT_HANDLE.PROVIDER_ID.eq(provider))
                .and(CONTACT_HANDLE.HANDLE.eq(handle))
                .fetchOptional(KnownBy::author);
    }

    /** Under which names a contact writes on networks. */
    public List<Author> names(ContactId contact) {
        return sql.selectFrom(CONTACT_HANDLE)
                .where(CONTACT_HANDLE.CONTACT_ID.eq(contact))
                .orderBy(CONTACT_HANDLE.HANDLE)
                .fetch(KnownBy::author);
    }

    /** Somebody wrote on a network; nobody becomes a contact by that alone. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void seen(long provider, String handle, String name, String about, int followers, Instant now) {
        String calls = cut(name.isBlank() ? handle : name.strip(), LONGEST_NAME);
        sql.insertInto(CONTACT_HANDLE)
                .set(CONTACT_HANDLE.PROVIDER_ID, provider)
                .set(CONTACT_HANDLE.HANDLE, handle)
                .set(CONTACT_HANDLE.NAME, calls)
                .set(CONTACT_HANDLE.ABOUT, cut(about, LONGEST_ABOUT))
                .set(CONTACT_HANDLE.FOLLOWERS, followers)
                .set(CONTACT_HANDLE.SEEN_AT, now)
                .onConflict(CONTACT_HANDLE.PROVIDER_ID, CONTACT_HANDLE.HANDLE)
                .doUpdate()
                .set(CONTACT_HANDLE.NAME, calls)
                .set(CONTACT_HANDLE.ABOUT, cut(about, LONGEST_ABOUT))
                .set(CONTACT_HANDLE.FOLLOWERS, followers)
                .set(CONTACT_HANDLE.SEEN_AT, now)
                .execute();
    }

    /**
     * The contact who writes on a network under a name; made when there is none yet. What they call themselves makes them nobody else, however much
     * it is like somebody’s name.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Contact ofHandle(long provider, String handle, Instant now) {
        ContactHandleRecord row = sql.selectFrom(CONTACT_HANDLE)
                .where(CONTACT_HANDLE.PROVIDER_ID.eq(provider))
                .and(CONTACT_HANDLE.HANDLE.eq(handle))
                .forUpdate()
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("Nobody is known by " + handle + "."));
        if (row.getContactId() == null) {
            row.setContactId(make(row.getName(), Optional.empty(), now).id());
            row.store(CONTACT_HANDLE.CONTACT_ID);
        }
        return contacts.get(row.getContactId());
    }

    private static String cut(String text, int most) {
        return text.codePointCount(0, text.length()) <= most
                ? text
                : text.substring(0, text.offsetByCodePoints(0, most));
    }
}
