package rafter.app.worklist;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.access.Person;
import rafter.app.access.Persons;
import rafter.app.criteria.CriteriaNames;
import rafter.app.platform.Say;
import rafter.app.platform.TicketChanges;
import rafter.app.platform.UntilChange;
import rafter.app.targets.ClockView;
import rafter.app.targets.Targets;
import rafter.app.targets.Terms;
import rafter.app.tickets.Tickets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Sentence;
import rafter.core.criteria.Verdict;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Puts lists of tickets together. */
@Component
class Worklist {

    /** A screen and a half of each shape; the rest comes by scrolling. */
    static int page(Shape shape) {
        return shape == Shape.CARDS ? 13 : 20;
    }

    /** As many as a screen shows of each lane; the rest comes by scrolling it. */
    private static final int FIRST_OF_A_LANE = 8;
    private static final int MORE_OF_A_LANE = 16;
    /** So many marks the Clock draws in all, shared among the people. */
    private static final int MARKS = 150;
    private static final int FEWEST_OF_A_LANE = 3;
    private static final int MOST_OF_A_LANE = 40;
    private static final int MOST_LANES = 60;
    private static final BigDecimal ALL_ABOVE_ZERO = new BigDecimal("1e18");
    /** As long as a mark of the horizon may stand a little beside its place. */
    private static final Duration KEPT = Duration.ofSeconds(5);

    /** Whose horizon: a list that is personal is the reader's alone, the others are everybody's. */
    private record HorizonOf(Criteria criteria, boolean ended, long person, long slot) {}

    /** The lanes of which list, and whose when it is personal. */
    private record TotalsOf(ListView.Scope scope, Criteria criteria, Optional<Asked.Stretch> due, Grouping grouping, long person, long slot) {}

    /** Whose counts of which views. */
    private record CountsOf(long person, List<Long> views) {}

    /**
     * A ticket as a row of a list.
     *
     * @param clock the clock that matters most; nothing when none is live
     * @param after the place in the list behind this row
     * @param place what it has in each order of the list, for putting it in its place in the browser
     * @param group the group that it is in, in words; blank when the list is not parted
     */
    record Card(
            long number, String subject, String channel, String state, String stateKey, String turn, String turnWords, String priority, String topic,
            List<String> tags, int messages, String contact, String company, String plan, String team, String ownerInitials, String ownerName,
            boolean owned, boolean mine, Optional<Instant> nextDue, Optional<ClockView> clock, String ended, String after, String place, String group, String waiting, String age,
            String customerWrote, String changed, String comesBack, Map<String, String> own) {}

    /**
     * A part of a list.
     *
     * @param next the place from which it goes on, if it does
     * @param earlier the place before which there is more, if asked for from there
     * @param groups how many tickets are in each group that begins here, by the group's words
     */
    record Page(List<Card> cards, Optional<String> next, Optional<String> earlier, Map<String, Integer> groups) {

        /** Whether a group begins with this card. */
        public boolean begins(int at) {
            return !cards.get(at).group().isEmpty() && (at == 0 || !cards.get(at).group().equals(cards.get(at - 1).group()));
        }
    }

    /**
     * One lane.
     *
     * @param limit how many it should hold at most, if somebody set that
     */
    record Lane(String key, String title, int total, Optional<Integer> limit, List<Card> cards, Drop drop) {
        public boolean over() {
            return limit.isPresent() && total > limit.get();
        }

        /** The place from which it goes on, if it does. */
        public Optional<String> next() {
            return total > cards.size() && !cards.isEmpty() ? Optional.of(cards.getLast().after()) : Optional.empty();
        }
    }

    private final WorklistStore store;
    private final Views views;
    private final Tickets tickets;
    private final Targets targets;
    private final Persons persons;
    private final CriteriaNames names;
    private final Clock clock;
    private final UntilChange<HorizonOf, Horizon> horizons;
    private final UntilChange<CountsOf, Map<Long, Integer>> counts;
    private final UntilChange<TotalsOf, Map<String, WorklistStore.Size>> totals;

    Worklist(WorklistStore store, Views views, Tickets tickets, Targets targets, Persons persons, CriteriaNames names, Clock clock, TicketChanges changes) {
        this.names = names;
        this.horizons = new UntilChange<>(changes, KEPT);
        this.counts = new UntilChange<>(changes, KEPT);
        this.totals = new UntilChange<>(changes, KEPT);
        this.store = store;
        this.views = views;
        this.tickets = tickets;
        this.targets = targets;
        this.persons = persons;
        this.clock = clock;
    }

    WorklistStore.Among among(Asked asked, Person me) {
        return WorklistStore.Among.of(asked, views.asking(me, clock.instant()));
    }

    // ------------------------------------------------------------------ lists

    /** The part of a list from after a place on, or its beginning. */
    @Transactional(readOnly = true)
    Page page(Asked asked, Person me, Optional<Cursor> after, int size) {
        WorklistStore.Among among = among(asked, me);
        List<WorklistStore.TicketRow> rows = store.page(among, asked.walked(), after, size + 1);
        boolean more = rows.size() > size;
        List<Card> cards = cards(more ? rows.subList(0, size) : rows, asked, me);
        return new Page(cards, more ? Optional.of(cards.getLast().after()) : Optional.empty(), Optional.empty(), groups(asked, among));
    }

    /** The part of a list before a place, or its end. */
    @Transactional(readOnly = true)
    Page before(Asked asked, Person me, Optional<Cursor> before) {
        WorklistStore.Among among = among(asked, me);
        List<WorklistStore.TicketRow> rows = store.before(among, asked.walked(), before, page(asked.shape()) + 1);
        boolean more = rows.size() > page(asked.shape());
        List<Card> cards = cards(more ? rows.subList(1, rows.size()) : rows, asked, me);
        return new Page(cards, Optional.empty(), more ? Optional.of(cards.getFirst().after()) : Optional.empty(), groups(asked, among));
    }

    /** Why a ticket is in a list, or is not: the parts of its sentence that decided. */
    record Why(boolean in, List<String> because) {}

    Why why(Asked asked, long number, Person me) {
        Instant now = clock.instant();
        Criteria resolved = views.asking(me, now).resolve(asked.criteria());
        Verdict verdict = Matching.explain(resolved, tickets.facts(number, now)).asWritten(asked.criteria());
        boolean inScope = !store.those(new WorklistStore.Among(asked.view().scope(), Criteria.everything(), Optional.empty()), asked.walked(), List.of(number)).isEmpty();
        if (!inScope) {
            return new Why(false, List.of("it is not among the tickets that “" + asked.view().title() + "” begins with"));
        }
        ZoneId zone = targets.terms().zone();
        Sentence sentence = names.sentence((field, value) -> field.type().ofTime() ? Say.when(Instant.parse(value), now, zone) : names.name(field, value));
        List<String> because = Matching.decisive(verdict).stream().map(sentence::why).distinct().toList();
        return new Why(verdict.matches(), because.isEmpty() ? List.of("the list holds all tickets") : because);
    }

    private Map<String, Integer> groups(Asked asked, WorklistStore.Among among) {
        if (asked.grouping().isEmpty() || !asked.shape().list()) {
            return Map.of();
        }
        var found = new HashMap<String, Integer>();
        store.groups(among, asked.grouping().get(), clock.instant()).forEach((key, count) -> found.merge(groupWords(asked.grouping().get(), key), count.total(), Integer::sum));
        return found;
    }

    /** The rows of those of these tickets that are in the list. */
    @Transactional(readOnly = true)
    List<Card> those(Asked asked, Person me, Collection<Long> numbers) {
        return cards(store.those(among(asked, me), asked.walked(), numbers), asked, me);
    }

    /** The numbers of tickets in the list that changed since an instant, the latest first. */
    List<Long> changedSince(Asked asked, Person me, Instant since, int most) {
        return store.changedSince(among(asked, me), since, most);
    }

    /** The rows of these tickets, whether they are in the list or not. */
    @Transactional(readOnly = true)
    List<Card> any(Asked asked, Person me, Collection<Long> numbers) {
        return cards(store.any(asked.walked(), numbers), asked, me);
    }

    /** How many tickets are in the list. */
    WorklistStore.Total total(Asked asked, Person me) {
        return store.count(among(asked, me));
    }

    /** The same when the views that are counted anyway may hold the answer. */
    WorklistStore.Total total(Asked asked, Map<Long, Integer> counted, Person me) {
        return asked.otherTickets() || !counted.containsKey(asked.view().id())
                ? total(asked, me)
                : new WorklistStore.Total(counted.getOrDefault(asked.view().id(), 0), false);
    }

    /** How many open tickets are in each of these views, by the view's id. */
    Map<Long, Integer> counts(List<ListView> tabs, Person me) {
        List<ListView> open = tabs.stream().filter(view -> !view.ended()).toList();
        return counts.get(new CountsOf(me.id(), open.stream().map(ListView::id).toList()), () -> {
            Asking asking = views.asking(me, clock.instant());
            List<Integer> found = store.counts(open.stream().map(view -> asking.resolve(view.criteria())).toList());
            var byView = new HashMap<Long, Integer>();
            for (int i = 0; i < open.size(); i++) {
                byView.put(open.get(i).id(), found.get(i));
            }
            return byView;
        });
    }

    Horizon horizon(Asked asked, Person me) {
        Instant now = clock.instant();
        WorklistStore.Among all = new WorklistStore.Among(asked.view().scope(), views.asking(me, now).resolve(asked.criteria()), Optional.empty());
        return horizons.get(
                new HorizonOf(asked.criteria(), asked.view().ended(), Asking.personal(asked.criteria()) ? me.id() : 0, now.getEpochSecond() / KEPT.toSeconds()),
                () -> Horizon.draw(targets.terms(), now, edges -> store.due(all, edges)));
    }

    // ------------------------------------------------------------------ lanes

    /** The lanes of a list: those that there are, and those that there could be where that is known. */
    @Transactional(readOnly = true)
    List<Lane> lanes(Asked asked, Person me) {
        Grouping grouping = asked.lanesBy();
        Instant now = clock.instant();
        Map<String, WorklistStore.Size> totals = totals(asked, grouping, me, now);
        List<String> shown = shown(grouping, asked, totals);
        Map<String, List<Card>> cards = firsts(asked, grouping, shown, totals, asked.walked(), FIRST_OF_A_LANE, me, now);
        return shown.stream().map(key -> {
            Drop drop = drop(grouping, key);
            return new Lane(
                    key, groupWords(grouping, key), size(totals, key).total(), asked.limit(key), cards.getOrDefault(key, List.of()), drop);
        }).toList();
    }

    private static WorklistStore.Size size(Map<String, WorklistStore.Size> totals, String key) {
        return totals.getOrDefault(key, WorklistStore.Size.NONE);
    }

    /** The keys of the lanes that are shown: those that there could be, then those that there are besides. */
    private List<String> shown(Grouping grouping, Asked asked, Map<String, WorklistStore.Size> totals) {
        var keys = new LinkedHashSet<>(usual(grouping, asked.view().ended()));
        keys.addAll(totals.keySet());
        return keys.stream().limit(MOST_LANES).toList();
    }

    /** The first cards of several lanes; all their tickets are read and reckoned together. */
    private Map<String, List<Card>> firsts(
            Asked asked, Grouping grouping, List<String> keys, Map<String, WorklistStore.Size> totals, List<Sorting> sorting, int most, Person me, Instant now) {
        List<String> filled = keys.stream().filter(key -> size(totals, key).total() > 0).toList();
        Map<String, List<WorklistStore.TicketRow>> rows = store.groups(among(asked, me), grouping, filled, sorting, now, most);
        Map<Long, Card> cards = new HashMap<>();
        cards(rows.values().stream().flatMap(List::stream).toList(), asked, me).forEach(card -> cards.put(card.number(), card));
        var found = new HashMap<String, List<Card>>();
        rows.forEach((key, some) -> found.put(key, some.stream().flatMap(row -> Optional.ofNullable(cards.get(row.number())).stream()).toList()));
        return found;
    }

    /** The part of a lane from after a place on. */
    @Transactional(readOnly = true)
    Lane lane(Asked asked, String key, Optional<Cursor> after, Person me) {
        Grouping grouping = asked.lanesBy();
        Instant now = clock.instant();
        List<WorklistStore.TicketRow> rows = store.group(among(asked, me), grouping, key, asked.walked(), after, now, MORE_OF_A_LANE + 1);
        boolean more = rows.size() > MORE_OF_A_LANE;
        List<Card> cards = cards(more ? rows.subList(0, MORE_OF_A_LANE) : rows, asked, me);
        return new Lane(key, groupWords(grouping, key), more ? Integer.MAX_VALUE : cards.size(), Optional.empty(), cards, drop(grouping, key));
    }

    /** How many tickets are in each lane; counted once for all who look at the same lanes, until one changes. */
    private Map<String, WorklistStore.Size> totals(Asked asked, Grouping grouping, Person me, Instant now) {
        long person = Asking.personal(asked.criteria()) ? me.id() : 0;
        var of = new TotalsOf(asked.view().scope(), asked.criteria(), asked.due(), grouping, person, now.getEpochSecond() / KEPT.toSeconds());
        return totals.get(of, () -> store.groups(among(asked, me), grouping, now));
    }

    /**
     * What a ticket becomes that is laid into a lane: the field and its value, as the acts on a ticket take them; blank when nothing can
     * be laid into it.
     */
    record Drop(String path, String field, String value) {

        static final Drop NOTHING = new Drop("", "", "");
    }

    private static Drop drop(Grouping grouping, String key) {
        return switch (grouping) {
            case STATE -> new Drop("state", "state", key);
            case TURN -> new Drop("state", "state", TicketState.waitingFor(Turn.valueOf(key)).key());
            case PRIORITY -> new Drop("priority", "priority", key);
            case OWNER -> new Drop("owner", "owner", key);
            case TEAM -> key.isEmpty() ? Drop.NOTHING : new Drop("owner", "team", key);
            case HOLDER -> new Drop("owner", key.startsWith(WorklistStore.TEAM_KEY) ? "team" : "owner", key.isEmpty() ? "" : key.substring(1));
            case TOPIC -> new Drop("topic", "topic", key);
            case DUE -> Drop.NOTHING;
        };
    }

    /** The lanes that stand there even while they are empty, in their order. */
    private List<String> usual(Grouping grouping, boolean ended) {
        return switch (grouping) {
            case STATE -> TicketState.shipped().stream().filter(s -> s.ending() == ended).map(TicketState::key).toList();
            case TURN -> Arrays.stream(Turn.values()).filter(t -> (t == Turn.NOBODY) == ended).map(Turn::name).toList();
            case PRIORITY -> Arrays.stream(Priority.values()).map(Priority::name).toList();
            case OWNER -> {
                var all = new ArrayList<String>();
                all.add("");
                persons.active().forEach(p -> all.add(Long.toString(p.id())));
                yield all;
            }
            case TEAM -> persons.teams().stream().map(t -> Long.toString(t.id())).toList();
            case HOLDER -> {
                var all = new ArrayList<String>();
                all.add("");
                persons.teams().forEach(t -> all.add(WorklistStore.TEAM_KEY + t.id()));
                persons.active().forEach(p -> all.add(WorklistStore.PERSON_KEY + p.id()));
                yield all;
            }
            case TOPIC -> List.of("");
            case DUE -> Arrays.stream(WorklistStore.Within.values()).map(Enum::name).toList();
        };
    }

    private String groupWords(Grouping grouping, String key) {
        if (key.isEmpty()) {
            return switch (grouping) {
                case OWNER -> "Unowned";
                case HOLDER -> "Unowned, no team";
                case TEAM -> "No team";
                case TOPIC -> "No topic";
                case DUE -> "No target runs";
                default -> "None";
            };
        }
        return switch (grouping) {
            case STATE -> TicketState.of(key).map(TicketState::name).orElse(key);
            case TURN -> Say.capital(words(Turn.valueOf(key)));
            case PRIORITY -> key + " " + Priority.valueOf(key).word().toLowerCase(Locale.ROOT);
            case OWNER -> persons.find(Long.parseLong(key)).map(Person::name).orElse(key);
            case TEAM -> persons.teams().stream().filter(t -> Long.toString(t.id()).equals(key)).findFirst().map(t -> t.name()).orElse(key);
            case HOLDER -> groupWords(key.startsWith(WorklistStore.TEAM_KEY) ? Grouping.TEAM : Grouping.OWNER, key.substring(1));
            case TOPIC -> Say.capital(key);
            case DUE -> Say.capital(WorklistStore.Within.valueOf(key).words());
        };
    }

    // ------------------------------------------------------------------ the clock

    /** A lane for each person, or for each team, on one axis of working time. */
    @Transactional(readOnly = true)
    ClockLanes clockLanes(Asked asked, Person me) {
        Instant now = clock.instant();
        List<Sorting> due = List.of(new Sorting(KnownOrder.NEXT_DUE, false));
        Grouping grouping = asked.lanesBy();
        Map<String, WorklistStore.Size> totals = totals(asked, grouping, me, now);
        List<String> shown = shown(grouping, asked, totals);
        int most = Math.clamp(MARKS / Math.max(1, shown.size()), FEWEST_OF_A_LANE, MOST_OF_A_LANE);
        Map<String, List<Card>> cards = firsts(asked, grouping, shown, totals, due, most, me, now);
        return ClockLanes.draw(targets.terms(), now, shown.stream()
                .map(key -> new ClockLanes.Holder(
                        key, groupWords(grouping, key), size(totals, key), asked.limit(key), cards.getOrDefault(key, List.of()), drop(grouping, key)))
                .toList());
    }

    // ------------------------------------------------------------------ rows

    private List<Card> cards(List<WorklistStore.TicketRow> rows, Asked asked, Person me) {
        Instant now = clock.instant();
        Terms terms = targets.terms();
        List<Long> numbers = rows.stream().map(WorklistStore.TicketRow::number).toList();
        Map<Long, List<TicketEvent>> events = tickets.events(numbers);
        Map<Long, Facts> customers = tickets.customers(numbers);
        return rows.stream()
                .map(row -> card(
                        row, events.getOrDefault(row.number(), List.of()), customers.getOrDefault(row.number(), Facts.none()), asked, me, terms, now))
                .toList();
    }

    private Card card(
            WorklistStore.TicketRow row, List<TicketEvent> events, Facts customer, Asked asked, Person me, Terms terms, Instant now) {
        Turn turn = Turn.valueOf(row.turn());
        List<TargetClock> clocks = targets.reckon(events, customer, now, terms);
        Optional<ClockView> pressing = turn == Turn.NOBODY ? Optional.empty() : ClockView.mostPressing(clocks, turn, now, terms.zone());
        String state = TicketState.of(row.state()).map(TicketState::name).orElse(row.state());
        return new Card(
                row.number(), row.subject(), row.channel(), state, row.state(), row.turn().toLowerCase(Locale.ROOT), words(turn), row.priority(),
                row.topic(), Arrays.asList(row.tags()), row.messages(), row.contact(), row.company(), row.plan(), row.team(),
                row.ownerName().isEmpty() ? "" : Say.initials(row.ownerName()), row.ownerName(), row.owner().isPresent(),
                row.owner().filter(owner -> owner == me.id()).isPresent(), row.nextDue(), pressing, ended(row, clocks, terms, now),
                row.cursor().written(), place(row), group(row, asked, now), Say.amount(Duration.between(row.turnSince(), now)),
                Say.amount(Duration.between(row.openedAt(), now)), row.lastCustomerAt().map(at -> Say.when(at, now, terms.zone())).orElse(""),
                Say.when(row.changedAt(), now, terms.zone()), row.comesBack().map(at -> Say.when(at, now, terms.zone())).orElse(""), row.own());
    }

    /** What a browser needs to find the row's place: each value as text that compares as the value does. */
    private static String place(WorklistStore.TicketRow row) {
        var parts = new ArrayList<String>();
        row.cursor().values().forEach(value -> parts.add(value.map(Worklist::comparable).orElse("\uffff")));
        parts.add("%012d".formatted(row.number()));
        return String.join("\u001f", parts);
    }

    /** Instants with all their nine places, so that they compare as text. */
    private static String comparable(String value) {
        return value.matches("\\d{4}-\\d\\d-\\d\\dT.*Z")
                ? "%011d.%09d".formatted(Instant.parse(value).getEpochSecond(), Instant.parse(value).getNano())
                : value.matches("-?\\d{1,18}(\\.\\d+)?") ? "%030.9f".formatted(new BigDecimal(value).add(ALL_ABOVE_ZERO)) : value;
    }

    private String group(WorklistStore.TicketRow row, Asked asked, Instant now) {
        if (asked.grouping().isEmpty() || !asked.shape().list()) {
            return "";
        }
        Grouping grouping = asked.grouping().get();
        return switch (grouping) {
            case STATE -> groupWords(grouping, row.state());
            case TURN -> groupWords(grouping, row.turn());
            case PRIORITY -> groupWords(grouping, row.priority());
            case OWNER, HOLDER -> groupWords(Grouping.OWNER, row.owner().map(String::valueOf).orElse(""));
            case TEAM -> row.team().isEmpty() ? groupWords(grouping, "") : row.team();
            case TOPIC -> groupWords(grouping, row.topic());
            case DUE -> groupWords(grouping, row.nextDue().map(due -> WorklistStore.Within.of(due, now).name()).orElse(""));
        };
    }

    private static String ended(WorklistStore.TicketRow row, List<TargetClock> clocks, Terms terms, Instant now) {
        if (TicketState.of(row.state()).filter(state -> !state.ending()).isPresent()) {
            return "";
        }
        boolean late = clocks.stream().anyMatch(TargetClock::late);
        return (late ? "a target missed" : "targets met") + ", " + Say.when(row.changedAt(), now, terms.zone());
    }

    private static String words(Turn turn) {
        return switch (turn) {
            case OURS -> "our turn";
            case CUSTOMER -> "the customer’s turn";
            case PARTNER -> "a partner’s turn";
            case NOBODY -> "nobody’s turn";
        };
    }
}
