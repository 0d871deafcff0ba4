package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.macros.Macro;
import rafter.core.criteria.Criteria;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Deed;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;

/** Runs a macro on a ticket by itself, as a rule does: nobody pressed it who works here. */
@Component
public class MacrosByItself {

    private final TicketStore store;
    private final RuleDeeds deeds;
    private final Clock clock;

    MacrosByItself(TicketStore store, RuleDeeds deeds, Clock clock) {
        this.store = store;
        this.deeds = deeds;
        this.clock = clock;
    }

    /**
     * Does all that is always done of a macro, an answer among it.
     *
     * @return what could not be done, in words; the rest was
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<String> run(TicketNumber number, Macro macro) {
        Instant now = clock.instant();
        var deed = new Deed(Deed.Special.MACRO.key(), Map.of("macro", Long.toString(macro.id())));
        var once = new Rule(
                "macro-" + macro.id(),
                macro.name(),
                "",
                true,
                new Occasion.Arrival(),
                Criteria.everything(),
                List.of(deed),
                true,
                now);
        return deeds.perform(store.hold(number), once, now).failed();
    }
}
