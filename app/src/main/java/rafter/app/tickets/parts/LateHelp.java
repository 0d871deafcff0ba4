package rafter.app.tickets.parts;

import static rafter.database.Tables.HELP_LATE_TOLD;
import static rafter.database.Tables.TICKET_HELP;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Persons;
import rafter.app.house.notices.Notices;
import rafter.app.platform.DueWork;
import rafter.core.id.PersonId;
import rafter.database.tables.records.TicketHelpRecord;

/** Tells who asked for help and who was asked that it is late, once each. */
@Component
class LateHelp {

    private static final int AT_ONCE = 100;

    private final DSLContext sql;
    private final Notices notices;
    private final Persons persons;

    LateHelp(DSLContext sql, Notices notices, Persons persons) {
        this.sql = sql;
        this.notices = notices;
        this.persons = persons;
    }

    /**
     * Tells of what has become late.
     *
     * @return how much it was
     */
    @Transactional
    public int tell(Instant now) {
        List<TicketHelpRecord> late = sql.selectFrom(TICKET_HELP)
                .where(TICKET_HELP.DUE.le(now))
                .andNotExists(sql.selectOne()
                        .from(HELP_LATE_TOLD)
                        .where(HELP_LATE_TOLD.TICKET.eq(TICKET_HELP.TICKET))
                        .and(HELP_LATE_TOLD.HELP.eq(TICKET_HELP.HELP)))
                .orderBy(TICKET_HELP.DUE)
                .limit(AT_ONCE)
                .forUpdate()
                .skipLocked()
                .fetch();
        late.forEach(help -> tell(help, now));
        return late.size();
    }

    private void tell(TicketHelpRecord help, Instant now) {
        boolean first = sql.insertInto(HELP_LATE_TOLD)
                        .set(HELP_LATE_TOLD.TICKET, help.getTicket())
                        .set(HELP_LATE_TOLD.HELP, help.getHelp())
                        .onConflictDoNothing()
                        .execute()
                > 0;
        if (!first) {
            return;
        }
        var told = new ArrayList<PersonId>();
        Optional.ofNullable(help.getAskedBy()).ifPresent(told::add);
        Optional.ofNullable(help.getPersonId()).ifPresent(told::add);
        Optional.ofNullable(help.getTeamId()).ifPresent(team -> told.addAll(persons.membersOf(team)));
        notices.tell(told.stream()
                .distinct()
                .map(person -> new Notices.Told(
                        person,
                        help.getTicket(),
                        now,
                        Notices.Kind.HELP_LATE,
                        "Help on " + help.getTicket() + " is late: " + help.getRequest()))
                .toList());
    }

    /** Looks in the background. */
    @Configuration(proxyBeanMethods = false)
    static class Job {
        @Bean
        RecurringTask<Void> tellOfLateHelp(LateHelp help, Clock clock) {
            return DueWork.inParts("late-help", Duration.ofSeconds(30), AT_ONCE, () -> help.tell(clock.instant()));
        }
    }
}
