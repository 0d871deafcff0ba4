package rafter.app.arrival.telephone;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.Providers;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.forms.Forms;
import rafter.app.house.people.Contact;
import rafter.app.house.people.KnownBy;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.HomeZone;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.TicketFields;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.Course;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** What whoever takes a call sees: who it probably is, what they have open, what was said last, and what is to be written down. */
@Component
class CallSheets {

    private static final int TICKETS = 6;
    private static final int LAST_WORDS = 220;
    private static final int CALLS = 4;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm");
    private static final DateTimeFormatter THEIR_TIME = DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH);

    /**
     * How a call stands.
     *
     * @param css as what its moments pass
     * @param with who has it; blank: nobody yet
     * @param word with whom there is a word
     * @param trouble why the exchange cannot be told anything
     */
    public record Standing(
            long id,
            String css,
            String words,
            Instant since,
            String clock,
            String line,
            boolean incoming,
            String with,
            String word,
            boolean mine,
            boolean waits,
            boolean over,
            String waited,
            String talked,
            String held,
            String outcome,
            String recording,
            boolean afterwards,
            String trouble) {}

    /** Who may be calling. */
    public record Caller(ContactId id, String name, String company, String plan, String localTime, boolean chosen) {}

    /** A ticket of theirs. */
    public record Theirs(
            TicketNumber number,
            String subject,
            String state,
            String turn,
            boolean open,
            String when,
            String last,
            String lastBy,
            boolean current) {}

    /** A call before this one. */
    public record Before(long id, String when, String words) {}

    /**
     * The sheet.
     *
     * @param number theirs; blank when they hide it
     * @param callers who have this number
     * @param known whether the ticket’s customer is somebody in particular
     */
    public record Sheet(
            Standing standing,
            String number,
            List<Caller> callers,
            boolean known,
            Optional<Caller> caller,
            Optional<TicketNumber> ticket,
            boolean moved,
            String subject,
            String topic,
            String priority,
            String due,
            List<Forms.Part> parts,
            List<Theirs> tickets,
            List<Before> before,
            String notes,
            int notesVersion) {}

    /** A call in a list. */
    public record Line(
            long id,
            String who,
            String company,
            String number,
            String line,
            String when,
            String words,
            String css,
            String with,
            Optional<TicketNumber> ticket) {}

    private final DSLContext sql;
    private final CallBook calls;
    private final OurLines lines;
    private final Providers providers;
    private final Persons persons;
    private final KnownBy known;
    private final Tickets tickets;
    private final TicketFields fields;
    private final TicketStates states;
    private final HomeZone home;
    private final Clock clock;

    CallSheets(
            DSLContext sql,
            CallBook calls,
            OurLines lines,
            Providers providers,
            Persons persons,
            KnownBy known,
            Tickets tickets,
            TicketFields fields,
            TicketStates states,
            HomeZone home,
            Clock clock) {
        this.sql = sql;
        this.calls = calls;
        this.lines = lines;
        this.providers = providers;
        this.persons = persons;
        this.known = known;
        this.tickets = tickets;
        this.fields = fields;
        this.states = states;
        this.home = home;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ one call

    /** The sheet of a call. */
    @Transactional(readOnly = true)
    Sheet sheet(CallBook.Call call, Viewer me) {
        Optional<TicketNumber> number = call.ticket().map(calls::goesOn);
        Optional<Ticket> ticket = number.flatMap(one -> tickets.find(one, me));
        Optional<Caller> caller = ticket.flatMap(one -> caller(one.contact(), true));
        return new Sheet(
                standing(call, me),
                call.number(),
                known.ofNumber(call.number()).stream()
                        .map(Contact::id)
                        .flatMap(id -> caller(
                                id, caller.filter(one -> one.id().equals(id)).isPresent())
                                .stream())
                        .toList(),
                caller.isPresent(),
                caller,
                number,
                number.isPresent() && !call.opened().equals(number),
                ticket.map(Ticket::subject).orElse(""),
                ticket.map(Ticket::topic).orElse(""),
                ticket.map(one -> one.priority().name()).orElse("P3"),
                number.flatMap(this::due).orElse(""),
                ticket.map(one -> fields.of(one, one.topic(), Map.of())).orElse(List.of()),
                caller.map(one -> theirs(one.id(), number, me)).orElse(List.of()),
                before(call),
                call.notes(),
                call.notesVersion());
    }

    /** How a call stands. */
    Standing standing(CallBook.Call call, Viewer me) {
        Instant now = clock.instant();
        OurLine line = lines.of(call.line()).orElseThrow();
        boolean mine = call.person().or(call::rung).filter(me.id()::equals).isPresent();
        boolean recorded = line.says(OurLine.Wish.RECORDED);
        return new Standing(
                call.id(),
                css(call),
                words(call),
                call.since(),
                CallWords.length(Duration.between(call.since(), call.endedAt().orElse(now))),
                line.name(),
                call.incoming(),
                call.person().map(this::name).orElse(""),
                call.word().map(this::name).orElse(""),
                mine,
                call.goesOn() && call.state() == Course.State.WAITING,
                !call.goesOn(),
                CallWords.length(call.waited()),
                CallWords.length(call.talked()),
                CallWords.length(call.held()),
                call.outcome()
                        .map(one -> CallWords.outcome(one, call.incoming()))
                        .orElse(""),
                !recorded
                        ? ""
                        : call.noticedAt()
                                .map(at -> "recorded, notice played " + TIME.format(at.atZone(home.zone())))
                                .orElse("recorded once the notice is played"),
                mine
                        && !call.goesOn()
                        && call.afterUntil().filter(now::isBefore).isPresent(),
                providers.of(call.provider()).map(Provider::trouble).orElse("The exchange is not there any more."));
    }

    private static String css(CallBook.Call call) {
        return call.goesOn() ? call.state().name().toLowerCase(Locale.ROOT) : "ended";
    }

    private static String words(CallBook.Call call) {
        return switch (call.state()) {
            case WAITING -> !call.incoming() ? "ringing there" : call.rung().isPresent() ? "ringing you" : "waiting";
            case TALKING -> "talking";
            case HELD -> call.word().isPresent() ? "on hold, a word with" : "on hold";
            case OVER -> "over";
        };
    }

    private String name(PersonId person) {
        return persons.find(person).map(Person::name).orElse("Somebody");
    }

    /** Somebody in particular. */
    private Optional<Caller> caller(ContactId id, boolean chosen) {
        Instant now = clock.instant();
        return sql.select(CONTACT.NAME, COMPANY.NAME, COMPANY.PLAN, CONTACT.ZONE)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(id))
                .and(CONTACT.STRANGER.isFalse())
                .fetchOptional(r -> new Caller(
                        id,
                        r.value1(),
                        Say.orBlank(r.value2()),
                        Say.orBlank(r.value3()),
                        r.value4().isEmpty() ? "" : THEIR_TIME.format(now.atZone(ZoneId.of(r.value4()))) + " for them",
                        chosen));
    }

    private Optional<String> due(TicketNumber number) {
        return sql.select(TICKET.NEXT_DUE)
                .from(TICKET)
                .where(TICKET.NUMBER.eq(number))
                .fetchOptional(TICKET.NEXT_DUE)
                .map(at -> Say.when(at, clock.instant(), home.zone()));
    }

    /** Their tickets: open ones first, each with what was said last. */
    private List<Theirs> theirs(ContactId contact, Optional<TicketNumber> current, Viewer me) {
        Instant now = clock.instant();
        var all = new ArrayList<Theirs>();
        for (Record row : sql.select(
                        TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE, TICKET.TURN, TICKET.OPEN, TICKET.OPENED_AT)
                .from(me.tickets())
                .where(TICKET.CONTACT_ID.eq(contact))
                .and(TICKET.DISCARDED.isFalse())
                .and(TICKET.JOINED_INTO.isNull())
                .orderBy(TICKET.OPEN.desc(), TICKET.NUMBER.desc())
                .limit(TICKETS)
                .fetch()) {
            TicketNumber number = row.get(TICKET.NUMBER);
            Optional<Record> last = last(number);
            all.add(new Theirs(
                    number,
                    row.get(TICKET.SUBJECT),
                    states.current()
                            .of(row.get(TICKET.STATE), Turn.valueOf(row.get(TICKET.TURN)), row.get(TICKET.OPEN))
                            .name(),
                    row.get(TICKET.TURN).toLowerCase(Locale.ROOT),
                    row.get(TICKET.OPEN),
                    Say.when(row.get(TICKET.OPENED_AT), now, home.zone()),
                    last.map(one -> cut(one.get(MESSAGE.TEXT))).orElse(""),
                    last.map(one -> one.get(MESSAGE.AUTHOR) + ", " + Say.when(one.get(MESSAGE.AT), now, home.zone()))
                            .orElse(""),
                    current.filter(number::equals).isPresent()));
        }
        return all;
    }

    private Optional<Record> last(TicketNumber number) {
        return sql.select(MESSAGE.TEXT, MESSAGE.AUTHOR, MESSAGE.AT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in("PUBLIC", "CUSTOMER"))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .orderBy(MESSAGE.KIND.eq("PUBLIC").desc(), MESSAGE.SEQ.desc())
                .limit(1)
                .fetchOptional()
                .map(one -> (Record) one);
    }

    private static String cut(String text) {
        String line = text.strip().replaceAll("\\s+", " ");
        return line.codePointCount(0, line.length()) <= LAST_WORDS
                ? line
                : line.substring(0, line.offsetByCodePoints(0, LAST_WORDS)) + " …";
    }

    private List<Before> before(CallBook.Call call) {
        if (call.number().isBlank()) {
            return List.of();
        }
        return calls.earlier(call, CALLS).stream()
                .map(one -> new Before(one.id(), Say.when(one.beganAt(), clock.instant(), home.zone()), outcome(one)))
                .toList();
    }

    private String outcome(CallBook.Call one) {
        String how =
                one.outcome().map(all -> CallWords.outcome(all, one.incoming())).orElse("goes on");
        String with = one.person()
                .map(person -> " by " + name(person) + ", " + CallWords.length(one.talked()))
                .orElse("");
        return (one.incoming() ? "called, " : "we called, ") + how + with;
    }

    // ------------------------------------------------------------------ lists

    /** Calls as lines of a list, those that somebody may see. */
    List<Line> lines(List<CallBook.Call> all, Viewer me) {
        return all.stream().flatMap(call -> line(call, me).stream()).toList();
    }

    private Optional<Line> line(CallBook.Call call, Viewer me) {
        Optional<TicketNumber> number = call.ticket().map(calls::goesOn);
        Optional<Ticket> ticket = number.flatMap(one -> tickets.find(one, me));
        if (number.isPresent() && ticket.isEmpty()) {
            return Optional.empty();
        }
        Optional<Caller> caller = ticket.flatMap(one -> caller(one.contact(), true));
        Instant now = clock.instant();
        return Optional.of(new Line(
                call.id(),
                caller.map(Caller::name).orElse(CallListener.shown(call.number())),
                caller.map(Caller::company).orElse(""),
                caller.isPresent() ? CallListener.shown(call.number()) : "",
                lines.of(call.line()).map(OurLine::name).orElse(""),
                call.goesOn()
                        ? CallWords.length(Duration.between(call.since(), now))
                        : Say.when(call.beganAt(), now, home.zone()),
                call.goesOn() ? words(call) : outcome(call),
                css(call),
                call.person().map(this::name).orElse(""),
                ticket.filter(one -> !one.discarded()).flatMap(one -> number)));
    }
}
