package rafter.app.tickets.outside;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;

/** Reminds third parties when the time has come. */
@Configuration(proxyBeanMethods = false)
class OutsideTimers {

    private static final int AT_ONCE = 100;

    @Bean
    RecurringTask<Void> nudge(Reminders reminders, Clock clock) {
        return DueWork.inParts(
                "nudge-outside", Duration.ofSeconds(30), AT_ONCE, () -> reminders.nudge(clock.instant(), AT_ONCE));
    }
}
