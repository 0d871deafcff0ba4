package rafter.app.platform;

import java.sql.Connection;
import java.time.Clock;
import java.time.Duration;
import javax.sql.DataSource;
import org.jooq.ConnectionProvider;
import org.jooq.conf.RenderQuotedNames;
import org.jooq.conf.Settings;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.webmvc.autoconfigure.WebMvcRegistrations;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;
import org.springframework.transaction.support.TransactionOperations;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/** The beans that belong to no feature. */
@Configuration(proxyBeanMethods = false)
class PlatformConfiguration {

    /** A session is used all the time; that this is so is written down once a minute, and what else changes of it at once. */
    private static final String SESSION_IS_USED = """
            UPDATE %TABLE_NAME% AS session
            SET SESSION_ID = said.id, LAST_ACCESS_TIME = said.at, MAX_INACTIVE_INTERVAL = said.longest, EXPIRY_TIME = said.ends,
                PRINCIPAL_NAME = said.who
            FROM (VALUES (CAST(? AS CHAR(36)), CAST(? AS BIGINT), CAST(? AS INT), CAST(? AS BIGINT), CAST(? AS TEXT),
                CAST(? AS CHAR(36)))) AS said (id, at, longest, ends, who, key)
            WHERE session.PRIMARY_ID = said.key
              AND (session.SESSION_ID <> said.id OR session.PRINCIPAL_NAME IS DISTINCT FROM said.who
                OR session.MAX_INACTIVE_INTERVAL <> said.longest OR session.LAST_ACCESS_TIME < said.at - 60000)""";

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
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer() {
            @Override
            public void customize(JdbcIndexedSessionRepository sessions) {
                super.customize(sessions);
                sessions.setUpdateSessionQuery(SESSION_IS_USED);
            }
        };
    }

    /** Each statement about a session stands for itself, for half of one lets nobody in; and each request reads one. */
    @Bean(defaultCandidate = false)
    TransactionOperations springSessionTransactionOperations() {
        return TransactionOperations.withoutTransaction();
    }

    @Bean
    WebMvcRegistrations pathsFirst() {
        return new WebMvcRegistrations() {
            @Override
            public RequestMappingHandlerMapping getRequestMappingHandlerMapping() {
                return new PathsFirst();
            }
        };
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
