package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import rafter.app.platform.DueThread;

/** Reads the rules when something happened or a time came. */
@Component
class RuleRunner extends DueThread {

    private static final int AT_ONCE = 200;

    private final RuleFiring firing;

    RuleRunner(RuleFiring firing, Clock clock, @Value("${rafter.rules.enabled:true}") boolean enabled) {
        super("rules", clock, enabled);
        this.firing = firing;
    }

    @Override
    protected int doDue() {
        return firing.readDue(AT_ONCE);
    }

    @Override
    protected Optional<Instant> nextDue() {
        return firing.next();
    }
}
