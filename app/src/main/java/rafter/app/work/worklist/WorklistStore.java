package rafter.app.work.worklist;

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
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jooq.SelectField;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaSql;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.TicketState;

/** Reads lists of tickets. */
@Component
class WorklistStore {

    private static final List<SelectField<?>> OF_A_ROW = List.of(
            TICKET.NUMBER,
            TICKET.SUBJECT,
            TICKET.CHANNEL,
            TICKET.STATE,
            TICKET.TURN,
            TICKET.PRIORITY,
            TICKET.TOPIC,
            TICKET.TAGS,
            TICKET.MESSAGES,
            TICKET.OWNER_ID,
            TICKET.CHANGED_AT,
            TICKET.NEXT_DUE,
            TICKET.OPENED_AT,
            TICKET.TURN_SINCE,
            TICKET.LAST_CUSTOMER_AT,
            TICKET.BRING_BACK_AT,
            TICKET.DISCARDED,
            TICKET.OUTLINE,
            TICKET.MISSED,
            TICKET.OWN);

    /** A ticket as its row tells, and its place in the list. */
    public record TicketRow(
            TicketNumber number,
            String subject,
            String channel,
            String state,
            String turn,
            String priority,
            String topic,
            String[] tags,
            int messages,
            Optional<PersonId> owner,
            Instant changedAt,
            Optional<Instant> nextDue,
            Instant openedAt,
            Instant turnSince,
            Optional<Instant> lastCustomerAt,
            Optional<Instant> comesBack,
            boolean discarded,
            @Nullable JSONB outline,
            boolean missed,
            Map<String, String> own,
            Map<Field<String>, String> texts,
            Cursor cursor) {

        /** A text of the customer, their company, the team or the owner, as one of {@link KnownColumn#told()}; blank when there is none. */
        String told(Field<String> field) {
            return texts.getOrDefault(field, "");
        }
    }

    /**
     * The targets that fall due within one stretch of the horizon.
     *
     * @param bucket which stretch
     * @param tickets the first few of their tickets
     */
    public record Due(int bucket, String objective, int count, Long[] tickets) {}

    /**
     * Among which tickets a list looks.
     *
     * @param viewer for whom; only what they may see is in it
     */
    public record Selection(
            Viewer viewer, ListView.Scope scope, Criteria resolved, Optional<ListRequest.Stretch> due, Condition more) {

        Selection(Viewer viewer, ListView.Scope scope, Criteria resolved, Optional<ListRequest.Stretch> due) {
            this(viewer, scope, resolved, due, DSL.trueCondition());
        }

        static Selection of(ListRequest asked, Asking asking, Viewer viewer) {
            return new Selection(viewer, asked.view().scope(), asking.resolve(asked.criteria()), asked.due());
        }

        /** Those of them for which something more holds. */
        Selection with(Condition other) {
            return new Selection(viewer, scope, resolved, due, other);
        }

        /** The constants are written out, so that the partial indexes fit. */
        Condition condition() {
            Condition within = switch (scope) {
                case OPEN -> DSL.condition(TICKET.OPEN);
                case ENDED -> DSL.not(DSL.condition(TICKET.OPEN)).and(DSL.not(DSL.condition(TICKET.DISCARDED)));
                case BIN -> DSL.condition(TICKET.DISCARDED);
            };
            Condition all = resolved instanceof Criteria.All(List<Criteria> parts) && parts.isEmpty()
                    ? within
                    : within.and(CriteriaSql.condition(resolved));
            return due.map(stretch -> all.and(dueIn(stretch))).orElse(all).and(more);
        }

        private static Condition dueIn(ListRequest.Stretch stretch) {
            return DSL.exists(DSL.selectOne()
                    .from(TICKET_CLOCK)
                    .where(TICKET_CLOCK.TICKET.eq(TICKET.NUMBER))
                    .and(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                    .and(TICKET_CLOCK.DUE_AT.ge(stretch.from()))
                    .and(TICKET_CLOCK.DUE_AT.lt(stretch.until())));
        }
    }

    private static final int SHOWN_OF_A_BUCKET = 6;
    /** Nobody reads an exact number beyond this, and counting on would cost. */
    private static final int COUNTED = 200_000;

    private static final int COUNTED_OF_ENDED = 10_000;

    private final DSLContext sql;
    private final OwnFields fields;
    private final TicketStates states;

    WorklistStore(DSLContext sql, OwnFields fields, TicketStates states) {
        this.states = states;
        this.fields = fields;
        this.sql = sql;
    }

    // ------------------------------------------------------------------ pages

    /** A page of a list, from after a place on. */
    List<TicketRow> page(Selection among, List<Sorting> sorting, Optional<Cursor> after, int size) {
        return walk(among, new Walk(here(sorting), false, after), size);
    }

    /** The page before a place, or the last one; in the order of the list. */
    List<TicketRow> before(Selection among, List<Sorting> sorting, Optional<Cursor> before, int size) {
        List<TicketRow> rows = new ArrayList<>(walk(among, new Walk(here(sorting), true, before), size));
        Collections.reverse(rows);
        return rows;
    }

    /** Orders as this workspace has them: by state with states of its own in their place. */
    List<Sorting> here(List<Sorting> sorting) {
        if (sorting.stream().noneMatch(one -> one.order() == KnownColumn.STATE)) {
            return sorting;
        }
        var byState = new StateOrder(states.all().stream().map(TicketState::key).toList());
        return sorting.stream()
                .map(one -> one.order() == KnownColumn.STATE ? new Sorting(byState, one.descending()) : one)
                .toList();
    }

    private List<TicketRow> walk(Selection among, Walk walk, int size) {
        var rows = new ArrayList<TicketRow>();
        for (Walk.Range range : walk.ranges()) {
            if (rows.size() < size) {
                rows.addAll(rows(among.viewer(), walk.sorting())
                        .where(among.condition())
                        .and(range.where())
                        .orderBy(range.order())
                        .limit(size - rows.size())
                        .fetch(r -> row(r, walk.sorting())));
            }
        }
        return rows;
    }

    // ------------------------------------------------------------------ single tickets

    /** Those of these tickets that are in a list. */
    List<TicketRow> those(Selection among, List<Sorting> wanted, Collection<TicketNumber> numbers) {
        List<Sorting> sorting = here(wanted);
        return rows(among.viewer(), sorting)
                .where(among.condition())
                .and(TICKET.NUMBER.in(numbers))
                .fetch(r -> row(r, sorting));
    }

    /** The numbers of tickets in a list that changed since an instant, the latest first. */
    List<TicketNumber> changedSince(Selection among, Instant since, int most) {
        return sql.select(TICKET.NUMBER)
                .from(among.viewer().tickets())
                .where(among.condition())
                .and(TICKET.CHANGED_AT.ge(since))
                .orderBy(TICKET.CHANGED_AT.desc())
                .limit(most)
                .fetch(TICKET.NUMBER);
    }

    /** Those of these tickets that somebody may see, whatever list they are in. */
    List<TicketRow> any(Viewer viewer, List<Sorting> wanted, Collection<TicketNumber> numbers) {
        List<Sorting> sorting = here(wanted);
        return rows(viewer, sorting).where(TICKET.NUMBER.in(numbers)).fetch(r -> row(r, sorting));
    }

    /** The numbers of all tickets of a list. */
    List<TicketNumber> numbers(Selection among, int most) {
        return sql.select(TICKET.NUMBER)
                .from(among.viewer().tickets())
                .where(among.condition())
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(TICKET.NUMBER);
    }

    private org.jooq.SelectJoinStep<? extends Record> rows(Viewer viewer, List<Sorting> sorting) {
        var fields = new ArrayList<>(OF_A_ROW);
        fields.addAll(KnownColumn.told());
        sorting.stream()
                .map(s -> s.order().field())
                .filter(field -> !fields.contains(field))
                .forEach(fields::add);
        return sql.select(fields)
                .from(viewer.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .leftJoin(TEAM)
                .on(TEAM.ID.eq(TICKET.TEAM_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(TICKET.OWNER_ID));
    }

    private TicketRow row(Record r, List<Sorting> sorting) {
        var cursor = new Cursor(sorting.stream().map(s -> s.order().value(r)).toList(), r.get(TICKET.NUMBER));
        return new TicketRow(
                r.get(TICKET.NUMBER),
                r.get(TICKET.SUBJECT),
                r.get(TICKET.CHANNEL),
                r.get(TICKET.STATE),
                r.get(TICKET.TURN),
                r.get(TICKET.PRIORITY),
                r.get(TICKET.TOPIC),
                r.get(TICKET.TAGS),
                r.get(TICKET.MESSAGES),
                Optional.ofNullable(r.get(TICKET.OWNER_ID)),
                r.get(TICKET.CHANGED_AT),
                Optional.ofNullable(r.get(TICKET.NEXT_DUE)),
                r.get(TICKET.OPENED_AT),
                r.get(TICKET.TURN_SINCE),
                Optional.ofNullable(r.get(TICKET.LAST_CUSTOMER_AT)),
                Optional.ofNullable(r.get(TICKET.BRING_BACK_AT)),
                r.get(TICKET.DISCARDED),
                r.get(TICKET.OUTLINE),
                r.get(TICKET.MISSED),
                fields.said(OwnFields.read(r.get(TICKET.OWN))),
                KnownColumn.told().stream().collect(Collectors.toMap(told -> told, told -> Say.orBlank(r.get(told)))),
                cursor);
    }

    // ------------------------------------------------------------------ counts

    /**
     * How many tickets are in a list, and whether there may be more: of what is over only the first ten thousand are counted.
     */
    public record Total(int count, boolean more) {}

    Total count(Selection among) {
        int most = among.scope() == ListView.Scope.OPEN ? COUNTED : COUNTED_OF_ENDED;
        int count = count(among, most);
        return new Total(count, count == most);
    }

    /** How many tickets are in a list, counted up to a number. */
    int count(Selection among, int most) {
        return sql.fetchCount(DSL.select(DSL.one())
                .from(among.viewer().tickets())
                .where(among.condition())
                .limit(most));
    }

    /** How many open tickets are in each of several lists, counted in one pass over the open ones. */
    List<Integer> counts(Viewer viewer, List<Criteria> resolved) {
        if (resolved.isEmpty()) {
            return List.of();
        }
        var counts = resolved.stream()
                .map(criteria -> DSL.count().filterWhere(CriteriaSql.condition(criteria)))
                .toList();
        return sql.select(counts)
                .from(viewer.tickets())
                .where(DSL.condition(TICKET.OPEN))
                .fetchSingle(r -> counts.stream().map(r::get).toList());
    }

    /**
     * The running targets of a list by the stretch of time in which they fall due.
     *
     * @param edges where the stretches begin, in order; bucket zero is everything before the first, and what is due after the last
     *     one is left out
     */
    List<Due> due(Selection among, List<Instant> edges) {
        Field<Integer> bucket = DSL.field(
                "width_bucket({0}, {1})",
                Integer.class,
                TICKET_CLOCK.DUE_AT,
                DSL.val(
                        edges.stream()
                                .map(at -> OffsetDateTime.ofInstant(at, ZoneOffset.UTC))
                                .toArray(OffsetDateTime[]::new),
                        SQLDataType.TIMESTAMPWITHTIMEZONE.getArrayDataType()));
        Field<Long[]> some = DSL.field(
                "(array_agg({0} order by {1}))[1:{2}]",
                Long[].class, TICKET_CLOCK.TICKET, TICKET_CLOCK.DUE_AT, DSL.inline(SHOWN_OF_A_BUCKET));
        SelectConditionStep<?> inList =
                DSL.select(TICKET.NUMBER).from(among.viewer().tickets()).where(among.condition());
        return sql.select(bucket.as("bucket"), TICKET_CLOCK.OBJECTIVE, DSL.count(), some)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.DUE_AT.lt(edges.getLast()))
                .and("{0} in ({1})", TICKET_CLOCK.TICKET, inList)
                .groupBy(DSL.field(DSL.name("bucket")), TICKET_CLOCK.OBJECTIVE)
                .fetch(r -> new Due(r.value1(), r.value2(), r.value3(), r.value4()));
    }
}
