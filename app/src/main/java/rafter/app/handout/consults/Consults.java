package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.PERSON;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.consult.Candidate;
import rafter.core.consult.Cover;
import rafter.core.consult.Who;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** Asks others in, asks the next one when somebody does not come, and lets people come and go. */
@Component
public class Consults {

    static final int LONGEST_QUESTION = 2_000;
    static final int LONGEST_REASON = 200;
    /** So many rooms of one ticket are open at once. */
    private static final int MOST_OPEN = 5;

    static final String OPEN = "OPEN";
    static final String CLOSED = "CLOSED";

    /** A consult as it is kept. */
    record Consult(
            long id,
            TicketNumber ticket,
            PersonId by,
            String asker,
            String question,
            Set<SkillId> skills,
            Instant opened,
            String state,
            String found,
            String done,
            Optional<Instant> closed) {
        public boolean open() {
            return state.equals(OPEN);
        }
    }

    private final DSLContext sql;
    private final Candidates candidates;
    private final Guests guests;
    private final Lines lines;
    private final Asking asking;
    private final Tickets tickets;
    private final LiveNews news;
    private final Clock clock;

    Consults(
            DSLContext sql,
            Candidates candidates,
            Guests guests,
            Lines lines,
            Asking asking,
            Tickets tickets,
            LiveNews news,
            Clock clock) {
        this.sql = sql;
        this.candidates = candidates;
        this.guests = guests;
        this.lines = lines;
        this.asking = asking;
        this.tickets = tickets;
        this.news = news;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ finding

    Optional<Consult> find(long id) {
        return read(CONSULT.ID.eq(id)).stream().findFirst();
    }

    /** The consults of a ticket, the latest first. */
    List<Consult> of(TicketNumber ticket) {
        return read(CONSULT.TICKET.eq(ticket));
    }

    /** Whether a ticket has any. */
    static Condition any(Field<TicketNumber> ticket) {
        return DSL.exists(DSL.selectOne().from(CONSULT).where(CONSULT.TICKET.eq(ticket)));
    }

    private List<Consult> read(Condition which) {
        return sql.select(CONSULT.fields())
                .select(PERSON.NAME)
                .from(CONSULT)
                .join(PERSON)
                .on(PERSON.ID.eq(CONSULT.PERSON_ID))
                .where(which)
                .orderBy(CONSULT.ID.desc())
                .fetch(r -> new Consult(
                        r.get(CONSULT.ID),
                        r.get(CONSULT.TICKET),
                        r.get(CONSULT.PERSON_ID),
                        r.get(PERSON.NAME),
                        r.get(CONSULT.QUESTION),
                        skills(r.get(CONSULT.SKILLS)),
                        r.get(CONSULT.OPENED_AT),
                        r.get(CONSULT.STATE),
                        r.get(CONSULT.FOUND),
                        r.get(CONSULT.DONE),
                        Optional.ofNullable(r.get(CONSULT.CLOSED_AT))));
    }

    private static Set<SkillId> skills(Long[] ids) {
        var all = new LinkedHashSet<SkillId>();
        Arrays.stream(ids).map(SkillId::new).forEach(all::add);
        return all;
    }

    /** The consult, held until the transaction ends; what is asked of it is asked one after the other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Consult hold(long id) {
        sql.selectOne().from(CONSULT).where(CONSULT.ID.eq(id)).forUpdate().fetch();
        return find(id).orElseThrow(() -> new Problem.NotFound("There is no such room."));
    }

    private Consult holdOpen(long id) {
        Consult consult = hold(id);
        if (!consult.open()) {
            throw new Problem.Stale("This room is closed. Nothing was changed.");
        }
        return consult;
    }

    // ------------------------------------------------------------------ asking

    /**
     * Opens a room beside a ticket and asks the fewest people in who know what is needed, and guests.
     *
     * @param guestPeople who is asked for being who they are
     * @return its id
     * @throws Problem.Invalid when it does not say what is needed
     */
    @Transactional
    public long open(
            TicketNumber number, String typed, Set<SkillId> skills, Collection<PersonId> guestPeople, Viewer by) {
        Access.require(by, Right.WORK);
        Ticket ticket = ticket(number, by);
        String question = typed.strip();
        check(number, question, skills, guestPeople);
        long id = sql.insertInto(CONSULT)
                .set(CONSULT.TICKET, number)
                .set(CONSULT.PERSON_ID, by.id())
                .set(CONSULT.QUESTION, question)
                .set(
                        CONSULT.SKILLS,
                        skills.stream().map(SkillId::value).sorted().toArray(Long[]::new))
                .set(CONSULT.OPENED_AT, clock.instant())
                .returning(CONSULT.ID)
                .fetchSingle(CONSULT.ID);
        var asked = new Asking.Question(id, number, ticket, by.name(), question);
        guestPeople.stream()
                .filter(person -> !person.equals(by.id()))
                .distinct()
                .forEach(person -> asking.ask(asked, new Who.Colleague(person), "as a guest", true));
        askNext(hold(id));
        news.ticketChanged(number);
        return id;
    }

    private void check(TicketNumber number, String question, Set<SkillId> skills, Collection<PersonId> guestPeople) {
        if (question.isEmpty() || question.length() > LONGEST_QUESTION) {
            throw new Problem.Invalid("Say in at most " + LONGEST_QUESTION + " letters what you need.");
        }
        if (skills.size() > Cover.MOST_SKILLS) {
            throw new Problem.Invalid("Tick at most " + Cover.MOST_SKILLS + " skills.");
        }
        if (skills.isEmpty() && guestPeople.isEmpty()) {
            throw new Problem.Invalid(
                    "Tick at least one skill that is needed, or a guest; else nobody would be asked.");
        }
        if (of(number).stream().filter(Consult::open).count() >= MOST_OPEN) {
            throw new Problem.Invalid("This ticket has " + MOST_OPEN + " open rooms. Close one first.");
        }
    }

    private Ticket ticket(TicketNumber number, Viewer by) {
        return tickets.get(number, by);
    }

    private Asking.Question question(Consult consult) {
        Ticket ticket = Optional.ofNullable(
                        tickets.find(List.of(consult.ticket())).get(consult.ticket()))
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + consult.ticket() + "."));
        return new Asking.Question(consult.id(), consult.ticket(), ticket, consult.asker(), consult.question());
    }

    /** Who would be asked for what is needed and nobody knows who is there or asked. */
    Cover next(Consult consult) {
        List<Guests.Guest> all = guests.of(consult.id());
        Set<Who> there = new HashSet<>();
        Set<Who> not = new HashSet<>();
        for (Guests.Guest guest : all) {
            boolean counts = guest.state() == Guests.State.ASKED || guest.state() == Guests.State.TAKEN;
            (counts ? there : not).add(guest.who());
        }
        return Cover.next(consult.skills(), candidates.all(consult.by()), there::contains, not::contains);
    }

    /**
     * Asks whoever is needed beside those who are there or asked.
     *
     * @return how many are asked
     */
    private int askNext(Consult held) {
        List<Cover.Chosen> chosen = next(held).asked();
        Map<SkillId, String> names = candidates.names();
        chosen.forEach(one -> asking.ask(question(held), one.candidate().who(), candidates.why(one, names), false));
        return chosen.size();
    }

    /**
     * Asks somebody in particular.
     *
     * @throws Problem.Stale when they are there or asked already
     */
    @Transactional
    public void invite(long id, Who who, Viewer by) {
        Access.require(by, Right.WORK);
        Consult consult = holdOpen(id);
        ticket(consult.ticket(), by);
        boolean there = guests.of(id).stream()
                .anyMatch(one -> one.who().equals(who)
                        && (one.state() == Guests.State.ASKED || one.state() == Guests.State.TAKEN));
        if (there) {
            throw new Problem.Stale("They are asked already. Nothing was changed.");
        }
        Candidate candidate = candidates.all(consult.by()).stream()
                .filter(one -> one.who().equals(who))
                .findFirst()
                .orElseThrow(() -> new Problem.NotFound("There is nobody like that."));
        asking.ask(question(consult), candidate.who(), "asked by " + by.name(), false);
    }

    // ------------------------------------------------------------------ answering

    /**
     * Somebody comes in; also who is late, as long as the room is open.
     *
     * @throws Problem.Stale when the room is closed, or they are asked no more
     */
    @Transactional
    public void take(long guestId) {
        Guests.Guest guest = guest(guestId);
        holdOpen(guest.consult());
        if (!guests.move(
                guest,
                List.of(Guests.State.ASKED, Guests.State.LAPSED, Guests.State.LEFT, Guests.State.DECLINED),
                Guests.State.TAKEN,
                "")) {
            throw new Problem.Stale("You are in this room already, or are not asked any more.");
        }
        lines.happened(guest.consult(), guest.name() + " came in.");
    }

    /** Somebody does not come, or leaves; whoever is needed instead is asked at once. */
    @Transactional
    public void decline(long guestId, String typed) {
        String reason = typed.strip();
        if (reason.length() > LONGEST_REASON) {
            throw new Problem.Invalid("A reason has at most " + LONGEST_REASON + " letters. You are still asked.");
        }
        Guests.Guest guest = guest(guestId);
        Consult consult = holdOpen(guest.consult());
        boolean left = guests.move(guest, List.of(Guests.State.TAKEN), Guests.State.LEFT, reason);
        boolean declined = !left
                && guests.move(guest, List.of(Guests.State.ASKED, Guests.State.LAPSED), Guests.State.DECLINED, reason);
        if (!left && !declined) {
            throw new Problem.Stale("You are not asked into this room any more.");
        }
        lines.happened(
                consult.id(), guest.name() + (left ? " left" : " declined") + (reason.isEmpty() ? "." : ": " + reason));
        askNext(consult);
    }

    /** A colleague comes in by themselves. */
    @Transactional
    public void join(long id, Viewer me) {
        Access.require(me, Right.WORK);
        Consult consult = holdOpen(id);
        ticket(consult.ticket(), me);
        Guests.Guest guest = guests.of(id).stream()
                .filter(one -> one.person().equals(Optional.of(me.id())))
                .findFirst()
                .orElseGet(
                        () -> guests.ask(id, new Who.Colleague(me.id()), "came by themselves", false, clock.instant()));
        take(guest.id());
    }

    private Guests.Guest guest(long id) {
        return guests.find(id).orElseThrow(() -> new Problem.NotFound("There is no such invitation."));
    }

    // ------------------------------------------------------------------ time goes by

    /** Rooms in which something may be to do. */
    List<Long> open() {
        return sql.select(CONSULT.ID)
                .from(CONSULT)
                .where(CONSULT.STATE.eq(OPEN))
                .orderBy(CONSULT.ID)
                .fetch(CONSULT.ID);
    }

    /** Who did not answer in time is waited for no more, and the next one is asked; whoever came back since is asked for what nobody knew. */
    @Transactional
    public void lookThrough(long id) {
        Consult consult = hold(id);
        if (!consult.open()) {
            return;
        }
        Instant now = clock.instant();
        guests.of(id).stream()
                .filter(one -> one.state() == Guests.State.ASKED
                        && one.until().filter(until -> !until.isAfter(now)).isPresent())
                .filter(one -> guests.move(one, List.of(Guests.State.ASKED), Guests.State.LAPSED, ""))
                .forEach(one -> lines.happened(id, one.name() + " did not answer in time."));
        askNext(consult);
    }

    // ------------------------------------------------------------------ ending

    /** Ends a room for everybody; who was asked is asked no more. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void end(Consult held, String state, String found, String done, PersonId by, Optional<Long> note) {
        sql.update(CONSULT)
                .set(CONSULT.STATE, state)
                .set(CONSULT.FOUND, found)
                .set(CONSULT.DONE, done)
                .set(CONSULT.CLOSED_BY, DSL.val(by.value(), CONSULT.CLOSED_BY.getDataType()))
                .set(CONSULT.CLOSED_AT, clock.instant())
                .set(CONSULT.NOTE_ID, DSL.val(note.orElse(null), CONSULT.NOTE_ID.getDataType()))
                .where(CONSULT.ID.eq(held.id()))
                .execute();
        guests.of(held.id()).stream()
                .filter(one -> one.state() == Guests.State.ASKED)
                .forEach(one -> guests.move(one, List.of(Guests.State.ASKED), Guests.State.WITHDRAWN, ""));
        guests.of(held.id()).forEach(one -> one.person().ifPresent(news::offered));
        news.roomChanged(held.id());
        news.ticketChanged(held.ticket());
        news.floorChanged();
    }
}
