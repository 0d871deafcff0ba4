package rafter.app.houserules;

import java.time.Clock;
import java.time.Instant;
import org.springframework.stereotype.Component;
import rafter.app.platform.Say;
import rafter.app.targets.Targets;

/** Says instants on administrators' pages. */
@Component
public class Whens {

    private final Targets targets;
    private final Clock clock;

    Whens(Targets targets, Clock clock) {
        this.targets = targets;
        this.clock = clock;
    }

    /** An instant as people say it now. */
    public String say(Instant at) {
        return Say.when(at, clock.instant(), targets.terms().zone());
    }

    /** An instant with its zone. */
    public String exactly(Instant at) {
        return Say.exactly(at, targets.terms().zone());
    }
}
