package rafter.app.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.web.access.AccessDeniedHandler;
import org.springframework.security.web.csrf.CsrfException;

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
            response.sendRedirect("/sign-in?over");
        }
    }
}
