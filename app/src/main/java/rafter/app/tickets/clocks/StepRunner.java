package rafter.app.tickets.clocks;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import rafter.app.platform.DueThread;

/** Fires steps of targets when they fall due. */
@Component
class StepRunner extends DueThread {

    private static final int AT_ONCE = 500;

    private final StepFiring firing;

    StepRunner(StepFiring firing, Clock clock, @Value("${rafter.steps.enabled:true}") boolean enabled) {
        super("steps", clock, enabled);
        this.firing = firing;
    }

    @Override
    protected int doDue() {
        return firing.fireDue(AT_ONCE);
    }

    @Override
    protected Optional<Instant> nextDue() {
        return firing.nextDue();
    }
}
