package rafter.app.handout.queues;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.handout.people.HandoutChanged;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.DueWork;
import rafter.app.tickets.acts.Looks;
import rafter.core.id.TicketNumber;
import rafter.database.Sequences;

/** Looks through all open tickets after the queues or the skills were changed. */
@Component
class LookingThrough implements BackgroundWork.InParts {

    static final String KIND = "queues-changed";
    private static final int PART = 50;

    /** Hands out again and again: people come, and become free. */
    @Configuration(proxyBeanMethods = false)
    static class Timer {
        @Bean
        RecurringTask<Void> handOut(GivingOut giving) {
            return DueWork.inParts("hand-out", Duration.ofSeconds(1), GivingOut.PART, giving::giveOut);
        }
    }

    private final DSLContext sql;
    private final Places places;
    private final Looks looks;
    private final ObjectProvider<BackgroundWork> work;

    LookingThrough(DSLContext sql, Places places, Looks looks, ObjectProvider<BackgroundWork> work) {
        this.sql = sql;
        this.places = places;
        this.looks = looks;
        this.work = work;
    }

    @EventListener
    void changed(HandoutChanged changed) {
        work.getObject().begin(KIND, sql.nextval(Sequences.QUEUE_CHANGE), looks.open(), Optional.empty());
    }

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public int size() {
        return PART;
    }

    @Override
    public BackgroundWork.Part part(BackgroundWork.Work work, int most) {
        List<TicketNumber> numbers = looks.open(new TicketNumber(work.position()), most);
        if (!numbers.isEmpty()) {
            places.read(looks.hold(numbers, places.asks()));
        }
        return new BackgroundWork.Part(
                numbers.size(),
                numbers.isEmpty() ? work.position() : numbers.getLast().value());
    }

    @Override
    public long failed(BackgroundWork.Work work, String reason) {
        return looks.open(new TicketNumber(work.position()), 1).getFirst().value();
    }
}
