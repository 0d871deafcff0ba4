package rafter.app.tickets.rules;

import java.time.Instant;
import org.springframework.stereotype.Component;
import rafter.app.promises.policies.Histories;
import rafter.app.promises.targets.Targets;
import rafter.core.rule.RuleTrial;

/** What walks through recorded tickets need of the house. */
@Component
record RuleWalks(DeedForms deeds, RulePast past, Targets targets, Histories histories) {

    /** Begins a walk through the tickets of a period with the book in force and a changed one. */
    RuleWalk begin(RuleTrial.Tried now, RuleTrial.Tried then, Instant from, Instant to) {
        return new RuleWalk(this, now, then, from, to);
    }
}
