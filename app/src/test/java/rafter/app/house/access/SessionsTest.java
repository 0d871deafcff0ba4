package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;

import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.Guard;
import rafter.core.id.PersonId;

/** How long people stay signed in. */
@ExtendWith(RunningApp.class)
class SessionsTest extends Browsing {

    @Test
    void that_a_session_is_used_is_written_down_once_a_minute() throws Exception {
        Table<?> session = DSL.table("spring_session");
        Field<Long> used = DSL.field("last_access_time", Long.class);
        sql().deleteFrom(session).execute();
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        get("/worklist");
        long since = sql().select(used).from(session).fetchSingle(used);
        get("/worklist");
        assertThat(sql().select(used).from(session).fetchSingle(used)).isEqualTo(since);
        long hours = Duration.ofHours(2).toMillis();
        sql().update(session).set(used, used.minus(hours)).execute();
        assertThat(get("/worklist").uri().getPath()).isEqualTo("/worklist");
        assertThat(sql().select(used).from(session).fetchSingle(used)).isGreaterThanOrEqualTo(since);
    }

    @Test
    void sessions_end_when_the_password_changes_and_when_somebody_leaves() throws Exception {
        String address = "temp" + RunningApp.unique() + "@ternpassage.example";
        Persons persons = bean(Persons.class);
        PersonId id = persons.save(
                Optional.empty(), "Temp", address, Role.AGENT, true, RunningApp.PASSWORD, Set.of(), Guard.ITSELF);
        signIn(address, RunningApp.PASSWORD);
        assertThat(get("/worklist").statusCode()).isEqualTo(200);
        assertThat(get("/worklist").uri().getPath()).isEqualTo("/worklist");
        persons.save(Optional.of(id), "Temp", address, Role.AGENT, true, "another-long-one", Set.of(), Guard.ITSELF);
        assertThat(get("/worklist").uri().getPath()).isEqualTo("/sign-in");
        signIn(address, "another-long-one");
        assertThat(get("/worklist").uri().getPath()).isEqualTo("/worklist");
        persons.save(Optional.of(id), "Temp", address, Role.AGENT, false, "", Set.of(), Guard.ITSELF);
        assertThat(get("/worklist").uri().getPath()).isEqualTo("/sign-in");
    }
}
