package rafter.app.tickets.acts;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActWords;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Doer;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Says what acts would do, before anybody does them. */
@Component
public class Foresight {

    private final TicketStore store;
    private final Viewers viewers;
    private final Workplace workplace;
    private final Targets targets;
    private final Clock clock;

    Foresight(TicketStore store, Viewers viewers, Workplace workplace, Targets targets, Clock clock) {
        this.store = store;
        this.viewers = viewers;
        this.workplace = workplace;
        this.targets = targets;
        this.clock = clock;
    }

    /** Why an act could be done to no ticket by this person; nothing when it could. */
    public Optional<Decision.Refused> hindrance(Act act, Viewer by) {
        Access.require(by, Right.WORK);
        return Conduct.hindrance(act, Acts.doer(by), workplace, clock.instant());
    }

    /** Why an act could be done to no ticket by a standing instruction; nothing when it could. */
    public Optional<Decision.Refused> hindrance(Act act) {
        return Conduct.hindrance(act, Doer.rafter(), workplace, clock.instant());
    }

    /**
     * What an act would do.
     *
     * @param changes whether anything would happen; it may be so already
     * @param hindrance why it cannot be done; empty when it can
     */
    public record Foreseen(Act act, String words, boolean changes, String hindrance) {}

    /** What several acts would do to a ticket, each on the ticket as those before it leave it; nothing is done. */
    @Transactional(readOnly = true)
    public List<Foreseen> foresee(TicketNumber number, List<Act> several, Viewer by) {
        Access.require(by, Right.WORK);
        viewers.insist(by, number);
        Ticket next = Ticket.replay(store.events(number));
        var foreseen = new ArrayList<Foreseen>();
        for (Act act : several) {
            Decision decision =
                    Conduct.decide(number, next, act, Acts.doer(by), workplace, clock.instant(), Optional.empty());
            if (decision instanceof Decision.Refused refused) {
                foreseen.add(new Foreseen(act, words(act), false, refused.words()));
                continue;
            }
            List<TicketEvent> events = ((Decision.Done) decision).events();
            boolean written = act instanceof Act.Note || act instanceof Act.Answer;
            foreseen.add(new Foreseen(act, words(act), written || !events.isEmpty(), ""));
            for (TicketEvent event : events) {
                next = next.after(event);
            }
        }
        return foreseen;
    }

    /** An act as people read it. */
    public String words(Act act) {
        return ActWords.of(act, workplace, at -> Say.when(at, clock.instant(), targets.zone()));
    }
}
