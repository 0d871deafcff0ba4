package rafter.app.work.customers;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.forms.Forms;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketFields;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Way;

/** Writes requests down that reached somebody of ours by another way than their own mail. */
@Component
public class Logging {

    private static final String KEPT = " Nothing was opened yet; what you typed is still here.";
    private static final int LONGEST_SUBJECT = 200;
    private static final int LONGEST_TEXT = 50_000;
    private static final int OFFERED = 12;

    /**
     * A request as it was written down.
     *
     * @param contact who asks, when they are known; nothing: they are made from name and address
     * @param ours the address of ours from which they are answered
     * @param told whether they are told that it arrived
     * @param fields own fields of tickets by their keys, as somebody typed them
     */
    public record Request(
            Optional<ContactId> contact,
            String name,
            String address,
            long ours,
            String subject,
            String text,
            Priority priority,
            String topic,
            boolean mine,
            boolean told,
            Map<String, String> fields) {}

    /** Somebody who may be meant. */
    public record Known(ContactId id, String name, String address) {}

    private final Directory directory;
    private final Contacts contacts;
    private final Channels channels;
    private final Arrivals arrivals;
    private final Acts acts;
    private final Workspaces workspaces;
    private final Clock clock;
    private final OwnFields fields;
    private final TicketFields ticketFields;

    Logging(
            Directory directory,
            Contacts contacts,
            Channels channels,
            Arrivals arrivals,
            Acts acts,
            Workspaces workspaces,
            Clock clock,
            OwnFields fields,
            TicketFields ticketFields) {
        this.fields = fields;
        this.ticketFields = ticketFields;
        this.directory = directory;
        this.contacts = contacts;
        this.channels = channels;
        this.arrivals = arrivals;
        this.acts = acts;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    /** What the ticket would ask for, by what is filled in so far. */
    public List<Forms.Part> parts(Request request) {
        return ticketFields.ofNew(facts(request), request.fields());
    }

    private Facts facts(Request request) {
        Facts facts = ticketFields
                .begun(request.contact())
                .with(KnownField.TOPIC, request.topic().strip())
                .with(KnownField.SUBJECT, request.subject().strip())
                .with(KnownField.PRIORITY, request.priority().name())
                .with(KnownField.STATE, TicketState.NEW.key());
        for (OurAddress ours : addresses()) {
            if (ours.id() == request.ours()) {
                facts = facts.with(
                        KnownField.TEAM, ours.team().map(TeamId::toString).orElse(""));
            }
        }
        return facts;
    }

    /** Whether what is filled in can change what is asked for. */
    public boolean moves() {
        return ticketFields.moves();
    }

    /** The addresses of ours from which somebody can be answered. */
    public List<OurAddress> addresses() {
        return channels.all().stream()
                .filter(channel -> channel.abilities().letters())
                .flatMap(channel -> channel.addresses().stream())
                .toList();
    }

    /** The contacts that words may mean, of one company when it is chosen. */
    public List<Known> known(String words, Optional<CompanyId> company, Viewer me) {
        Access.require(me, Right.WORK);
        if (words.isBlank() && company.isEmpty()) {
            return List.of();
        }
        return directory
                .contacts(new Directory.Asked(words, company, false), new ByName.From.Top<>(), me)
                .rows()
                .stream()
                .limit(OFFERED)
                .map(person -> new Known(person.id(), person.name(), person.address()))
                .toList();
    }

    /**
     * Opens the ticket of a request.
     *
     * @throws Problem.Invalid when something is missing; nothing is opened
     */
    @Transactional
    public TicketNumber log(Request request, Viewer me) {
        Access.require(me, Right.WORK);
        check(request);
        ticketFields.checkNew(facts(request), request.fields());
        Channel channel = channel(request);
        OurAddress ours = channel.ours(request.ours()).orElseThrow();
        Instant now = clock.instant();
        Contact contact = contact(request, now);
        TicketNumber number = arrivals.open(
                new Arrivals.Request(
                        new Way(channel.key(), OptionalLong.of(ours.id())),
                        ours,
                        contact,
                        request.subject().strip(),
                        message(request, contact, ours, me, now),
                        false,
                        !request.told(),
                        Optional.empty(),
                        ""),
                workspaces.current());
        acts.performAll(number, asAsked(request, me), me);
        return number;
    }

    private Channel channel(Request request) {
        return channels.all().stream()
                .filter(one ->
                        one.abilities().letters() && one.ours(request.ours()).isPresent())
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Choose from which address of ours they are answered." + KEPT));
    }

    private static NewMessage message(Request request, Contact contact, OurAddress ours, Viewer me, Instant now) {
        String given = Contacts.normal(request.address());
        String from = contact.addresses().contains(given)
                ? given
                : contact.addresses().stream().min(String::compareTo).orElse("");
        return new NewMessage(
                NewMessage.Kind.CUSTOMER,
                now,
                contact.name().isBlank() ? from : contact.name(),
                Optional.of(contact.id()),
                Optional.of(me.id()),
                new NewMessage.Envelope(
                        from,
                        "",
                        List.of(ours.address()),
                        List.of(),
                        request.subject().strip(),
                        Optional.empty()),
                SafeHtml.fromText(request.text()),
                request.text().strip(),
                Optional.empty(),
                "Written down by " + me.name() + ".",
                List.of());
    }

    private List<Act> asAsked(Request request, Viewer me) {
        var facts = new ArrayList<Act>();
        facts.add(new Act.SetPriority(request.priority()));
        facts.add(new Act.SetTopic(request.topic()));
        request.fields()
                .forEach((key, value) -> fields.asked(OwnField.Bearer.TICKET, key)
                        .ifPresent(field -> facts.add(new Act.Fill(key, value))));
        if (request.mine()) {
            facts.add(new Act.HandToPerson(Optional.of(me.id())));
        }
        return facts;
    }

    private static void check(Request request) {
        if (request.subject().isBlank() || request.subject().strip().length() > LONGEST_SUBJECT) {
            throw new Problem.Invalid("Say in a few words what it is about, in at most 200 letters." + KEPT);
        }
        if (request.text().isBlank() || request.text().length() > LONGEST_TEXT) {
            throw new Problem.Invalid("Write down what they asked, in at most 50,000 letters." + KEPT);
        }
        if (request.contact().isEmpty()
                && MailAddress.of(request.address())
                        .filter(MailAddress::writable)
                        .isEmpty()) {
            throw new Problem.Invalid("Choose who asks, or give the mail address at which they are answered." + KEPT);
        }
    }

    private Contact contact(Request request, Instant now) {
        return request.contact()
                .map(contacts::get)
                .orElseGet(() -> contacts.recognise(
                        MailAddress.of(request.address()).orElseThrow().toString(), request.name(), now));
    }
}
