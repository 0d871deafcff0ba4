package rafter.app.arrival.panel;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.chat.Doors;

/** Says in words why no chat can be begun, and when one can. */
@Component
class OpensAgain {

    private final Targets targets;
    private final Clock clock;

    OpensAgain(Targets targets, Clock clock) {
        this.targets = targets;
        this.clock = clock;
    }

    /** Why no chat can be begun; nothing when one can. */
    Optional<String> words(Doors doors) {
        return switch (doors) {
            case Doors.Open open -> Optional.empty();
            case Doors.Closed(Doors.Why why, Optional<Instant> opens) ->
                Optional.of(
                        switch (why) {
                            case BY_HAND -> "The chat is closed just now.";
                            case NOBODY -> "Nobody is free to chat just now.";
                            case HOURS ->
                                opens.map(at -> "We are here again " + Say.when(at, clock.instant(), targets.zone())
                                                + ".")
                                        .orElse("We are not here just now.");
                        });
        };
    }
}
