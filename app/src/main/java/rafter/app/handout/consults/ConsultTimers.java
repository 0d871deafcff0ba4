package rafter.app.handout.consults;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;

/** Looks through open rooms: who answered too late, and who came back. */
@Configuration(proxyBeanMethods = false)
class ConsultTimers {

    private static final Logger LOG = LoggerFactory.getLogger(ConsultTimers.class);
    private static final Duration PAUSE = Duration.ofSeconds(5);

    @Bean
    RecurringTask<Void> lookThroughRooms(Consults consults) {
        return DueWork.inParts("look-through-rooms", PAUSE, Integer.MAX_VALUE, () -> {
            consults.open().forEach(room -> lookThrough(consults, room));
            return 0;
        });
    }

    /** What goes wrong in one room keeps nobody from the others. */
    private static void lookThrough(Consults consults, long room) {
        try {
            consults.lookThrough(room);
        } catch (RuntimeException e) {
            LOG.warn("Room {} could not be looked through", room, e);
        }
    }
}
