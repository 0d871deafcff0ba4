package rafter.app.tickets.acts;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.FormatStyle;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.TextNode;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.platform.Problem;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Say;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** What stands for each placeholder in what is written on a ticket: one catalogue for answers, notes, phrases and macros. */
@Component
public class Blanks {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofLocalizedDate(FormatStyle.LONG);

    private final DSLContext sql;
    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final Targets targets;
    private final Persons persons;
    private final Workspaces workspaces;
    private final RequestPages pages;
    private final RafterSettings settings;
    private final Clock clock;

    Blanks(
            DSLContext sql,
            TicketStore store,
            CustomerFacts customerFacts,
            Targets targets,
            Persons persons,
            Workspaces workspaces,
            RequestPages pages,
            RafterSettings settings,
            Clock clock) {
        this.settings = settings;
        this.pages = pages;
        this.sql = sql;
        this.store = store;
        this.customerFacts = customerFacts;
        this.targets = targets;
        this.persons = persons;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    /**
     * Who a ticket's customer is, as far as one writes to them by it.
     *
     * @param company blank: none
     * @param language in which they are written to; blank: nobody said
     */
    public record Customer(String name, String company, String language) {}

    /**
     * What is known of a ticket for who writes on it.
     *
     * @param values by their names; blank where there is nothing
     * @param language in which the customer is written to; blank: nobody said
     */
    public record Known(Map<String, String> values, String language) {}

    /** The values alone. */
    @Transactional(readOnly = true)
    public Map<String, String> of(TicketNumber number, Person writer) {
        return known(number, writer).values();
    }

    /**
     * What is known, read at once. Dates are written as the customer's language writes them.
     *
     * @param writer who writes
     */
    @Transactional(readOnly = true)
    public Known known(TicketNumber number, Person writer) {
        return known(number, events(number), writer, true);
    }

    /** What is known of a ticket whose events and customer were read. */
    public Known known(TicketNumber number, List<TicketEvent> events, Customer customer, Person writer) {
        return known(number, events, customer, Optional.of(writer), true);
    }

    /**
     * The values for a text that is written on a ticket with these events; what the text does not ask for is not looked up.
     *
     * @throws Problem.Invalid when something has no value that it asks for
     */
    String filled(String text, TicketNumber number, List<TicketEvent> events, Person writer) {
        if (!text.contains("{")) {
            return text;
        }
        boolean due = text.contains("{" + Placeholder.RESOLUTION_DUE.key() + "}");
        Map<String, String> values = known(number, events, writer, due).values();
        List<String> empty = Placeholders.gaps(text, values).empty();
        if (!empty.isEmpty()) {
            throw new Problem.Invalid(
                    "{" + String.join("}, {", empty) + "} has no value on ticket " + number + ". Nothing was written.");
        }
        return Placeholders.fillKnown(text, values);
    }

    /** The language in which somebody is written to; blank when nobody knows. */
    public String language(ContactId contact) {
        return sql.select(CONTACT.LANGUAGE)
                .from(CONTACT)
                .where(CONTACT.ID.eq(contact))
                .fetchOptional(CONTACT.LANGUAGE)
                .orElse("");
    }

    /** The values for what Rafter itself writes by a rule, on a ticket with these events. */
    public Map<String, String> ofRafter(TicketNumber number, List<TicketEvent> events) {
        Ticket ticket = Ticket.replay(events);
        Instant now = clock.instant();
        var values = new EnumMap<Placeholder, String>(Placeholder.class);
        values.put(
                Placeholder.OWNER,
                ticket.owner().flatMap(persons::find).map(Person::name).orElse("nobody"));
        values.put(Placeholder.LINK, settings.address() + "/tickets/" + number);
        values.put(Placeholder.OPENS, OpensWords.of(targets.terms().hours(), now, targets.zone()));
        var all = new HashMap<>(known(number, events, Optional.empty(), true).values());
        all.putAll(Placeholder.named(values));
        return all;
    }

    private Known known(TicketNumber number, List<TicketEvent> events, Person writer, boolean due) {
        return known(number, events, Optional.of(writer), due);
    }

    private Known known(TicketNumber number, List<TicketEvent> events, Optional<Person> writer, boolean due) {
        return known(number, events, customer(Ticket.replay(events)), writer, due);
    }

    private Known known(
            TicketNumber number, List<TicketEvent> events, Customer customer, Optional<Person> writer, boolean due) {
        Ticket ticket = Ticket.replay(events);
        DateTimeFormatter day = DAY.withLocale(
                customer.language().isEmpty() ? Locale.ENGLISH : Locale.forLanguageTag(customer.language()));
        ZoneId zone = targets.zone();
        Instant now = clock.instant();
        var values = new EnumMap<Placeholder, String>(Placeholder.class);
        values.put(Placeholder.TICKET, number.toString());
        values.put(Placeholder.SUBJECT, ticket.subject());
        values.put(Placeholder.TOPIC, ticket.topic());
        values.put(Placeholder.OPENED, day.format(ticket.openedAt().atZone(zone)));
        values.put(Placeholder.CUSTOMER, customer.name());
        values.put(Placeholder.FIRST_NAME, Placeholder.firstName(customer.name()));
        values.put(Placeholder.COMPANY, customer.company());
        values.put(Placeholder.AGENT, writer.map(Person::name).orElse(""));
        values.put(Placeholder.AGENT_FIRST_NAME, writer.map(Person::firstName).orElse(""));
        values.put(Placeholder.TEAM, team(ticket));
        values.put(Placeholder.WORKSPACE, workspaces.current().name());
        values.put(Placeholder.TODAY, day.format(now.atZone(zone)));
        values.put(Placeholder.REQUEST_PAGE, pages.address(number));
        if (due) {
            values.put(Placeholder.RESOLUTION_DUE, due(number, events, now, zone));
        }
        return new Known(Placeholder.named(values), customer.language());
    }

    private List<TicketEvent> events(TicketNumber number) {
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound("There is no ticket " + number + ".");
        }
        return events;
    }

    private Customer customer(Ticket ticket) {
        return sql.select(CONTACT.NAME, COMPANY.NAME, CONTACT.LANGUAGE)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(ticket.contact()))
                .fetchSingle(r -> new Customer(r.value1(), Say.orBlank(r.value2()), r.value3()));
    }

    private String team(Ticket ticket) {
        return ticket.team()
                .flatMap(id -> persons.teams().stream()
                        .filter(team -> team.id().equals(id))
                        .findFirst())
                .map(Team::name)
                .orElse("");
    }

    private String due(TicketNumber number, List<TicketEvent> events, Instant now, ZoneId zone) {
        List<TargetClock> clocks = targets.reckon(events, customerFacts.customer(number), now);
        return Optional.ofNullable(Reckoning.latest(clocks).get(Objective.RESOLUTION))
                .filter(TargetClock::live)
                .flatMap(TargetClock::dueMark)
                .map(at -> Say.when(at, now, zone))
                .orElse("");
    }

    /** Formatted text with its placeholders filled in; a value is text, whatever stands in it. Those without one stay. */
    public static String fill(String html, Map<String, String> values) {
        Document document = Jsoup.parseBodyFragment(html);
        document.outputSettings().prettyPrint(false);
        for (TextNode text : document.body().nodeStream(TextNode.class).toList()) {
            text.text(Placeholders.fillKnown(text.getWholeText(), values));
        }
        return document.body().html();
    }
}
