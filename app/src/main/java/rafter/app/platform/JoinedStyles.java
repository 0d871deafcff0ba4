package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.web.servlet.resource.AbstractResourceResolver;
import org.springframework.web.servlet.resource.ResourceResolverChain;
import org.springframework.web.servlet.resource.TransformedResource;

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
        List<Resource> sheets = COMPONENTS.stream()
                .<Resource>map(component -> new ClassPathResource(place + component + ".css"))
                .toList();
        var joined = new ByteArrayOutputStream();
        try {
            for (Resource sheet : sheets) {
                joined.write(sheet.getContentAsByteArray());
                joined.write('\n');
            }
        } catch (IOException e) {
            throw new UncheckedIOException("the style sheets cannot be read", e);
        }
        this.all = new TransformedResource(sheets.getFirst(), joined.toByteArray());
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
}
