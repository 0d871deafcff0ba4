package rafter.app.handout.consults;

import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;

/** What rooms somebody is asked into, for every page of theirs. */
@Component
public class AskedIn {

    /**
     * An invitation.
     *
     * @param seconds how long they have until somebody else is asked, too
     */
    public record Asked(long consult, TicketNumber ticket, String asker, String question, String why, long seconds) {}

    private final Guests guests;
    private final Consults consults;
    private final Clock clock;

    AskedIn(Guests guests, Consults consults, Clock clock) {
        this.guests = guests;
        this.consults = consults;
        this.clock = clock;
    }

    /** What somebody is asked, and was asked first. */
    @Transactional(readOnly = true)
    public Optional<Asked> of(Viewer me) {
        return guests.asked(me.id()).stream()
                .findFirst()
                .flatMap(guest -> consults.find(guest.consult())
                        .map(consult -> new Asked(
                                consult.id(),
                                consult.ticket(),
                                consult.asker(),
                                consult.question(),
                                guest.why(),
                                guest.until()
                                        .map(until -> Math.max(
                                                0,
                                                Duration.between(clock.instant(), until)
                                                        .toSeconds()))
                                        .orElse(0L))));
    }

    /**
     * Somebody does not come.
     *
     * @throws Problem.Stale when they are asked no more
     */
    public void decline(long consult, String reason, Viewer me) {
        Guests.Guest mine = guests.asked(me.id()).stream()
                .filter(one -> one.consult() == consult)
                .findFirst()
                .orElseThrow(() -> new Problem.Stale("You are not asked into this room any more."));
        consults.decline(mine.id(), reason);
    }
}
