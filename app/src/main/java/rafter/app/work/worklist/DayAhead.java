package rafter.app.work.worklist;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;

/** What is ahead of a person on this day: what falls due, in its order, and the horizon of it. */
@Component
public class DayAhead {

    /** More are on the list that the page leads to. */
    private static final int LISTED = 8;

    private static final String OPEN = "open";

    /** A ticket that falls due. */
    public record Due(
            TicketNumber number, String subject, String contact, String turn, String turnWords, ClockView clock) {}

    /**
     * The day.
     *
     * @param due those that are late or fall due until midnight, the first ones
     * @param more whether there are further ones
     * @param asked the list of all of a person's open tickets
     */
    public record Ahead(Horizon horizon, List<Due> due, boolean more, ListRequest asked) {}

    private final Worklist worklist;
    private final Views views;
    private final Targets targets;
    private final Clock clock;

    DayAhead(Worklist worklist, Views views, Targets targets, Clock clock) {
        this.worklist = worklist;
        this.views = views;
        this.targets = targets;
        this.clock = clock;
    }

    /** What is ahead of a person. */
    public Ahead of(Viewer me) {
        String mine = CriteriaJson.write(Criteria.test(KnownField.OWNER, Operator.IS, Asking.ME));
        ListRequest asked = ListRequest.read(
                views.get(OPEN, me),
                Map.of("q", mine, "shape", Shape.LINES.key(), "sort", KnownColumn.NEXT_DUE.sortKey()));
        Instant midnight = midnight();
        List<Due> due = worklist.page(asked, me, Optional.empty(), LISTED + 1).cards().stream()
                .filter(card ->
                        card.nextDue().filter(at -> at.isBefore(midnight)).isPresent())
                .flatMap(card -> card
                        .clock()
                        .map(view -> new Due(
                                card.number(), card.subject(), card.contact(), card.turn(), card.turnWords(), view))
                        .stream())
                .toList();
        return new Ahead(worklist.horizon(asked, me), due.stream().limit(LISTED).toList(), due.size() > LISTED, asked);
    }

    private Instant midnight() {
        ZoneId zone = targets.terms().zone();
        return clock.instant()
                .atZone(zone)
                .toLocalDate()
                .plusDays(1)
                .atStartOfDay(zone)
                .toInstant();
    }
}
