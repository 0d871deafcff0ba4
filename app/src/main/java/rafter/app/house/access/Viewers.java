package rafter.app.house.access;

import org.jooq.DSLContext;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.database.Tables;

/** Knows how far people see. */
@Component
public class Viewers {

    private final Reach.Granting granting;
    private final DSLContext sql;

    Viewers(Reach.Granting granting, DSLContext sql) {
        this.granting = granting;
        this.sql = sql;
    }

    /** A person as one who looks. */
    public Viewer of(Person person) {
        return new Viewer(person, granting.of(person));
    }

    /**
     * Insists that a person may see a ticket; to those who may not it is as if there were none.
     *
     * @throws Problem.NotFound when there is none within their reach
     */
    public void insist(Viewer viewer, TicketNumber ticket) {
        if (!maySee(viewer, ticket)) {
            throw new Problem.NotFound("There is no ticket " + ticket + ".");
        }
    }

    /** Whether a ticket, if there is one of this number, is within somebody's reach. */
    public boolean maySee(Viewer viewer, TicketNumber ticket) {
        return viewer.seesAll() || sql.fetchExists(viewer.tickets(), Tables.TICKET.NUMBER.eq(ticket));
    }

    /** Everybody sees everything, until a workspace says otherwise. */
    @Configuration(proxyBeanMethods = false)
    static class Default {
        @Bean
        @ConditionalOnMissingBean
        Reach.Granting granting() {
            return person -> new Reach.Everything();
        }
    }
}
