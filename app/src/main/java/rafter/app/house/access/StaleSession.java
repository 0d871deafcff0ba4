package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Locale;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.web.access.AccessDeniedHandler;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.web.util.HtmlUtils;
import rafter.app.platform.BarePage;

/** A form from before the session ended carries a token that is no longer good: that is a session that is over, not a crime. */
final class StaleSession implements AccessDeniedHandler {

    @Override
    public void handle(HttpServletRequest request, HttpServletResponse response, AccessDeniedException denied)
            throws IOException {
        if (!(denied instanceof CsrfException)) {
            response.sendError(HttpServletResponse.SC_FORBIDDEN);
        } else if (SecurityConfiguration.isFromScript(request)) {
            response.sendError(HttpServletResponse.SC_UNAUTHORIZED);
        } else if (request.getRequestURI().equals("/sign-in")) {
            response.sendRedirect("/sign-in?again");
        } else {
            giveBack(request, response);
        }
    }

    /** A form without scripts has nobody to keep its text but the page that answers it. */
    private static void giveBack(HttpServletRequest request, HttpServletResponse response) throws IOException {
        var typed = new StringBuilder();
        request.getParameterMap().forEach((name, values) -> {
            if (!name.startsWith("_")
                    && !name.toLowerCase(Locale.ROOT).contains("password")
                    && values.length > 0
                    && values[0].length() > 30) {
                typed.append("<p><label>")
                        .append(HtmlUtils.htmlEscape(name))
                        .append("<textarea class=\"form-control\" rows=\"8\" readonly>")
                        .append(HtmlUtils.htmlEscape(values[0]))
                        .append("</textarea></label></p>");
            }
        });
        if (typed.isEmpty()) {
            response.sendRedirect("/sign-in?over");
            return;
        }
        BarePage.answer(
                response,
                HttpServletResponse.SC_UNAUTHORIZED,
                "Your session had ended",
                "<p>Nothing was sent. This is what you typed: copy it, <a href=\"/sign-in\">sign in again</a>, "
                        + "and paste it there.</p>" + typed);
    }
}
