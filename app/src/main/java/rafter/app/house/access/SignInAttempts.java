package rafter.app.house.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.web.authentication.AuthenticationFailureHandler;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.stereotype.Component;

/** What follows a sign-in, good or wrong. */
@Component
class SignInAttempts extends SavedRequestAwareAuthenticationSuccessHandler implements AuthenticationFailureHandler {

    SignInAttempts() {
        setDefaultTargetUrl("/");
        setRequestCache(new PageRequestCache());
    }

    @Override
    public void onAuthenticationSuccess(HttpServletRequest request, HttpServletResponse response, Authentication who)
            throws IOException, ServletException {
        if (SecurityConfiguration.isFromScript(request)) {
            response.setStatus(HttpServletResponse.SC_NO_CONTENT);
        } else {
            super.onAuthenticationSuccess(request, response, who);
        }
    }

    @Override
    public void onAuthenticationFailure(
            HttpServletRequest request, HttpServletResponse response, AuthenticationException exception)
            throws IOException {
        if (SecurityConfiguration.isFromScript(request)) {
            response.setStatus(HttpServletResponse.SC_FORBIDDEN);
            return;
        }
        String address = request.getParameter("address");
        boolean shown = address != null && address.length() <= BoundedSignIn.LONGEST_ADDRESS;
        String kept = shown ? "&address=" + URLEncoder.encode(address, StandardCharsets.UTF_8) : "";
        response.sendRedirect("/sign-in?" + (exception instanceof LockedException ? "wait" : "wrong") + kept);
    }
}
