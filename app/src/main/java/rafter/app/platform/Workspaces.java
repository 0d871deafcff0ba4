package rafter.app.platform;

import static rafter.database.Tables.WORKSPACE;

import java.time.Duration;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.core.id.PersonId;

/** Reads and changes the workspace's settings. */
@Component
public class Workspaces {

    private final DSLContext sql;
    private final BrieflyCached<Workspace> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);
    private final Guard guard;

    Workspaces(DSLContext sql, Guard guard) {
        this.guard = guard;
        this.sql = sql;
    }

    /** The settings; a change of another node's is seen within a second. */
    public Workspace current() {
        return current.get();
    }

    private Workspace read() {
        return sql.selectFrom(WORKSPACE).fetchSingle(Workspaces::workspace);
    }

    /** Nodes that start for the first time at once set up one after the other, each until its transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void holdForSetUp() {
        sql.execute("select pg_advisory_xact_lock(7414)");
    }

    /** Whether the workspace was set up at all. */
    public boolean exists() {
        return sql.fetchExists(WORKSPACE);
    }

    /** Sets up the workspace; done once. */
    @Transactional
    public void create(Workspace workspace) {
        sql.insertInto(WORKSPACE)
                .set(WORKSPACE.ID, (short) 1)
                .set(WORKSPACE.NAME, workspace.name())
                .set(WORKSPACE.REOPEN_DAYS, (int) workspace.reopenFor().toDays())
                .set(WORKSPACE.ACKNOWLEDGE, workspace.acknowledge())
                .set(WORKSPACE.SECRET, workspace.secret())
                .execute();
    }

    /**
     * Changes what customers call us, whether new tickets are acknowledged, and how long resolved tickets take answers.
     *
     * @throws Problem.Stale when somebody changed it since {@code version}
     */
    @Transactional
    public void change(String name, boolean acknowledge, int reopenDays, int version, PersonId by) {
        guard.houseRules(by);
        int changed = sql.update(WORKSPACE)
                .set(WORKSPACE.NAME, name)
                .set(WORKSPACE.ACKNOWLEDGE, acknowledge)
                .set(WORKSPACE.REOPEN_DAYS, reopenDays)
                .set(WORKSPACE.VERSION, WORKSPACE.VERSION.plus(1))
                .where(WORKSPACE.VERSION.eq(version))
                .execute();
        current.forget();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody changed these settings while you were editing. Nothing of yours was saved; it is still in the form.");
        }
    }

    private static Workspace workspace(Record r) {
        return new Workspace(
                r.get(WORKSPACE.NAME),
                Duration.ofDays(r.get(WORKSPACE.REOPEN_DAYS)),
                r.get(WORKSPACE.ACKNOWLEDGE),
                r.get(WORKSPACE.SECRET),
                r.get(WORKSPACE.VERSION));
    }
}
