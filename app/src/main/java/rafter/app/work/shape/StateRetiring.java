package rafter.app.work.shape;

import java.util.List;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.StateRules;
import rafter.app.platform.Problem;
import rafter.app.work.batches.Batches;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** Takes states out of use, and carries over what is in them. */
@Component
class StateRetiring {

    private static final int MOST_MOVED = 5_000;

    private final StateRules rules;
    private final StateUses uses;
    private final Batches batches;

    StateRetiring(StateRules rules, StateUses uses, Batches batches) {
        this.rules = rules;
        this.uses = uses;
        this.batches = batches;
    }

    /**
     * Takes a state out of use.
     *
     * @param into the key of the state that its open tickets move into; blank when there are none
     * @return the batch that moves them beside everything else; nothing when there are none
     * @throws Problem.Invalid when there are tickets and they cannot move so; nothing is changed
     */
    @Transactional
    public OptionalLong retire(String key, String into, Viewer me) {
        List<TicketNumber> numbers = uses.tickets(key, MOST_MOVED + 1, me);
        if (numbers.size() > MOST_MOVED) {
            throw new Problem.Invalid(
                    "More than 5,000 open tickets are in it. Move them by batches first. Nothing was changed.");
        }
        if (!numbers.isEmpty()
                && (into.isEmpty() || into.equals(key) || rules.find(into).isEmpty())) {
            throw new Problem.Invalid("Choose where its " + numbers.size() + " open tickets go. Nothing was changed.");
        }
        rules.retire(key, me);
        return numbers.isEmpty()
                ? OptionalLong.empty()
                : OptionalLong.of(batches.start(new Act.MoveTo(into), numbers, me));
    }
}
