package rafter.app.worklist;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.access.Person;
import rafter.app.platform.Say;
import rafter.app.platform.TicketChanges;
import rafter.app.platform.UntilChange;
import rafter.app.targets.ClockView;
import rafter.app.targets.Targets;
import rafter.app.targets.Terms;
import rafter.app.tickets.Tickets;
import rafter.core.criteria.Facts;
import rafter.core.target.TargetClock;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Puts lists of tickets together. */
@Component
class Worklist {

    static final int PAGE = 30;
    /** As long as a mark of the horizon may stand a little beside its place. */
    private static final Duration KEPT = Duration.ofSeconds(5);

    /** Whose horizon: a person's own view is theirs alone, the others are everybody's. */
    private record HorizonOf(ShippedView view, long person, long slot) {}

    /**
     * A ticket as a card.
     *
     * @param clock the clock that matters most; nothing when none is live
     * @param after the place in the list behind this card
     */
    record Card(
            long number, String subject, String channel, String state, String stateKey, String turn, String turnWords, String priority, String topic,
            List<String> tags, int messages, String contact, String company, String plan, String team, String ownerInitials, String ownerName,
            boolean owned, boolean mine, Optional<ClockView> clock, String ended, String after) {}

    /** A part of a list; {@code next} is the place from which it goes on, if it does. */
    record Page(List<Card> cards, Optional<String> next) {}

    private final WorklistStore store;
    private final Tickets tickets;
    private final Targets targets;
    private final Clock clock;
    private final UntilChange<HorizonOf, Horizon> horizons;
    private final UntilChange<Boolean, Map<ShippedView, Integer>> sharedCounts;

    Worklist(WorklistStore store, Tickets tickets, Targets targets, Clock clock, TicketChanges changes) {
        this.horizons = new UntilChange<>(changes, KEPT);
        this.sharedCounts = new UntilChange<>(changes, KEPT);
        this.store = store;
        this.tickets = tickets;
        this.targets = targets;
        this.clock = clock;
    }

    @Transactional(readOnly = true)
    Page page(ShippedView view, Person me, Optional<Cursor> after) {
        List<WorklistStore.TicketRow> rows = store.page(view, me, after, PAGE + 1);
        boolean more = rows.size() > PAGE;
        List<Card> cards = cards(more ? rows.subList(0, PAGE) : rows, view, me);
        return new Page(cards, more ? Optional.of(cards.getLast().after()) : Optional.empty());
    }

    /** The cards of those of these tickets that are in the view, in its order. */
    @Transactional(readOnly = true)
    List<Card> those(ShippedView view, Person me, Collection<Long> numbers) {
        return cards(store.those(view, me, numbers), view, me);
    }

    /** The numbers of tickets in the view that changed since an instant, the latest first. */
    List<Long> changedSince(ShippedView view, Person me, Instant since, int most) {
        return store.changedSince(view, me, since, most);
    }

    /** The cards of these tickets, whether they are in the view or not. */
    @Transactional(readOnly = true)
    List<Card> any(ShippedView view, Person me, Collection<Long> numbers) {
        return cards(store.any(numbers), view, me);
    }

    Map<ShippedView, Integer> counts(Person me) {
        var counts = new EnumMap<ShippedView, Integer>(sharedCounts.get(true, store::sharedCounts));
        counts.put(ShippedView.MY_TURN, store.count(ShippedView.MY_TURN, me));
        return counts;
    }

    Horizon horizon(ShippedView view, Person me) {
        Instant now = clock.instant();
        return horizons.get(
                new HorizonOf(view, view.personal() ? me.id() : 0, now.getEpochSecond() / KEPT.toSeconds()),
                () -> Horizon.draw(targets.terms(), now, edges -> store.due(view, me, edges)));
    }

    private List<Card> cards(List<WorklistStore.TicketRow> rows, ShippedView view, Person me) {
        Instant now = clock.instant();
        Terms terms = targets.terms();
        List<Long> numbers = rows.stream().map(WorklistStore.TicketRow::number).toList();
        Map<Long, List<TicketEvent>> events = tickets.events(numbers);
        Map<Long, Facts> customers = tickets.customers(numbers);
        return rows.stream()
                .map(row -> card(
                        row, events.getOrDefault(row.number(), List.of()), customers.getOrDefault(row.number(), Facts.none()), view, me, terms, now))
                .toList();
    }

    private Card card(
            WorklistStore.TicketRow row, List<TicketEvent> events, Facts customer, ShippedView view, Person me, Terms terms, Instant now) {
        Turn turn = Turn.valueOf(row.turn());
        List<TargetClock> clocks = targets.reckon(events, customer, now, terms);
        Optional<ClockView> pressing = turn == Turn.NOBODY ? Optional.empty() : ClockView.mostPressing(clocks, turn, now, terms.zone());
        String state = TicketState.of(row.state()).map(TicketState::name).orElse(row.state());
        return new Card(
                row.number(), row.subject(), row.channel(), state, row.state(), row.turn().toLowerCase(Locale.ROOT), words(turn), row.priority(),
                row.topic(), Arrays.asList(row.tags()), row.messages(), row.contact(), row.company(), row.plan(), row.team(),
                row.ownerName().isEmpty() ? "" : Say.initials(row.ownerName()), row.ownerName(), row.owner().isPresent(),
                row.owner().filter(owner -> owner == me.id()).isPresent(), pressing, ended(row, clocks, terms, now),
                row.cursor(view).written());
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
