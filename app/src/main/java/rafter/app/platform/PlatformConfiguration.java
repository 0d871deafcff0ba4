package rafter.app.platform;

import java.sql.Connection;
import java.time.Clock;
import java.time.Duration;
import javax.sql.DataSource;
import org.jooq.ConnectionProvider;
import org.jooq.conf.RenderQuotedNames;
import org.jooq.conf.Settings;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;

/** The beans that belong to no feature. */
@Configuration(proxyBeanMethods = false)
class PlatformConfiguration {

    /**
     * The one source of time, as fine as the database keeps it, so that what is read back did not happen later than it was written. Tests and the
     * demo's loader put their own in its place.
     */
    @Bean
    @ConditionalOnMissingBean
    Clock clock() {
        return Clock.tick(Clock.systemUTC(), Duration.ofNanos(1_000));
    }

    /** The connection of the transaction itself, without a proxy around each of its methods. */
    @Bean
    ConnectionProvider connectionProvider(DataSource source) {
        return new ConnectionProvider() {
            @Override
            public Connection acquire() {
                return DataSourceUtils.getConnection(source);
            }

            @Override
            public void release(Connection connection) {
                DataSourceUtils.releaseConnection(connection, source);
            }
        };
    }

    /** Two pages of one session may begin to keep the same thing at the same time: then the later one's stays, and neither fails. */
    @Bean
    PostgreSqlJdbcIndexedSessionRepositoryCustomizer sessionsOfManyPages() {
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer();
    }

    @Bean
    Settings jooqSettings() {
        return new Settings()
                .withRenderQuotedNames(RenderQuotedNames.EXPLICIT_DEFAULT_UNQUOTED)
                .withRenderSchema(false)
                .withRenderCatalog(false)
                .withExecuteLogging(false)
                // What the driver warns of is in the server's log.
                .withFetchWarnings(false);
    }
}
