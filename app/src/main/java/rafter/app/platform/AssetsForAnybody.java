package rafter.app.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What ships with the pages is given to anybody, so nobody's session is looked up for it: a page comes with dozens of such files, and they come
 * even while the database is away.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 1)
class AssetsForAnybody extends OncePerRequestFilter {

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return Assets.FOLDERS.stream().noneMatch(request.getRequestURI()::startsWith);
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        chain.doFilter(new Anybodys(request), response);
    }

    /** A request that does not say whose it is. */
    private static final class Anybodys extends HttpServletRequestWrapper {

        Anybodys(HttpServletRequest request) {
            super(request);
        }

        @Override
        public Cookie @Nullable [] getCookies() {
            return null;
        }
    }
}
