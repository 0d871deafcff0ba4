package rafter.app.house.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.PERSON;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.app.platform.Workspaces;

@ExtendWith(RunningApp.class)
class FirstSetUpTest {

    @Test
    void a_node_waits_for_one_that_sets_up_at_the_same_time_and_finds_everything_done() throws Exception {
        int people = sql().fetchCount(PERSON);
        CompletableFuture<Void> second = bean(TransactionTemplate.class).execute(status -> {
            bean(Workspaces.class).holdForSetUp();
            var other = CompletableFuture.runAsync(bean(FirstSetUp.class)::afterPropertiesSet);
            String waiting =
                    "select count(*) from pg_locks where locktype = 'advisory' and objid = 7414 and not granted";
            while (sql().fetchOne(waiting).get(0, Integer.class) == 0) {
                assertThat(other).as("it sets up, though another does").isNotDone();
                Thread.onSpinWait();
            }
            return other;
        });
        second.get(20, TimeUnit.SECONDS);
        assertThat(sql().fetchCount(PERSON)).isEqualTo(people);
    }
}
