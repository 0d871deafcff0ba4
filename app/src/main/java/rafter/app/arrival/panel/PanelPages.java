package rafter.app.arrival.panel;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.function.Supplier;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.ui.Model;
import rafter.app.platform.Limits;
import rafter.app.platform.Problem;
import rafter.app.platform.Unlisted;

/** What all addresses of the panel have in common. */
final class PanelPages {

    private static final String PAGE = "arrival/panel/panel";

    private PanelPages() {}

    /** Shows the page of a panel. */
    static String show(PanelPage page, Model model, HttpServletResponse response) {
        Unlisted.mark(response);
        model.addAttribute("panel", page);
        return PAGE;
    }

    /**
     * What changes something comes from a page of ours, which the panel is.
     *
     * @throws Problem.NoRight when it comes from another website
     */
    static void insistOnOwnPage(HttpServletRequest request) {
        String origin = request.getHeader("Origin");
        String site = request.getHeader("Sec-Fetch-Site");
        boolean elsewhere = site != null
                ? !site.equals("same-origin")
                : origin != null && !origin.endsWith("://" + request.getHeader("Host"));
        if (elsewhere) {
            throw new Problem.NoRight("This comes from another website; only the panel itself may send it.");
        }
    }

    /** Does something unless it is done too often; what went wrong is said in words, and what was typed stays in the panel. */
    static ResponseEntity<Object> within(Limits limits, Limits.Limit limit, String who, Supplier<Object> deed) {
        Duration wait = limits.wait(limit, who);
        if (wait.isPositive()) {
            return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
                    .header("Retry-After", Long.toString(wait.toSeconds() + 1))
                    .body(new PanelController.Wrong(
                            "That was a lot at once. It is sent in a moment; nothing is lost."));
        }
        limits.count(limit, who);
        return told(deed);
    }

    /** Does something; what went wrong is said in words. */
    static ResponseEntity<Object> told(Supplier<Object> deed) {
        try {
            return ResponseEntity.ok(deed.get());
        } catch (Problem.Invalid e) {
            return wrong(HttpStatus.UNPROCESSABLE_CONTENT, e);
        } catch (Problem.Stale e) {
            return wrong(HttpStatus.CONFLICT, e);
        } catch (Problem.NotFound e) {
            return wrong(HttpStatus.NOT_FOUND, e);
        }
    }

    private static ResponseEntity<Object> wrong(HttpStatus status, Problem problem) {
        return ResponseEntity.status(status).body(new PanelController.Wrong(problem.words()));
    }
}
