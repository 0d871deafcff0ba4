package rafter.app.arrival.chat;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import rafter.app.platform.DueWork;

/** Looks after chats whose customer is gone. Only those that go on are looked at, and they are few. */
@Configuration(proxyBeanMethods = false)
class ChatTimers {

    private static final Logger LOG = LoggerFactory.getLogger(ChatTimers.class);
    private static final Duration PAUSE = Duration.ofSeconds(10);
    private static final int AT_ONCE = 50;

    @Bean
    RecurringTask<Void> endLeftChats(Endings endings) {
        return DueWork.inParts("end-left-chats", PAUSE, AT_ONCE, () -> {
            List<Chats.Chat> left = endings.left(AT_ONCE);
            left.forEach(chat -> leave(endings, chat));
            return 0;
        });
    }

    /** What goes wrong with one keeps nobody from the others. */
    private static void leave(Endings endings, Chats.Chat chat) {
        try {
            endings.leave(chat);
        } catch (RuntimeException e) {
            LOG.warn("Chat {} could not be ended", chat.id(), e);
        }
    }
}
