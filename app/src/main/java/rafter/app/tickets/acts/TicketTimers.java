package rafter.app.tickets.acts;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;
import rafter.app.platform.Files;

/** What happens to tickets because time went by; each reads only those whose time has come, by their index. */
@Configuration(proxyBeanMethods = false)
class TicketTimers {

    private static final int AT_ONCE = 200;

    /** Closes resolved tickets once they take no answers any more. */
    @Bean
    RecurringTask<Void> closeOver(Tickets tickets, Clock clock) {
        return DueWork.inParts(
                "close-resolved", Duration.ofMinutes(1), AT_ONCE, () -> tickets.closeOver(clock.instant(), AT_ONCE));
    }

    /** Brings tickets back at the time set for them. */
    @Bean
    RecurringTask<Void> bringBack(TicketTimes times, Clock clock) {
        return DueWork.inParts(
                "bring-back", Duration.ofSeconds(10), AT_ONCE, () -> times.broughtBack(clock.instant(), AT_ONCE));
    }

    /** Acknowledges what waited for rules that were not read. */
    @Bean
    RecurringTask<Void> acknowledgeLate(Acknowledgements acknowledgements) {
        return DueWork.inParts(
                "acknowledge-late", Duration.ofSeconds(10), AT_ONCE, () -> acknowledgements.sendDue(AT_ONCE));
    }

    /** Clears away the files of drafts that were discarded. */
    @Bean
    RecurringTask<Void> clearFiles(Files files) {
        return Tasks.recurring("clear-files", FixedDelay.of(Duration.ofHours(1)))
                .execute((instance, context) -> files.clearAway());
    }
}
