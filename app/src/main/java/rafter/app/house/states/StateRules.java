package rafter.app.house.states;

import static rafter.database.Tables.TICKET_STATE;

import java.text.Normalizer;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.TicketStateRecord;

/** The house rule on states: which there are beside those that are shipped, what they are called, and in which order. */
@Component
public class StateRules {

    private static final int LONGEST_NAME = 60;
    private static final int MOST = 50;
    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";

    /**
     * A state as the rule has it.
     *
     * @param asks whether a ticket gets into it only once somebody wrote down how it was resolved
     * @param shipped whether it is one of those that Rafter needs
     */
    public record Rule(TicketState state, int position, boolean asks, boolean shipped, int version) {}

    private final DSLContext sql;
    private final TicketStates states;
    private final Audit audit;
    private final Clock clock;

    StateRules(DSLContext sql, TicketStates states, Audit audit, Clock clock) {
        this.sql = sql;
        this.states = states;
        this.audit = audit;
        this.clock = clock;
    }

    /** All that are in use, in order. */
    public List<Rule> all() {
        return sql.selectFrom(TICKET_STATE)
                .where(TICKET_STATE.GONE_AT.isNull())
                .orderBy(TICKET_STATE.POSITION, TICKET_STATE.KEY)
                .fetch(StateRules::rule);
    }

    private static Rule rule(TicketStateRecord row) {
        return new Rule(
                TicketStates.state(row),
                row.getPosition(),
                row.getAsksResolution(),
                shipped(row.getKey()),
                row.getVersion());
    }

    private static boolean shipped(String key) {
        return TicketState.shipped().stream().anyMatch(one -> one.key().equals(key));
    }

    /** One that is in use. */
    public Optional<Rule> find(String key) {
        return all().stream().filter(one -> one.state().key().equals(key)).findFirst();
    }

    /**
     * Adds a state.
     *
     * @return its key, which never changes
     * @throws Problem.Invalid when its name is missing or taken
     */
    @Transactional
    public String add(String typed, Turn turn, int position, boolean asks, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        String name = named(typed, "");
        if (sql.fetchCount(TICKET_STATE) >= MOST) {
            throw new Problem.Invalid("There are at most " + MOST + " states." + KEPT);
        }
        String key = key(name);
        sql.insertInto(TICKET_STATE)
                .set(TICKET_STATE.KEY, key)
                .set(TICKET_STATE.NAME, name)
                .set(TICKET_STATE.TURN, turn.name())
                .set(TICKET_STATE.ENDING, turn == Turn.NOBODY)
                .set(TICKET_STATE.POSITION, position)
                .set(TICKET_STATE.ASKS_RESOLUTION, asks)
                .execute();
        states.forget();
        audit.note(me.id(), "added state", name);
        return key;
    }

    private String key(String name) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFD)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^[^a-z]+|-+$", "");
        String begin = plain.isEmpty() ? "state" : plain.length() > 30 ? plain.substring(0, 30) : plain;
        String key = begin;
        for (int i = 2; sql.fetchExists(TICKET_STATE, TICKET_STATE.KEY.eq(key)); i++) {
            key = begin + "-" + i;
        }
        return key;
    }

    private String named(String typed, String own) {
        String name = typed.strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw new Problem.Invalid("A state has a name of at most " + LONGEST_NAME + " letters." + KEPT);
        }
        boolean taken = all().stream()
                .anyMatch(one -> one.state().name().equalsIgnoreCase(name)
                        && !one.state().key().equals(own));
        if (taken) {
            throw new Problem.Invalid("There is a state of that name already." + KEPT);
        }
        return name;
    }

    /**
     * Changes what a state is called, where it stands and what it asks; whose turn it is in it stays, for tickets have been in it.
     *
     * @throws Problem.Stale when somebody changed it since that version
     */
    @Transactional
    public void change(String key, String typed, int position, boolean asks, int version, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        String name = named(typed, key);
        int changed = sql.update(TICKET_STATE)
                .set(TICKET_STATE.NAME, name)
                .set(TICKET_STATE.POSITION, position)
                .set(TICKET_STATE.ASKS_RESOLUTION, asks)
                .set(TICKET_STATE.VERSION, version + 1)
                .where(TICKET_STATE.KEY.eq(key))
                .and(TICKET_STATE.VERSION.eq(version))
                .and(TICKET_STATE.GONE_AT.isNull())
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this state meanwhile, or took it out of use." + KEPT);
        }
        states.forget();
        audit.note(me.id(), "changed state", name);
    }

    /**
     * Takes a state out of use: no ticket is moved into it any more.
     *
     * @throws Problem.Invalid when it is one that Rafter needs
     */
    @Transactional
    public void retire(String key, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        if (shipped(key)) {
            throw new Problem.Invalid(
                    "This state is needed: some acts lead into it. It can be called otherwise. Nothing was changed.");
        }
        int changed = sql.update(TICKET_STATE)
                .set(TICKET_STATE.GONE_AT, clock.instant())
                .where(TICKET_STATE.KEY.eq(key))
                .and(TICKET_STATE.GONE_AT.isNull())
                .execute();
        if (changed == 0) {
            throw new Problem.NotFound("There is no such state any more.");
        }
        states.forget();
        audit.note(me.id(), "took state out of use", states.name(key));
    }
}
