package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.unique;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.postgresql.PGConnection;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.core.id.TicketNumber;

/** What is told to the other nodes, and when. */
@ExtendWith(RunningApp.class)
class LiveNewsTest {

    private final LiveNews news = bean(LiveNews.class);
    private final TransactionTemplate transaction = bean(TransactionTemplate.class);
    private final TicketNumber number = new TicketNumber(9_000_000L + unique());

    /** What is heard of this test's tickets while something happens. */
    private List<String> heard(Runnable happens) throws SQLException {
        try (Connection listener = bean(DataSource.class).getConnection();
                var statement = listener.createStatement()) {
            statement.execute("listen " + LiveNews.CHANNEL);
            happens.run();
            var heard = new ArrayList<String>();
            for (var one : listener.unwrap(PGConnection.class).getNotifications(500)) {
                if (one.getParameter().contains(number.toString())) {
                    heard.add(one.getParameter());
                }
            }
            statement.execute("unlisten *");
            return heard;
        }
    }

    @Test
    void a_transaction_tells_each_thing_once_when_it_commits() throws SQLException {
        assertThat(heard(() -> transaction.executeWithoutResult(status -> {
                    news.ticketChanged(number);
                    news.writing(number);
                    news.ticketChanged(number);
                })))
                .containsExactly("ticket:" + number, "writing:" + number);
    }

    @Test
    void what_is_undone_is_not_told() throws SQLException {
        assertThat(heard(() -> {
                    transaction.executeWithoutResult(status -> {
                        news.ticketChanged(number);
                        status.setRollbackOnly();
                    });
                    news.writing(number);
                }))
                .containsExactly("writing:" + number);
    }

    @Test
    void outside_of_a_transaction_it_is_told_at_once() throws SQLException {
        assertThat(heard(() -> news.writing(number))).containsExactly("writing:" + number);
    }

    @Test
    void a_transaction_within_another_tells_its_own() throws SQLException {
        var own = new TransactionTemplate(transaction.getTransactionManager());
        own.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        assertThat(heard(() -> transaction.executeWithoutResult(status -> {
                    news.ticketChanged(number);
                    own.executeWithoutResult(inner -> news.writing(number));
                    status.setRollbackOnly();
                })))
                .containsExactly("writing:" + number);
    }
}
