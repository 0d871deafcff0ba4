package rafter.app.tickets.outside;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Reminds third parties when the time has come. */
@Configuration(proxyBeanMethods = false)
class OutsideTimers {

    private static final int AT_ONCE = 100;

    @Bean
    RecurringTask<Void> nudge(Reminders reminders, Clock clock) {
        return Tasks.recurring("nudge-outside", FixedDelay.of(Duration.ofSeconds(30)))
                .execute((instance, context) -> {
                    while (reminders.nudge(clock.instant(), AT_ONCE) == AT_ONCE) {
                        // More may be due.
                    }
                });
    }
}
