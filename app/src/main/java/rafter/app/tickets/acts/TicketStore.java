package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Outlines;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.id.TicketNumber;
import rafter.core.json.NewerVersion;
import rafter.core.target.ClockOutline;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.text.Words;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.EventJson;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.database.Sequences;
import rafter.database.tables.records.TicketRecord;

/** Writes events and, in the same transaction, the row that follows from them. */
@Component
public class TicketStore {

    /**
     * A ticket that this transaction may change.
     *
     * @param written how many of its events are written already
     * @param begun whether it has no row yet
     */
    public record Held(TicketNumber number, List<TicketEvent> events, Ticket ticket, int written, boolean begun) {

        Held after(List<TicketEvent> more) {
            var all = new ArrayList<>(events);
            all.addAll(more);
            Ticket next = ticket;
            for (TicketEvent event : more) {
                next = next.after(event);
            }
            return new Held(number, List.copyOf(all), next, all.size(), false);
        }

        /** The number that the next event will have. */
        public int nextSeq() {
            return ticket.seq() + 1;
        }
    }

    private static final Writes.Form TICKET_ROW = Writes.insert(Writes.Stage.TICKETS, TICKET, TICKET.fields());
    private static final Writes.Form EVENT = Writes.insert(
            Writes.Stage.MESSAGES,
            TICKET_EVENT,
            TICKET_EVENT.TICKET,
            TICKET_EVENT.SEQ,
            TICKET_EVENT.AT,
            TICKET_EVENT.KIND,
            TICKET_EVENT.VERSION,
            TICKET_EVENT.ACTOR,
            TICKET_EVENT.BODY);

    /** What of its row makes an event. */
    static final List<Field<?>> KEPT = List.of(
            TICKET_EVENT.TICKET,
            TICKET_EVENT.AT,
            TICKET_EVENT.KIND,
            TICKET_EVENT.VERSION,
            TICKET_EVENT.ACTOR,
            TICKET_EVENT.BODY);

    private final DSLContext sql;
    private final Writes writes;
    private final Targets targets;
    private final CustomerFacts customers;
    private final LiveNews news;
    private final Viewers viewers;
    private final WorkStore work;
    private final WatcherNews watchers;
    private final Causes causes;

    TicketStore(
            DSLContext sql,
            Writes writes,
            Targets targets,
            CustomerFacts customers,
            LiveNews news,
            Viewers viewers,
            WorkStore work,
            WatcherNews watchers,
            Causes causes) {
        this.causes = causes;
        this.watchers = watchers;
        this.work = work;
        this.customers = customers;
        this.viewers = viewers;
        this.sql = sql;
        this.writes = writes;
        this.targets = targets;
        this.news = news;
    }

    /**
     * Begins a ticket; its events so far are the opening alone and not written yet, and neither is its row: it goes with the events that
     * follow. So this and they belong into one {@link Writes#gather}.
     */
    Held begin(TicketEvent.Opened opened) {
        Ticket ticket = Ticket.replay(List.of(opened));
        var number = new TicketNumber(sql.fetchValue(Sequences.TICKET_NUMBER.nextval()));
        writes.pendingFor(number);
        return new Held(number, List.of(opened), ticket, 0, true);
    }

    /**
     * Takes hold of a ticket for somebody until the transaction ends.
     *
     * @throws Problem.NotFound when there is none of this number that they may see
     * @throws NewerVersion when a newer version of Rafter wrote to it
     */
    public Held hold(TicketNumber number, Viewer by) {
        viewers.insist(by, number);
        return hold(number);
    }

    /**
     * Takes hold of a ticket until the transaction ends, for what Rafter does by itself.
     *
     * @throws Problem.NotFound when there is none of this number
     * @throws NewerVersion when a newer version of Rafter wrote to it
     */
    public Held hold(TicketNumber number) {
        writes.settle(List.of(number));
        short form = sql.select(TICKET.FORM)
                .from(TICKET)
                .where(TICKET.NUMBER.eq(number))
                .forUpdate()
                .fetchOptional(TICKET.FORM)
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
        if (form > EventJson.FORM) {
            throw new NewerVersion("wrote to ticket " + number);
        }
        List<TicketEvent> events = events(number);
        return new Held(number, events, Ticket.replay(events), events.size(), false);
    }

    /** Tickets whose rows the transaction holds already. */
    public Map<TicketNumber, Held> heldAlready(Collection<TicketNumber> numbers) {
        writes.settle(numbers);
        var all = new HashMap<TicketNumber, Held>();
        events(numbers)
                .forEach((number, events) ->
                        all.put(number, new Held(number, events, Ticket.replay(events), events.size(), false)));
        return all;
    }

    /** Adds events to a ticket that is held, and brings its row and clocks up to date. */
    public Held append(Held held, List<TicketEvent> more, Instant now) {
        if (more.isEmpty()) {
            return held;
        }
        return writes.gather(() -> gatheredAppend(held, more, now));
    }

    private Held gatheredAppend(Held held, List<TicketEvent> given, Instant told) {
        List<TicketEvent> more = held.begun() ? given : Conduct.withWhatFollows(held.ticket(), given);
        Held after = held.after(more);
        // Another node's clock may be ahead of this one's: what has happened has happened.
        Instant now = latest(told, after.events());
        insert(
                held.number(),
                held.written() + 1,
                after.events().subList(held.written(), after.events().size()));
        Instant since = more.getFirst().at();
        writes.pendingFor(held.number());
        if (held.begun()) {
            addRow(after, since, now);
        } else {
            TicketRecord row = changed(row(held.ticket()), row(after.ticket()));
            row.setForm((short) EventJson.FORM);
            stands(row, reckonAnew(after, since, now, customers.customer(held.number())), now);
            update(held.number(), row);
        }
        if (!held.ticket().work().equals(after.ticket().work())) {
            work.write(held.number(), held.ticket().work(), after.ticket().work(), more);
        }
        watchers.tell(held.number(), held.ticket(), after.ticket(), more, now);
        causes.note(held, after, now);
        news.ticketChanged(held.number());
        return after;
    }

    private static Instant latest(Instant now, List<TicketEvent> events) {
        return events.stream()
                .map(TicketEvent::at)
                .filter(now::isBefore)
                .max(Instant::compareTo)
                .orElse(now);
    }

    private void addRow(Held held, Instant since, Instant now) {
        TicketRecord row = row(held.ticket());
        row.setNumber(held.number());
        row.setForm((short) EventJson.FORM);
        if (Collections.disjoint(targets.asked(), CustomerFacts.OF_MESSAGES)) {
            stands(
                    row,
                    reckonAnew(
                            held,
                            since,
                            now,
                            customers.customerOfNew(held.ticket().contact())),
                    now);
            writes.write(TICKET_ROW, row.intoArray());
            return;
        }
        // Promises that ask about words read them where they lie, so the row and the entries go first.
        row.setMissed(false);
        writes.write(TICKET_ROW, row.intoArray());
        var falls = new TicketRecord();
        stands(falls, reckonAnew(held, since, now, customers.customer(held.number())), now);
        update(held.number(), falls);
    }

    private void update(TicketNumber number, TicketRecord row) {
        sql.update(TICKET).set(row).where(TICKET.NUMBER.eq(number)).execute();
    }

    /** What lists draw of the clocks. */
    private static void stands(TicketRecord row, List<TargetClock> clocks, Instant now) {
        row.setNextDue(Reckoning.nextDue(clocks).flatMap(TargetClock::dueMark).orElse(null));
        row.setOutline(Outlines.write(ClockOutline.pressing(clocks, now)));
        row.setMissed(clocks.stream().anyMatch(TargetClock::late));
    }

    private List<TargetClock> reckonAnew(Held held, Instant since, Instant now, Facts customer) {
        List<TargetClock> clocks = targets.reckon(held.events(), customer, now);
        targets.note(held.number(), clocks, since);
        return clocks;
    }

    /** Brings the clocks of a ticket up to date without anything having happened to it, for the promises changed. */
    public void reckonAnew(Held held, Instant since, Instant now) {
        var row = new TicketRecord();
        Instant then = latest(now, held.events());
        stands(row, reckonAnew(held, since, then, customers.customer(held.number())), then);
        update(held.number(), row);
    }

    private void insert(TicketNumber number, int firstSeq, List<TicketEvent> events) {
        int seq = firstSeq;
        for (TicketEvent event : events) {
            EventJson.Kept kept = EventJson.write(event);
            writes.write(
                    EVENT,
                    number,
                    seq++,
                    kept.at(),
                    kept.kind(),
                    (short) kept.version(),
                    kept.actor(),
                    JSONB.valueOf(kept.body()));
        }
    }

    /** What differs in the second, and nothing else. */
    private static TicketRecord changed(TicketRecord before, TicketRecord after) {
        for (Field<?> field : after.fields()) {
            after.touched(field, !Objects.deepEquals(before.get(field), after.get(field)));
        }
        return after;
    }

    private static TicketRecord row(Ticket t) {
        var row = new TicketRecord();
        row.setSubject(t.subject());
        row.setChannel(t.channel());
        row.setMailboxId(orNull(t.way().address()));
        row.setContactId(t.contact());
        row.setState(t.state().key());
        row.setTurn(t.turn().name());
        row.setOpen(t.open());
        row.setPriority(t.priority().name());
        row.setOwnerId(t.owner().orElse(null));
        row.setTeamId(t.team().orElse(null));
        row.setTopic(t.topic());
        row.setTags(t.tags().stream().sorted().toArray(String[]::new));
        row.setOpenedAt(t.openedAt());
        row.setChangedAt(t.changedAt());
        row.setResolvedAt(t.resolvedAt().orElse(null));
        row.setMessages(t.messages());
        row.setLastSeq(t.seq());
        row.setLinkedTo(t.linkedTo().orElse(null));
        row.setSubjectWords(Words.of(t.subject()).stored());
        row.setTurnSince(t.turnSince());
        row.setLastCustomerAt(t.lastCustomerAt().orElse(null));
        row.setDiscarded(t.discarded());
        row.setJoinedInto(t.joinedInto().orElse(null));
        row.setOwn(OwnFields.written(t.own()));
        row.setOwnFolded(OwnFields.folded(t.own()));
        row.setBringBackAt(t.bringBackAt().orElse(null));
        row.setBroughtBackAt(t.broughtBackAt().orElse(null));
        row.setTasksOpen(t.work().openTasks());
        row.setMinutes(t.work().minutes());
        row.setHelpers(t.work().helpers().stream().sorted().toArray(String[]::new));
        row.setHelpingTeams(t.work().helpingTeams().stream().sorted().toArray(String[]::new));
        row.setCause(t.work().resolution().cause());
        row.setParent(t.work().parent().orElse(null));
        row.setRating(t.work().rated().map(rated -> rated.rating().name()).orElse(null));
        return row;
    }

    private static @Nullable Long orNull(OptionalLong value) {
        return value.isPresent() ? value.getAsLong() : null;
    }

    /** Which tickets this version of Rafter understands. */
    public static Condition understood() {
        return TICKET.FORM.le((short) EventJson.FORM);
    }

    /** The events of one ticket, oldest first. */
    public List<TicketEvent> events(TicketNumber number) {
        return sql.selectFrom(TICKET_EVENT)
                .where(TICKET_EVENT.TICKET.eq(number))
                .orderBy(TICKET_EVENT.SEQ)
                .fetch(TicketStore::event);
    }

    /** The events of several tickets, oldest first, by ticket; of those alone that this version of Rafter understands. */
    public Map<TicketNumber, List<TicketEvent>> events(Collection<TicketNumber> numbers) {
        return sql.selectFrom(TICKET_EVENT)
                .where(TICKET_EVENT.TICKET.in(numbers))
                .andNotExists(DSL.selectOne()
                        .from(TICKET)
                        .where(TICKET.NUMBER.eq(TICKET_EVENT.TICKET))
                        .andNot(understood()))
                .orderBy(TICKET_EVENT.TICKET, TICKET_EVENT.SEQ)
                .fetchGroups(TICKET_EVENT.TICKET, TicketStore::event);
    }

    /** The event in a row that has the columns of {@link #KEPT}. */
    static TicketEvent event(Record r) {
        return EventJson.read(new EventJson.Kept(
                r.get(TICKET_EVENT.AT),
                r.get(TICKET_EVENT.KIND),
                r.get(TICKET_EVENT.VERSION),
                r.get(TICKET_EVENT.ACTOR),
                r.get(TICKET_EVENT.BODY).data()));
    }
}
