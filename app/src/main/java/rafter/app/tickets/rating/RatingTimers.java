package rafter.app.tickets.rating;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;

/** Asks for ratings when the time has come. */
@Configuration(proxyBeanMethods = false)
class RatingTimers {

    private static final int AT_ONCE = 100;

    @Bean
    RecurringTask<Void> askForRatings(RatingRequests requests, Clock clock) {
        return DueWork.inParts(
                "ask-for-ratings", Duration.ofMinutes(1), AT_ONCE, () -> requests.ask(clock.instant(), AT_ONCE));
    }
}
