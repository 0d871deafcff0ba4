package rafter.app.tickets.rules;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.RULE_RUN;
import static rafter.database.Tables.TICKET;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.people.Companies;
import rafter.app.platform.Writes;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.PersonId;
import rafter.core.rule.Deed;
import rafter.core.rule.Rule;
import rafter.core.ticket.TicketEvent;

/** Finds the person to whom a rule hands a ticket that names none. */
@Component
class Choosing {

    private final DSLContext sql;
    private final Writes writes;
    private final Persons persons;
    private final Companies companies;
    private final RuleLog log;

    Choosing(DSLContext sql, Writes writes, Persons persons, Companies companies, RuleLog log) {
        this.companies = companies;
        this.writes = writes;
        this.sql = sql;
        this.persons = persons;
        this.log = log;
    }

    /**
     * The person.
     *
     * @param team among whom, where it is somebody of a team
     */
    Optional<PersonId> person(Deed.By by, Optional<Team> team, TicketStore.Held held, Rule rule) {
        return switch (by) {
            case PREVIOUS -> previous(held);
            case AGENT -> agent(held);
            case COMPANY -> ofCompany(held);
            case ROTATION -> team.flatMap(one -> nextInTurn(one, rule));
            case LEAST -> team.flatMap(this::leastLoaded);
        };
    }

    private Optional<PersonId> previous(TicketStore.Held held) {
        return held.events().reversed().stream()
                .filter(TicketEvent.OwnerChanged.class::isInstance)
                .map(event -> ((TicketEvent.OwnerChanged) event).owner())
                .flatMap(Optional::stream)
                .filter(person -> !held.ticket().owner().equals(Optional.of(person)))
                .filter(this::works)
                .findFirst();
    }

    private boolean works(PersonId person) {
        return persons.find(person).filter(Person::active).isPresent();
    }

    /** Who last answered this customer, on whatever ticket. */
    private Optional<PersonId> agent(TicketStore.Held held) {
        return sql
                .select(MESSAGE.PERSON_ID)
                .from(TICKET)
                .join(MESSAGE)
                .on(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .where(TICKET.CONTACT_ID.eq(held.ticket().contact()))
                .and(MESSAGE.KIND.eq("PUBLIC"))
                .and(MESSAGE.PERSON_ID.isNotNull())
                .orderBy(MESSAGE.AT.desc())
                .limit(20)
                .fetch(MESSAGE.PERSON_ID)
                .stream()
                .filter(this::works)
                .findFirst();
    }

    /** Who looks after the company of the customer. */
    private Optional<PersonId> ofCompany(TicketStore.Held held) {
        return companies.agentOf(held.ticket().contact()).filter(this::works);
    }

    private List<PersonId> members(Team team) {
        return persons.membersOf(team.id()).stream()
                .filter(this::works)
                .sorted(Comparator.naturalOrder())
                .toList();
    }

    private Optional<PersonId> nextInTurn(Team team, Rule rule) {
        List<PersonId> members = members(team);
        Optional<PersonId> last = log.lastHanded(rule.id());
        return members.stream()
                .filter(person -> last.isEmpty() || person.compareTo(last.get()) > 0)
                .findFirst()
                .or(() -> members.stream().findFirst());
    }

    private Optional<PersonId> leastLoaded(Team team) {
        // What was handed out in the same transaction counts.
        writes.settle(List.of(RULE_RUN));
        List<PersonId> members = members(team);
        Map<PersonId, Integer> load = new HashMap<>(sql.select(TICKET.OWNER_ID, DSL.count())
                .from(TICKET)
                .where(TICKET.OWNER_ID.in(members))
                .and(TICKET.OPEN)
                .and(TICKET.DISCARDED.isFalse())
                .groupBy(TICKET.OWNER_ID)
                .fetchMap(TICKET.OWNER_ID, DSL.count()));
        return members.stream().min(Comparator.comparingInt(person -> load.getOrDefault(person, 0)));
    }
}
