package rafter.app.arrival.providers;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import rafter.app.platform.DueWork;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.WokenThreads;

/** The threads that make something of what providers told. */
@Component
class ToldWorkers extends WokenThreads {

    private static final int MOST = 2;
    private static final int AT_ONCE = 1000;

    /** Forgets again and again. */
    @Configuration(proxyBeanMethods = false)
    static class Timer {
        @Bean
        RecurringTask<Void> forgetTold(ToldBook book) {
            return DueWork.inParts("forget-told", Duration.ofHours(1), AT_ONCE, () -> book.forget(AT_ONCE));
        }
    }

    private final ToldBook book;

    ToldWorkers(ToldBook book, RafterSettings settings) {
        super("told", "told", Math.min(MOST, settings.intake().workers()));
        this.book = book;
    }

    @Override
    protected boolean work() {
        return book.takeOne();
    }
}
