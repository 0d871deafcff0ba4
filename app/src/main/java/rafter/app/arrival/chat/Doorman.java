package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.channel.Takers;
import rafter.core.chat.Doors;
import rafter.core.chat.ExpectedWait;
import rafter.core.target.PromiseBook;
import rafter.core.time.WorkingTime;

/** Knows whether a chat can be begun, and how long it may take until somebody comes. */
@Component
public class Doorman {

    /** Chats that ended within this time say how long one takes. */
    private static final Duration MEASURED = Duration.ofHours(4);

    private static final int MOST_MEASURED = 200;

    private final ChatSettings settings;
    private final Chats chats;
    private final Takers takers;
    private final Targets targets;
    private final Clock clock;

    Doorman(ChatSettings settings, Chats chats, Takers takers, Targets targets, Clock clock) {
        this.settings = settings;
        this.chats = chats;
        this.takers = takers;
        this.targets = targets;
        this.clock = clock;
    }

    /** Whether a chat can be begun on a site. */
    public Doors doors(ChatSite site) {
        Instant now = clock.instant();
        Optional<WorkingTime> hours = hours(site);
        boolean within = hours.map(one -> one.isOpen(now)).orElse(true);
        Optional<Instant> next = hours.flatMap(one -> one.nextOpen(now));
        int people = within ? takers.room(ChatSite.CHANNEL, site.team()).people() : 0;
        return Doors.of(settings.rules().open(), within, next, people);
    }

    /** The hours of a site; nothing: around the clock. */
    private Optional<WorkingTime> hours(ChatSite site) {
        if (site.calendar().isEmpty()) {
            return Optional.of(targets.terms().hours());
        }
        PromiseBook book = targets.terms().editions().latest().book();
        return book.plan(site.calendar())
                .filter(plan -> !plan.aroundTheClock())
                .map(book::calendar)
                .map(WorkingTime::of);
    }

    /**
     * How long somebody waits at a place.
     *
     * @param place one: the next
     */
    public Optional<ExpectedWait> wait(ChatSite site, int place) {
        Takers.Room room = takers.room(ChatSite.CHANNEL, site.team());
        List<Duration> measured = chats.lengths(clock.instant().minus(MEASURED), MOST_MEASURED);
        return ExpectedWait.at(place, room.free(), room.places(), ExpectedWait.each(measured));
    }
}
