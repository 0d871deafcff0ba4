package rafter.app.platform;

import java.time.Clock;
import org.jooq.conf.RenderQuotedNames;
import org.jooq.conf.Settings;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The beans that belong to no feature. */
@Configuration(proxyBeanMethods = false)
class PlatformConfiguration {

    /** The one source of time; tests and the demo's loader put their own in its place. */
    @Bean
    @ConditionalOnMissingBean
    Clock clock() {
        return Clock.systemUTC();
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
