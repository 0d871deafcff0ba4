package rafter.app.tickets;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.access.Access;
import rafter.app.access.Person;
import rafter.app.access.Persons;
import rafter.app.access.Right;
import rafter.app.fields.OwnFields;
import rafter.app.mail.Mailbox;
import rafter.app.mail.Outbox;
import rafter.app.notices.Notices;
import rafter.app.people.Contact;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;
import rafter.app.platform.Writes;
import rafter.app.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Threading;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What happens to tickets. Each method is one transaction, or a part of the caller's. */
@Component
public class Tickets {

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final Persons persons;
    private final Outbox outbox;
    private final Acknowledgements acknowledgements;
    private final Workspaces workspaces;
    private final Targets targets;
    private final Notices notices;
    private final OwnFields fields;
    private final Clock clock;

    Tickets(
            DSLContext sql, Writes writes, TicketStore store, Persons persons, Outbox outbox, Workspaces workspaces, Targets targets,
            Notices notices, OwnFields fields, Acknowledgements acknowledgements, Clock clock) {
        this.acknowledgements = acknowledgements;
        this.fields = fields;
        this.sql = sql;
        this.writes = writes;
        this.notices = notices;
        this.targets = targets;
        this.store = store;
        this.persons = persons;
        this.outbox = outbox;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ what comes in

    /**
     * A message of a customer's that opens a ticket.
     *
     * @param automatic whether a machine wrote it
     * @param unanswered whether no automatic answer may go to it
     * @param linkedTo an earlier ticket that it has to do with
     * @param why why it does not belong to that one
     */
    public record Request(
            Mailbox mailbox, Contact contact, String subject, NewMessage message, boolean automatic, boolean unanswered, OptionalLong linkedTo, String why) {}

    /**
     * Opens a ticket; the customer is told once that their request arrived, unless that may not be.
     *
     * @return the new ticket's number
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long open(Request request, Workspace workspace) {
        return writes.gather(() -> gatheredOpen(request, workspace));
    }

    private long gatheredOpen(Request request, Workspace workspace) {
        Contact contact = request.contact();
        Instant now = request.message().at();
        OptionalLong team = request.mailbox().team().map(OptionalLong::of).orElse(OptionalLong.empty());
        var who = new Actor.Contact(contact.id());
        var opened = new TicketEvent.Opened(now, who, TicketEvent.Origin.CUSTOMER, "email", request.subject(), contact.id(), Priority.P3, team);
        TicketStore.Held held = store.begin(opened, Optional.of(request.mailbox().id()), contact.company());
        boolean wanted = !request.unanswered() && workspace.acknowledge();
        Optional<String> hindrance = wanted ? acknowledgements.hindrance(held.number(), request.message().envelope().from(), now) : Optional.of("");
        NewMessage message = request.message().remarked(hindrance.orElse(""));
        long id = store.add(held.number(), held.nextSeq(), message);
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.CustomerWrote(now, who, id, request.automatic()));
        request.linkedTo().ifPresent(earlier -> events.add(new TicketEvent.Linked(now, Actor.system(), earlier, request.why())));
        if (hindrance.isEmpty()) {
            long told = acknowledgements.send(held.number(), held.nextSeq() + events.size(), request, workspace);
            events.add(new TicketEvent.WeWrote(now, Actor.system(), told, true));
        }
        store.append(held, events, now);
        takePart(held.number(), message, true);
        return held.number();
    }

    /** A message of the customer's side that joins a ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void join(long number, Contact contact, NewMessage message, boolean automatic) {
        TicketStore.Held held = store.hold(number);
        long id = store.add(held.number(), held.nextSeq(), message);
        store.append(
                held, Conduct.customerWrote(held.ticket(), message.at(), new Actor.Contact(contact.id()), id, automatic), message.at());
        if (!automatic) {
            takePart(number, message, false);
            held.ticket().owner().ifPresent(owner ->
                    tell(owner, number, Notices.Kind.ANSWERED, contact.name() + " wrote to " + number + ": " + held.ticket().subject()));
        }
    }

    private void tell(long person, long number, Notices.Kind kind, String words) {
        notices.tell(List.of(new Notices.Told(person, number, clock.instant(), kind, words)));
    }

    /**
     * A report that a mail of this ticket was not delivered; its owner is told.
     *
     * @param words what it reports
     * @param delayed whether delivery is still being tried; then nobody need be told
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void bounced(long number, NewMessage message, String words, boolean delayed) {
        TicketStore.Held held = store.hold(number);
        long id = store.add(held.number(), held.nextSeq(), message);
        store.append(held, List.of(new TicketEvent.Bounced(message.at(), Actor.system(), id)), message.at());
        if (!delayed) {
            held.ticket().owner().ifPresent(owner -> tell(owner, number, Notices.Kind.BOUNCED, number + ": " + words));
        }
    }

    /** The one ticket from which mail went to any of these addresses in the last days; nothing when there are several. */
    public OptionalLong lastSentTo(List<String> addresses, Instant now) {
        return outbox.ticketSentTo(addresses, now.minus(Duration.ofDays(5)));
    }

    /** What was written in a ticket, its quotations included, the latest first; of a long one the latest. */
    public List<String> texts(long number) {
        return store.texts(number);
    }

    /** The same of what was written before an entry. */
    public List<String> textsBefore(long number, int seq) {
        return store.textsBefore(number, seq);
    }

    /** Shows an entry otherwise, for it was read once more. */
    @Transactional
    public void rewrite(long message, String html, String text, String folded, String remark) {
        store.rewrite(message, html, text, folded, remark);
    }

    /** An address to which answers are wanted takes part from the beginning, never by itself later. */
    private void takePart(long number, NewMessage message, boolean opening) {
        var addresses = new ArrayList<String>();
        addresses.add(message.envelope().from());
        if (opening && !message.envelope().replyTo().isEmpty()) {
            addresses.add(message.envelope().replyTo());
        }
        addresses.addAll(message.envelope().cc());
        store.takePart(number, addresses);
    }

    /** The tickets that a mail points to, the best evidence first. */
    public List<Threading.Candidate> candidates(List<Long> marked, List<String> references) {
        var found = new LinkedHashMap<Long, Threading.Evidence>();
        marked.forEach(ticket -> found.put(ticket, Threading.Evidence.REPLY_MARK));
        if (!references.isEmpty()) {
            writes.settle(references);
            Map<String, Long> byMessage = sql.select(MESSAGE.MESSAGE_ID, MESSAGE.TICKET)
                    .from(MESSAGE)
                    .where(MESSAGE.MESSAGE_ID.in(references))
                    .fetchMap(MESSAGE.MESSAGE_ID, MESSAGE.TICKET);
            references.stream()
                    .filter(byMessage::containsKey)
                    .forEach(id -> found.putIfAbsent(byMessage.get(id), Threading.Evidence.REFERENCE));
        }
        writes.settle(found.keySet());
        return found.isEmpty() ? List.of() : candidates(found);
    }

    private List<Threading.Candidate> candidates(Map<Long, Threading.Evidence> found) {
        Map<Long, ? extends Record> rows = sql.select(TICKET.NUMBER, TICKET.STATE, TICKET.RESOLVED_AT, TICKET.JOINED_INTO)
                .from(TICKET)
                .where(TICKET.NUMBER.in(found.keySet()))
                .fetchMap(TICKET.NUMBER);
        // What was joined into another ticket goes on there. A chain has an end, for what is joined takes nothing in.
        Map<Long, Long> into = new HashMap<>();
        rows.forEach((number, row) -> Optional.ofNullable(row.get(TICKET.JOINED_INTO)).ifPresent(there -> into.put(number, there)));
        if (!into.isEmpty()) {
            var there = new LinkedHashMap<Long, Threading.Evidence>();
            found.forEach((number, evidence) -> there.putIfAbsent(into.getOrDefault(number, number), evidence));
            return candidates(there);
        }
        Map<Long, List<String>> participants = sql.selectFrom(PARTICIPANT)
                .where(PARTICIPANT.TICKET.in(found.keySet()))
                .fetchGroups(PARTICIPANT.TICKET, PARTICIPANT.ADDRESS);
        return found.entrySet().stream()
                .filter(entry -> rows.containsKey(entry.getKey()))
                .map(entry -> candidate(entry.getKey(), entry.getValue(), rows, participants))
                .toList();
    }

    private static Threading.Candidate candidate(
            long number, Threading.Evidence evidence, Map<Long, ? extends Record> rows, Map<Long, List<String>> participants) {
        Record row = rows.get(number);
        if (row == null) {
            throw new IllegalStateException("no row of ticket " + number);
        }
        return new Threading.Candidate(
                number,
                evidence,
                TicketState.of(row.get(TICKET.STATE)).orElseThrow(),
                Optional.ofNullable(row.get(TICKET.RESOLVED_AT)),
                Set.copyOf(participants.getOrDefault(number, List.of())));
    }

    /** Whether an entry with this Message-ID exists. */
    public boolean knows(String messageId) {
        return store.knows(messageId);
    }

    // ------------------------------------------------------------------ what we do

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
                tell(owner.getAsLong(), number, Notices.Kind.ASSIGNED, by.name() + " handed you " + number + ": " + held.ticket().subject());
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
