package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.UNWANTED_SENDER;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.QuantifiedSelect;
import org.jooq.Record1;
import org.jooq.Record4;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.Writes;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.text.MailAddress;
import rafter.core.text.Words;
import rafter.database.tables.ContactAddress;

/** Recognises who writes to us. */
@Component
public class Contacts {

    private static final ContactAddress ONE = CONTACT_ADDRESS.as("one");
    private static final String STRANGERS = "Unknown senders";

    private final DSLContext sql;
    private final Companies companies;
    private final Writes writes;
    private final Guard guard;
    private final FieldInputs inputs;

    Contacts(DSLContext sql, Companies companies, FieldInputs inputs, Writes writes, Guard guard) {
        this.inputs = inputs;
        this.writes = writes;
        this.guard = guard;
        this.sql = sql;
        this.companies = companies;
    }

    /**
     * What is known of who writes from an address.
     *
     * @param ours whether nobody else makes a contact of it before this transaction ends
     */
    private record Sender(Optional<Contact> contact, boolean unwanted, boolean ours) {}

    /**
     * Looks up the senders of several messages at once, for gathered work that asks for them one by one. The addresses of those whom nobody
     * knows are held in one order, so that two who do this at once do not wait for each other.
     */
    public void foresee(Collection<String> addresses) {
        Set<String> wanted = addresses.stream().map(Contacts::normal).collect(Collectors.toSet());
        var known = new HashMap<>(known(wanted));
        var strangers = new HashSet<>(wanted);
        strangers.removeAll(known.keySet());
        if (!strangers.isEmpty()) {
            hold(strangers);
            known.putAll(known(strangers));
        }
        Set<String> unwanted = sql.select(UNWANTED_SENDER.ADDRESS)
                .from(UNWANTED_SENDER)
                .where(UNWANTED_SENDER.ADDRESS.eq(any(wanted)))
                .fetchSet(UNWANTED_SENDER.ADDRESS);
        var senders = new HashMap<String, Sender>();
        for (String address : wanted) {
            Optional<Contact> contact = one(known.getOrDefault(address, List.of()));
            senders.put(address, new Sender(contact, unwanted.contains(address), strangers.contains(address)));
        }
        writes.foresee(Sender.class, senders);
    }

    /** One array: the statement is the same for any number of them, and the server plans it once. */
    private static QuantifiedSelect<Record1<String>> any(Set<String> addresses) {
        return DSL.any(addresses.toArray(String[]::new));
    }

    /** The rows of contacts by the address by which they are wanted. */
    private Map<String, List<Record4<ContactId, String, CompanyId, String>>> known(Set<String> addresses) {
        return sql.select(CONTACT.ID, CONTACT.NAME, CONTACT.COMPANY_ID, CONTACT_ADDRESS.ADDRESS, ONE.ADDRESS)
                .from(ONE)
                .join(CONTACT)
                .on(CONTACT.ID.eq(ONE.CONTACT_ID))
                .join(CONTACT_ADDRESS)
                .on(CONTACT_ADDRESS.CONTACT_ID.eq(ONE.CONTACT_ID))
                .where(ONE.ADDRESS.eq(any(addresses)))
                .fetchGroups(
                        ONE.ADDRESS,
                        r -> r.into(CONTACT.ID, CONTACT.NAME, CONTACT.COMPANY_ID, CONTACT_ADDRESS.ADDRESS));
    }

    /** Lets nobody else make contacts of these addresses until the transaction ends. */
    private void hold(Set<String> addresses) {
        sql.execute(
                "select pg_advisory_xact_lock(7401, one) from (select distinct hashtext(address) as one from unnest(?) as address order by 1) as each",
                (Object) addresses.toArray(String[]::new));
    }

    /** The contact with this address, if there is one. */
    public Optional<Contact> find(String address) {
        return writes.foreseen(Sender.class, normal(address), Sender.class)
                .map(Sender::contact)
                .orElseGet(() -> look(address));
    }

    private Optional<Contact> look(String address) {
        String normal = normal(address);
        return one(known(Set.of(normal)).getOrDefault(normal, List.of()));
    }

    public Contact get(ContactId id) {
        return one(sql.select(CONTACT.ID, CONTACT.NAME, CONTACT.COMPANY_ID, CONTACT_ADDRESS.ADDRESS)
                        .from(CONTACT)
                        .leftJoin(CONTACT_ADDRESS)
                        .on(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))
                        .where(CONTACT.ID.eq(id))
                        .fetch())
                .orElseThrow(() -> new Problem.NotFound("There is no such contact."));
    }

    /** The one contact of these rows, of which there is one an address. */
    private static Optional<Contact> one(List<Record4<ContactId, String, CompanyId, String>> rows) {
        if (rows.isEmpty()) {
            return Optional.empty();
        }
        var first = rows.getFirst();
        Set<String> addresses = rows.stream()
                .flatMap(row -> Optional.ofNullable(row.value4()).stream())
                .collect(Collectors.toUnmodifiableSet());
        return Optional.of(new Contact(first.value1(), first.value2(), Optional.ofNullable(first.value3()), addresses));
    }

    /**
     * The contact with this address, who is made when new. Several nodes may ask at once for the same one.
     *
     * @param name what the mail calls them; may be empty
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Contact recognise(String address, String name, Instant now) {
        return find(address).orElseGet(() -> add(normal(address), name, now));
    }

    private Contact add(String address, String name, Instant now) {
        boolean ours = writes.foreseen(Sender.class, address, Sender.class)
                .map(Sender::ours)
                .orElse(false);
        if (!ours) {
            hold(Set.of(address));
        }
        Contact contact =
                (ours ? Optional.<Contact>empty() : look(address)).orElseGet(() -> insert(address, name, now));
        writes.foresee(Sender.class, Map.of(address, new Sender(Optional.of(contact), isUnwanted(address), true)));
        return contact;
    }

    private Contact insert(String address, String name, Instant now) {
        Optional<CompanyId> company =
                Optional.ofNullable(companies.ofAddresses(List.of(address)).get(address));
        Map<String, String> begins = inputs.presets(OwnField.Bearer.CONTACT);
        ContactId id = sql.insertInto(CONTACT)
                .set(CONTACT.NAME, name.isBlank() ? address : name.strip())
                .set(
                        CONTACT.NAME_WORDS,
                        Words.of(name.isBlank() ? address : name).stored())
                .set(CONTACT.COMPANY_ID, company.orElse(null))
                .set(CONTACT.OWN, OwnFields.written(begins))
                .set(CONTACT.OWN_FOLDED, OwnFields.folded(begins))
                .set(CONTACT.CREATED_AT, now)
                .returning(CONTACT.ID)
                .fetchSingle(CONTACT.ID);
        sql.insertInto(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.ADDRESS, address)
                .set(CONTACT_ADDRESS.FOLDED, Words.fold(address))
                .set(CONTACT_ADDRESS.CONTACT_ID, id)
                .execute();
        return new Contact(id, name, company, Set.of(address));
    }

    /** The one contact that stands for senders who are to become none; made when first wanted. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Contact strangers(Instant now) {
        sql.execute("select pg_advisory_xact_lock(7412)");
        ContactId id = sql.select(CONTACT.ID)
                .from(CONTACT)
                .where(CONTACT.STRANGER)
                .fetchOptional(CONTACT.ID)
                .orElseGet(() -> sql.insertInto(CONTACT)
                        .set(CONTACT.NAME, STRANGERS)
                        .set(CONTACT.NAME_WORDS, Words.of(STRANGERS).stored())
                        .set(CONTACT.CREATED_AT, now)
                        .set(CONTACT.STRANGER, true)
                        .returning(CONTACT.ID)
                        .fetchSingle(CONTACT.ID));
        return new Contact(id, STRANGERS, Optional.empty(), Set.of());
    }

    /**
     * Adds one more address to a contact.
     *
     * @throws Problem.Invalid when it is no address, or somebody else's
     */
    @Transactional
    public void addAddress(ContactId contact, String address) {
        String normal = normal(address);
        if (!isAddress(normal)) {
            throw new Problem.Invalid("“" + address + "” is not a mail address.");
        }
        int added = sql.insertInto(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.ADDRESS, normal)
                .set(CONTACT_ADDRESS.FOLDED, Words.fold(normal))
                .set(CONTACT_ADDRESS.CONTACT_ID, contact)
                .onConflictDoNothing()
                .execute();
        if (added == 0) {
            throw new Problem.Invalid(address + " belongs to a contact already.");
        }
    }

    /** Lets mail of a contact's addresses be set aside from now on. */
    @Transactional
    public void unwanted(ContactId contact, PersonId by, Instant now) {
        guard.work(by);
        sql.insertInto(UNWANTED_SENDER, UNWANTED_SENDER.ADDRESS, UNWANTED_SENDER.PERSON_ID, UNWANTED_SENDER.AT)
                .select(DSL.select(CONTACT_ADDRESS.ADDRESS, DSL.val(by), DSL.val(now))
                        .from(CONTACT_ADDRESS)
                        .where(CONTACT_ADDRESS.CONTACT_ID.eq(contact)))
                .onConflictDoNothing()
                .execute();
    }

    /** Takes that back. */
    @Transactional
    public void wantedAgain(ContactId contact) {
        sql.deleteFrom(UNWANTED_SENDER)
                .where(UNWANTED_SENDER.ADDRESS.in(DSL.select(CONTACT_ADDRESS.ADDRESS)
                        .from(CONTACT_ADDRESS)
                        .where(CONTACT_ADDRESS.CONTACT_ID.eq(contact))))
                .execute();
    }

    /** Whether mail of this sender is to be set aside. */
    public boolean isUnwanted(String address) {
        return writes.foreseen(Sender.class, normal(address), Sender.class)
                .map(Sender::unwanted)
                .orElseGet(() -> sql.fetchExists(UNWANTED_SENDER, UNWANTED_SENDER.ADDRESS.eq(normal(address))));
    }

    static boolean isAddress(String normal) {
        return MailAddress.of(normal)
                .filter(address -> address.toString().equals(normal))
                .isPresent();
    }

    /** An address as it is kept: without blanks around it, in lower case. */
    public static String normal(String address) {
        return MailAddress.of(address)
                .map(MailAddress::toString)
                .orElseGet(() -> address.strip().toLowerCase(Locale.ROOT));
    }
}
