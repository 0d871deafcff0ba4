package rafter.core.ticket;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket.Discarding;
import rafter.core.ticket.Ticket.Joining;

/**
 * A ticket while its events are taken in one by one: the one fold over them. It changes in place, for those who ask how a ticket stood
 * after each of hundreds of events; {@link #ticket()} is what it has become. Confined to one thread.
 */
public final class Folding implements Standing {

    private final String subject;
    private Way way;
    private ContactId contact;
    private TicketState state;
    private Priority priority;
    private Optional<PersonId> owner;
    private Optional<Actor> handedBy;
    private Optional<TeamId> team;
    private String topic;
    private Set<String> tags;
    private final Instant openedAt;
    private Instant changedAt;
    private Optional<Instant> resolvedAt;
    private Optional<TicketNumber> linkedTo;
    private Set<TicketNumber> links;
    private int messages;
    private int seq;
    private int lastPublicSeq;
    private Instant turnSince;
    private Optional<Instant> lastCustomerAt;
    private Optional<Discarding> discarding;
    private Optional<Joining> joined;
    private Optional<Instant> agreedDue;
    private Optional<Instant> bringBackAt;
    private Optional<Instant> broughtBackAt;
    private Map<String, String> own;
    private Work work;
    private Steering steering;
    private int settings;

    /** Begins with the opening, which is the first event. */
    public Folding(TicketEvent.Opened opened) {
        this.subject = opened.subject();
        this.way = opened.way();
        this.contact = opened.contact();
        this.state = TicketState.NEW;
        this.priority = opened.priority();
        this.owner = Optional.empty();
        this.handedBy = Optional.empty();
        this.team = opened.team();
        this.topic = "";
        this.tags = Set.of();
        this.openedAt = opened.at();
        this.changedAt = opened.at();
        this.resolvedAt = Optional.empty();
        this.linkedTo = Optional.empty();
        this.links = Set.of();
        this.messages = 0;
        this.seq = 1;
        this.lastPublicSeq = 0;
        this.turnSince = opened.at();
        this.lastCustomerAt = Optional.empty();
        this.discarding = Optional.empty();
        this.joined = Optional.empty();
        this.agreedDue = Optional.empty();
        this.bringBackAt = Optional.empty();
        this.broughtBackAt = Optional.empty();
        this.own = Map.of();
        this.work = Work.NONE;
        this.steering = Steering.NONE;
    }

    /** Goes on from a ticket. */
    Folding(Ticket was) {
        this.subject = was.subject();
        this.way = was.way();
        this.contact = was.contact();
        this.state = was.state();
        this.priority = was.priority();
        this.owner = was.owner();
        this.handedBy = was.handedBy();
        this.team = was.team();
        this.topic = was.topic();
        this.tags = was.tags();
        this.openedAt = was.openedAt();
        this.changedAt = was.changedAt();
        this.resolvedAt = was.resolvedAt();
        this.linkedTo = was.linkedTo();
        this.links = was.links();
        this.messages = was.messages();
        this.seq = was.seq();
        this.lastPublicSeq = was.lastPublicSeq();
        this.turnSince = was.turnSince();
        this.lastCustomerAt = was.lastCustomerAt();
        this.discarding = was.discarding();
        this.joined = was.joined();
        this.agreedDue = was.agreedDue();
        this.bringBackAt = was.bringBackAt();
        this.broughtBackAt = was.broughtBackAt();
        this.own = was.own();
        this.work = was.work();
        this.steering = was.steering();
    }

    /**
     * Takes in one more event.
     *
     * @throws IllegalArgumentException when it is another opening
     */
    public void take(TicketEvent event) {
        changedAt = event.at();
        seq++;
        switch (event) {
            case TicketEvent.Opened again -> throw new IllegalArgumentException("opened twice, again at " + again.at());
            case TicketEvent.CustomerWrote e -> byCustomer(e);
            case TicketEvent.WeWrote e -> spoken();
            case TicketEvent.NoteAdded e -> message();
            case TicketEvent.PublicNoteAdded e -> spoken();
            case TicketEvent.Bounced e -> message();
            case TicketEvent.StateChanged e -> state(e.state());
            case TicketEvent.PriorityChanged e -> priority(e.priority());
            case TicketEvent.OwnerChanged e -> owner(e.owner(), e.actor());
            case TicketEvent.TeamChanged e -> team(e.team());
            case TicketEvent.TopicChanged e -> topic(e.topic());
            case TicketEvent.TagsChanged e -> tags(e.tags());
            case TicketEvent.Linked e -> {
                linkedTo(e.earlier());
                link(e.earlier());
            }
            case TicketEvent.CustomerChanged e -> {}
            case TicketEvent.CustomerIs e -> contact = e.contact();
            case TicketEvent.WayChanged e -> way(e.way());
            case TicketEvent.Joined e -> join(e.into());
            case TicketEvent.Parted e -> part();
            case TicketEvent.Unlinked e -> unlinked(e.other());
            case TicketEvent.Continued e -> link(e.later());
            case TicketEvent.NoteTakenBack e -> unsaid();
            case TicketEvent.Discarded e -> discard(e.why());
            case TicketEvent.Restored e -> restore();
            case TicketEvent.FieldSet e -> own(e.field(), e.value());
            case TicketEvent.TimeAgreed e -> agreed(e.due());
            case TicketEvent.BringBackSet e -> bringBack(e.when());
            case TicketEvent.BroughtBack e -> broughtBack();
            case TicketEvent.WroteOutside e -> message();
            case TicketEvent.OutsideWrote e -> message();
            case TicketEvent.SplitOff e -> link(e.into());
            case TicketEvent.SplitBack e -> unlinked(e.from());
            case TicketEvent.OfWork e -> work = work.after(e);
            case TicketEvent.OfSteering e -> steering = steering.after(e);
        }
    }

    /** How often its state, priority, team, topic or tags were set: while this stays, they do. */
    public int settings() {
        return settings;
    }

    /** The ticket as it stands after the events so far. */
    public Ticket ticket() {
        return new Ticket(
                subject,
                way,
                contact,
                state,
                priority,
                owner,
                handedBy,
                team,
                topic,
                tags,
                openedAt,
                changedAt,
                resolvedAt,
                linkedTo,
                links,
                messages,
                seq,
                lastPublicSeq,
                turnSince,
                lastCustomerAt,
                discarding,
                joined,
                agreedDue,
                bringBackAt,
                broughtBackAt,
                own,
                work,
                steering);
    }

    /** What was put on it over what follows from its facts. */
    public Steering steering() {
        return steering;
    }

    @Override
    public TicketState state() {
        return state;
    }

    @Override
    public Priority priority() {
        return priority;
    }

    @Override
    public Optional<PersonId> owner() {
        return owner;
    }

    @Override
    public Optional<TeamId> team() {
        return team;
    }

    @Override
    public String channel() {
        return way.channel();
    }

    @Override
    public String topic() {
        return topic;
    }

    @Override
    public Set<String> tags() {
        return tags;
    }

    private void message() {
        messages++;
    }

    private void unsaid() {
        messages--;
    }

    private void spoken() {
        messages++;
        lastPublicSeq = seq;
    }

    private void byCustomer(TicketEvent.CustomerWrote message) {
        spoken();
        if (!message.automatic()) {
            lastCustomerAt = Optional.of(changedAt);
            bringBackAt = Optional.empty();
            // What was noted for that time alone has nothing to come back with any more.
            work = work.awaiting(work.await().filter(await -> !await.until().isEmpty()));
        }
    }

    private void discard(String why) {
        discarding =
                Optional.of(new Discarding(discarding.map(Discarding::state).orElse(state), why));
        state(TicketState.CLOSED);
    }

    private void restore() {
        TicketState former = discarding.map(Discarding::state).orElse(state);
        discarding = Optional.empty();
        state(former);
    }

    private void state(TicketState next) {
        settings++;
        turnSince = next.turn() == state.turn() ? turnSince : changedAt;
        if (next.ending() && !state.ending()) {
            resolvedAt = Optional.of(changedAt);
            bringBackAt = Optional.empty();
            work = work.awaiting(Optional.empty());
        } else if (!next.ending()) {
            resolvedAt = Optional.empty();
        }
        state = next;
    }

    private void priority(Priority next) {
        settings++;
        priority = next;
    }

    private void owner(Optional<PersonId> next, Actor by) {
        owner = next;
        handedBy = Optional.of(by);
    }

    private void way(Way next) {
        settings++;
        way = next;
    }

    private void team(Optional<TeamId> next) {
        settings++;
        team = next;
    }

    private void topic(String next) {
        settings++;
        topic = next;
    }

    private void tags(Set<String> next) {
        settings++;
        tags = new TreeSet<>(next);
    }

    private void linkedTo(TicketNumber earlier) {
        linkedTo = Optional.of(earlier);
    }

    private void own(String field, String value) {
        var next = new HashMap<>(own);
        if (value.isEmpty()) {
            next.remove(field);
        } else {
            next.put(field, value);
        }
        own = next;
    }

    private void agreed(Optional<Instant> due) {
        agreedDue = due;
    }

    private void bringBack(Optional<Instant> when) {
        bringBackAt = when;
    }

    private void broughtBack() {
        bringBackAt = Optional.empty();
        work = work.awaiting(Optional.empty());
        broughtBackAt = Optional.of(changedAt);
    }

    private void unlinked(TicketNumber other) {
        linkedTo = linkedTo.equals(Optional.of(other)) ? Optional.empty() : linkedTo;
        var left = new HashSet<>(links);
        left.remove(other);
        links = left;
    }

    private void link(TicketNumber other) {
        var more = new HashSet<>(links);
        more.add(other);
        links = more;
    }

    private void join(TicketNumber other) {
        joined = Optional.of(joined.orElse(new Joining(other, state, linkedTo)));
        linkedTo(other);
        state(TicketState.CLOSED);
    }

    private void part() {
        if (joined.isEmpty()) {
            return;
        }
        linkedTo = joined.get().linkedTo();
        state(joined.get().state());
        joined = Optional.empty();
    }
}
