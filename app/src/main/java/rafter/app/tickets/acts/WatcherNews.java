package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.notices.Notices;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Await;
import rafter.core.ticket.Help;
import rafter.core.ticket.Interest;
import rafter.core.ticket.Talk;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Tells those who watch a ticket what happens to it, and those who are given a task that they are. Nobody is told what they did themselves. */
@Component
class WatcherNews {

    /** What watchers can choose to be told of, each once for what happens in one go. */
    private record News(Notices.Kind kind, Interest of, Actor by, String words) {}

    private final Notices notices;
    private final Persons persons;

    WatcherNews(Notices notices, Persons persons) {
        this.notices = notices;
        this.persons = persons;
    }

    void tell(TicketNumber number, Ticket before, Ticket after, List<TicketEvent> more, Instant now) {
        var told = new ArrayList<Notices.Told>();
        for (TicketEvent event : more) {
            if (!after.work().watchers().isEmpty()) {
                news(event)
                        .ifPresent(news -> after.work().watching().entrySet().stream()
                                .filter(watching -> watching.getValue().contains(news.of()))
                                .map(Map.Entry::getKey)
                                .filter(person -> !news.by().equals(new Actor.Person(person)))
                                .map(person -> told(person, number, after, now, news.kind(), news.words()))
                                .forEach(told::add));
            }
            if (event instanceof TicketEvent.TaskSet task
                    && task.person().isPresent()
                    && !task.actor().equals(new Actor.Person(task.person().get()))) {
                String words = who(task.actor()) + " has a task for you on";
                told.add(told(task.person().get(), number, after, now, Notices.Kind.TASK, words));
            }
        }
        more.forEach(event -> {
            told.addAll(helping(event, number, after, now));
            told.addAll(beside(event, number, after, now));
            told.addAll(back(event, number, before, after, now));
        });
        if (!told.isEmpty()) {
            notices.tell(told);
        }
    }

    /** Who is asked for help is told so, and that it is not wanted any more; who asked is told when it is handed back. */
    private List<Notices.Told> helping(TicketEvent event, TicketNumber number, Ticket after, Instant now) {
        if (event instanceof TicketEvent.HelpAsked asked) {
            String words = who(asked.actor()) + " asks for your help on";
            return told(helpers(asked.wanted()), asked.actor(), number, after, now, Notices.Kind.HELP, words);
        }
        if (!(event instanceof TicketEvent.HelpEnded ended)) {
            return List.of();
        }
        Optional<Help> help = after.work().help(ended.help());
        if (ended.withdrawn()) {
            String words = who(ended.actor()) + " needs your help no more on";
            List<PersonId> helpers = help.map(Help::wanted).map(this::helpers).orElse(List.of());
            return told(helpers, ended.actor(), number, after, now, Notices.Kind.HELP, words);
        }
        String words = who(ended.actor()) + " hands back what you asked for on";
        List<PersonId> asker = help.map(Help::askedBy).stream()
                .flatMap(actor -> actor instanceof Actor.Person person ? Stream.of(person.id()) : Stream.empty())
                .toList();
        return told(asker, ended.actor(), number, after, now, Notices.Kind.HELP_BACK, words);
    }

    /** Who is asked a question beside a ticket is told so; who asked is told when somebody answers. */
    private List<Notices.Told> beside(TicketEvent event, TicketNumber number, Ticket after, Instant now) {
        if (event instanceof TicketEvent.SideAsked asked) {
            List<PersonId> all = asked.person()
                    .map(List::of)
                    .orElseGet(() -> asked.team().map(persons::membersOf).orElse(List.of()));
            String words = who(asked.actor()) + " asks: “" + asked.question() + "” on";
            return told(all, asked.actor(), number, after, now, Notices.Kind.QUESTION, words);
        }
        if (!(event instanceof TicketEvent.SideAnswered answered)) {
            return List.of();
        }
        List<PersonId> asker = after.work().talk(answered.talk()).map(Talk::by).stream()
                .flatMap(actor -> actor instanceof Actor.Person person ? Stream.of(person.id()) : Stream.empty())
                .toList();
        String words = who(answered.actor()) + " answers: “" + answered.words() + "” on";
        return told(asker, answered.actor(), number, after, now, Notices.Kind.QUESTION, words);
    }

    /** The owner of a ticket that came back is told, with what they noted for it. */
    private static List<Notices.Told> back(
            TicketEvent event, TicketNumber number, Ticket before, Ticket after, Instant now) {
        if (!(event instanceof TicketEvent.BroughtBack)) {
            return List.of();
        }
        String noted = before.work()
                .await()
                .map(Await::note)
                .filter(note -> !note.isEmpty())
                .map(note -> " You noted: “" + note + "”")
                .orElse("");
        return after.owner().stream()
                .map(owner -> new Notices.Told(
                        owner,
                        number,
                        now,
                        Notices.Kind.BACK,
                        number + " came back, as set: " + after.subject() + "." + noted))
                .toList();
    }

    private List<PersonId> helpers(Help.Wanted wanted) {
        return wanted.person()
                .map(List::of)
                .orElseGet(() -> wanted.team().map(persons::membersOf).orElse(List.of()));
    }

    /** All of them but whoever did it. */
    private static List<Notices.Told> told(
            List<PersonId> all,
            Actor by,
            TicketNumber number,
            Ticket after,
            Instant now,
            Notices.Kind kind,
            String words) {
        return all.stream()
                .filter(person -> !by.equals(new Actor.Person(person)))
                .map(person -> told(person, number, after, now, kind, words))
                .toList();
    }

    private static Notices.Told told(
            PersonId person, TicketNumber number, Ticket ticket, Instant now, Notices.Kind kind, String words) {
        return new Notices.Told(person, number, now, kind, words + " " + number + ": " + ticket.subject());
    }

    private Optional<News> news(TicketEvent event) {
        return switch (event) {
            case TicketEvent.CustomerWrote e
            when !e.automatic() ->
                Optional.of(
                        new News(Notices.Kind.WATCHED_CUSTOMER, Interest.CUSTOMER, e.actor(), "The customer wrote on"));
            case TicketEvent.WeWrote e
            when !e.automatic() ->
                Optional.of(
                        new News(Notices.Kind.WATCHED_OURS, Interest.OURS, e.actor(), who(e.actor()) + " answered on"));
            case TicketEvent.NoteAdded e ->
                Optional.of(new News(
                        Notices.Kind.WATCHED_OURS, Interest.OURS, e.actor(), who(e.actor()) + " wrote a note on"));
            case TicketEvent.PublicNoteAdded e ->
                Optional.of(new News(
                        Notices.Kind.WATCHED_OURS,
                        Interest.OURS,
                        e.actor(),
                        who(e.actor()) + " wrote a note for the customer on"));
            case TicketEvent.OutsideWrote e
            when !e.automatic() ->
                Optional.of(new News(
                        Notices.Kind.WATCHED_OURS, Interest.OURS, e.actor(), "An answer came from outside on"));
            case TicketEvent.StateChanged e ->
                Optional.of(new News(
                        Notices.Kind.WATCHED_STATE,
                        Interest.STATE,
                        e.actor(),
                        who(e.actor()) + " set the state to " + e.state().name() + " on"));
            case TicketEvent.Opened e -> Optional.empty();
            case TicketEvent.CustomerWrote e -> Optional.empty();
            case TicketEvent.WeWrote e -> Optional.empty();
            case TicketEvent.Bounced e -> Optional.empty();
            case TicketEvent.PriorityChanged e -> Optional.empty();
            case TicketEvent.OwnerChanged e -> Optional.empty();
            case TicketEvent.TeamChanged e -> Optional.empty();
            case TicketEvent.TopicChanged e -> Optional.empty();
            case TicketEvent.TagsChanged e -> Optional.empty();
            case TicketEvent.Linked e -> Optional.empty();
            case TicketEvent.CustomerIs e -> Optional.empty();
            case TicketEvent.CustomerChanged e -> Optional.empty();
            case TicketEvent.Joined e -> Optional.empty();
            case TicketEvent.Parted e -> Optional.empty();
            case TicketEvent.Unlinked e -> Optional.empty();
            case TicketEvent.Continued e -> Optional.empty();
            case TicketEvent.NoteTakenBack e -> Optional.empty();
            case TicketEvent.Discarded e -> Optional.empty();
            case TicketEvent.Restored e -> Optional.empty();
            case TicketEvent.FieldSet e -> Optional.empty();
            case TicketEvent.TimeAgreed e -> Optional.empty();
            case TicketEvent.BringBackSet e -> Optional.empty();
            case TicketEvent.WayChanged e -> Optional.empty();
            case TicketEvent.BroughtBack e -> Optional.empty();
            case TicketEvent.WroteOutside e -> Optional.empty();
            case TicketEvent.OutsideWrote e -> Optional.empty();
            case TicketEvent.SplitOff e -> Optional.empty();
            case TicketEvent.SplitBack e -> Optional.empty();
            case TicketEvent.OfWork e -> Optional.empty();
            case TicketEvent.OfSteering e -> Optional.empty();
        };
    }

    private String who(Actor actor) {
        return actor instanceof Actor.Person person
                ? persons.find(person.id()).map(Person::name).orElse("Somebody")
                : "Rafter";
    }
}
