package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.util.HtmlUtils;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.RoomDesk;
import rafter.app.tickets.acts.Trace;
import rafter.app.tickets.answers.AnswerDrafts;
import rafter.app.tickets.writing.Drafts;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** What comes of a room: its outcome, as a note on the ticket, which the search finds; and what is made of it. */
@Component
public class Outcomes implements RoomDesk, Trace {

    static final int LONGEST = 4_000;

    private final DSLContext sql;
    private final Consults consults;
    private final Guests guests;
    private final Lines lines;
    private final NotesBeside notes;
    private final Drafts drafts;
    private final AnswerDrafts answers;
    private final LiveNews news;

    Outcomes(
            DSLContext sql,
            Consults consults,
            Guests guests,
            Lines lines,
            NotesBeside notes,
            Drafts drafts,
            AnswerDrafts answers,
            LiveNews news) {
        this.sql = sql;
        this.consults = consults;
        this.guests = guests;
        this.lines = lines;
        this.notes = notes;
        this.drafts = drafts;
        this.answers = answers;
        this.news = news;
    }

    /**
     * Closes a room with what was found and done; the ticket keeps it as a note.
     *
     * @param helped the invitations of those who helped
     * @throws Problem.Invalid when nothing is said, or too much
     * @throws Problem.Stale when it is closed already
     */
    @Transactional
    public void close(long id, String typedFound, String typedDone, Set<Long> helped, Viewer by) {
        Access.require(by, Right.WORK);
        String found = typedFound.strip();
        String done = typedDone.strip();
        if (found.isEmpty() && done.isEmpty()) {
            throw new Problem.Invalid(
                    "Say what was found or what was done; or call the room off, when nothing came of it. Nothing was changed.");
        }
        if (found.length() > LONGEST || done.length() > LONGEST) {
            throw new Problem.Invalid("What was found, and what was done, have at most " + LONGEST + " letters each.");
        }
        // The ticket before the room: who answers by mail holds them in this order, too.
        notes.hold(of(id).ticket(), by);
        Consults.Consult consult = open(id);
        guests.helped(id, helped);
        MessageId note = notes.write(consult.ticket(), note(consult, found, done, guests.of(id)), by);
        consults.end(consult, Consults.CLOSED, found, done, by.id(), Optional.of(note.value()));
        lines.happened(id, by.name() + " closed the room.");
    }

    private static String note(Consults.Consult consult, String found, String done, List<Guests.Guest> all) {
        String helpers = all.stream()
                .filter(Guests.Guest::helped)
                .map(Guests.Guest::name)
                .collect(Collectors.joining(", "));
        return "<p><strong>Consult</strong> " + HtmlUtils.htmlEscape(consult.question()) + "</p>"
                + part("Found", found)
                + part("Done", done)
                + part("Helped", helpers);
    }

    private static String part(String name, String text) {
        return text.isEmpty() ? "" : "<p><strong>" + name + "</strong></p>" + SafeHtml.fromText(text);
    }

    /** Calls a room off of which nothing came. */
    @Transactional
    public void callOff(long id, Viewer by) {
        Access.require(by, Right.WORK);
        notes.hold(of(id).ticket(), by);
        consults.end(open(id), "CALLED_OFF", "", "", by.id(), Optional.empty());
        lines.happened(id, by.name() + " called it off.");
    }

    /** Opens a closed room again; what stands of it on the ticket is taken back. */
    @Transactional
    public void reopen(long id, Viewer by) {
        Access.require(by, Right.WORK);
        notes.hold(of(id).ticket(), by);
        Consults.Consult consult = consults.hold(id);
        if (consult.open()) {
            throw new Problem.Stale("This room is open already. Nothing was changed.");
        }
        Optional<MessageId> note = sql.select(CONSULT.NOTE_ID)
                .from(CONSULT)
                .where(CONSULT.ID.eq(id))
                .fetchOptional(CONSULT.NOTE_ID)
                .map(MessageId::new);
        sql.update(CONSULT)
                .set(CONSULT.STATE, Consults.OPEN)
                .setNull(CONSULT.CLOSED_AT)
                .setNull(CONSULT.CLOSED_BY)
                .setNull(CONSULT.NOTE_ID)
                .where(CONSULT.ID.eq(id))
                .execute();
        note.ifPresent(message -> notes.takeBack(consult.ticket(), message, by));
        lines.happened(id, by.name() + " opened it again.");
        news.ticketChanged(consult.ticket());
        news.floorChanged();
    }

    private Consults.Consult of(long id) {
        return consults.find(id).orElseThrow(() -> new Problem.NotFound("There is no such room."));
    }

    private Consults.Consult open(long id) {
        Consults.Consult consult = consults.hold(id);
        if (!consult.open()) {
            throw new Problem.Stale("Somebody closed this room already. Nothing was changed.");
        }
        return consult;
    }

    // ------------------------------------------------------------------ what is made of it

    /**
     * Puts what somebody said into what one is writing on the ticket.
     *
     * @param kind into a reply, or a note
     */
    @Transactional
    public TicketNumber quote(long id, long line, Drafts.Kind kind, Viewer me) {
        Access.require(me, Right.WORK);
        Consults.Consult consult = of(id);
        Lines.Line said = lines.of(id).stream()
                .filter(one -> one.id() == line && one.kind() != Lines.Kind.HAPPENED)
                .findFirst()
                .orElseThrow(() -> new Problem.NotFound("There is no such line."));
        String who = kind == Drafts.Kind.NOTE
                ? "<p><strong>" + HtmlUtils.htmlEscape(said.speaker().name()) + "</strong></p>"
                : "";
        add(consult.ticket(), kind, who + "<blockquote>" + SafeHtml.fromText(said.text()) + "</blockquote>", me);
        return consult.ticket();
    }

    /** Puts what was done into one’s reply. */
    @Transactional
    public TicketNumber intoReply(long id, Viewer me) {
        Access.require(me, Right.WORK);
        Consults.Consult consult = of(id);
        String words = (consult.found() + "\n\n" + consult.done()).strip();
        add(consult.ticket(), Drafts.Kind.REPLY, SafeHtml.fromText(words), me);
        return consult.ticket();
    }

    private void add(TicketNumber ticket, Drafts.Kind kind, String html, Viewer me) {
        Drafts.Draft draft = drafts.find(ticket, kind, me);
        var writing = new Drafts.Writing(
                draft.html() + html,
                draft.to(),
                draft.cc(),
                draft.bcc(),
                draft.version() == 0 ? Turn.CUSTOMER : draft.then());
        if (drafts.save(ticket, kind, writing, draft.version(), me) instanceof Drafts.Saved.ChangedElsewhere) {
            throw new Problem.Stale("You are writing there just now. Try it again in a moment.");
        }
    }

    /** Makes a draft answer of what came of a room. */
    @Transactional
    public long answer(long id, Viewer me) {
        Consults.Consult consult = of(id);
        return answers.of(consult.ticket(), (consult.found() + "\n\n" + consult.done()).strip(), me);
    }

    @Override
    public String key() {
        return TRACE;
    }

    @Override
    public Condition there(Field<TicketNumber> ticket) {
        return Consults.any(ticket);
    }

    @Override
    public List<Room> rooms(TicketNumber ticket, Viewer me) {
        return consults.of(ticket).stream()
                .map(one -> new Room(
                        one.id(), one.question(), state(one), one.open(), (one.found() + "\n" + one.done()).strip()))
                .toList();
    }

    private String state(Consults.Consult consult) {
        if (!consult.open()) {
            return consult.state().equals(Consults.CLOSED) ? "closed" : "called off";
        }
        List<Guests.Guest> all = guests.of(consult.id());
        long here =
                all.stream().filter(one -> one.state() == Guests.State.TAKEN).count();
        long asked =
                all.stream().filter(one -> one.state() == Guests.State.ASKED).count();
        return here + " here, " + asked + " asked";
    }
}
