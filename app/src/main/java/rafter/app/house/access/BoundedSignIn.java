package rafter.app.house.access;

import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.authentication.dao.DaoAuthenticationProvider;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.web.authentication.WebAuthenticationDetails;

/**
 * Looks at passwords: only so many at a time, for each costs a good part of a processor, and none of those who guess too fast. It stands behind
 * the path of the request, however that is spelled.
 */
final class BoundedSignIn implements AuthenticationProvider {

    static final int LONGEST_ADDRESS = 254;
    private static final int LONGEST_PASSWORD = 200;
    private static final int AT_ONCE = 2;
    private static final Duration PATIENCE = Duration.ofSeconds(3);

    private final DaoAuthenticationProvider passwords;
    private final SignInTries tries;
    private final Semaphore places = new Semaphore(AT_ONCE);

    BoundedSignIn(DaoAuthenticationProvider passwords, SignInTries tries) {
        this.passwords = passwords;
        this.tries = tries;
    }

    @Override
    public Authentication authenticate(Authentication asked) {
        String account = asked.getName();
        String network = asked.getDetails() instanceof WebAuthenticationDetails details
                ? String.valueOf(details.getRemoteAddress())
                : "";
        if (account.length() > LONGEST_ADDRESS
                || account.indexOf('\0') >= 0
                || String.valueOf(asked.getCredentials()).length() > LONGEST_PASSWORD) {
            throw new BadCredentialsException("no such address or password");
        }
        if (!place()) {
            throw new LockedException("busy");
        }
        try {
            return looked(asked, account, network);
        } finally {
            places.release();
        }
    }

    private boolean place() {
        try {
            return places.tryAcquire(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private Authentication looked(Authentication asked, String account, String network) {
        if (tries.wait(account, network).isPositive()) {
            throw new LockedException("wait");
        }
        try {
            Authentication who = passwords.authenticate(asked);
            tries.right(account, network);
            return who;
        } catch (BadCredentialsException wrong) {
            tries.wrong(account, network);
            throw wrong;
        } catch (AuthenticationException other) {
            throw other;
        }
    }

    @Override
    public boolean supports(Class<?> authentication) {
        return UsernamePasswordAuthenticationToken.class.isAssignableFrom(authentication);
    }
}
