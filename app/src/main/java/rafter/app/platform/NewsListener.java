package rafter.app.platform;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** Hears what {@link LiveNews} tells, on a connection of its own, and passes it on within this node. */
@Component
class NewsListener extends OneThread {

    private static final Logger LOG = LoggerFactory.getLogger(NewsListener.class);
    private static final Duration AFTER_FAILURE = Duration.ofSeconds(2);
    private static final int WAIT_MILLIS = 1000;

    private final ApplicationEventPublisher publisher;
    private final String url;
    private final String user;
    private final String password;

    NewsListener(
            ApplicationEventPublisher publisher,
            @Value("${spring.datasource.url}") String url,
            @Value("${spring.datasource.username}") String user,
            @Value("${spring.datasource.password}") String password) {
        super("news");
        this.publisher = publisher;
        this.url = url;
        this.user = user;
        this.password = password;
    }

    @Override
    protected void run() {
        while (isRunning()) {
            try {
                listen();
            } catch (SQLException e) {
                LOG.warn("The live connection to the database was lost and will be made again: {}", e.getMessage());
                pause(AFTER_FAILURE);
            }
        }
    }

    private void listen() throws SQLException {
        try (Connection connection = DriverManager.getConnection(url, user, password);
                Statement statement = connection.createStatement()) {
            statement.execute("listen " + LiveNews.CHANNEL);
            // What was told while nobody listened is lost, so everyone looks again.
            publisher.publishEvent(new News("all", 0));
            PGConnection postgres = connection.unwrap(PGConnection.class);
            while (isRunning()) {
                PGNotification[] told = postgres.getNotifications(WAIT_MILLIS);
                if (told != null) {
                    for (PGNotification one : told) {
                        publisher.publishEvent(News.parse(one.getParameter()));
                    }
                }
            }
        }
    }
}
