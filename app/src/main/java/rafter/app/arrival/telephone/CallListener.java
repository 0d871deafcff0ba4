package rafter.app.arrival.telephone;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.arrival.providers.Listener;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.Told;
import rafter.app.house.access.Persons;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.LiveNews;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.Spoken;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.CallEvent;
import rafter.core.telephone.Course;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;

/**
 * Makes tickets of calls. What is to be done follows from how a call stands after everything that was told of it, and from what was done before, so
 * that it makes no difference in which order and how often that is told.
 */
@Component
class CallListener implements Listener {

    /** On tickets of calls that nobody took; promises of calling back ask for it. */
    static final String CALL_BACK = "call back";

    private static final String HIDDEN = "a hidden number";

    private final CallBook calls;
    private final CallFileBook files;
    private final OurLines lines;
    private final Contacts contacts;
    private final KnownBy known;
    private final Arrivals arrivals;
    private final Spoken spoken;
    private final NotesBeside tickets;
    private final Acts acts;
    private final Persons persons;
    private final WrittenDown written;
    private final Workspaces workspaces;
    private final LiveNews news;
    private final Clock clock;

    CallListener(
            CallBook calls,
            CallFileBook files,
            OurLines lines,
            Contacts contacts,
            KnownBy known,
            Arrivals arrivals,
            Spoken spoken,
            NotesBeside tickets,
            Acts acts,
            Persons persons,
            WrittenDown written,
            Workspaces workspaces,
            LiveNews news,
            Clock clock) {
        this.calls = calls;
        this.files = files;
        this.lines = lines;
        this.contacts = contacts;
        this.known = known;
        this.arrivals = arrivals;
        this.spoken = spoken;
        this.tickets = tickets;
        this.acts = acts;
        this.persons = persons;
        this.written = written;
        this.workspaces = workspaces;
        this.news = news;
        this.clock = clock;
    }

    @Override
    public Provider.Kind kind() {
        return Provider.Kind.TELEPHONE;
    }

    @Override
    public boolean take(Provider provider, String subject, List<Told> all) {
        List<CallEvent> events = CallReader.events(all);
        Instant now = clock.instant();
        // A clock of theirs that goes before ours makes no moment of a call longer than it was.
        Instant until = all.stream().map(Told::at).reduce(now, (a, b) -> a.isAfter(b) ? a : b);
        Optional<Course> course = Course.of(events, until);
        course.ifPresent(one -> {
            // The ticket before the call: whoever works on it holds them in this order, too.
            calls.find(provider.id(), subject)
                    .flatMap(CallBook.Call::ticket)
                    .map(calls::goesOn)
                    .ifPresent(tickets::hold);
            calls.hold(provider.id(), subject);
            var at = new At(provider, subject, one, all, now);
            at.settle();
        });
        return course.isPresent();
    }

    /** One call as it stands now. */
    private final class At {
        private final Provider provider;
        private final String subject;
        private final Course course;
        private final List<Told> all;
        private final Instant now;
        private final OurLine line;

        At(Provider provider, String subject, Course course, List<Told> all, Instant now) {
            this.provider = provider;
            this.subject = subject;
            this.course = course;
            this.all = all;
            this.now = now;
            this.line = lines.at(provider.id(), course.line())
                    .orElseThrow(() -> new Told.Unreadable("none of our numbers there is " + course.line()));
        }

        private CallBook.Call call() {
            return calls.hold(provider.id(), subject).orElseThrow();
        }

        void settle() {
            begin();
            CallBook.Call before = call();
            // What is told late may make another call of one that is over.
            boolean same = before.outcome().equals(course.outcome())
                    && before.talked().equals(course.talked())
                    && before.waited().equals(course.waited());
            calls.went(before.id(), course);
            if (before.ticket().isEmpty() && course.incoming() && becomesTicket()) {
                open(before);
            }
            Optional<TicketNumber> ticket = call().ticket().map(calls::goesOn);
            ticket.ifPresent(number -> speak(call(), before, number));
            notice(before);
            if (course.endedAt().isPresent() && !same) {
                end(ticket);
            }
            ticket.ifPresent(number -> CallReader.files(all).stream()
                    .filter(file -> file.voice() || line.says(OurLine.Wish.RECORDED))
                    .forEach(file -> files.fileThere(before.id(), file.voice(), file.path(), now)));
            news.call(before.id());
            news.floorChanged();
        }

        private void begin() {
            if (calls.hold(provider.id(), subject).isEmpty()) {
                calls.begin(
                        provider.id(),
                        subject,
                        line.id(),
                        course.incoming(),
                        course.number(),
                        Optional.empty(),
                        Optional.empty(),
                        course.beganAt());
            }
        }

        /** What goes on, or was answered, is a request; of what nobody took, what the line says. */
        private boolean becomesTicket() {
            return course.outcome()
                    .map(outcome -> switch (outcome) {
                        case ANSWERED, MESSAGE -> true;
                        case ABANDONED -> line.says(OurLine.Wish.ABANDONED);
                        case MISSED -> line.says(OurLine.Wish.MISSED);
                    })
                    .orElse(true);
        }

        private void open(CallBook.Call call) {
            List<Contact> people = known.ofNumber(course.number());
            Contact contact = people.size() == 1 ? people.getFirst() : contacts.strangers(now);
            String from = people.size() == 1 ? contact.name() : shown(course.number());
            String words = "Calls " + line.name() + " from " + shown(course.number()) + ".";
            var entry = new NewMessage(
                    NewMessage.Kind.CUSTOMER,
                    now,
                    people.size() == 1 ? contact.name() : "Caller",
                    Optional.of(contact.id()),
                    Optional.empty(),
                    new NewMessage.Envelope(course.number(), "", List.of(), List.of(), "", Optional.empty()),
                    SafeHtml.fromText(words),
                    words,
                    Optional.empty(),
                    people.size() > 1 ? "Several people have this number." : "",
                    List.of());
            TicketNumber number = arrivals.open(
                    new Arrivals.Request(
                            line.way(TelephoneChannel.KEY),
                            line.asAddress(),
                            contact,
                            "Call from " + from,
                            entry,
                            false,
                            true,
                            Optional.empty(),
                            ""),
                    workspaces.current());
            calls.opened(call.id(), number);
        }

        /** Whoever has it is its ticket’s owner; that they speak is an answer, once. */
        private void speak(CallBook.Call call, CallBook.Call before, TicketNumber number) {
            if (course.people().isEmpty()) {
                return;
            }
            PersonId person = course.people().getLast();
            if (call.entry().isEmpty()) {
                PersonId first = course.people().getFirst();
                MessageId entry = spoken.took(number, first, name(first), words(), now);
                calls.shownBy(call.id(), entry);
            }
            Ticket ticket = tickets.hold(number);
            boolean another = !before.person().equals(Optional.of(person));
            if (another && ticket.open() && !ticket.owner().equals(Optional.of(person))) {
                acts.byItself(number, new Act.HandToPerson(Optional.of(person)));
            }
        }

        private void notice(CallBook.Call before) {
            all.stream()
                    .filter(told -> told.what().equals("noticed"))
                    .findFirst()
                    .filter(told -> before.noticedAt().isEmpty())
                    .ifPresent(told -> calls.noticed(before.id(), told.at()));
        }

        private void end(Optional<TicketNumber> ticket) {
            CallBook.Call call = call();
            Course.Outcome outcome = course.outcome().orElseThrow();
            boolean answered = outcome == Course.Outcome.ANSWERED;
            calls.over(
                    call.id(),
                    outcome,
                    answered
                            ? course.endedAt()
                                    .map(end -> end.plus(line.after()))
                                    .filter(now::isBefore)
                            : Optional.empty());
            call.entry().ifPresent(entry -> spoken.tell(entry, words()));
            call.opened().ifPresent(number -> spoken.tellFirst(number, rang(outcome)));
            ticket.ifPresent(number -> end(call, number, answered));
        }

        /** What becomes of its ticket. */
        private void end(CallBook.Call call, TicketNumber number, boolean answered) {
            if (becomesTicket()
                    && call.opened().filter(number::equals).isPresent()
                    && tickets.hold(number).discarded()) {
                acts.byItself(number, new Act.Restore());
            }
            if (answered || !course.incoming()) {
                written.down(call, course, number);
            } else if (!becomesTicket()) {
                acts.byItself(number, new Act.Delete());
                return;
            } else if (course.incoming() && tickets.hold(number).open()) {
                acts.byItself(number, new Act.Tag(CALL_BACK));
            }
            if (answered && tickets.hold(number).tags().contains(CALL_BACK)) {
                acts.byItself(number, new Act.Untag(CALL_BACK));
            }
        }

        private String rang(Course.Outcome outcome) {
            String waited = CallWords.length(course.waited());
            return "Called " + line.name() + " from " + shown(course.number()) + ". "
                    + switch (outcome) {
                        case ANSWERED -> "Waited " + waited + ".";
                        case MESSAGE -> "Waited " + waited + ", then spoke on the machine.";
                        case ABANDONED -> "Waited " + waited + ", then gave up.";
                        case MISSED -> "Rang for " + waited + ".";
                    };
        }

        private String words() {
            String first = course.people().isEmpty() ? "" : name(course.people().getFirst());
            String who = course.people().stream()
                    .map(CallListener.this::name)
                    .reduce((a, b) -> a + ", then " + b)
                    .orElse("");
            String how = course.endedAt().isEmpty()
                    ? first + " speaks with them."
                    : who + " spoke with them for " + CallWords.length(course.talked())
                            + (course.held().toSeconds() == 0 ? "" : ", on hold for " + CallWords.length(course.held()))
                            + ".";
            return (course.incoming()
                            ? "Waited " + CallWords.length(course.waited()) + ". "
                            : "Called " + shown(course.number()) + ". ")
                    + how;
        }
    }

    private String name(PersonId person) {
        return persons.find(person).map(one -> one.name()).orElse("Somebody");
    }

    static String shown(String number) {
        return number.isBlank() ? HIDDEN : number;
    }
}
