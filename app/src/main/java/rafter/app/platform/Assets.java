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
import org.springframework.cache.concurrent.ConcurrentMapCache;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.Resource;
import org.springframework.core.io.support.PathMatchingResourcePatternResolver;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceChainRegistration;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistration;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.CachingResourceResolver;
import org.springframework.web.servlet.resource.CachingResourceTransformer;
import org.springframework.web.servlet.resource.CssLinkResourceTransformer;
import org.springframework.web.servlet.resource.VersionResourceResolver;

/**
 * Gives out what ships with the pages. Each kind has a path of its own, so that no other address of a page is looked up among the files.
 * The scripts are given out under one version that stands in their path, made from all of them: modules name each other by relative paths,
 * so those of one version load those of the same version, and a browser may keep them for good. What else is named by pages has its own
 * version in its name.
 */
@Configuration(proxyBeanMethods = false)
public class Assets implements WebMvcConfigurer {

    /** Under these stands what ships with the pages, and nothing else. */
    public static final List<String> FOLDERS = List.of("/script/", "/style/", "/vendor/", "/fonts/", "/webjars/");

    private static final String PLACE = "classpath:/static/";
    private static final String LIBRARIES = "classpath:/META-INF/resources/webjars/";
    private static final Duration FOR_GOOD = Duration.ofDays(365);
    private static final Duration A_WHILE = Duration.ofHours(1);
    private static final int LETTERS = 12;

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        // Before the pages, of which there are hundreds.
        registry.setOrder(-1);
        add(registry, "script", FOR_GOOD, new VersionResourceResolver().addFixedVersionStrategy(version(), "/**"));
        // Pages that are made without templates name their styles without a version.
        add(registry, "style", A_WHILE, byContent()).addResolver(new JoinedStyles("static/style/"));
        for (String kind : List.of("vendor", "fonts")) {
            add(registry, kind, FOR_GOOD, byContent());
        }
        chain(registry.addResourceHandler("/webjars/**")
                .addResourceLocations(LIBRARIES)
                .setCacheControl(cached(FOR_GOOD)));
        registry.addResourceHandler("/*.svg", "/*.js")
                .addResourceLocations(PLACE)
                .setCacheControl(cached(A_WHILE));
    }

    private static ResourceChainRegistration add(
            ResourceHandlerRegistry registry, String kind, Duration kept, VersionResourceResolver versions) {
        return chain(registry.addResourceHandler("/" + kind + "/**")
                        .addResourceLocations(PLACE + kind + "/")
                        .setCacheControl(cached(kept)))
                .addResolver(versions);
    }

    /** Files are looked up once; their text is changed once, and packed at the end. */
    private static ResourceChainRegistration chain(ResourceHandlerRegistration files) {
        return files.resourceChain(false)
                .addResolver(new CachingResourceResolver(new ConcurrentMapCache("found")))
                .addTransformer(new Packed())
                .addTransformer(new CachingResourceTransformer(new ConcurrentMapCache("changed")))
                .addTransformer(new CssLinkResourceTransformer());
    }

    private static VersionResourceResolver byContent() {
        return new VersionResourceResolver().addContentVersionStrategy("/**");
    }

    private static CacheControl cached(Duration kept) {
        return CacheControl.maxAge(kept).cachePublic();
    }

    private static String version() {
        try {
            List<Resource> scripts = Arrays.stream(
                            new PathMatchingResourcePatternResolver().getResources(PLACE + "script/**/*.js"))
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
