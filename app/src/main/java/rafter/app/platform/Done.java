package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.net.URI;
import java.util.Map;
import tools.jackson.core.json.JsonWriteFeature;
import tools.jackson.databind.json.JsonMapper;

/** The answer to an act that changed something: a short message with an undo for a script, the page it came from for a form. */
public final class Done {

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(JsonWriteFeature.ESCAPE_NON_ASCII).build();

    private Done() {}

    /** How to take back what was done. */
    public record Undo(String action, Map<String, String> fields) {
        /** Nothing to take back. */
        public static final Undo NONE = new Undo("", Map.of());
    }

    /**
     * Answers.
     *
     * @param words what was done
     * @param fallback the page for a form that does not tell where it came from
     * @return the view
     */
    public static String answer(
            HttpServletRequest request, HttpServletResponse response, String words, Undo undo, String fallback) {
        if (request.getHeader("HX-Request") != null) {
            var told = Map.of("done", Map.of("words", words, "action", undo.action(), "fields", undo.fields()));
            response.setHeader("HX-Trigger", JSON.writeValueAsString(told));
            response.setStatus(HttpServletResponse.SC_NO_CONTENT);
            return "platform/nothing";
        }
        return "redirect:" + back(request, fallback);
    }

    /** Only a path of our own is gone back to. The browser sends none under our policy unless the form says so itself. */
    private static String back(HttpServletRequest request, String fallback) {
        String from = request.getParameter("back");
        if (from == null) {
            return fallback;
        }
        try {
            // Parsed only to be sure that it names no other host; what cannot be parsed is no address of ours.
            URI uri = URI.create(from);
            boolean own = uri.getScheme() == null
                    && uri.getHost() == null
                    && from.startsWith("/")
                    && !from.startsWith("//")
                    && !from.contains("\\");
            return own ? from.replace("{", "%7B").replace("}", "%7D") : fallback;
        } catch (IllegalArgumentException notAnAddress) {
            return fallback;
        }
    }
}
