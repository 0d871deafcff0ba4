package rafter.app.platform;

import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import java.util.Optional;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.ModelAndView;

/** The pages for what nobody foresaw. */
@Controller
class ErrorPages implements ErrorController {

    @RequestMapping("/error")
    ModelAndView error(HttpServletRequest request) {
        Object code = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
        HttpStatus status = code instanceof Integer number
                ? Optional.ofNullable(HttpStatus.resolve(number)).orElse(HttpStatus.BAD_REQUEST)
                : HttpStatus.NOT_FOUND;
        return switch (status) {
            case NOT_FOUND -> ProblemPages.page(request, status, "Not here", "There is no page at this address.");
            case FORBIDDEN -> ProblemPages.page(request, status, "No permission", "You may not see this page.");
            case METHOD_NOT_ALLOWED ->
                ProblemPages.page(request, status, "Not like this", "This address cannot be opened like a page.");
            case NOT_ACCEPTABLE ->
                ProblemPages.page(
                        request, status, "Not in this form", "What is at this address cannot be shown as a page.");
            default ->
                status.is4xxClientError()
                        ? ProblemPages.page(
                                request,
                                status,
                                "Not understood",
                                "Something in the request was not understood. Nothing was changed.")
                        : ProblemPages.page(
                                request,
                                status,
                                "Something broke",
                                "That is our fault and was written to the log. Nothing was half done; drafts that were saved are safe. Try again.");
        };
    }
}
