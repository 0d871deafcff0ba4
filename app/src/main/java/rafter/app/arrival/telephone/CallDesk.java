package rafter.app.arrival.telephone;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.arrival.providers.Providers;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.CustomerMoves;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.Course;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** What people do with calls: they take them, hold them, hand them over, and write down what is said. */
@Component
public class CallDesk {

    private static final String UNCHANGED = " Nothing was changed.";
    private static final int LONGEST_NOTES = 5000;
    private static final Duration FURTHEST = Duration.ofDays(366);

    private final CallBook calls;
    private final Providers providers;
    private final ProviderClient client;
    private final WrittenDown written;
    private final Persons persons;
    private final Contacts contacts;
    private final KnownBy known;
    private final CustomerMoves moves;
    private final Tickets tickets;
    private final NotesBeside held;
    private final Acts acts;
    private final Notices notices;
    private final LiveNews news;
    private final TransactionTemplate transaction;
    private final Clock clock;

    CallDesk(
            CallBook calls,
            Providers providers,
            ProviderClient client,
            WrittenDown written,
            Persons persons,
            Contacts contacts,
            KnownBy known,
            CustomerMoves moves,
            Tickets tickets,
            NotesBeside held,
            Acts acts,
            Notices notices,
            LiveNews news,
            TransactionTemplate transaction,
            Clock clock) {
        this.calls = calls;
        this.providers = providers;
        this.client = client;
        this.written = written;
        this.persons = persons;
        this.contacts = contacts;
        this.known = known;
        this.moves = moves;
        this.tickets = tickets;
        this.held = held;
        this.acts = acts;
        this.notices = notices;
        this.news = news;
        this.transaction = transaction;
        this.clock = clock;
    }

    /**
     * A call, for somebody who may see its ticket.
     *
     * @throws Problem.NotFound when there is none within their reach
     */
    public CallBook.Call call(long id, Viewer me) {
        Access.require(me, Right.WORK);
        return calls.find(id)
                .filter(call -> call.ticket().isEmpty()
                        || tickets.find(calls.goesOn(call.ticket().orElseThrow()), me)
                                .isPresent())
                .orElseThrow(() -> new Problem.NotFound("There is no such call."));
    }

    /** The ticket of a call. */
    private TicketNumber ticket(CallBook.Call call) {
        return call.ticket()
                .map(calls::goesOn)
                .orElseThrow(() -> new Problem.Stale("This call has no ticket." + UNCHANGED));
    }

    // ------------------------------------------------------------------ the exchange

    /** Takes a call that waits: its ticket becomes theirs, and the exchange rings them. */
    public void take(long id, Viewer me) {
        CallBook.Call call = call(id, me);
        if (!call.goesOn() || call.state() != Course.State.WAITING) {
            throw new Problem.Stale(
                    (call.goesOn() ? "Somebody has this call already." : "This call is over.") + UNCHANGED);
        }
        acts.perform(ticket(call), new Act.HandToPerson(Optional.of(me.id())), Optional.of(""), me);
    }

    /** Has whoever calls wait while something is looked up. */
    public void hold(long id, Viewer me) {
        tell(mine(id, me, Course.State.TALKING), "/hold", Map.of());
    }

    /** Speaks with them again; a word with a colleague is over. */
    public void resume(long id, Viewer me) {
        tell(mine(id, me, Course.State.HELD), "/resume", Map.of());
        calls.word(id, Optional.empty());
    }

    /** Hangs up. */
    public void end(long id, Viewer me) {
        CallBook.Call call = call(id, me);
        if (!call.goesOn()) {
            throw new Problem.Stale("This call is over." + UNCHANGED);
        }
        if (call.whose().filter(me.id()::equals).isEmpty()) {
            throw new Problem.NoRight("Who has a call ends it." + UNCHANGED);
        }
        tell(call, "/end", Map.of());
    }

    /**
     * Has a word with a colleague before the call is handed to them; whoever calls is held meanwhile.
     *
     * @throws Problem.Invalid when they do not work here
     */
    public void word(long id, PersonId with, Viewer me) {
        CallBook.Call call = call(id, me);
        CallBook.Call mine = mine(id, me, call.state() == Course.State.HELD ? Course.State.HELD : Course.State.TALKING);
        Person colleague = persons.find(with)
                .filter(one -> !one.id().equals(me.id()) && one.role().has(Right.WORK))
                .orElseThrow(() -> new Problem.Invalid("Choose a colleague." + UNCHANGED));
        tell(mine, "/word", Map.of("person", with.toString(), "name", colleague.name()));
        transaction.executeWithoutResult(status -> {
            calls.word(id, Optional.of(with));
            notices.tell(
                    with,
                    ticket(mine),
                    Notices.Kind.HELP,
                    me.name() + " wants a word with you before they hand you a call: " + ticket(mine));
        });
        news.call(id);
    }

    /** Hands the call to the colleague with whom there was a word. */
    public void give(long id, Viewer me) {
        CallBook.Call call = mine(id, me, Course.State.HELD);
        PersonId to =
                call.word().orElseThrow(() -> new Problem.Stale("Have a word with a colleague first." + UNCHANGED));
        String name = persons.find(to).map(Person::name).orElse("");
        tell(call, "/give", Map.of("person", to.toString(), "name", name));
    }

    /** A call that somebody has, as it must stand for what they want. */
    private CallBook.Call mine(long id, Viewer me, Course.State state) {
        CallBook.Call call = call(id, me);
        if (!call.goesOn()) {
            throw new Problem.Stale("This call is over." + UNCHANGED);
        }
        if (call.person().filter(me.id()::equals).isEmpty()) {
            throw new Problem.NoRight("Somebody else has this call." + UNCHANGED);
        }
        if (call.state() != state) {
            throw new Problem.Stale(
                    (call.state() == Course.State.HELD ? "They are on hold already." : "They are not on hold any more.")
                            + UNCHANGED);
        }
        return call;
    }

    private void tell(CallBook.Call call, String what, Map<String, String> body) {
        Provider provider = providers
                .of(call.provider())
                .orElseThrow(() -> new Problem.Invalid("The exchange is not there any more." + UNCHANGED));
        ProviderClient.Answer answer =
                client.tell(provider, "POST", "/calls/" + ProviderClient.part(call.outsideId()) + what, body);
        boolean later = answer instanceof ProviderClient.Answer.Silent;
        answer.trouble().ifPresent(words -> {
            throw new Problem.Invalid(words + (later ? " Try again, or use the telephone itself." : "") + UNCHANGED);
        });
    }

    // ------------------------------------------------------------------ while they talk

    /**
     * Keeps what is typed while they talk, and after.
     *
     * @return the version that it has now
     * @throws Problem.Stale when somebody else wrote meanwhile
     */
    public int notes(long id, String notes, int version, Viewer me) {
        call(id, me);
        if (notes.length() > LONGEST_NOTES) {
            throw new Problem.Invalid("Notes have at most 5,000 letters. What you typed is still here, and not kept.");
        }
        if (!calls.notes(id, notes, version)) {
            throw new Problem.Stale(
                    "Somebody else wrote these notes meanwhile. What you typed is still here, and not kept; look at theirs in another window.");
        }
        return version + 1;
    }

    /** Says who calls; their number is written down with them where they have none like it. */
    @Transactional
    public void callerIs(long id, ContactId contact, Viewer me) {
        CallBook.Call call = call(id, me);
        TicketNumber number = ticket(call);
        Ticket ticket = held.hold(number, me);
        Contact caller = contacts.get(contact);
        moves.move(number, ticket.contact(), caller.id(), clock.instant(), new Actor.Person(me.id()));
        if (!call.number().isBlank()
                && known.ofNumber(call.number()).stream()
                        .noneMatch(one -> one.id().equals(contact))) {
            known.addNumber(contact, call.number());
        }
        news.call(id);
    }

    /** Says that somebody calls of whom nothing is known yet. */
    @Transactional
    public void callerIsNew(long id, String name, Optional<CompanyId> company, Viewer me) {
        Access.require(me, Right.WORK);
        callerIs(id, known.make(name, company, clock.instant()).id(), me);
    }

    /**
     * Goes on with a ticket that was there before: the one that the call opened becomes a part of it.
     *
     * @throws Problem.Invalid when it cannot
     */
    @Transactional
    public void goOn(long id, TicketNumber into, Viewer me) {
        CallBook.Call call = call(id, me);
        TicketNumber now = ticket(call);
        if (now.equals(into)) {
            return;
        }
        if (!call.opened().equals(Optional.of(now))) {
            throw new Problem.Stale(
                    "This call goes on with ticket " + now + " already; take it out there first." + UNCHANGED);
        }
        Ticket ticket = tickets.get(into, me);
        Optional<PersonId> owner = held.hold(now, me).owner();
        acts.perform(now, new Act.Join(into), me);
        // Whoever speaks with them has the ticket; somebody else’s is left to them.
        if (ticket.open() && ticket.owner().isEmpty() && owner.isPresent()) {
            acts.perform(into, new Act.HandToPerson(owner), me);
        }
        calls.about(id, Optional.of(into));
        news.call(id);
    }

    /** What was typed about the ticket of a call. */
    public record About(String topic, Priority priority, Map<String, String> fields) {}

    /** Says what a call is about. */
    @Transactional
    public void about(long id, About typed, Tickets.About was, Viewer me) {
        TicketNumber number = ticket(call(id, me));
        tickets.changeAbout(number, new Tickets.About(typed.topic(), was.tags(), typed.fields()), was, me);
        acts.perform(number, new Act.SetPriority(typed.priority()), me);
        news.call(id);
    }

    /** Is to be called back: a task with a time, for whoever promises it. */
    @Transactional
    public void callBack(long id, Optional<Instant> when, String why, Viewer me) {
        CallBook.Call call = call(id, me);
        Instant now = clock.instant();
        Instant due = when.filter(at -> at.isAfter(now) && at.isBefore(now.plus(FURTHEST)))
                .orElseThrow(() -> new Problem.Invalid(
                        "Say when they are called back, at a time that is still to come." + UNCHANGED));
        String what = "Call back " + CallListener.shown(call.number()) + (why.isBlank() ? "" : ": " + why.strip());
        acts.perform(
                ticket(call), new Act.SetTask(OptionalInt.empty(), what, Optional.of(me.id()), Optional.of(due)), me);
        news.call(id);
    }

    /**
     * What is typed is written down, the ticket moves on, and whoever had the call is free.
     *
     * @param then whose turn it is; nothing: it stays as it is
     */
    @Transactional
    public void finish(long id, Optional<Turn> then, Viewer me) {
        CallBook.Call call = call(id, me);
        if (call.goesOn()) {
            throw new Problem.Stale("They are still there. End the call first." + UNCHANGED);
        }
        written.anew(call);
        then.ifPresent(turn -> {
            TicketNumber number = ticket(call);
            if (held.hold(number, me).open()) {
                acts.perform(number, new Act.MoveTo(TicketState.waitingFor(turn).key()), me);
            }
        });
        calls.free(id, clock.instant());
        news.call(id);
        news.floorChanged();
    }
}
