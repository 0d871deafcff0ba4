package rafter.app.work.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
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
    public record Size(int total, int late) {

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
     * The first tickets of several groups, by the group's key: their numbers in few statements with a range of an index for each group,
     * then their rows in another.
     */
    Map<String, List<WorklistStore.TicketRow>> groups(
            WorklistStore.Selection among,
            Grouping grouping,
            Collection<String> keys,
            List<Sorting> sorting,
            Instant now,
            int most) {
        var first = new First(among, store.here(sorting), most);
        Map<String, List<TicketNumber>> numbers = numbers(first, grouping, keys, now);
        Map<TicketNumber, WorklistStore.TicketRow> rows =
                store
                        .any(
                                among.viewer(),
                                sorting,
                                numbers.values().stream().flatMap(List::stream).toList())
                        .stream()
                        .collect(Collectors.toMap(WorklistStore.TicketRow::number, row -> row));
        var found = new LinkedHashMap<String, List<WorklistStore.TicketRow>>();
        for (String key : keys) {
            found.put(
                    key,
                    numbers.getOrDefault(key, List.of()).stream()
                            .filter(rows::containsKey)
                            .map(rows::get)
                            .toList());
        }
        return found;
    }

    private Map<String, List<TicketNumber>> numbers(
            First first, Grouping grouping, Collection<String> keys, Instant now) {
        var kin = new EnumMap<GroupKin, Map<Long, String>>(GroupKin.class);
        var others = new ArrayList<String>();
        for (String key : keys) {
            GroupKin.member(grouping, key)
                    .ifPresentOrElse(
                            member -> kin.computeIfAbsent(member.kin(), any -> new LinkedHashMap<>())
                                    .put(member.id(), key),
                            () -> others.add(key));
        }
        var numbers = new HashMap<String, List<TicketNumber>>();
        kin.forEach((one, keyById) -> numbers.putAll(ofKin(first, one, keyById)));
        numbers.putAll(oneByOne(first, grouping, others, now));
        return numbers;
    }

    private Map<String, List<TicketNumber>> ofKin(First first, GroupKin kin, Map<Long, String> keyById) {
        Field<Long> id = DSL.field(DSL.name("member", "id"), Long.class);
        return sql.select(id, DSL.array(first.of(kin.in(id))))
                .from(DSL.unnest(keyById.keySet().toArray(new Long[0])).as("member", "id"))
                .fetchMap(r -> keyById.get(r.value1()), r -> typed(r.value2()));
    }

    private Map<String, List<TicketNumber>> oneByOne(First first, Grouping grouping, List<String> keys, Instant now) {
        if (keys.isEmpty()) {
            return Map.of();
        }
        var firsts = keys.stream()
                .map(key -> DSL.field(DSL.array(first.of(GroupSql.in(grouping, key, now)))))
                .toList();
        var numbers = new HashMap<String, List<TicketNumber>>();
        var found = sql.select(firsts).fetchSingle();
        for (int i = 0; i < keys.size(); i++) {
            numbers.put(keys.get(i), typed(found.get(firsts.get(i))));
        }
        return numbers;
    }

    private static List<TicketNumber> typed(Long[] numbers) {
        return Arrays.stream(numbers).map(TicketNumber::new).toList();
    }

    /** The first so many tickets of a list, in an order. */
    private record First(WorklistStore.Selection among, List<Sorting> sorting, int most) {

        /** Their numbers, among those for which something holds. */
        org.jooq.Select<org.jooq.Record1<Long>> of(Condition group) {
            return joined(DSL.select(TICKET.NUMBER.coerce(Long.class)), among.viewer(), sorting)
                    .where(among.with(group).condition())
                    .orderBy(Walk.wholeOrder(sorting))
                    .limit(most);
        }
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
