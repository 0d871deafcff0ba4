package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.platform.DueThread;
import rafter.app.platform.News;

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

    /** What happens to a ticket is read at once. */
    @EventListener
    void hear(News news) {
        if (news.topic().equals("ticket")) {
            wake();
        }
    }

    @Override
    protected Optional<Instant> nextDue() {
        return firing.next();
    }
}
