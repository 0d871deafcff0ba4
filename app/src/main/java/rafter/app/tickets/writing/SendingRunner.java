package rafter.app.tickets.writing;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import rafter.app.platform.DueThread;

/** Sends replies when their time has come. */
@Component
class SendingRunner extends DueThread {

    private static final int AT_ONCE = 50;

    private final Sending sending;

    SendingRunner(Sending sending, Clock clock, @Value("${rafter.sending.enabled:true}") boolean enabled) {
        super("sending", clock, enabled);
        this.sending = sending;
    }

    @Override
    protected int doDue() {
        return sending.sendDue(AT_ONCE);
    }

    @Override
    protected Optional<Instant> nextDue() {
        return sending.nextDue();
    }
}
