package rafter.app.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.security.web.savedrequest.HttpSessionRequestCache;

/** Remembers the page somebody wanted when they had to sign in, but never a fragment, a picture or the live stream. */
final class PageRequestCache extends HttpSessionRequestCache {

    @Override
    public void saveRequest(HttpServletRequest request, HttpServletResponse response) {
        String accepts = request.getHeader("Accept");
        boolean page = accepts != null && accepts.contains("text/html") && !SecurityConfiguration.isFromScript(request);
        if (request.getMethod().equals("GET") && page && !request.getRequestURI().equals("/error")) {
            super.saveRequest(request, response);
        }
    }
}
