package rafter.app.platform;

import java.util.concurrent.atomic.AtomicLong;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Counts the changes of tickets, here and on other nodes, so that what was derived from them knows when it is out of date. */
@Component
public class TicketChanges {

    private final AtomicLong count = new AtomicLong();

    /** A number that is another one after every change. */
    public long count() {
        return count.get();
    }

    /** Counts a change of this node's once it is committed, before its news has gone round. */
    void changing() {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            count.incrementAndGet();
            return;
        }
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                count.incrementAndGet();
            }
        });
    }

    /** Before pages hear of it, for they ask for what it makes old. */
    @EventListener
    @Order(Ordered.HIGHEST_PRECEDENCE)
    void onNews(News news) {
        if (news.topic().equals("ticket") || news.topic().equals("all")) {
            count.incrementAndGet();
        }
    }
}
