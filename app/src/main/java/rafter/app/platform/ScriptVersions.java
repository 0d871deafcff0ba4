package rafter.app.platform;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.Resource;
import org.springframework.core.io.support.PathMatchingResourcePatternResolver;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.VersionResourceResolver;

/**
 * Gives out the scripts under one version that stands in their path, made from all of them. Modules name each other by relative paths, so
 * those of one version load those of the same version, and a browser may keep them for good.
 */
@Configuration(proxyBeanMethods = false)
class ScriptVersions implements WebMvcConfigurer {

    private static final String PLACE = "classpath:/static/script/";
    private static final int LETTERS = 12;

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/script/**")
                .addResourceLocations(PLACE)
                .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePublic())
                .resourceChain(true)
                .addResolver(new VersionResourceResolver().addFixedVersionStrategy(version(), "/**"));
    }

    private static String version() {
        try {
            List<Resource> scripts = Arrays.stream(
                            new PathMatchingResourcePatternResolver().getResources(PLACE + "**/*.js"))
                    .sorted(Comparator.comparing(Resource::getDescription))
                    .toList();
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            for (Resource script : scripts) {
                digest.update(script.getContentAsByteArray());
            }
            return "v" + HexFormat.of().formatHex(digest.digest()).substring(0, LETTERS);
        } catch (IOException e) {
            throw new UncheckedIOException("the scripts cannot be read", e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }
}
