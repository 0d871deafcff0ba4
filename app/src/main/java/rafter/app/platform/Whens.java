package rafter.app.platform;

import java.time.Clock;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Says instants as people here read them now. */
@Component
public class Whens {

    private final HomeZone home;
    private final Clock clock;

    Whens(HomeZone home, Clock clock) {
        this.home = home;
        this.clock = clock;
    }

    /** An instant as people say it now. */
    public String say(Instant at) {
        return Say.when(at, clock.instant(), home.zone());
    }

    /** An instant with its zone. */
    public String exactly(Instant at) {
        return Say.exactly(at, home.zone());
    }
}
