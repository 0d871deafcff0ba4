package rafter.app.house.states;

import static rafter.database.Tables.TICKET_STATE;

import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.BrieflyCached;
import rafter.core.ticket.States;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** The one catalogue of states; a change of another node's is seen within a second. */
@Component
public class TicketStates {

    private final DSLContext sql;
    private final BrieflyCached<States> states = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    TicketStates(DSLContext sql) {
        this.sql = sql;
    }

    /** The states as they are now. */
    public States current() {
        return states.get();
    }

    /** All states, in the order in which a ticket usually meets them. */
    public List<TicketState> all() {
        return current().all();
    }

    /** What people call a state; its key when there is none of it any more. */
    public String name(String key) {
        return current().name(key);
    }

    /** Has the states read anew when they are next asked for. */
    void forget() {
        states.forget();
    }

    private States read() {
        return new States(sql.selectFrom(TICKET_STATE)
                .orderBy(TICKET_STATE.POSITION, TICKET_STATE.KEY)
                .fetch(r -> new TicketState(r.getKey(), r.getName(), Turn.valueOf(r.getTurn()), r.getEnding())));
    }
}
