package rafter.app.people;

import static rafter.database.Tables.COMPANY_DOMAIN;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;

import java.time.Instant;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record4;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Problem;

/** Recognises who writes to us. */
@Component
public class Contacts {

    private final DSLContext sql;
    private final Companies companies;

    Contacts(DSLContext sql, Companies companies) {
        this.sql = sql;
        this.companies = companies;
    }

    /** The contact with this address, if there is one. */
    public Optional<Contact> find(String address) {
        var one = CONTACT_ADDRESS.as("one");
        return sql.select(CONTACT.ID, CONTACT.NAME, CONTACT.COMPANY_ID, DSL.arrayAgg(CONTACT_ADDRESS.ADDRESS))
                .from(one)
                .join(CONTACT).on(CONTACT.ID.eq(one.CONTACT_ID))
                .join(CONTACT_ADDRESS).on(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))
                .where(one.ADDRESS.eq(normal(address)))
                .groupBy(CONTACT.ID)
                .fetchOptional(Contacts::contact);
    }

    public Contact get(long id) {
        return sql.select(CONTACT.ID, CONTACT.NAME, CONTACT.COMPANY_ID, DSL.arrayAgg(CONTACT_ADDRESS.ADDRESS))
                .from(CONTACT)
                .join(CONTACT_ADDRESS).on(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))
                .where(CONTACT.ID.eq(id))
                .groupBy(CONTACT.ID)
                .fetchSingle(Contacts::contact);
    }

    private static Contact contact(Record4<Long, String, Long, String[]> r) {
        return new Contact(r.value1(), r.value2(), Optional.ofNullable(r.value3()), Set.of(r.value4()));
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
        sql.execute("select pg_advisory_xact_lock(7401, hashtext(?))", address);
        Optional<Contact> meanwhile = find(address);
        if (meanwhile.isPresent()) {
            return meanwhile.get();
        }
        Optional<Long> company = companyOf(address);
        long id = sql.insertInto(CONTACT)
                .set(CONTACT.NAME, name.isBlank() ? address : name.strip())
                .set(CONTACT.COMPANY_ID, company.orElse(null))
                .set(CONTACT.CREATED_AT, now)
                .returning(CONTACT.ID)
                .fetchSingle(CONTACT.ID);
        sql.insertInto(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.ADDRESS, address)
                .set(CONTACT_ADDRESS.CONTACT_ID, id)
                .execute();
        return new Contact(id, name, company, Set.of(address));
    }

    /** The company whose domain, or a parent of it, the address has; never one for a public mail domain. */
    private Optional<Long> companyOf(String address) {
        String domain = address.substring(address.lastIndexOf('@') + 1);
        while (domain.contains(".")) {
            if (companies.isPublic(domain)) {
                return Optional.empty();
            }
            Optional<Long> found = sql.select(COMPANY_DOMAIN.COMPANY_ID)
                    .from(COMPANY_DOMAIN)
                    .where(COMPANY_DOMAIN.DOMAIN.eq(domain))
                    .fetchOptional(COMPANY_DOMAIN.COMPANY_ID);
            if (found.isPresent()) {
                return found;
            }
            domain = domain.substring(domain.indexOf('.') + 1);
        }
        return Optional.empty();
    }

    /**
     * Adds one more address to a contact.
     *
     * @throws Problem.Invalid when it is no address, or somebody else's
     */
    @Transactional
    public void addAddress(long contact, String address) {
        String normal = normal(address);
        if (!normal.matches("[^@\\s]+@[^@\\s]+")) {
            throw new Problem.Invalid("“" + address + "” is not a mail address.");
        }
        int added = sql.insertInto(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.ADDRESS, normal)
                .set(CONTACT_ADDRESS.CONTACT_ID, contact)
                .onConflictDoNothing()
                .execute();
        if (added == 0) {
            throw new Problem.Invalid(address + " belongs to a contact already.");
        }
    }


    /** An address as it is kept: without blanks around it, in lower case. */
    public static String normal(String address) {
        return address.strip().toLowerCase(Locale.ROOT);
    }
}
