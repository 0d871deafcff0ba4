package rafter.app.arrival.telephone;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.arrival.providers.Providers;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.Spoken;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Phone;
import rafter.core.ticket.Act;

/** Calls that we make. */
@Component
class CallingOut {

    private static final String UNCHANGED = " Nothing was changed.";

    /** From where somebody is called. */
    public record From(OurLine line, Provider provider) {}

    /**
     * Whom somebody wants to call.
     *
     * @param about the ticket that it is about; nothing: a new one is begun
     * @param whom of whom that one is then; nothing: of nobody in particular
     * @param line from which line; 0: any
     * @param key made by the page; the same calls once
     */
    public record Wanted(
            Optional<TicketNumber> about, Optional<ContactId> whom, String number, long line, String key) {}

    private final CallBook calls;
    private final Providers providers;
    private final OurLines lines;
    private final ProviderClient client;
    private final Contacts contacts;
    private final NotesBeside tickets;
    private final Spoken spoken;
    private final Acts acts;
    private final LiveNews news;
    private final TransactionTemplate transaction;
    private final Clock clock;

    CallingOut(
            CallBook calls,
            Providers providers,
            OurLines lines,
            ProviderClient client,
            Contacts contacts,
            NotesBeside tickets,
            Spoken spoken,
            Acts acts,
            LiveNews news,
            TransactionTemplate transaction,
            Clock clock) {
        this.calls = calls;
        this.providers = providers;
        this.lines = lines;
        this.client = client;
        this.contacts = contacts;
        this.tickets = tickets;
        this.spoken = spoken;
        this.acts = acts;
        this.news = news;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** The lines by which we can call. */
    List<From> from() {
        return lines.all(Provider.Kind.TELEPHONE).stream()
                .flatMap(line -> providers.of(line.provider()).stream()
                        .filter(provider -> !provider.address().isEmpty())
                        .map(provider -> new From(line, provider)))
                .toList();
    }

    /**
     * Calls somebody.
     *
     * @return the call; the one that there is where the same was wanted before
     * @throws Problem.Invalid when it cannot be; nobody is called then
     */
    long call(Wanted wanted, Viewer me) {
        Access.require(me, Right.WORK);
        if (!wanted.key().matches("[A-Za-z0-9-]{16,64}")) {
            throw new Problem.Invalid("The page sent no key with it. Load it again." + UNCHANGED);
        }
        String number = Phone.of(wanted.number())
                .orElseThrow(() -> new Problem.Invalid("“" + wanted.number()
                        + "” is no telephone number. Write it with digits, such as +999 32 960 100." + UNCHANGED))
                .written();
        From from = from().stream()
                .filter(one -> wanted.line() == 0 || one.line().id() == wanted.line())
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("There is no line by which we can call." + UNCHANGED));
        Optional<CallBook.Call> before = calls.find(from.provider().id(), wanted.key());
        if (before.isPresent()) {
            return before.get().id();
        }
        calls.of(me.id(), clock.instant()).filter(CallBook.Call::goesOn).ifPresent(other -> {
            throw new Problem.Invalid("You have a call already. End it first." + UNCHANGED);
        });
        Begun begun = transaction.execute(status -> begun(wanted, number, from, me));
        tell(wanted, number, from, me).ifPresent(trouble -> {
            transaction.executeWithoutResult(status -> takeBack(begun, wanted));
            throw new Problem.Invalid(trouble + " Nobody was called.");
        });
        news.call(begun.call());
        return begun.call();
    }

    private record Begun(long call, TicketNumber ticket) {}

    private Begun begun(Wanted wanted, String number, From from, Viewer me) {
        Instant now = clock.instant();
        TicketNumber ticket = wanted.about().orElseGet(() -> open(wanted, number, from, me, now));
        tickets.hold(ticket, me);
        long call = calls.begin(
                from.provider().id(),
                wanted.key(),
                from.line().id(),
                false,
                number,
                Optional.of(ticket),
                Optional.of(me.id()),
                now);
        return new Begun(call, ticket);
    }

    private TicketNumber open(Wanted wanted, String number, From from, Viewer me, Instant now) {
        Contact contact = wanted.whom().map(contacts::get).orElseGet(() -> contacts.strangers(now));
        return spoken.open(
                from.line().way(TelephoneChannel.KEY),
                from.line().asAddress(),
                contact.id(),
                "Call to " + (wanted.whom().isPresent() ? contact.name() : number),
                me.id(),
                now);
    }

    /** Has the exchange call; why it does not, where it does not. */
    private Optional<String> tell(Wanted wanted, String number, From from, Viewer me) {
        var body = Map.of(
                "id",
                wanted.key(),
                "number",
                number,
                "line",
                from.line().address(),
                "person",
                me.id().toString(),
                "name",
                me.name());
        return client.tell(from.provider(), "POST", "/calls", body).trouble();
    }

    private void takeBack(Begun begun, Wanted wanted) {
        calls.undo(begun.call());
        if (wanted.about().isEmpty()) {
            acts.byItself(begun.ticket(), new Act.Delete());
        }
    }
}
