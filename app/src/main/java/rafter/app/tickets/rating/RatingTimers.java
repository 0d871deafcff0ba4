package rafter.app.tickets.rating;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Asks for ratings when the time has come. */
@Configuration(proxyBeanMethods = false)
class RatingTimers {

    private static final int AT_ONCE = 100;

    @Bean
    RecurringTask<Void> askForRatings(RatingRequests requests, Clock clock) {
        return Tasks.recurring("ask-for-ratings", FixedDelay.of(Duration.ofMinutes(1)))
                .execute((instance, context) -> {
                    while (requests.ask(clock.instant(), AT_ONCE) == AT_ONCE) {
                        // More may be due.
                    }
                });
    }
}
