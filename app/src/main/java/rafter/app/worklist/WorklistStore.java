package rafter.app.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.springframework.stereotype.Component;
import rafter.app.access.Person;

/** Reads lists of tickets. */
@Component
class WorklistStore {

    /** A ticket as its row tells. */
    record TicketRow(
            long number, String subject, String channel, String state, String turn, String priority, String topic, String[] tags, int messages,
            String contact, String company, String plan, String team, Optional<Long> owner, String ownerName, Instant changedAt,
            Optional<Instant> nextDue) {

        Cursor cursor(ShippedView view) {
            return new Cursor(view.working() ? nextDue : Optional.of(changedAt), number);
        }
    }

    /**
     * The targets that fall due within one stretch of the horizon.
     *
     * @param bucket which stretch
     * @param tickets the first few of their tickets
     */
    record Due(int bucket, String objective, int count, Long[] tickets) {}

    private static final int SHOWN_OF_A_BUCKET = 6;

    private final DSLContext sql;

    WorklistStore(DSLContext sql) {
        this.sql = sql;
    }

    /** A page of a view, from after a place on. */
    List<TicketRow> page(ShippedView view, Person me, Optional<Cursor> after, int size) {
        Condition in = view.condition(me);
        return view.working() ? workingPage(in, after, size) : closedPage(in, after, size);
    }

    /** Tickets with a due instant come first; each of the two parts is one range of the view's index. */
    private List<TicketRow> workingPage(Condition in, Optional<Cursor> after, int size) {
        var rows = new ArrayList<TicketRow>();
        boolean amongDue = after.isEmpty() || after.get().at().isPresent();
        if (amongDue) {
            var due = rows().where(in).and(TICKET.NEXT_DUE.isNotNull()).orderBy(TICKET.NEXT_DUE, TICKET.NUMBER);
            rows.addAll(
                    after.isPresent()
                            ? due.seek(after.get().at().orElseThrow(), after.get().number()).limit(size).fetch(WorklistStore::row)
                            : due.limit(size).fetch(WorklistStore::row));
        }
        if (rows.size() < size) {
            var undue = rows().where(in).and(TICKET.NEXT_DUE.isNull()).orderBy(TICKET.NUMBER);
            long from = amongDue ? 0 : after.map(Cursor::number).orElse(0L);
            rows.addAll(undue.seek(from).limit(size - rows.size()).fetch(WorklistStore::row));
        }
        return rows;
    }

    private List<TicketRow> closedPage(Condition in, Optional<Cursor> after, int size) {
        var ordered = rows().where(in).orderBy(TICKET.CHANGED_AT.desc(), TICKET.NUMBER.desc());
        return after.filter(cursor -> cursor.at().isPresent()).isPresent()
                ? ordered.seek(after.get().at().orElseThrow(), after.get().number()).limit(size).fetch(WorklistStore::row)
                : ordered.limit(size).fetch(WorklistStore::row);
    }

    /** Those of these tickets that are in a view. */
    List<TicketRow> those(ShippedView view, Person me, Collection<Long> numbers) {
        return rows().where(view.condition(me)).and(TICKET.NUMBER.in(numbers)).fetch(WorklistStore::row);
    }

    /** The numbers of tickets in a view that changed since an instant, the latest first. */
    List<Long> changedSince(ShippedView view, Person me, Instant since, int most) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(view.condition(me))
                .and(TICKET.CHANGED_AT.ge(since))
                .orderBy(TICKET.CHANGED_AT.desc())
                .limit(most)
                .fetch(TICKET.NUMBER);
    }

    /** One ticket, whatever view it is in. */
    List<TicketRow> any(Collection<Long> numbers) {
        return rows().where(TICKET.NUMBER.in(numbers)).fetch(WorklistStore::row);
    }

    private org.jooq.SelectJoinStep<? extends Record> rows() {
        return sql.select(
                        TICKET.NUMBER, TICKET.SUBJECT, TICKET.CHANNEL, TICKET.STATE, TICKET.TURN, TICKET.PRIORITY, TICKET.TOPIC, TICKET.TAGS,
                        TICKET.MESSAGES, TICKET.OWNER_ID, TICKET.CHANGED_AT, TICKET.NEXT_DUE, CONTACT.NAME, COMPANY.NAME, COMPANY.PLAN,
                        TEAM.NAME, PERSON.NAME)
                .from(TICKET)
                .join(CONTACT).on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY).on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .leftJoin(TEAM).on(TEAM.ID.eq(TICKET.TEAM_ID))
                .leftJoin(PERSON).on(PERSON.ID.eq(TICKET.OWNER_ID));
    }

    private static TicketRow row(Record r) {
        return new TicketRow(
                r.get(TICKET.NUMBER), r.get(TICKET.SUBJECT), r.get(TICKET.CHANNEL), r.get(TICKET.STATE), r.get(TICKET.TURN), r.get(TICKET.PRIORITY),
                r.get(TICKET.TOPIC), r.get(TICKET.TAGS), r.get(TICKET.MESSAGES), r.get(CONTACT.NAME), orEmpty(r.get(COMPANY.NAME)),
                orEmpty(r.get(COMPANY.PLAN)), orEmpty(r.get(TEAM.NAME)), Optional.ofNullable(r.get(TICKET.OWNER_ID)),
                orEmpty(r.get(PERSON.NAME)), r.get(TICKET.CHANGED_AT), Optional.ofNullable(r.get(TICKET.NEXT_DUE)));
    }

    private static String orEmpty(@org.jspecify.annotations.Nullable String text) {
        return text == null ? "" : text;
    }

    /** How many tickets are in each working view that is everybody's, counted in one pass over the index of open tickets. */
    Map<ShippedView, Integer> sharedCounts() {
        var unowned = DSL.count().filterWhere(TICKET.OWNER_ID.isNull());
        return sql.select(DSL.count(), unowned)
                .from(TICKET)
                .where(DSL.condition(TICKET.OPEN))
                .fetchSingle(r -> Map.of(ShippedView.OPEN, r.value1(), ShippedView.UNOWNED, r.value2()));
    }

    /** How many tickets are in a view. */
    int count(ShippedView view, Person me) {
        return sql.fetchCount(TICKET, view.condition(me));
    }

    /**
     * The running targets of a view by the stretch of time in which they fall due.
     *
     * @param edges where the stretches begin, in order; bucket zero is everything before the first, and what is due after the last
     *     one is left out
     */
    List<Due> due(ShippedView view, Person me, List<Instant> edges) {
        Field<Integer> bucket = DSL.field(
                "width_bucket({0}, {1})", Integer.class, TICKET_CLOCK.DUE_AT,
                DSL.val(edges.stream().map(at -> OffsetDateTime.ofInstant(at, ZoneOffset.UTC)).toArray(OffsetDateTime[]::new),
                        SQLDataType.TIMESTAMPWITHTIMEZONE.getArrayDataType()));
        Field<Long[]> some = DSL.field(
                "(array_agg({0} order by {1}))[1:{2}]", Long[].class, TICKET_CLOCK.TICKET, TICKET_CLOCK.DUE_AT, DSL.inline(SHOWN_OF_A_BUCKET));
        SelectConditionStep<?> inView = DSL.select(TICKET.NUMBER).from(TICKET).where(view.condition(me));
        return sql.select(bucket.as("bucket"), TICKET_CLOCK.OBJECTIVE, DSL.count(), some)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.DUE_AT.lt(edges.getLast()))
                .and("{0} in ({1})", TICKET_CLOCK.TICKET, inView)
                .groupBy(DSL.field(DSL.name("bucket")), TICKET_CLOCK.OBJECTIVE)
                .fetch(r -> new Due(r.value1(), r.value2(), r.value3(), r.value4()));
    }
}
