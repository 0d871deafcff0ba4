package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.security.web.savedrequest.CookieRequestCache;

/** Remembers the page somebody wanted when they had to sign in, in a cookie and so without a session; never a fragment, a picture or the live stream. */
final class PageRequestCache extends CookieRequestCache {

    private static final int LONGEST = 2_000;

    @Override
    public void saveRequest(HttpServletRequest request, HttpServletResponse response) {
        String accepts = request.getHeader("Accept");
        boolean page = accepts != null && accepts.contains("text/html") && !SecurityConfiguration.isFromScript(request);
        String query = request.getQueryString();
        boolean kept = request.getRequestURI().length() + (query == null ? 0 : query.length()) < LONGEST;
        if (request.getMethod().equals("GET")
                && page
                && kept
                && !request.getRequestURI().equals("/error")) {
            super.saveRequest(request, response);
        }
    }
}
