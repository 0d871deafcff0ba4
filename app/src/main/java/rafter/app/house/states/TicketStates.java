package rafter.app.house.states;

import static rafter.database.Tables.TICKET_STATE;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.BrieflyCached;
import rafter.core.ticket.States;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.TicketStateRecord;

/** The one catalogue of states; a change of another node's is seen within a second. */
@Component
public class TicketStates {

    private final DSLContext sql;
    private final BrieflyCached<Catalogue> states = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    /**
     * What there is.
     *
     * @param offered the states that tickets can be moved to
     * @param asking the keys of those that want to know how a ticket was resolved
     * @param names what each is called, also those that are out of use
     */
    private record Catalogue(States offered, Set<String> asking, Map<String, String> names) {}

    TicketStates(DSLContext sql) {
        this.sql = sql;
    }

    /** The states as they are now. */
    public States current() {
        return states.get().offered();
    }

    /** Whether a ticket gets into a state only once somebody wrote down how it was resolved. */
    public boolean asksResolution(String key) {
        return states.get().asking().contains(key);
    }

    /** All states, in the order in which a ticket usually meets them. */
    public List<TicketState> all() {
        return current().all();
    }

    /** What people call a state; its key when there is none of it any more. */
    public String name(String key) {
        return states.get().names().getOrDefault(key, key);
    }

    /** Has the states read anew when they are next asked for. */
    void forget() {
        states.forget();
    }

    private Catalogue read() {
        List<TicketStateRecord> rows = sql.selectFrom(TICKET_STATE)
                .orderBy(TICKET_STATE.POSITION, TICKET_STATE.KEY)
                .fetch();
        return new Catalogue(
                new States(rows.stream()
                        .filter(row -> row.getGoneAt() == null)
                        .map(TicketStates::state)
                        .toList()),
                rows.stream()
                        .filter(TicketStateRecord::getAsksResolution)
                        .map(TicketStateRecord::getKey)
                        .collect(Collectors.toSet()),
                rows.stream().collect(Collectors.toMap(TicketStateRecord::getKey, TicketStateRecord::getName)));
    }

    static TicketState state(TicketStateRecord row) {
        return new TicketState(row.getKey(), row.getName(), Turn.valueOf(row.getTurn()), row.getEnding());
    }
}
