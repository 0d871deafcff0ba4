package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What we do to tickets. Each method is one transaction, or a part of the caller's. */
@Component
public class Tickets {

    private final DSLContext sql;
    private final TicketStore store;
    private final Persons persons;
    private final Workspaces workspaces;
    private final Targets targets;
    private final Notices notices;
    private final OwnFields fields;
    private final Clock clock;

    Tickets(
            DSLContext sql, TicketStore store, Persons persons, Workspaces workspaces, Targets targets, Notices notices, OwnFields fields,
            Clock clock) {
        this.fields = fields;
        this.sql = sql;
        this.notices = notices;
        this.targets = targets;
        this.store = store;
        this.persons = persons;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    /** Holds a ticket that somebody is about to change. */
    private TicketStore.Held change(long number, Person by) {
        Access.require(by, Right.WORK);
        TicketStore.Held held = store.hold(number);
        Ends.mayChange(number, held.ticket());
        return held;
    }

    /** Makes a ticket the person's own. */
    @Transactional
    public void take(long number, Optional<String> was, Person by) {
        changeOwner(number, OptionalLong.of(by.id()), was, by);
    }

    /**
     * Gives a ticket to a person, or leaves it to its team when there is none.
     *
     * @param was whose it was when the person chose; a blank for nobody
     * @throws Problem.Stale when it is somebody else's meanwhile
     * @throws Problem.NoRight when it is a colleague's and the person is no lead
     */
    @Transactional
    public void changeOwner(long number, OptionalLong owner, Optional<String> was, Person by) {
        TicketStore.Held held = change(number, by);
        OptionalLong now = held.ticket().owner();
        was.ifPresent(then -> expect(then, text(now), () -> now.isPresent()
                ? name(now.getAsLong()) + " owns ticket " + number + " now. Nothing was changed; look again and choose."
                : "Nobody owns ticket " + number + " now. Nothing was changed; look again and choose."));
        boolean colleagues = now.isPresent() && now.getAsLong() != by.id();
        boolean taking = owner.isPresent() && owner.getAsLong() == by.id();
        if (colleagues && !taking && !gave(held, by)) {
            Access.require(by, Right.HAND_OVER_ANY);
        }
        if (owner.isPresent() && persons.find(owner.getAsLong()).filter(Person::active).isEmpty()) {
            throw new Problem.Invalid("That person does not work here any more.");
        }
        if (!owner.equals(now)) {
            act(held, new TicketEvent.OwnerChanged(clock.instant(), new Actor.Person(by.id()), owner));
            if (owner.isPresent() && !taking) {
                notices.tell(owner.getAsLong(), number, Notices.Kind.ASSIGNED, by.name() + " handed you " + number + ": " + held.ticket().subject());
            }
        }
    }

    /** Whether it was this person who made the ticket its owner's; they may take that back. */
    private static boolean gave(TicketStore.Held held, Person by) {
        return held.events().reversed().stream()
                .filter(TicketEvent.OwnerChanged.class::isInstance)
                .findFirst()
                .filter(event -> event.actor().equals(new Actor.Person(by.id())))
                .isPresent();
    }

    /**
     * Takes back that a ticket was handed to a team: the team and the owner that it had before are its again.
     *
     * @throws Problem.Stale when it was handed on meanwhile
     */
    @Transactional
    public void takeBackFromTeam(long number, long team, OptionalLong teamBefore, OptionalLong ownerBefore, Person by) {
        TicketStore.Held held = change(number, by);
        if (!held.ticket().team().equals(OptionalLong.of(team)) || held.ticket().owner().isPresent()) {
            throw new Problem.Stale("Ticket " + number + " was handed on meanwhile. Nothing was changed.");
        }
        var who = new Actor.Person(by.id());
        Instant now = clock.instant();
        var events = new ArrayList<TicketEvent>();
        if (!teamBefore.equals(held.ticket().team())) {
            events.add(new TicketEvent.TeamChanged(now, who, teamBefore));
        }
        if (ownerBefore.isPresent() && persons.find(ownerBefore.getAsLong()).filter(Person::active).isPresent()) {
            events.add(new TicketEvent.OwnerChanged(now, who, ownerBefore));
        }
        store.append(held, events, now);
    }

    /** Hands a ticket to a team; nobody owns it then until somebody of the team takes it. */
    @Transactional
    public void handToTeam(long number, long team, Person by) {
        TicketStore.Held held = change(number, by);
        if (held.ticket().owner().isPresent() && held.ticket().owner().getAsLong() != by.id()) {
            Access.require(by, Right.HAND_OVER_ANY);
        }
        if (persons.teams().stream().noneMatch(t -> t.id() == team)) {
            throw new Problem.Invalid("There is no such team any more.");
        }
        var who = new Actor.Person(by.id());
        Instant now = clock.instant();
        var events = new ArrayList<TicketEvent>();
        if (!held.ticket().team().equals(OptionalLong.of(team))) {
            events.add(new TicketEvent.TeamChanged(now, who, OptionalLong.of(team)));
        }
        if (held.ticket().owner().isPresent()) {
            events.add(new TicketEvent.OwnerChanged(now, who, OptionalLong.empty()));
        }
        store.append(held, events, now);
    }

    /** Moves a ticket to a state. */
    @Transactional
    public void changeState(long number, TicketState state, Optional<String> was, Person by) {
        TicketStore.Held held = change(number, by);
        TicketState now = held.ticket().state();
        was.ifPresent(then -> expect(then, now.key(), () ->
                "Ticket " + number + " is “" + now.name() + "” now. Nothing was changed; look again and choose."));
        if (!now.equals(state)) {
            act(held, new TicketEvent.StateChanged(clock.instant(), new Actor.Person(by.id()), state));
        }
    }

    /** Gives a ticket a priority. */
    @Transactional
    public void changePriority(long number, Priority priority, Optional<String> was, Person by) {
        TicketStore.Held held = change(number, by);
        Priority now = held.ticket().priority();
        was.ifPresent(then -> expect(then, now.name(), () ->
                "Ticket " + number + " is " + now + " now. Nothing was changed; look again and choose."));
        if (now != priority) {
            act(held, new TicketEvent.PriorityChanged(clock.instant(), new Actor.Person(by.id()), priority));
        }
    }

    /**
     * What somebody says a ticket is about.
     *
     * @param fields own fields by their keys, as somebody typed them
     */
    public record About(String topic, Set<String> tags, Map<String, String> fields) {

        public About {
            tags = Set.copyOf(tags);
            fields = Map.copyOf(fields);
        }

        /** What a ticket is about. */
        public static About of(Ticket ticket) {
            return new About(ticket.topic(), ticket.tags(), ticket.own());
        }
    }

    /**
     * Says what a ticket is about, field by field: what the person left as it was stays as it is now, so that two people who change
     * different things both get what they want.
     *
     * @param was what the person saw
     * @throws Problem.Stale when one of the things that the person changed was changed otherwise meanwhile; nothing is changed then
     */
    @Transactional
    public void changeAbout(long number, About typed, About was, Person by) {
        TicketStore.Held held = change(number, by);
        Ticket now = held.ticket();
        String topic = merged("topic", was.topic(), typed.topic(), now.topic());
        var tags = new TreeSet<>(now.tags());
        typed.tags().stream().filter(tag -> !was.tags().contains(tag)).forEach(tags::add);
        was.tags().stream().filter(tag -> !typed.tags().contains(tag)).forEach(tags::remove);
        var own = new HashMap<String, String>();
        fields.shown(OwnField.Bearer.TICKET).stream().filter(field -> typed.fields().containsKey(field.key())).forEach(field -> own.put(
                field.key(),
                merged(field.name(), was.fields().getOrDefault(field.key(), ""), typed.fields().getOrDefault(field.key(), ""), now.own().getOrDefault(field.key(), ""))));
        Instant at = clock.instant();
        var who = new Actor.Person(by.id());
        var events = new ArrayList<>(fieldEvents(now, own, who, at));
        if (!now.topic().equals(topic)) {
            events.add(new TicketEvent.TopicChanged(at, who, topic));
        }
        if (!now.tags().equals(tags)) {
            events.add(new TicketEvent.TagsChanged(at, who, tags));
        }
        store.append(held, events, at);
    }

    private static String merged(String name, String was, String typed, String now) {
        if (typed.equals(was)) {
            return now;
        }
        if (!now.equals(was) && !now.equals(typed)) {
            throw new Problem.Stale("Somebody changed “" + name + "” to " + (now.isEmpty() ? "nothing" : "“" + now + "”")
                    + " meanwhile. Nothing was changed; what you typed still stands here.");
        }
        return typed;
    }

    /** Says what a ticket is about. */
    @Transactional
    public void changeTopic(long number, String topic, Person by) {
        TicketStore.Held held = change(number, by);
        if (!held.ticket().topic().equals(topic)) {
            act(held, new TicketEvent.TopicChanged(clock.instant(), new Actor.Person(by.id()), topic));
        }
    }

    /** Gives a ticket these tags instead of those it has. */
    @Transactional
    public void changeTags(long number, Set<String> tags, Person by) {
        TicketStore.Held held = change(number, by);
        if (!held.ticket().tags().equals(tags)) {
            act(held, new TicketEvent.TagsChanged(clock.instant(), new Actor.Person(by.id()), tags));
        }
    }

    /**
     * Gives own fields of a ticket these values instead of those it has; fields that are not named keep theirs.
     *
     * @param typed by the field's key, as somebody typed it; blank to have none
     * @throws Problem.Invalid when one cannot be its field's value; nothing is changed then
     */
    @Transactional
    public void changeFields(long number, Map<String, String> typed, Person by) {
        TicketStore.Held held = change(number, by);
        Instant now = clock.instant();
        store.append(held, fieldEvents(held.ticket(), typed, new Actor.Person(by.id()), now), now);
    }

    private List<TicketEvent> fieldEvents(Ticket ticket, Map<String, String> typed, Actor who, Instant at) {
        return fields.changes(OwnField.Bearer.TICKET, typed, ticket.own()).entrySet().stream()
                .<TicketEvent>map(change -> new TicketEvent.FieldSet(at, who, change.getKey(), change.getValue()))
                .toList();
    }

    private void act(TicketStore.Held held, TicketEvent event) {
        store.append(held, List.of(event), event.at());
    }

    private static void expect(String then, String now, java.util.function.Supplier<String> words) {
        if (!then.equals(now)) {
            throw new Problem.Stale(words.get());
        }
    }

    private static String text(OptionalLong value) {
        return value.isPresent() ? Long.toString(value.getAsLong()) : "";
    }

    private String name(long person) {
        return persons.find(person).map(Person::name).orElse("Somebody");
    }

    /** The events of several tickets, oldest first, by ticket. */
    public Map<Long, List<TicketEvent>> events(Collection<Long> numbers) {
        return store.events(numbers);
    }

    /** Everything that criteria can ask about a ticket, as of an instant. */
    @Transactional(readOnly = true)
    public Facts facts(long number, Instant now) {
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound("There is no ticket " + number + ".");
        }
        Facts customer = store.customers(List.of(number), EnumSet.allOf(KnownField.class)).getOrDefault(number, Facts.none());
        return TicketFacts.withTimes(TicketFacts.of(customer, events), Ticket.replay(events), targets.reckon(events, customer, now));
    }

    /** What promises ask about the customers of tickets. */
    public Map<Long, Facts> customers(Collection<Long> numbers) {
        return store.customers(numbers);
    }

    /** Closes what was resolved so long ago that it takes no answers any more. */
    @Transactional
    public int closeOver(Instant now, int most) {
        Instant before = now.minus(workspaces.current().reopenFor());
        List<Long> over = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.STATE.eq(DSL.inline(TicketState.RESOLVED.key())))
                .and(TICKET.RESOLVED_AT.le(before))
                .and(TicketStore.understood())
                .orderBy(TICKET.RESOLVED_AT)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
        for (long number : over) {
            act(store.hold(number), new TicketEvent.StateChanged(now, Actor.system(), TicketState.CLOSED));
        }
        return over.size();
    }

    /** Tickets as they stand, by their number; those that there are. */
    public Map<Long, Ticket> find(Collection<Long> numbers) {
        return store.events(numbers).entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey, entry -> Ticket.replay(entry.getValue())));
    }

    /** A ticket as it stands. */
    public Optional<Ticket> find(long number) {
        List<TicketEvent> events = store.events(number);
        return events.isEmpty() ? Optional.empty() : Optional.of(Ticket.replay(events));
    }
}
