package rafter.app.work.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.CachedUntilChange;
import rafter.app.platform.Say;
import rafter.app.platform.TicketChanges;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Sentence;
import rafter.core.criteria.Verdict;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** Puts lists of tickets together. */
@Component
class Worklist {

    /** More than a screen of each shape; the rest comes by scrolling. */
    static int page(Shape shape) {
        return switch (shape) {
            case CARDS -> 13;
            case LINES -> 18;
            case GRID, LANES, CLOCK -> 20;
        };
    }

    private static final BigDecimal ALL_ABOVE_ZERO = new BigDecimal("1e18");
    /** As long as a mark of the horizon may stand a little beside its place. */
    static final Duration KEPT = Duration.ofSeconds(5);

    /** Whose horizon: a list that is personal is the reader's alone, the others are everybody's. */
    private record HorizonOf(Criteria criteria, boolean ended, Viewer.Sharing sharing, long slot) {}

    /** Whose counts of which views. */
    private record CountsOf(Viewer.Sharing sharing, List<Long> views) {}

    /** Whose count of which tickets, in a list that is not among those views. */
    private record TotalOf(
            Criteria criteria, ListView.Scope scope, Optional<ListRequest.Stretch> due, Viewer.Sharing sharing) {}

    /**
     * A ticket as a row of a list.
     *
     * @param clock the clock that matters most; nothing when none is live
     * @param after the place in the list behind this row
     * @param place what it has in each order of the list, for putting it in its place in the browser
     * @param group the group that it is in, in words; blank when the list is not parted
     * @param cells the texts of a Grid's cells, by column
     */
    public record Card(
            TicketNumber number,
            String subject,
            String channel,
            String channelWords,
            String state,
            String stateKey,
            String turn,
            String turnWords,
            String priority,
            String topic,
            List<String> tags,
            int messages,
            String contact,
            String company,
            String plan,
            String team,
            String ownerInitials,
            String ownerName,
            boolean owned,
            boolean mine,
            Optional<Instant> nextDue,
            Optional<ClockView> clock,
            String ended,
            String after,
            String place,
            String group,
            String comesBack,
            Map<String, String> cells) {}

    /**
     * A part of a list.
     *
     * @param next the place from which it goes on, if it does
     * @param earlier the place before which there is more, if asked for from there
     * @param groups how many tickets are in each group that begins here, by the group's words
     */
    public record Page(List<Card> cards, Optional<String> next, Optional<String> earlier, Map<String, Integer> groups) {

        /** Whether a group begins with this card. */
        public boolean begins(int at) {
            return !cards.get(at).group().isEmpty()
                    && (at == 0
                            || !cards.get(at).group().equals(cards.get(at - 1).group()));
        }
    }

    private final WorklistStore store;
    private final LaneStore lanes;
    private final Views views;
    private final Tickets tickets;
    private final Targets targets;
    private final GroupWords words;
    private final CriteriaNames names;
    private final Clock clock;
    private final CachedUntilChange<HorizonOf, Horizon> horizons;
    private final CachedUntilChange<CountsOf, Map<Long, Integer>> counts;
    private final CachedUntilChange<TotalOf, WorklistStore.Total> totals;
    private final TicketStates states;
    private final Cells cells;

    Worklist(
            WorklistStore store,
            LaneStore lanes,
            Views views,
            Tickets tickets,
            Targets targets,
            GroupWords words,
            CriteriaNames names,
            Clock clock,
            TicketChanges changes,
            TicketStates states,
            Cells cells) {
        this.cells = cells;
        this.states = states;
        this.names = names;
        this.horizons = new CachedUntilChange<>(changes, KEPT);
        this.counts = new CachedUntilChange<>(changes, KEPT);
        this.totals = new CachedUntilChange<>(changes, KEPT);
        this.store = store;
        this.lanes = lanes;
        this.views = views;
        this.tickets = tickets;
        this.targets = targets;
        this.words = words;
        this.clock = clock;
    }

    WorklistStore.Selection among(ListRequest asked, Viewer me) {
        return WorklistStore.Selection.of(asked, views.asking(me, clock.instant()), me);
    }

    // ------------------------------------------------------------------ lists

    /** The part of a list from after a place on, or its beginning. */
    @Transactional(readOnly = true)
    Page page(ListRequest asked, Viewer me, Optional<Cursor> after, int size) {
        WorklistStore.Selection among = among(asked, me);
        List<WorklistStore.TicketRow> rows = store.page(among, asked.walked(), after, size + 1);
        boolean more = rows.size() > size;
        List<Card> cards = cards(more ? rows.subList(0, size) : rows, asked, me);
        return new Page(
                cards,
                more ? Optional.of(cards.getLast().after()) : Optional.empty(),
                Optional.empty(),
                groups(asked, among));
    }

    /** The part of a list before a place, or its end. */
    @Transactional(readOnly = true)
    Page before(ListRequest asked, Viewer me, Optional<Cursor> before) {
        WorklistStore.Selection among = among(asked, me);
        List<WorklistStore.TicketRow> rows = store.before(among, asked.walked(), before, page(asked.shape()) + 1);
        boolean more = rows.size() > page(asked.shape());
        List<Card> cards = cards(more ? rows.subList(1, rows.size()) : rows, asked, me);
        return new Page(
                cards,
                Optional.empty(),
                more ? Optional.of(cards.getFirst().after()) : Optional.empty(),
                groups(asked, among));
    }

    /** Why a ticket is in a list, or is not: the parts of its sentence that decided. */
    public record Why(boolean in, List<String> because) {}

    Why why(ListRequest asked, TicketNumber number, Viewer me) {
        boolean inScope = !store.those(
                        new WorklistStore.Selection(me, asked.view().scope(), Criteria.everything(), Optional.empty()),
                        asked.walked(),
                        List.of(number))
                .isEmpty();
        if (!inScope) {
            return new Why(
                    false,
                    List.of("it is not among the tickets that “" + asked.view().title() + "” begins with"));
        }
        Instant now = clock.instant();
        Criteria resolved = views.asking(me, now).resolve(asked.criteria());
        Verdict verdict = Matching.explain(resolved, tickets.facts(number, now)).asWritten(asked.criteria());
        ZoneId zone = targets.terms().zone();
        Sentence sentence = names.sentence((field, value) ->
                field.type().ofTime() ? Say.when(Instant.parse(value), now, zone) : names.name(field, value));
        List<String> because = Matching.decisive(verdict).stream()
                .map(sentence::why)
                .distinct()
                .toList();
        return new Why(verdict.matches(), because.isEmpty() ? List.of("the list holds all tickets") : because);
    }

    private Map<String, Integer> groups(ListRequest asked, WorklistStore.Selection among) {
        if (asked.grouping().isEmpty() || !asked.shape().list()) {
            return Map.of();
        }
        var found = new HashMap<String, Integer>();
        lanes.groups(among, asked.grouping().get(), clock.instant())
                .forEach((key, count) ->
                        found.merge(words.of(asked.grouping().get(), key), count.total(), Integer::sum));
        return found;
    }

    /** The rows of those of these tickets that are in the list. */
    @Transactional(readOnly = true)
    List<Card> those(ListRequest asked, Viewer me, Collection<TicketNumber> numbers) {
        return cards(store.those(among(asked, me), asked.walked(), numbers), asked, me);
    }

    /** The numbers of tickets in the list that changed since an instant, the latest first. */
    List<TicketNumber> changedSince(ListRequest asked, Viewer me, Instant since, int most) {
        return store.changedSince(among(asked, me), since, most);
    }

    /** The rows of these tickets, whether they are in the list or not. */
    @Transactional(readOnly = true)
    List<Card> any(ListRequest asked, Viewer me, Collection<TicketNumber> numbers) {
        return cards(store.any(me, asked.walked(), numbers), asked, me);
    }

    /** How many tickets are in the list. */
    WorklistStore.Total total(ListRequest asked, Viewer me) {
        return store.count(among(asked, me));
    }

    /** How many tickets a list has, when the views that are counted anyway may hold the answer. */
    WorklistStore.Total total(ListRequest asked, Map<Long, Integer> counted, Viewer me) {
        if (!asked.otherTickets() && counted.containsKey(asked.view().id())) {
            return new WorklistStore.Total(counted.getOrDefault(asked.view().id(), 0), false);
        }
        return totals.get(
                new TotalOf(
                        asked.criteria(),
                        asked.view().scope(),
                        asked.due(),
                        me.sharing(Asking.personal(asked.criteria()))),
                () -> total(asked, me));
    }

    /** How many open tickets are in each of these views, by the view's id. */
    Map<Long, Integer> counts(List<ListView> tabs, Viewer me) {
        List<ListView> open = tabs.stream().filter(view -> !view.ended()).toList();
        return counts.get(
                new CountsOf(me.sharing(true), open.stream().map(ListView::id).toList()), () -> {
                    Asking asking = views.asking(me, clock.instant());
                    List<Integer> found = store.counts(
                            me,
                            open.stream()
                                    .map(view -> asking.resolve(view.criteria()))
                                    .toList());
                    var byView = new HashMap<Long, Integer>();
                    for (int i = 0; i < open.size(); i++) {
                        byView.put(open.get(i).id(), found.get(i));
                    }
                    return byView;
                });
    }

    Horizon horizon(ListRequest asked, Viewer me) {
        Instant now = clock.instant();
        WorklistStore.Selection all = new WorklistStore.Selection(
                me, asked.view().scope(), views.asking(me, now).resolve(asked.criteria()), Optional.empty());
        return horizons.get(
                new HorizonOf(
                        asked.criteria(),
                        asked.view().ended(),
                        me.sharing(Asking.personal(asked.criteria())),
                        now.getEpochSecond() / KEPT.toSeconds()),
                () -> Horizon.draw(targets.terms(), now, edges -> store.due(all, edges)));
    }

    // ------------------------------------------------------------------ rows

    /** These tickets as they stand in a list. */
    List<Card> cards(List<WorklistStore.TicketRow> rows, ListRequest asked, Viewer me) {
        Instant now = clock.instant();
        Terms terms = targets.terms();
        return rows.stream().map(row -> card(row, asked, me, terms, now)).toList();
    }

    private Card card(WorklistStore.TicketRow row, ListRequest asked, Viewer me, Terms terms, Instant now) {
        Turn turn = Turn.valueOf(row.turn());
        Optional<ClockView> pressing =
                turn == Turn.NOBODY ? Optional.empty() : ClockView.of(row.outline(), turn, now, terms);
        String state = states.name(row.state());
        return new Card(
                row.number(),
                row.subject(),
                row.channel(),
                cells.channel(row.channel()),
                state,
                row.state(),
                row.turn().toLowerCase(Locale.ROOT),
                GroupWords.turn(turn),
                row.priority(),
                row.topic(),
                Arrays.asList(row.tags()),
                row.messages(),
                row.told(CONTACT.NAME),
                row.told(COMPANY.NAME),
                row.told(COMPANY.PLAN),
                row.told(TEAM.NAME),
                row.told(PERSON.NAME).isEmpty() ? "" : Say.initials(row.told(PERSON.NAME)),
                row.told(PERSON.NAME),
                row.owner().isPresent(),
                row.owner().filter(owner -> owner.equals(me.id())).isPresent(),
                row.nextDue(),
                pressing,
                ended(row, terms, now),
                row.cursor().written(),
                place(row),
                group(row, asked, now),
                row.comesBack().map(at -> Say.when(at, now, terms.zone())).orElse(""),
                asked.shape() == Shape.GRID ? cells.shown(row, asked.columns(), now, terms.zone()) : Map.of());
    }

    /** What a browser needs to find the row's place: each value as text that compares as the value does. */
    private static String place(WorklistStore.TicketRow row) {
        var parts = new ArrayList<String>();
        row.cursor()
                .values()
                .forEach(value -> parts.add(value.map(Worklist::comparable).orElse("\uffff")));
        parts.add("%012d".formatted(row.number().value()));
        return String.join("\u001f", parts);
    }

    /** Instants with all their nine places, so that they compare as text. */
    private static String comparable(String value) {
        return value.matches("\\d{4}-\\d\\d-\\d\\dT.*Z")
                ? "%011d.%09d"
                        .formatted(
                                Instant.parse(value).getEpochSecond(),
                                Instant.parse(value).getNano())
                : value.matches("-?\\d{1,18}(\\.\\d+)?")
                        ? "%030.9f".formatted(new BigDecimal(value).add(ALL_ABOVE_ZERO))
                        : value;
    }

    private String group(WorklistStore.TicketRow row, ListRequest asked, Instant now) {
        if (asked.grouping().isEmpty() || !asked.shape().list()) {
            return "";
        }
        Grouping grouping = asked.grouping().get();
        return switch (grouping) {
            case STATE -> words.of(grouping, row.state());
            case TURN -> words.of(grouping, row.turn());
            case PRIORITY -> words.of(grouping, row.priority());
            case OWNER, HOLDER ->
                words.of(Grouping.OWNER, row.owner().map(String::valueOf).orElse(""));
            case TEAM -> row.told(TEAM.NAME).isEmpty() ? words.of(grouping, "") : row.told(TEAM.NAME);
            case TOPIC -> words.of(grouping, row.topic());
            case DUE ->
                words.of(
                        grouping,
                        row.nextDue().map(due -> Within.of(due, now).name()).orElse(""));
        };
    }

    private static String ended(WorklistStore.TicketRow row, Terms terms, Instant now) {
        if (Turn.valueOf(row.turn()) != Turn.NOBODY) {
            return "";
        }
        return (row.missed() ? "a target missed" : "targets met") + ", " + Say.when(row.changedAt(), now, terms.zone());
    }
}
