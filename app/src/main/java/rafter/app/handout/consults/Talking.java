package rafter.app.handout.consults;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.NewMessage;

/** Says things in rooms that are open; nobody says more than a person can. */
@Component
public class Talking {

    private static final int MOST = 30;
    private static final Duration WITHIN = Duration.ofSeconds(30);
    private static final int KEPT = 2_000;

    private final Consults consults;
    private final Lines lines;
    private final Clock clock;
    private final Map<String, Deque<Instant>> lately = new ConcurrentHashMap<>();

    Talking(Consults consults, Lines lines, Clock clock) {
        this.consults = consults;
        this.lines = lines;
        this.clock = clock;
    }

    /**
     * Says something.
     *
     * @param once see {@link Lines#say}; blank: by chance
     * @throws Problem.Stale when the room is closed
     * @throws Problem.Invalid when nothing is said, too much, or too fast
     */
    @Transactional
    void say(
            long consult,
            Lines.Speaker speaker,
            Lines.Kind kind,
            String text,
            String once,
            List<NewMessage.FileRef> with) {
        if (!consults.hold(consult).open()) {
            throw new Problem.Stale("This room is closed. What you wrote was not said; copy it before you leave.");
        }
        if (tooFast(consult + " " + speaker)) {
            throw new Problem.Invalid(
                    "You say more than anybody can read. Wait half a minute; what you wrote is still here.");
        }
        String key = once.isBlank() || once.length() > 200 ? UUID.randomUUID().toString() : once;
        lines.say(consult, speaker, kind, text, key, with);
    }

    /** A colleague says something, or what they did. */
    @Transactional
    public void say(long consult, Viewer who, String text, boolean step) {
        say(
                consult,
                new Lines.Speaker(who.name(), Optional.of(who.id()), Optional.empty()),
                step ? Lines.Kind.STEP : Lines.Kind.WORDS,
                text,
                "",
                List.of());
    }

    private boolean tooFast(String who) {
        Instant now = clock.instant();
        if (lately.size() > KEPT) {
            lately.clear();
        }
        Deque<Instant> said = lately.computeIfAbsent(who, key -> new ArrayDeque<>());
        synchronized (said) {
            said.removeIf(at -> at.isBefore(now.minus(WITHIN)));
            if (said.size() >= MOST) {
                return true;
            }
            said.addLast(now);
            return false;
        }
    }
}
