package rafter.app.work.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;

/** Reads lists by groups, such as the lanes of a board. */
@Component
class LaneStore {

    private final DSLContext sql;
    private final WorklistStore store;

    LaneStore(DSLContext sql, WorklistStore store) {
        this.sql = sql;
        this.store = store;
    }

    /**
     * How many tickets are in a group, and for how many of them a target that runs is over its time.
     */
    record Size(int total, int late) {

        static final Size NONE = new Size(0, 0);
    }

    /** How many tickets are in each group of a list, by the group's key; those without one under an empty key. */
    Map<String, Size> groups(WorklistStore.Selection among, Grouping grouping, Instant now) {
        Field<String> key = GroupSql.key(grouping, now).as("lane");
        var found = new LinkedHashMap<String, Size>();
        sql.select(key, DSL.count(), DSL.count().filterWhere(TICKET.NEXT_DUE.le(now)))
                .from(among.viewer().tickets())
                .where(among.condition())
                .groupBy(DSL.field(DSL.name("lane")))
                .forEach(r -> found.put(Say.orBlank(r.value1()), new Size(r.value2(), r.value3())));
        return found;
    }

    /** A part of the tickets of one group, from after a place on. */
    List<WorklistStore.TicketRow> group(
            WorklistStore.Selection among,
            Grouping grouping,
            String key,
            List<Sorting> sorting,
            Optional<Cursor> after,
            Instant now,
            int most) {
        return store.page(among.with(GroupSql.in(grouping, key, now)), sorting, after, most);
    }

    /**
     * The first tickets of several groups, by the group's key: their numbers in one statement with a range of an index for each group,
     * then their rows in another.
     */
    Map<String, List<WorklistStore.TicketRow>> groups(
            WorklistStore.Selection among,
            Grouping grouping,
            Collection<String> keys,
            List<Sorting> sorting,
            Instant now,
            int most) {
        if (keys.isEmpty()) {
            return Map.of();
        }
        List<String> all = List.copyOf(keys);
        List<Sorting> here = store.here(sorting);
        var firsts = all.stream()
                .map(key -> DSL.field(DSL.array(first(among.with(GroupSql.in(grouping, key, now)), here, most))))
                .toList();
        List<List<TicketNumber>> numbers = sql.select(firsts)
                .fetchSingle(r -> firsts.stream()
                        .map(field -> Arrays.stream(r.get(field))
                                .map(TicketNumber::new)
                                .toList())
                        .toList());
        Map<TicketNumber, WorklistStore.TicketRow> rows =
                store
                        .any(
                                among.viewer(),
                                sorting,
                                numbers.stream().flatMap(List::stream).toList())
                        .stream()
                        .collect(Collectors.toMap(WorklistStore.TicketRow::number, row -> row));
        var found = new LinkedHashMap<String, List<WorklistStore.TicketRow>>();
        for (int i = 0; i < all.size(); i++) {
            found.put(
                    all.get(i),
                    numbers.get(i).stream()
                            .filter(rows::containsKey)
                            .map(rows::get)
                            .toList());
        }
        return found;
    }

    private static org.jooq.Select<org.jooq.Record1<Long>> first(
            WorklistStore.Selection among, List<Sorting> sorting, int most) {
        return joined(DSL.select(TICKET.NUMBER.coerce(Long.class)), among.viewer(), sorting)
                .where(among.condition())
                .orderBy(Walk.wholeOrder(sorting))
                .limit(most);
    }

    /** What an order reads besides the ticket itself, and no more, for each join is planned for each group. */
    private static org.jooq.SelectJoinStep<org.jooq.Record1<Long>> joined(
            org.jooq.SelectSelectStep<org.jooq.Record1<Long>> select, Viewer viewer, List<Sorting> sorting) {
        var step = select.from(viewer.tickets());
        Set<Table<?>> wanted =
                sorting.stream().flatMap(s -> s.order().reads().stream()).collect(Collectors.toSet());
        if (wanted.contains(CONTACT) || wanted.contains(COMPANY)) {
            step = step.join(CONTACT).on(CONTACT.ID.eq(TICKET.CONTACT_ID));
        }
        if (wanted.contains(COMPANY)) {
            step = step.leftJoin(COMPANY).on(COMPANY.ID.eq(CONTACT.COMPANY_ID));
        }
        if (wanted.contains(TEAM)) {
            step = step.leftJoin(TEAM).on(TEAM.ID.eq(TICKET.TEAM_ID));
        }
        return wanted.contains(PERSON) ? step.leftJoin(PERSON).on(PERSON.ID.eq(TICKET.OWNER_ID)) : step;
    }
}
