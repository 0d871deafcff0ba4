package rafter.app.platform;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/** Tells all nodes, and through them all open pages, that something changed; when and if the transaction commits. */
@Component
public class LiveNews {

    static final String CHANNEL = "rafter_news";

    private final DSLContext sql;
    private final TicketChanges changes;

    LiveNews(DSLContext sql, TicketChanges changes) {
        this.sql = sql;
        this.changes = changes;
    }

    /** A ticket changed, or something shown on its page. */
    public void ticketChanged(long number) {
        tell("ticket", number);
        changes.changing();
    }

    /** Somebody is writing on a ticket. */
    public void writing(long number) {
        tell("writing", number);
    }

    /** A person's notices changed. */
    public void noticed(long person) {
        tell("notice", person);
    }

    /** Mail waits to be processed. */
    public void mailArrived() {
        tell("mail", 0);
    }

    /** The settings of mailboxes changed. */
    public void mailboxesChanged() {
        tell("mailboxes", 0);
    }

    private void tell(String topic, long number) {
        sql.select(DSL.function("pg_notify", Object.class, List.of(DSL.val(CHANNEL), DSL.val(topic + ":" + number))))
                .execute();
    }
}
