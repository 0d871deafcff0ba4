package rafter.app.tickets.writing;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.NoteTaking;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.MessageId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Writes notes among ourselves, tells whom they mention, and takes them back. */
@Component
public class Notes implements NoteTaking {

    private final TicketStore store;
    private final EntryStore entries;
    private final Drafts drafts;
    private final Pictures pictures;
    private final Persons persons;
    private final Notices notices;
    private final Clock clock;

    Notes(
            TicketStore store,
            EntryStore entries,
            Drafts drafts,
            Pictures pictures,
            Persons persons,
            Notices notices,
            Clock clock) {
        this.store = store;
        this.entries = entries;
        this.drafts = drafts;
        this.pictures = pictures;
        this.persons = persons;
        this.notices = notices;
        this.clock = clock;
    }

    /** Adds a note among ourselves. */
    @Transactional
    public MessageId note(TicketNumber number, String written, Viewer by) {
        return note(number, written, false, by);
    }

    /**
     * Adds a note with the files of the writer's draft, which it uses up.
     *
     * @param seen whether the customer sees it, on the page of their request
     */
    @Transactional
    public MessageId note(TicketNumber number, String written, boolean seen, Viewer by) {
        Access.require(by, Right.WORK);
        String html = pictures.settle(number, Drafts.Kind.NOTE, written, by);
        if (SafeHtml.isBlank(html) && !Pictures.any(html)) {
            throw new Problem.Invalid("There are no words in the note yet. Write it, then add it.");
        }
        TicketStore.Held held = store.hold(number, by);
        Ends.mayAnswer(number, held.ticket());
        List<Drafts.DraftFile> attached = drafts.find(number, Drafts.Kind.NOTE, by).files().stream()
                .filter(file -> Pictures.keeps(file, html))
                .toList();
        NewMessage.Kind kind = seen ? NewMessage.Kind.PUBLIC_NOTE : NewMessage.Kind.NOTE;
        Instant now = clock.instant();
        MessageId message = add(number, held.ticket(), kind, html, attached, now, by);
        var who = new Actor.Person(by.id());
        TicketEvent event = seen
                ? new TicketEvent.PublicNoteAdded(now, who, message)
                : new TicketEvent.NoteAdded(now, who, message);
        store.append(held, List.of(event), now);
        drafts.discard(number, Drafts.Kind.NOTE, by);
        return message;
    }

    @Override
    public TicketEvent.NoteAdded entry(TicketNumber number, Ticket ticket, String html, Viewer by) {
        Ends.mayAnswer(number, ticket);
        Instant now = clock.instant();
        MessageId message = add(number, ticket, NewMessage.Kind.NOTE, SafeHtml.own(html), List.of(), now, by);
        return new TicketEvent.NoteAdded(now, new Actor.Person(by.id()), message);
    }

    private MessageId add(
            TicketNumber number,
            Ticket ticket,
            NewMessage.Kind kind,
            String html,
            List<Drafts.DraftFile> attached,
            Instant now,
            Viewer by) {
        String text = SafeHtml.toText(html);
        var entry = new NewMessage(
                kind,
                now,
                by.name(),
                Optional.empty(),
                Optional.of(by.id()),
                NewMessage.Envelope.NONE,
                Pictures.forEntry(html),
                text,
                Optional.empty(),
                "",
                Drafts.refs(attached));
        MessageId message = entries.add(number, ticket.seq() + 1, entry);
        if (text.contains("@")) {
            String words = by.name() + " mentions you in a note on " + number + ": " + ticket.subject();
            notices.tell(mentioned(text, by).stream()
                    .map(person -> new Notices.Told(person.id(), number, now, Notices.Kind.MENTION, words))
                    .toList());
        }
        return message;
    }

    @Override
    @Transactional
    public void takeNoteBack(TicketNumber number, MessageId message, Viewer by) {
        Access.require(by, Right.WORK);
        TicketStore.Held held = store.hold(number, by);
        var who = new Actor.Person(by.id());
        boolean mine = held.events().stream()
                .filter(e -> e instanceof TicketEvent.NoteAdded || e instanceof TicketEvent.PublicNoteAdded)
                .anyMatch(
                        e -> e.entry().equals(Optional.of(message)) && e.actor().equals(who));
        boolean gone = held.events().stream()
                .anyMatch(e -> e instanceof TicketEvent.NoteTakenBack back
                        && back.message().equals(message));
        if (!mine || gone) {
            throw new Problem.Stale("That note of ticket " + number + " is not there any more, or is not yours.");
        }
        Instant now = clock.instant();
        entries.hide(message);
        store.append(held, List.of(new TicketEvent.NoteTakenBack(now, who, message)), now);
    }

    /** Whom a note names with an @ and their first name, their whole name, or that of a team they are in. */
    private List<Person> mentioned(String text, Viewer by) {
        String lower = " " + text.toLowerCase(Locale.ROOT);
        Set<TeamId> teams = persons.teams().stream()
                .filter(team -> named(team.name(), lower))
                .map(Team::id)
                .collect(Collectors.toSet());
        return persons.active().stream()
                .filter(person -> !person.id().equals(by.id()))
                .filter(person -> named(person.firstName(), lower)
                        || (!teams.isEmpty()
                                && persons.teamsOf(person.id()).stream().anyMatch(teams::contains)))
                .toList();
    }

    private static boolean named(String name, String lower) {
        return Pattern.compile("(?U)(?<![\\w@.])@" + Pattern.quote(name.toLowerCase(Locale.ROOT)) + "\\b")
                .matcher(lower)
                .find();
    }
}
