package rafter.app.platform;

import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

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
    public void ticketChanged(TicketNumber number) {
        tell("ticket", number.value());
        changes.changing();
    }

    /** Somebody is writing on a ticket. */
    public void writing(TicketNumber number) {
        tell("writing", number.value());
    }

    /** A person's notices changed. */
    public void noticed(PersonId person) {
        tell("notice", person.value());
    }

    /** Somebody is asked whether they take a ticket, or is not any more. */
    public void offered(PersonId person) {
        tell("offer", person.value());
    }

    /** Who is here, or what is asked of them, changed. */
    public void floorChanged() {
        tell("floor", 0);
    }

    /** Something was said in a room, or somebody came or went. */
    public void roomChanged(long consult) {
        tell("room", consult);
    }

    /** Something is said, read or typed in a talk with a customer. */
    public void talk(TicketNumber number) {
        tell("talk", number.value());
    }

    /** Sessions of a person ended. */
    public void sessionsEnded(PersonId person) {
        tell("sessions", person.value());
    }

    /** Mail waits to be processed. */
    public void mailArrived() {
        tell("mail", 0);
    }

    /** What providers told waits to be read. */
    public void told() {
        tell("told", 0);
    }

    /** What providers are to be told waits. */
    public void errand() {
        tell("errand", 0);
    }

    /** Something happened to a telephone call. */
    public void call(long id) {
        tell("call", id);
    }

    /** Posts came, or somebody looked at them. */
    public void posts() {
        tell("posts", 0);
    }

    /** The settings of mailboxes changed. */
    public void mailboxesChanged() {
        tell("mailboxes", 0);
    }

    private void tell(String topic, long number) {
        String words = topic + ":" + number;
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            send(List.of(words));
            return;
        }
        Gathered gathered = (Gathered) TransactionSynchronizationManager.getResource(this);
        if (gathered == null) {
            gathered = new Gathered();
            TransactionSynchronizationManager.bindResource(this, gathered);
            TransactionSynchronizationManager.registerSynchronization(gathered);
        }
        gathered.words.add(words);
    }

    private void send(Collection<String> words) {
        var each = DSL.unnest(words.toArray(new String[0])).as("news", "words");
        sql.select(DSL.function(
                        "pg_notify", Object.class, List.of(DSL.val(CHANNEL), each.field("words", String.class))))
                .from(each)
                .execute();
    }

    /** What a transaction has to tell, each thing once, in one statement at its end. */
    private final class Gathered implements TransactionSynchronization {
        private final Set<String> words = new LinkedHashSet<>();

        @Override
        public void suspend() {
            TransactionSynchronizationManager.unbindResource(LiveNews.this);
        }

        @Override
        public void resume() {
            TransactionSynchronizationManager.bindResource(LiveNews.this, this);
        }

        @Override
        public void beforeCommit(boolean readOnly) {
            send(words);
        }

        @Override
        public void beforeCompletion() {
            TransactionSynchronizationManager.unbindResource(LiveNews.this);
        }
    }
}
