package rafter.app.tickets.rating;

import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.core.ticket.Work;

/** The page on which customers say how they were helped; who has the link needs no password. */
@Controller
@RequestMapping("/rate")
class RatingController {

    private final Ratings ratings;
    private final Workspaces workspaces;

    RatingController(Ratings ratings, Workspaces workspaces) {
        this.ratings = ratings;
        this.workspaces = workspaces;
    }

    /** Asks. That somebody looks at it says nothing yet: programs that read mail open its links, too. */
    @GetMapping("/{token}")
    String ask(
            @PathVariable String token,
            @RequestParam(defaultValue = "") String rating,
            Model model,
            HttpServletResponse response) {
        try {
            return page(token, ratings.asked(token), rating, "", model);
        } catch (Problem.NotFound e) {
            return nothing(e, model, response);
        }
    }

    @PostMapping("/{token}")
    String rate(
            @PathVariable String token,
            @RequestParam(defaultValue = "") String rating,
            @RequestParam(defaultValue = "") String comment,
            Model model,
            HttpServletResponse response) {
        try {
            Work.Rating chosen =
                    read(rating).orElseThrow(() -> new Problem.Invalid("Choose one of the three, please."));
            ratings.rate(token, chosen, comment);
            return "redirect:/rate/" + token + "?thanks=true";
        } catch (Problem.NotFound e) {
            return nothing(e, model, response);
        } catch (Problem.Stale e) {
            response.setStatus(HttpStatus.CONFLICT.value());
            return page(token, ratings.asked(token), rating, comment, model);
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(token, ratings.asked(token), rating, comment, model);
        }
    }

    @GetMapping(value = "/{token}", params = "thanks")
    String thanks(@PathVariable String token, Model model, HttpServletResponse response) {
        model.addAttribute("thanks", true);
        return ask(token, "", model, response);
    }

    private String page(String token, Ratings.Asked asked, String rating, String comment, Model model) {
        model.addAttribute("asked", asked);
        model.addAttribute("token", token);
        model.addAttribute("ratings", Work.Rating.values());
        model.addAttribute("chosen", read(rating).map(Enum::name).orElse(""));
        model.addAttribute("comment", comment);
        model.addAttribute("ours", workspaces.current().name());
        return "tickets/rating/rate";
    }

    private String nothing(Problem problem, Model model, HttpServletResponse response) {
        response.setStatus(HttpStatus.NOT_FOUND.value());
        model.addAttribute("nothing", problem.words());
        model.addAttribute("ours", workspaces.current().name());
        return "tickets/rating/rate";
    }

    private static Optional<Work.Rating> read(String rating) {
        return Arrays.stream(Work.Rating.values())
                .filter(one -> one.name().equals(rating.toUpperCase(Locale.ROOT)))
                .findFirst();
    }
}
