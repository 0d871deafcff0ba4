package rafter.app.tickets;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Closes resolved tickets once they take no answers any more; reads only those, by their index. */
@Configuration(proxyBeanMethods = false)
class ClosingTimer {

    private static final int AT_ONCE = 200;

    @Bean
    RecurringTask<Void> closeOver(Tickets tickets, Clock clock) {
        return Tasks.recurring("close-resolved", FixedDelay.of(Duration.ofMinutes(1))).execute((instance, context) -> {
            while (tickets.closeOver(clock.instant(), AT_ONCE) == AT_ONCE) {
                // A batch was full, so more may be due.
            }
        });
    }
}
