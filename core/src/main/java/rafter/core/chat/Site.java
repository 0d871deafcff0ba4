package rafter.core.chat;

import java.net.URI;
import java.net.URISyntaxException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * An origin of a website (RFC 6454): scheme, host and port. Two are the same only when all three are; there are no wildcards.
 *
 * @param text as a browser writes it in its Origin header: in small letters, without the port that is usual for the scheme
 */
public record Site(String text) {

    private static final Pattern HOST =
            Pattern.compile("[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?(?:\\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)*");
    private static final int LONGEST = 253;

    /**
     * Reads an origin as somebody typed it. An address of a page is taken for its site.
     *
     * @return nothing when it is none that a page can have
     */
    public static Optional<Site> of(String typed) {
        try {
            var uri = new URI(typed.strip());
            String scheme = lower(uri.getScheme());
            String host = lower(uri.getHost());
            boolean web = scheme.equals("https") || scheme.equals("http");
            if (!web || host.length() > LONGEST || !HOST.matcher(host).matches() || uri.getUserInfo() != null) {
                return Optional.empty();
            }
            int port = uri.getPort();
            boolean usual = port == -1 || port == (scheme.equals("https") ? 443 : 80);
            return port > 65_535 || port == 0
                    ? Optional.empty()
                    : Optional.of(new Site(scheme + "://" + host + (usual ? "" : ":" + port)));
        } catch (URISyntaxException e) {
            return Optional.empty();
        }
    }

    private static String lower(@org.jspecify.annotations.Nullable String part) {
        return part == null ? "" : part.toLowerCase(Locale.ROOT);
    }

    /** What somebody typed as a list of origins. */
    public record Typed(List<Site> sites, List<String> wrong) {}

    /** Reads a list of origins with blanks, commas or line ends between. O(n). */
    public static Typed list(String typed) {
        Set<Site> sites = new LinkedHashSet<>();
        Set<String> wrong = new LinkedHashSet<>();
        for (String one : typed.split("[\\s,;]+")) {
            if (!one.isEmpty()) {
                Site.of(one).ifPresentOrElse(sites::add, () -> wrong.add(one));
            }
        }
        return new Typed(List.copyOf(sites), List.copyOf(wrong));
    }

    /** Whether a page of this origin may hold the panel, by a list of origins. */
    public static boolean listed(List<Site> sites, String origin) {
        return sites.stream().anyMatch(site -> site.text().equals(origin));
    }

    @Override
    public String toString() {
        return text;
    }
}
