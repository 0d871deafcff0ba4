package rafter.app.house.access;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TEAM_MEMBER;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.text.MailAddress;

/** The people and teams of this workspace. */
@Component
public class Persons {

    private static final int SHORTEST_PASSWORD = 10;

    private final DSLContext sql;
    private final PasswordEncoder passwords;
    private final Sessions sessions;
    private static final int LONGEST_NAME = 200;
    /** What the function that digests them looks at. */
    private static final int LONGEST_PASSWORD_BYTES = 72;

    private final Audit audit;
    private final Everybody everybody;

    Persons(DSLContext sql, PasswordEncoder passwords, Sessions sessions, Audit audit, Everybody everybody) {
        this.everybody = everybody;
        this.sessions = sessions;
        this.sql = sql;
        this.passwords = passwords;
        this.audit = audit;
    }

    /** Everybody, by name. */
    public List<Person> all() {
        return sql.selectFrom(PERSON).orderBy(PERSON.NAME).fetch(Persons::person);
    }

    /** Those who work here now, by name. */
    public List<Person> active() {
        return sql.selectFrom(PERSON).where(PERSON.ACTIVE).orderBy(PERSON.NAME).fetch(Persons::person);
    }

    /** Whether there is anybody at all. */
    public boolean any() {
        return sql.fetchExists(PERSON);
    }

    public Optional<Person> find(PersonId id) {
        return sql.selectFrom(PERSON).where(PERSON.ID.eq(id)).fetchOptional(Persons::person);
    }

    /** A person who may sign in with this address, letter case aside. */
    Optional<Person> signingIn(String address) {
        return sql.selectFrom(PERSON)
                .where(DSL.lower(PERSON.ADDRESS).eq(address.strip().toLowerCase(Locale.ROOT)))
                .and(PERSON.ACTIVE)
                .fetchOptional(Persons::person);
    }

    String passwordHash(PersonId id) {
        return sql.select(PERSON.PASSWORD_HASH)
                .from(PERSON)
                .where(PERSON.ID.eq(id))
                .fetchSingle(PERSON.PASSWORD_HASH);
    }

    /** All teams, by name. */
    public List<Team> teams() {
        return sql.selectFrom(TEAM).orderBy(TEAM.NAME).fetch(r -> new Team(r.get(TEAM.ID), r.get(TEAM.NAME)));
    }

    /** The ids of the teams a person is in. */
    public Set<TeamId> teamsOf(PersonId person) {
        return Set.copyOf(sql.select(TEAM_MEMBER.TEAM_ID)
                .from(TEAM_MEMBER)
                .where(TEAM_MEMBER.PERSON_ID.eq(person))
                .fetch(TEAM_MEMBER.TEAM_ID));
    }

    /** The ids of those in a team who work here. */
    public List<PersonId> membersOf(TeamId team) {
        return sql.select(PERSON.ID)
                .from(TEAM_MEMBER)
                .join(PERSON)
                .on(PERSON.ID.eq(TEAM_MEMBER.PERSON_ID))
                .where(TEAM_MEMBER.TEAM_ID.eq(team))
                .and(PERSON.ACTIVE)
                .orderBy(PERSON.ID)
                .fetch(PERSON.ID);
    }

    /**
     * Adds somebody, or changes them when {@code id} is one of ours.
     *
     * @param password the new password; empty leaves the one there is
     * @throws Problem.Invalid when something is missing, or the address is somebody else's
     */
    @Transactional
    public PersonId save(
            Optional<PersonId> id,
            String name,
            String address,
            Role role,
            boolean active,
            String password,
            Set<TeamId> teams,
            PersonId by) {
        return save(id, name, address, role, active, password, teams, OptionalInt.empty(), by);
    }

    /**
     * Adds a person or changes one, provided that nobody changed them since.
     *
     * @param seen the version that was seen; empty: whatever it is
     * @throws Problem.Stale when somebody did
     */
    @Transactional
    public PersonId save(
            Optional<PersonId> id,
            String name,
            String address,
            Role role,
            boolean active,
            String password,
            Set<TeamId> teams,
            OptionalInt seen,
            PersonId by) {
        check(id, name, address, password);
        insistSeen(id, seen);
        if (id.filter(by::equals).isPresent() && (role != Role.ADMINISTRATOR || !active)) {
            throw new Problem.Invalid(
                    "You cannot take your own administration away. Ask another administrator to do it.");
        }
        insist(by, Right.HOUSE_RULES);
        PersonId person = id.isPresent() ? change(id.get(), name, address, role, active) : add(name, address, role);
        if (id.isPresent() && (!password.isEmpty() || !active)) {
            sessions.end(person);
        }
        setPassword(person, password);
        sql.deleteFrom(TEAM_MEMBER).where(TEAM_MEMBER.PERSON_ID.eq(person)).execute();
        teams.forEach(team -> join(person, team));
        everybody.forget();
        if (!by.none()) {
            audit.note(by, id.isPresent() ? "changed person" : "added person", address + ", " + role.word());
        }
        return person;
    }

    private void insistSeen(Optional<PersonId> id, OptionalInt seen) {
        boolean stale = id.isPresent()
                && seen.isPresent()
                && find(id.get()).filter(p -> p.version() == seen.getAsInt()).isEmpty();
        if (stale) {
            throw new Problem.Stale(
                    "Somebody else changed this person meanwhile. What you typed is still here; look at theirs in another window before you save.");
        }
    }

    /** Sets a password; an empty one stands for the one there is. */
    private void setPassword(PersonId person, String password) {
        if (!password.isEmpty()) {
            sql.update(PERSON)
                    .set(PERSON.PASSWORD_HASH, passwords.encode(password))
                    .where(PERSON.ID.eq(person))
                    .execute();
        }
    }

    private void check(Optional<PersonId> id, String name, String address, String password) {
        if (name.isBlank()) {
            throw new Problem.Invalid("A name is missing.");
        }
        if (name.length() > LONGEST_NAME || address.length() > BoundedSignIn.LONGEST_ADDRESS) {
            throw new Problem.Invalid("A name has at most " + LONGEST_NAME + " letters, an address at most "
                    + BoundedSignIn.LONGEST_ADDRESS + ".");
        }
        if (MailAddress.of(address).filter(MailAddress::writable).isEmpty()) {
            throw new Problem.Invalid("“" + address + "” is not a mail address.");
        }
        if (password.getBytes(StandardCharsets.UTF_8).length > LONGEST_PASSWORD_BYTES) {
            throw new Problem.Invalid(
                    "The password is too long: at most " + LONGEST_PASSWORD_BYTES + " letters, fewer with accents.");
        }
        if (id.isEmpty() && password.isEmpty()) {
            throw new Problem.Invalid("A new person needs a first password.");
        }
        if (!password.isEmpty() && password.length() < SHORTEST_PASSWORD) {
            throw new Problem.Invalid("The password is too short: at least " + SHORTEST_PASSWORD + " characters.");
        }
        boolean taken = sql.fetchExists(sql.selectFrom(PERSON)
                .where(DSL.lower(PERSON.ADDRESS).eq(address.strip().toLowerCase(Locale.ROOT)))
                .and(PERSON.ID.ne(id.orElse(new PersonId(0)))));
        if (taken) {
            throw new Problem.Invalid("Somebody with the address " + address + " is here already.");
        }
    }

    private PersonId add(String name, String address, Role role) {
        return sql.insertInto(PERSON)
                .set(PERSON.NAME, name.strip())
                .set(PERSON.ADDRESS, address.strip())
                .set(PERSON.PASSWORD_HASH, "none")
                .set(PERSON.ROLE, role.name())
                .returning(PERSON.ID)
                .fetchSingle(PERSON.ID);
    }

    private PersonId change(PersonId id, String name, String address, Role role, boolean active) {
        sql.update(PERSON)
                .set(PERSON.NAME, name.strip())
                .set(PERSON.ADDRESS, address.strip())
                .set(PERSON.ROLE, role.name())
                .set(PERSON.ACTIVE, active)
                .set(PERSON.VERSION, PERSON.VERSION.plus(1))
                .where(PERSON.ID.eq(id))
                .execute();
        return id;
    }

    private void join(PersonId person, TeamId team) {
        sql.insertInto(TEAM_MEMBER)
                .set(TEAM_MEMBER.TEAM_ID, team)
                .set(TEAM_MEMBER.PERSON_ID, person)
                .onConflictDoNothing()
                .execute();
    }

    /**
     * Adds a team.
     *
     * @throws Problem.NoRight when whoever adds it may not
     * @throws Problem.Invalid when the name is empty or taken
     */
    @Transactional
    public TeamId addTeam(String name, PersonId by) {
        insist(by, Right.HOUSE_RULES);
        if (name.isBlank()) {
            throw new Problem.Invalid("The team needs a name.");
        }
        if (sql.fetchExists(TEAM, DSL.lower(TEAM.NAME).eq(name.strip().toLowerCase(Locale.ROOT)))) {
            throw new Problem.Invalid("There is a team of this name already.");
        }
        if (!by.none()) {
            audit.note(by, "added team", name);
        }
        everybody.forget();
        return sql.insertInto(TEAM)
                .set(TEAM.NAME, name.strip())
                .returning(TEAM.ID)
                .fetchSingle(TEAM.ID);
    }

    /**
     * Insists that whoever acts has a right.
     *
     * @param by their id; {@link Guard#ITSELF} has every right
     * @throws Problem.NoRight when they lack it, or do not work here any more
     */
    void insist(PersonId by, Right right) {
        if (!by.equals(Guard.ITSELF)) {
            Access.require(
                    find(by).filter(Person::active)
                            .orElseThrow(() -> new Problem.NoRight("You do not work here any more.")),
                    right);
        }
    }

    static Person person(Record r) {
        return new Person(
                r.get(PERSON.ID),
                r.get(PERSON.NAME),
                r.get(PERSON.ADDRESS),
                Role.valueOf(r.get(PERSON.ROLE)),
                r.get(PERSON.ACTIVE),
                r.get(PERSON.VERSION));
    }
}
