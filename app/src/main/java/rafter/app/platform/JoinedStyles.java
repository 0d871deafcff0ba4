package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.web.servlet.resource.AbstractResourceResolver;
import org.springframework.web.servlet.resource.ResourceResolverChain;

/** The style sheets of the components as one file, joined at the start: a page asks for one and not for sixteen. */
class JoinedStyles extends AbstractResourceResolver {

    /** In their order, for later ones speak last. Beside them stands that of the panel on customers' pages. */
    static final List<String> COMPONENTS = List.of(
            "base",
            "frame",
            "controls",
            "marks",
            "worklist",
            "menu",
            "ticket",
            "rules",
            "over",
            "promises",
            "shapes",
            "today",
            "room",
            "desk",
            "call",
            "social");

    private static final String NAME = "all.css";

    private final Resource all;

    /** Joins what stands at a place. */
    JoinedStyles(String place) {
        var joined = new ByteArrayOutputStream();
        long latest = 0;
        try {
            for (String component : COMPONENTS) {
                Resource one = new ClassPathResource(place + component + ".css");
                joined.write(one.getContentAsByteArray());
                joined.write('\n');
                latest = Math.max(latest, one.lastModified());
            }
        } catch (IOException e) {
            throw new UncheckedIOException("the style sheets cannot be read", e);
        }
        this.all = new Joined(joined.toByteArray(), latest);
    }

    @Override
    protected @Nullable Resource resolveResourceInternal(
            @Nullable HttpServletRequest request,
            String path,
            List<? extends Resource> places,
            ResourceResolverChain others) {
        return path.equals(NAME) ? all : others.resolveResource(request, path, places);
    }

    @Override
    protected @Nullable String resolveUrlPathInternal(
            String path, List<? extends Resource> places, ResourceResolverChain others) {
        return path.equals(NAME) ? path : others.resolveUrlPath(path, places);
    }

    private static final class Joined extends ByteArrayResource {

        private final long latest;

        Joined(byte[] content, long latest) {
            super(content);
            this.latest = latest;
        }

        @Override
        public String getFilename() {
            return NAME;
        }

        @Override
        public long lastModified() {
            return latest;
        }

        @Override
        public boolean equals(@Nullable Object other) {
            return this == other;
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(this);
        }
    }
}
