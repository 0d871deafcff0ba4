package rafter.app.handout.consults;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
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

    /** A room that somebody is in, or is asked into. */
    public record Room(long consult, TicketNumber ticket, String question, String state) {}

    /** The open rooms that somebody is in or asked into, those that they are in first. */
    @Transactional(readOnly = true)
    public List<Room> inOrAsked(Viewer me) {
        return Stream.concat(guests.in(me.id()).stream(), guests.asked(me.id()).stream())
                .flatMap(guest -> consults.find(guest.consult()).stream()
                        .map(consult -> new Room(
                                consult.id(),
                                consult.ticket(),
                                consult.question(),
                                guest.state().words())))
                .toList();
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
