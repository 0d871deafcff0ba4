package rafter.app.handout.consults;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;

/** Looks through open rooms: who answered too late, and who came back. */
@Configuration(proxyBeanMethods = false)
class ConsultTimers {

    private static final Duration PAUSE = Duration.ofSeconds(5);

    @Bean
    RecurringTask<Void> lookThroughRooms(Consults consults) {
        return DueWork.inParts("look-through-rooms", PAUSE, Integer.MAX_VALUE, () -> {
            consults.open().forEach(consults::lookThrough);
            return 0;
        });
    }
}
