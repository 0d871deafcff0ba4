package rafter.app.house.access;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;

import java.time.Duration;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.BrieflyCached;

/** Everybody and all teams, for pages that name them; a change of another node's is seen within a second. */
@Component
public class Everybody {

    private final DSLContext sql;
    private final BrieflyCached<Colleagues> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    Everybody(DSLContext sql) {
        this.sql = sql;
    }

    /** All people and teams, whether they work here still or not. */
    public Colleagues colleagues() {
        return current.get();
    }

    private Colleagues read() {
        return new Colleagues(
                sql.selectFrom(PERSON).fetchMap(PERSON.ID, Persons::person),
                sql.select(TEAM.ID, TEAM.NAME).from(TEAM).fetchMap(TEAM.ID, TEAM.NAME));
    }

    /** Within the transaction that changes any of them. */
    void forget() {
        current.forget();
    }
}
