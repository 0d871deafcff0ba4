package rafter.app.platform;

import jakarta.servlet.http.HttpServletResponse;

/** Pages that are for whoever has their address: nobody keeps them, finds them by searching, or learns the address from a link on them. */
public final class Unlisted {

    private Unlisted() {}

    /** Marks an answer as such a page. */
    public static void mark(HttpServletResponse response) {
        response.setHeader("Referrer-Policy", "no-referrer");
        response.setHeader("X-Robots-Tag", "noindex");
        response.setHeader("Cache-Control", "no-store");
    }
}
