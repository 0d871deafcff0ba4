package rafter.app.access;

import jakarta.servlet.Filter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.web.authentication.AuthenticationFailureHandler;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** What follows a sign-in, good or wrong, and a limit to guessing: after ten wrong ones an address waits a quarter of an hour. */
@Component
class SignInAttempts extends SavedRequestAwareAuthenticationSuccessHandler implements AuthenticationFailureHandler {

    private static final int WRONG_ONES = 10;
    private static final int ADDRESSES_KEPT = 10_000;
    private static final Duration WAIT = Duration.ofMinutes(15);

    private record Wrong(int count, Instant last) {}

    private final Map<String, Wrong> wrong = new ConcurrentHashMap<>();
    private final Clock clock;

    SignInAttempts(Clock clock) {
        this.clock = clock;
        setDefaultTargetUrl("/");
        setRequestCache(new PageRequestCache());
    }

    @Override
    public void onAuthenticationSuccess(HttpServletRequest request, HttpServletResponse response, Authentication who)
            throws IOException, ServletException {
        wrong.remove(key(request));
        if (SecurityConfiguration.isFromScript(request)) {
            response.setStatus(HttpServletResponse.SC_NO_CONTENT);
        } else {
            super.onAuthenticationSuccess(request, response, who);
        }
    }

    @Override
    public void onAuthenticationFailure(
            HttpServletRequest request, HttpServletResponse response, AuthenticationException exception) throws IOException {
        if (wrong.size() > ADDRESSES_KEPT) {
            wrong.clear();
        }
        wrong.merge(key(request), new Wrong(1, clock.instant()), (a, b) -> new Wrong(a.count() + 1, b.last()));
        refuse(request, response, "wrong");
    }

    /** Turns those away who guessed too often, before their password is looked at. */
    Filter filter() {
        return new OncePerRequestFilter() {
            @Override
            protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                    throws IOException, ServletException {
                boolean signingIn = request.getMethod().equals("POST") && request.getRequestURI().equals("/sign-in");
                if (signingIn && mustWait(key(request))) {
                    refuse(request, response, "wait");
                } else {
                    chain.doFilter(request, response);
                }
            }
        };
    }

    private boolean mustWait(String key) {
        Wrong so = wrong.get(key);
        return so != null && so.count() >= WRONG_ONES && clock.instant().isBefore(so.last().plus(WAIT));
    }

    private static void refuse(HttpServletRequest request, HttpServletResponse response, String why) throws IOException {
        if (SecurityConfiguration.isFromScript(request)) {
            response.setStatus(HttpServletResponse.SC_FORBIDDEN);
            return;
        }
        String address = request.getParameter("address");
        String kept = address == null ? "" : "&address=" + URLEncoder.encode(address, StandardCharsets.UTF_8);
        response.sendRedirect("/sign-in?" + why + kept);
    }

    private static String key(HttpServletRequest request) {
        String address = request.getParameter("address");
        return address == null ? "" : address.strip().toLowerCase(Locale.ROOT);
    }
}
