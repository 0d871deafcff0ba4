package rafter.app.house.access;

import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import rafter.app.platform.Limits;

/**
 * Counts wrong tries to sign in, for all nodes together. Guessing is slowed down and nobody is locked out: who guesses from one network
 * makes only that network wait, and the owner of the account comes in from another.
 */
@Component
class SignInTries {

    /** Of one account from one network. */
    private static final Limits.Limit BOTH = new Limits.Limit("sign-in", 5, Duration.ofSeconds(20));

    private static final Limits.Limit NETWORK = new Limits.Limit("sign-in-network", 30, Duration.ofSeconds(10));
    /** An account that is guessed at from everywhere is slowed down a little for everybody. */
    private static final Limits.Limit ACCOUNT = new Limits.Limit("sign-in-account", 60, Duration.ofSeconds(2));

    private final Limits limits;

    SignInTries(Limits limits) {
        this.limits = limits;
    }

    /** How long to wait before a try is looked at; zero: it is looked at now. */
    Duration wait(String account, String network) {
        String from = network(network);
        return Stream.of(
                        limits.wait(BOTH, from + " " + account.strip()),
                        limits.wait(NETWORK, from),
                        limits.wait(ACCOUNT, account))
                .max(Duration::compareTo)
                .orElse(Duration.ZERO);
    }

    void wrong(String account, String network) {
        String from = network(network);
        limits.count(BOTH, from + " " + account.strip());
        limits.count(NETWORK, from);
        limits.count(ACCOUNT, account);
    }

    void right(String account, String network) {
        limits.forget(BOTH, network(network) + " " + account.strip());
    }

    /** Of IPv6 a network is what one customer of a provider gets. */
    static String network(String address) {
        String[] groups = address.split(":");
        return address.contains(":") && groups.length > 4
                ? String.join(":", List.of(groups).subList(0, 4))
                : address;
    }
}
