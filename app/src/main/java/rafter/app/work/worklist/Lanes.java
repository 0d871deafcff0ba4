package rafter.app.work.worklist;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.CachedUntilChange;
import rafter.app.platform.TicketChanges;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.id.TicketNumber;

/** Lays lists of tickets out in lanes. */
@Component
class Lanes {

    /** As many as a screen shows of each lane; the rest comes by scrolling it. */
    private static final int FIRST_OF_A_LANE = 8;

    private static final int MORE_OF_A_LANE = 16;
    /** So many marks the Clock draws at once, shared among the people. */
    private static final int MARKS = 112;

    private static final int FEWEST_OF_A_LANE = 6;
    private static final int MOST_OF_A_LANE = 40;

    /** The lanes of which list, and whose when it is personal. */
    private record TotalsOf(
            ListView.Scope scope,
            Criteria criteria,
            Optional<ListRequest.Stretch> due,
            Grouping grouping,
            Viewer.Sharing sharing,
            long slot) {}

    /**
     * What lanes are laid out from.
     *
     * @param totals how many tickets are in each lane
     * @param most how many cards of a lane come first
     */
    private record Layout(
            ListRequest asked,
            Grouping grouping,
            Map<String, LaneStore.Size> totals,
            List<Sorting> sorting,
            int most,
            Viewer me,
            Instant now) {

        LaneStore.Size size(String key) {
            return totals.getOrDefault(key, LaneStore.Size.NONE);
        }
    }

    /**
     * One lane.
     *
     * @param limit how many it should hold at most, if somebody set that
     */
    public record Lane(
            String key,
            String title,
            LaneStore.Size size,
            Optional<Integer> limit,
            List<Worklist.Card> cards,
            Drop drop) {

        public int total() {
            return size.total();
        }

        /** How many tickets more than it should hold it has. */
        public int tooMany() {
            return limit.map(most -> Math.max(0, total() - most)).orElse(0);
        }

        /** The place from which it goes on, if it does. */
        public Optional<String> next() {
            return total() > cards.size() && !cards.isEmpty()
                    ? Optional.of(cards.getLast().after())
                    : Optional.empty();
        }
    }

    /**
     * Lanes that are drawn at once.
     *
     * @param further the lane after which there are more
     */
    public record Row(List<Lane> lanes, Optional<String> further) {}

    private final LaneStore store;
    private final Worklist worklist;
    private final GroupWords words;
    private final Targets targets;
    private final Clock clock;
    private final CachedUntilChange<TotalsOf, Map<String, LaneStore.Size>> totals;

    Lanes(LaneStore store, Worklist worklist, GroupWords words, Targets targets, Clock clock, TicketChanges changes) {
        this.store = store;
        this.worklist = worklist;
        this.words = words;
        this.targets = targets;
        this.clock = clock;
        this.totals = new CachedUntilChange<>(changes, Worklist.KEPT);
    }

    /** Those lanes of a list that parameters ask for, or the first. */
    @Transactional(readOnly = true)
    Record run(ListRequest asked, Map<String, String> parameters, Viewer me) {
        LaneRun run = LaneRun.read(asked.shape(), parameters);
        return asked.shape() == Shape.CLOCK ? clock(asked, run, me) : of(asked, run, me);
    }

    /** The lanes of a list: those that there are, and those that there could be where that is known. */
    @Transactional(readOnly = true)
    Row of(ListRequest asked, LaneRun run, Viewer me) {
        Grouping grouping = asked.lanesBy();
        Instant now = clock.instant();
        Map<String, LaneStore.Size> totals = totals(asked, grouping, me, now);
        List<String> all = every(grouping, asked, totals);
        List<String> drawn = run.of(all);
        var layout = new Layout(asked, grouping, totals, asked.walked(), FIRST_OF_A_LANE, me, now);
        return new Row(lanes(layout, drawn), LaneRun.further(drawn, all));
    }

    /** The keys of all lanes: those that there could be, then those that there are besides. */
    private List<String> every(Grouping grouping, ListRequest asked, Map<String, LaneStore.Size> totals) {
        var keys = new LinkedHashSet<>(words.usual(grouping, asked.view().ended()));
        keys.addAll(totals.keySet());
        return keys.stream().limit(LaneRun.MOST_LANES).toList();
    }

    /** Several lanes with their first cards. */
    private List<Lane> lanes(Layout layout, List<String> keys) {
        Map<String, List<Worklist.Card>> cards = firsts(layout, keys);
        return keys.stream()
                .map(key -> new Lane(
                        key,
                        words.of(layout.grouping(), key),
                        layout.size(key),
                        layout.asked().limit(key),
                        cards.getOrDefault(key, List.of()),
                        Drop.into(layout.grouping(), key)))
                .toList();
    }

    /** The first cards of several lanes; all their tickets are read and reckoned together. */
    private Map<String, List<Worklist.Card>> firsts(Layout layout, List<String> keys) {
        List<String> filled =
                keys.stream().filter(key -> layout.size(key).total() > 0).toList();
        Map<String, List<WorklistStore.TicketRow>> rows = store.groups(
                worklist.among(layout.asked(), layout.me()),
                layout.grouping(),
                filled,
                layout.sorting(),
                layout.now(),
                layout.most());
        Map<TicketNumber, Worklist.Card> cards = new HashMap<>();
        worklist.cards(rows.values().stream().flatMap(List::stream).toList(), layout.asked(), layout.me())
                .forEach(card -> cards.put(card.number(), card));
        var found = new HashMap<String, List<Worklist.Card>>();
        rows.forEach((key, some) -> found.put(
                key,
                some.stream()
                        .flatMap(row -> Optional.ofNullable(cards.get(row.number())).stream())
                        .toList()));
        return found;
    }

    /** The part of a lane from after a place on. */
    @Transactional(readOnly = true)
    Lane more(ListRequest asked, String key, Optional<Cursor> after, Viewer me) {
        Grouping grouping = asked.lanesBy();
        Instant now = clock.instant();
        List<WorklistStore.TicketRow> rows =
                store.group(worklist.among(asked, me), grouping, key, asked.walked(), after, now, MORE_OF_A_LANE + 1);
        boolean more = rows.size() > MORE_OF_A_LANE;
        List<Worklist.Card> cards = worklist.cards(more ? rows.subList(0, MORE_OF_A_LANE) : rows, asked, me);
        return new Lane(
                key,
                words.of(grouping, key),
                new LaneStore.Size(more ? Integer.MAX_VALUE : cards.size(), 0),
                Optional.empty(),
                cards,
                Drop.into(grouping, key));
    }

    /** How many tickets are in each lane; counted once for all who look at the same lanes, until one changes. */
    private Map<String, LaneStore.Size> totals(ListRequest asked, Grouping grouping, Viewer me, Instant now) {
        var of = new TotalsOf(
                asked.view().scope(),
                asked.criteria(),
                asked.due(),
                grouping,
                me.sharing(Asking.personal(asked.criteria())),
                now.getEpochSecond() / Worklist.KEPT.toSeconds());
        return totals.get(of, () -> store.groups(worklist.among(asked, me), grouping, now));
    }

    /** A lane for each person, or for each team, on one axis of working time. */
    @Transactional(readOnly = true)
    ClockLanes clock(ListRequest asked, LaneRun run, Viewer me) {
        Instant now = clock.instant();
        List<Sorting> due = List.of(new Sorting(KnownColumn.NEXT_DUE, false));
        Grouping grouping = asked.lanesBy();
        Map<String, LaneStore.Size> totals = totals(asked, grouping, me, now);
        List<String> all = every(grouping, asked, totals);
        List<String> drawn = run.of(all);
        int most = Math.clamp(MARKS / Math.max(1, all.size()), FEWEST_OF_A_LANE, MOST_OF_A_LANE);
        var layout = new Layout(asked, grouping, totals, due, most, me, now);
        List<LaneStore.Size> sizes = all.stream().map(layout::size).toList();
        return ClockLanes.draw(targets.terms(), now, lanes(layout, drawn), sizes, LaneRun.further(drawn, all));
    }
}
