package rafter.app.work.batches;

import static rafter.database.Tables.BATCH;
import static rafter.database.Tables.BATCH_ITEM;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Query;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Audit;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.Foresight;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Decision;
import rafter.database.tables.records.BatchRecord;

/** Does one thing to many tickets: in the background, a few a transaction, each ticket once. */
@Component
public class Batches implements BackgroundWork.InParts {

    /** As many as one batch takes. */
    static final int MOST = 20_000;

    private static final String KIND = "batch";
    private static final int PART = 25;
    private static final int LATEST = 30;
    /** So many customers are named in a warning. */
    private static final int NAMED = 4;

    /** How a batch stands. */
    record Run(
            long id,
            Act act,
            String words,
            PersonId person,
            long total,
            long done,
            long failed,
            int same,
            boolean finished,
            boolean cancelled,
            boolean mayUndo,
            Optional<Long> undoes) {

        /** How it stands, in a word. */
        public String stands() {
            if (finished) {
                return cancelled ? "Cancelled." : "Done.";
            }
            return cancelled ? "Ending …" : "Working …";
        }

        /** How it went, as a line of a list says it. */
        public String went() {
            String so = finished
                    ? cancelled ? "cancelled after " + done : "done"
                    : "still working, " + (done + failed) + " so far";
            return so + (failed > 0 ? ", " + failed + " failed" : "") + (mayUndo ? ", can be undone" : "");
        }
    }

    /** A ticket to which it could not be done. */
    record Failure(TicketNumber ticket, String subject, String reason) {}

    private final DSLContext sql;
    private final Acts acts;
    private final Foresight foresight;
    private final Tickets tickets;
    private final Persons persons;
    private final Viewers viewers;
    private final Blanks blanks;
    private final Targets targets;
    private final BackgroundWork work;
    private final Audit audit;
    private final Clock clock;

    Batches(
            DSLContext sql,
            Targets targets,
            Acts acts,
            Foresight foresight,
            Tickets tickets,
            Persons persons,
            Viewers viewers,
            Blanks blanks,
            BackgroundWork work,
            Audit audit,
            Clock clock) {
        this.sql = sql;
        this.targets = targets;
        this.acts = acts;
        this.foresight = foresight;
        this.tickets = tickets;
        this.persons = persons;
        this.viewers = viewers;
        this.blanks = blanks;
        this.work = work;
        this.audit = audit;
        this.clock = clock;
    }

    /**
     * Begins a batch.
     *
     * @return its id
     * @throws Problem.Invalid when there is nothing to be done, or it cannot be done
     */
    @Transactional
    public long start(Act act, Collection<TicketNumber> numbers, Viewer me) {
        foresight.hindrance(act, me).ifPresent(refused -> {
            String words = refused.words().replace("Nothing was changed", "Nothing was done yet");
            throw refused.why() == Decision.Why.NO_RIGHT ? new Problem.NoRight(words) : new Problem.Invalid(words);
        });
        if (numbers.isEmpty()) {
            throw new Problem.Invalid("No ticket is chosen. Choose some in the list first.");
        }
        if (numbers.size() > MOST) {
            throw new Problem.Invalid(
                    "At most " + MOST + " tickets can be acted on at once. Choose fewer; nothing was done yet.");
        }
        if (act instanceof Act.Join(TicketNumber into) && tickets.find(into, me).isEmpty()) {
            throw new Problem.Invalid("There is no ticket " + into + " to join into. Nothing was done yet.");
        }
        // The one that the others are joined into is left out: it is whole already.
        List<TicketNumber> meant = numbers.stream()
                .filter(number -> !new Act.Join(number).equals(act))
                .toList();
        return begin(act, foresight.words(act), Optional.empty(), meant, me);
    }

    private long begin(Act act, String words, Optional<Long> undoes, Collection<TicketNumber> numbers, Viewer me) {
        long id = sql.insertInto(BATCH)
                .set(BATCH.PERSON_ID, me.id())
                .set(BATCH.DOES, JSONB.valueOf(ActJson.write(act)))
                .set(BATCH.WORDS, words)
                .set(BATCH.UNDOES, undoes.orElse(null))
                .set(BATCH.STARTED_AT, clock.instant())
                .returning(BATCH.ID)
                .fetchSingle(BATCH.ID);
        int total = sql.insertInto(BATCH_ITEM, BATCH_ITEM.BATCH_ID, BATCH_ITEM.TICKET)
                .select(DSL.select(DSL.val(id), TICKET.NUMBER)
                        .from(me.tickets())
                        .where(Ids.among(TICKET.NUMBER, numbers)))
                .execute();
        work.begin(KIND, id, total, Optional.of(me.id()));
        audit.note(me.id(), "began a batch", words + " (" + total + ")");
        return id;
    }

    // ------------------------------------------------------------------ doing

    /** Does all that is still to be done of a batch. */
    void run(long id) {
        work.run(KIND, id);
    }

    /** Ends a batch of one's own before all is done; what is done stays, and can be taken back. */
    void cancel(long id, Viewer me) {
        find(id, me);
        work.cancel(KIND, id);
    }

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public int size() {
        return PART;
    }

    @Override
    public long failed(BackgroundWork.Work work, String reason) {
        waiting(work.about(), 1)
                .forEach(number -> mark(work.about(), number, "FAILED", reason, Optional.empty())
                        .execute());
        return 0;
    }

    private List<TicketNumber> waiting(long id, int most) {
        return sql.select(BATCH_ITEM.TICKET)
                .from(BATCH_ITEM)
                .where(BATCH_ITEM.BATCH_ID.eq(id))
                .and(BATCH_ITEM.STATE.eq(DSL.inline("WAITING")))
                .orderBy(BATCH_ITEM.TICKET)
                .limit(most)
                .forUpdate()
                .fetch(BATCH_ITEM.TICKET);
    }

    @Override
    public BackgroundWork.Part part(BackgroundWork.Work work, int most) {
        long id = work.about();
        List<TicketNumber> numbers = waiting(id, most);
        if (numbers.isEmpty()) {
            return new BackgroundWork.Part(0, 0);
        }
        BatchRecord batch = sql.selectFrom(BATCH).where(BATCH.ID.eq(id)).fetchSingle();
        Viewer me = viewers.of(persons.find(batch.getPersonId()).orElseThrow());
        Act act = act(batch);
        Map<TicketNumber, Decision.Undo> undos =
                batch.getUndoes() == null ? Map.of() : undos(batch.getUndoes(), numbers);
        var marks = new ArrayList<Query>();
        for (TicketNumber number : numbers) {
            Optional<Decision.Undo> undo = Optional.ofNullable(undos.get(number));
            if (batch.getUndoes() != null && undo.isEmpty()) {
                throw new Problem.Invalid("What there was before was not written down, so it cannot be taken back.");
            }
            Acts.Outcome outcome = undo.map(back -> acts.perform(number, back.act(), back.seen(), me))
                    .orElseGet(() -> acts.perform(number, act, me));
            marks.add(mark(id, number, outcome.changed() ? "DONE" : "SAME", "", outcome.undo()));
        }
        sql.batch(marks).execute();
        return new BackgroundWork.Part(numbers.size(), 0);
    }

    private Query mark(long id, TicketNumber number, String state, String reason, Optional<Decision.Undo> undo) {
        return sql.update(BATCH_ITEM)
                .set(BATCH_ITEM.STATE, state)
                .set(BATCH_ITEM.REASON, reason)
                .set(
                        BATCH_ITEM.UNDO,
                        undo.map(back -> JSONB.valueOf(ActJson.write(back))).orElse(null))
                .where(BATCH_ITEM.BATCH_ID.eq(id))
                .and(BATCH_ITEM.TICKET.eq(number));
    }

    private Map<TicketNumber, Decision.Undo> undos(long batch, List<TicketNumber> numbers) {
        return sql.select(BATCH_ITEM.TICKET, BATCH_ITEM.UNDO)
                .from(BATCH_ITEM)
                .where(BATCH_ITEM.BATCH_ID.eq(batch))
                .and(BATCH_ITEM.TICKET.in(numbers))
                .and(BATCH_ITEM.UNDO.isNotNull())
                .fetchMap(BATCH_ITEM.TICKET, r -> ActJson.readUndo(r.value2().data()));
    }

    private static Act act(BatchRecord batch) {
        return ActJson.read(batch.getDoes().data());
    }

    // ------------------------------------------------------------------ looking, and taking back

    /**
     * Takes back what a batch did, to each ticket that nobody has changed in that respect since.
     *
     * @return the batch that does so
     */
    @Transactional
    public long undo(long id, Viewer me) {
        Run run = find(id, me);
        if (!run.mayUndo()) {
            throw new Problem.Invalid(
                    "This cannot be taken back" + (run.finished() ? "." : " yet: it is still being done."));
        }
        List<TicketNumber> done = sql.select(BATCH_ITEM.TICKET)
                .from(BATCH_ITEM)
                .where(BATCH_ITEM.BATCH_ID.eq(id))
                .and(BATCH_ITEM.STATE.eq("DONE"))
                .fetch(BATCH_ITEM.TICKET);
        return begin(run.act(), "Take back: " + run.words(), Optional.of(id), done, me);
    }

    /**
     * A batch of one's own.
     *
     * @throws Problem.NotFound when the person has begun none of this id
     */
    Run find(long id, Viewer me) {
        BatchRecord r = sql.selectFrom(BATCH)
                .where(BATCH.ID.eq(id))
                .and(BATCH.PERSON_ID.eq(me.id()))
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("You have begun no such batch."));
        BackgroundWork.Work stands = work.find(KIND, id).orElseThrow();
        int same = sql.fetchCount(BATCH_ITEM, BATCH_ITEM.BATCH_ID.eq(id).and(BATCH_ITEM.STATE.eq("SAME")));
        boolean undone = sql.fetchExists(BATCH, BATCH.UNDOES.eq(id));
        Act act = act(r);
        boolean mayUndo = stands.finished()
                && r.getUndoes() == null
                && !undone
                && stands.done() > same
                && sql.fetchExists(BATCH_ITEM, BATCH_ITEM.BATCH_ID.eq(id).and(BATCH_ITEM.UNDO.isNotNull()));
        return new Run(
                id,
                act,
                r.getWords(),
                r.getPersonId(),
                stands.total(),
                stands.done(),
                stands.failed(),
                same,
                stands.finished(),
                stands.cancelled(),
                mayUndo,
                Optional.ofNullable(r.getUndoes()));
    }

    /** The first tickets to which it could not be done. */
    List<Failure> failures(long id, Viewer me) {
        return sql.select(BATCH_ITEM.TICKET, TICKET.SUBJECT, BATCH_ITEM.REASON)
                .from(BATCH_ITEM)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(BATCH_ITEM.TICKET))
                .where(BATCH_ITEM.BATCH_ID.eq(id))
                .and(BATCH_ITEM.STATE.eq("FAILED"))
                .orderBy(BATCH_ITEM.TICKET)
                .limit(200)
                .fetch(r -> new Failure(r.value1(), r.value2(), r.value3()));
    }

    /** A ticket as the page of a batch names it, and the answer as its customer would get it. */
    record Preview(TicketNumber number, String subject, String customer, String text) {}

    /** How a text reads for each of these tickets. */
    List<Preview> previews(Collection<TicketNumber> numbers, String text, int most, Viewer me) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, CONTACT.NAME)
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(TICKET.NUMBER.in(numbers.stream().limit(most).toList()))
                .orderBy(TICKET.NUMBER)
                .fetch(r -> new Preview(r.value1(), r.value2(), r.value3(), filled(text, r.value1(), me)));
    }

    private String filled(String text, TicketNumber number, Viewer me) {
        return text.isBlank() ? "" : Placeholders.fillKnown(text, blanks.of(number, me.person()));
    }

    /** A batch as the list of one's own names it. */
    record Mine(Run run, String began) {}

    /** The latest of a person's batches, the last first. */
    List<Mine> latest(Viewer me) {
        Instant now = clock.instant();
        ZoneId zone = targets.terms().zone();
        return sql.select(BATCH.ID, BATCH.STARTED_AT)
                .from(BATCH)
                .where(BATCH.PERSON_ID.eq(me.id()))
                .orderBy(BATCH.ID.desc())
                .limit(LATEST)
                .fetch(r -> new Mine(find(r.value1(), me), Say.when(r.value2(), now, zone)));
    }

    /**
     * Insists that tickets which are to be joined are of one customer, for what is answered to one then reaches all that take part.
     *
     * @param into the ticket that they are joined into
     * @throws Problem.Invalid when they are of several; the words name them
     */
    void requireOneCustomer(Collection<TicketNumber> numbers, TicketNumber into, Viewer me) {
        var all = new ArrayList<>(numbers);
        all.add(into);
        List<String> customers = sql.selectDistinct(CONTACT.NAME, CONTACT.ID)
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(Ids.among(TICKET.NUMBER, all))
                .orderBy(CONTACT.NAME, CONTACT.ID)
                .limit(NAMED + 1)
                .fetch(CONTACT.NAME);
        if (customers.size() > 1) {
            String names = String.join(", ", customers.subList(0, Math.min(NAMED, customers.size())))
                    + (customers.size() > NAMED ? " and others" : "");
            throw new Problem.Invalid(
                    "These tickets belong to several customers: " + names
                            + ". Once they are joined, an answer goes to all of them. Nothing was done yet; tick “even of several customers” if that is meant.");
        }
    }
}
