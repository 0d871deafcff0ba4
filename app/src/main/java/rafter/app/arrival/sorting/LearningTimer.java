package rafter.app.arrival.sorting;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import java.time.LocalTime;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Learns anew every night. */
@Configuration(proxyBeanMethods = false)
class LearningTimer {

    @Bean
    RecurringTask<Void> learnJunk(Junk junk) {
        return Tasks.recurring("learn-junk", Schedules.daily(LocalTime.of(3, 10)))
                .execute((instance, context) -> junk.begin(Optional.empty()));
    }
}
