package rafter.app.house.people;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.COMPANY_DOMAIN;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.PUBLIC_MAIL_DOMAIN;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.Trigrams;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;

/** The companies whose people write to us. */
@Component
public class Companies {

    private static final int LONGEST_NAME = 200;

    private final DSLContext sql;
    private final OwnFields fields;
    private final Audit audit;
    private final ApplicationEventPublisher events;
    private final Guard guard;
    private final BrieflyCached<Set<String>> publicOnes =
            new BrieflyCached<>(Duration.ofSeconds(1), () -> Set.copyOf(publicDomains()));

    /** Within the transaction: a company bought another plan. */
    public record PlanChanged(CompanyId company, String before, String after) {}

    /** Within the transaction: contacts who belonged to no company belong to one now. */
    public record Joined(CompanyId company, String plan, List<ContactId> contacts) {}

    Companies(DSLContext sql, OwnFields fields, Audit audit, ApplicationEventPublisher events, Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.fields = fields;
        this.audit = audit;
        this.events = events;
    }

    /** All companies, by name. */
    public List<Company> all() {
        var domains = sql.selectFrom(COMPANY_DOMAIN)
                .orderBy(COMPANY_DOMAIN.DOMAIN)
                .fetchGroups(COMPANY_DOMAIN.COMPANY_ID, COMPANY_DOMAIN.DOMAIN);
        return sql.selectFrom(COMPANY)
                .orderBy(COMPANY.NAME)
                .fetch(r -> company(r, domains.getOrDefault(r.getId(), List.of())));
    }

    public Optional<Company> find(CompanyId id) {
        return all().stream().filter(company -> company.id().equals(id)).findFirst();
    }

    private static Company company(Record r, List<String> domains) {
        return new Company(
                r.get(COMPANY.ID),
                r.get(COMPANY.NAME),
                r.get(COMPANY.PLAN),
                domains,
                OwnFields.read(r.get(COMPANY.OWN)),
                r.get(COMPANY.VERSION));
    }

    /**
     * Adds a company, or changes the one with this id; contacts of its domains who belong to none become its own.
     *
     * @param domains mail domains, separated by blanks or commas
     * @param own what was typed into its own fields, by their keys
     * @throws Problem.Invalid when the name is missing, a domain is wrong, public or another company's, or a field cannot hold what was typed
     */
    @Transactional
    public CompanyId save(
            Optional<CompanyId> id, String name, String plan, String domains, Map<String, String> own, PersonId by) {
        return save(id, name, plan, domains, own, OptionalInt.empty(), by);
    }

    /**
     * Adds a company or changes one, provided that nobody changed it since.
     *
     * @param seen the version that was seen; empty: whatever it is
     * @throws Problem.Stale when somebody did
     */
    @Transactional
    public CompanyId save(
            Optional<CompanyId> id,
            String name,
            String plan,
            String domains,
            Map<String, String> own,
            OptionalInt seen,
            PersonId by) {
        guard.houseRules(by);
        Optional<Company> was = id.flatMap(this::find);
        insist(id, was, name, seen);
        String before = was.map(Company::plan).orElse("");
        CompanyId company = id.map(known -> change(known, name, plan)).orElseGet(() -> add(name, plan));
        fill(
                company,
                fields.filled(
                        OwnField.Bearer.COMPANY, own, was.map(Company::own).orElse(Map.of())));
        if (id.isPresent() && !before.equals(plan)) {
            events.publishEvent(new PlanChanged(company, before, plan));
        }
        sql.deleteFrom(COMPANY_DOMAIN)
                .where(COMPANY_DOMAIN.COMPANY_ID.eq(company))
                .execute();
        for (String domain : split(domains)) {
            own(company, plan, domain);
        }
        if (!by.none()) {
            audit.note(by, id.isPresent() ? "changed company" : "added company", name);
        }
        return company;
    }

    private static void insist(Optional<CompanyId> id, Optional<Company> was, String name, OptionalInt seen) {
        if (id.isPresent()
                && seen.isPresent()
                && was.filter(c -> c.version() == seen.getAsInt()).isEmpty()) {
            throw new Problem.Stale(
                    "Somebody else changed this company meanwhile. What you typed is still here; look at theirs in another window before you save.");
        }
        if (name.length() > LONGEST_NAME) {
            throw new Problem.Invalid("A company’s name has at most " + LONGEST_NAME + " letters.");
        }
        if (name.isBlank()) {
            throw new Problem.Invalid("The company needs a name.");
        }
        if (id.isPresent() && was.isEmpty()) {
            throw new Problem.NotFound("There is no such company any more.");
        }
    }

    private void fill(CompanyId company, Map<String, String> own) {
        sql.update(COMPANY)
                .set(COMPANY.OWN, OwnFields.written(own))
                .set(COMPANY.OWN_FOLDED, OwnFields.folded(own))
                .where(COMPANY.ID.eq(company))
                .execute();
    }

    /** Who of us looks after a company; nothing when nobody in particular does. */
    public Optional<PersonId> agent(CompanyId company) {
        return sql.select(COMPANY.OWNER_ID)
                .from(COMPANY)
                .where(COMPANY.ID.eq(company))
                .fetchOptional(COMPANY.OWNER_ID);
    }

    /** Who of us looks after the company of a contact. */
    public Optional<PersonId> agentOf(ContactId contact) {
        return sql.select(COMPANY.OWNER_ID)
                .from(CONTACT)
                .join(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(contact))
                .fetchOptional(COMPANY.OWNER_ID);
    }

    /** Saves a company, and who of us looks after it; nothing: nobody in particular. */
    @Transactional
    public CompanyId saveLookedAfter(
            Optional<PersonId> agent,
            Optional<CompanyId> id,
            String name,
            String plan,
            String domains,
            Map<String, String> own,
            OptionalInt seen,
            PersonId by) {
        CompanyId company = save(id, name, plan, domains, own, seen, by);
        lookedAfter(company, agent, by);
        return company;
    }

    /** Says who of us looks after a company from now on; nothing: nobody in particular. */
    @Transactional
    public void lookedAfter(CompanyId company, Optional<PersonId> agent, PersonId by) {
        guard.houseRules(by);
        if (!agent(company).equals(agent)) {
            sql.update(COMPANY)
                    .set(COMPANY.OWNER_ID, agent.orElse(null))
                    .where(COMPANY.ID.eq(company))
                    .execute();
            audit.note(by, "changed who looks after a company", company.toString());
        }
    }

    /** Whether anybody can have an address at this domain; a change of another node's is seen within a second. */
    public boolean isPublic(String domain) {
        return publicOnes.get().contains(domain);
    }

    /**
     * The companies of addresses whose domain, or a parent of it, is theirs; never one for a public mail domain. Addresses of no company
     * are left out.
     */
    Map<String, CompanyId> ofAddresses(Collection<String> addresses) {
        Map<String, List<String>> domains =
                addresses.stream().distinct().collect(Collectors.toMap(address -> address, this::domains));
        Set<String> wanted = domains.values().stream().flatMap(List::stream).collect(Collectors.toSet());
        if (wanted.isEmpty()) {
            return Map.of();
        }
        Map<String, CompanyId> known = sql.select(COMPANY_DOMAIN.DOMAIN, COMPANY_DOMAIN.COMPANY_ID)
                .from(COMPANY_DOMAIN)
                .where(COMPANY_DOMAIN.DOMAIN.eq(DSL.any(wanted.toArray(String[]::new))))
                .fetchMap(COMPANY_DOMAIN.DOMAIN, COMPANY_DOMAIN.COMPANY_ID);
        var found = new HashMap<String, CompanyId>();
        domains.forEach((address, own) -> own.stream()
                .filter(known::containsKey)
                .findFirst()
                .ifPresent(domain -> found.put(address, known.get(domain))));
        return found;
    }

    /** The domain of an address and those above it, up to one where anybody can have an address. */
    private List<String> domains(String address) {
        var domains = new ArrayList<String>();
        String domain = address.substring(address.lastIndexOf('@') + 1);
        while (domain.contains(".") && !isPublic(domain)) {
            domains.add(domain);
            domain = domain.substring(domain.indexOf('.') + 1);
        }
        return domains;
    }

    /** The domains where anybody can have an address, in order; they never tell a company. */
    public List<String> publicDomains() {
        return sql.select(PUBLIC_MAIL_DOMAIN.DOMAIN)
                .from(PUBLIC_MAIL_DOMAIN)
                .orderBy(PUBLIC_MAIL_DOMAIN.DOMAIN)
                .fetch(PUBLIC_MAIL_DOMAIN.DOMAIN);
    }

    /**
     * Says which domains are public.
     *
     * @param domains separated by blanks, commas or lines
     * @throws Problem.Invalid when one is no domain, or a company's
     */
    @Transactional
    public void savePublicDomains(String domains, PersonId by) {
        guard.houseRules(by);
        Set<String> all = split(domains);
        for (String domain : all) {
            if (!domain.matches("[a-z0-9.-]+\\.[a-z0-9-]+")) {
                throw new Problem.Invalid("“" + domain + "” is not a mail domain. Nothing was saved.");
            }
            if (sql.fetchExists(COMPANY_DOMAIN, COMPANY_DOMAIN.DOMAIN.eq(domain))) {
                throw new Problem.Invalid(domain + " belongs to a company, so it cannot be public. Nothing was saved.");
            }
        }
        sql.deleteFrom(PUBLIC_MAIL_DOMAIN).execute();
        all.forEach(domain -> sql.insertInto(PUBLIC_MAIL_DOMAIN).values(domain).execute());
        publicOnes.forget();
        audit.note(by, "changed public mail domains", Integer.toString(all.size()));
    }

    private static Set<String> split(String domains) {
        var all = new TreeSet<>(List.of(domains.toLowerCase(Locale.ROOT).strip().split("[\\s,;]+")));
        all.remove("");
        return all;
    }

    private void own(CompanyId company, String plan, String domain) {
        if (!domain.matches("[a-z0-9.-]+\\.[a-z0-9-]+")) {
            throw new Problem.Invalid("“" + domain + "” is not a mail domain. Write it like brightwater.example.");
        }
        if (sql.fetchExists(PUBLIC_MAIL_DOMAIN, PUBLIC_MAIL_DOMAIN.DOMAIN.eq(domain))) {
            throw new Problem.Invalid("Anybody can have an address at " + domain + ", so it cannot tell a company.");
        }
        int added = sql.insertInto(COMPANY_DOMAIN)
                .set(COMPANY_DOMAIN.DOMAIN, domain)
                .set(COMPANY_DOMAIN.COMPANY_ID, company)
                .onConflictDoNothing()
                .execute();
        if (added == 0) {
            throw new Problem.Invalid(domain + " belongs to another company already.");
        }
        List<ContactId> joined = sql.update(CONTACT)
                .set(CONTACT.COMPANY_ID, company)
                .where(CONTACT.COMPANY_ID.isNull())
                .and(CONTACT.ID.in(sql.select(CONTACT_ADDRESS.CONTACT_ID)
                        .from(CONTACT_ADDRESS)
                        .where(Trigrams.of(CONTACT_ADDRESS.ADDRESS).endsWith("@" + domain))))
                .returning(CONTACT.ID)
                .fetch(CONTACT.ID);
        if (!joined.isEmpty()) {
            events.publishEvent(new Joined(company, plan, joined));
        }
    }

    private CompanyId add(String name, String plan) {
        return sql.insertInto(COMPANY)
                .set(COMPANY.NAME, name.strip())
                .set(COMPANY.PLAN, plan)
                .returning(COMPANY.ID)
                .fetchSingle(COMPANY.ID);
    }

    private CompanyId change(CompanyId id, String name, String plan) {
        sql.update(COMPANY)
                .set(COMPANY.NAME, name.strip())
                .set(COMPANY.PLAN, plan)
                .set(COMPANY.VERSION, COMPANY.VERSION.plus(1))
                .where(COMPANY.ID.eq(id))
                .execute();
        return id;
    }
}
