package rafter.app.house.access;

import static rafter.database.Tables.SIGN_IN_TRY;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Files;

/**
 * Counts wrong tries to sign in, in the store, so that all nodes count together. Guessing is slowed down and nobody is locked out: who guesses
 * from one network makes only that network wait, and the owner of the account comes in from another.
 */
@Component
class SignInTries {

    private static final Duration FORGOTTEN_AFTER = Duration.ofMinutes(15);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(1);
    /** So many wrong ones of one account from one network cost no wait. */
    private static final int FREE_OF_BOTH = 5;

    private static final int FREE_OF_NETWORK = 30;
    /** An account that is guessed at from everywhere is slowed down a little for everybody. */
    private static final int FREE_OF_ACCOUNT = 60;

    private enum Of {
        BOTH(FREE_OF_BOTH, LONGEST_WAIT),
        NETWORK(FREE_OF_NETWORK, LONGEST_WAIT),
        ACCOUNT(FREE_OF_ACCOUNT, Duration.ofSeconds(2));

        private final int free;
        private final Duration longest;

        Of(int free, Duration longest) {
            this.free = free;
            this.longest = longest;
        }
    }

    private record Key(Of of, byte[] digest) {}

    private final DSLContext sql;
    private final Clock clock;

    SignInTries(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** How long to wait before a try is looked at; zero: it is looked at now. */
    Duration wait(String account, String network) {
        Instant now = clock.instant();
        Duration longest = Duration.ZERO;
        for (Key key : keys(account, network)) {
            Duration wait = sql.selectFrom(SIGN_IN_TRY)
                    .where(SIGN_IN_TRY.KEY.eq(key.digest()))
                    .and(SIGN_IN_TRY.LAST_AT.gt(now.minus(FORGOTTEN_AFTER)))
                    .fetchOptional(r -> Duration.between(now, r.getLastAt().plus(after(r.getWrong(), key.of()))))
                    .orElse(Duration.ZERO);
            longest = wait.compareTo(longest) > 0 ? wait : longest;
        }
        return longest;
    }

    /** Twice as long after each further one. */
    private static Duration after(int wrong, Of of) {
        if (wrong < of.free) {
            return Duration.ZERO;
        }
        Duration wait = Duration.ofSeconds(1L << Math.min(10, wrong - of.free));
        return wait.compareTo(of.longest) < 0 ? wait : of.longest;
    }

    void wrong(String account, String network) {
        Instant now = clock.instant();
        for (Key key : keys(account, network)) {
            sql.insertInto(SIGN_IN_TRY, SIGN_IN_TRY.KEY, SIGN_IN_TRY.WRONG, SIGN_IN_TRY.LAST_AT)
                    .values(key.digest(), 1, now)
                    .onConflict(SIGN_IN_TRY.KEY)
                    .doUpdate()
                    .set(
                            SIGN_IN_TRY.WRONG,
                            DSL.when(SIGN_IN_TRY.LAST_AT.gt(now.minus(FORGOTTEN_AFTER)), SIGN_IN_TRY.WRONG.plus(1))
                                    .otherwise(1))
                    .set(SIGN_IN_TRY.LAST_AT, now)
                    .execute();
        }
        sql.deleteFrom(SIGN_IN_TRY)
                .where(SIGN_IN_TRY.LAST_AT.lt(now.minus(FORGOTTEN_AFTER)))
                .execute();
    }

    void right(String account, String network) {
        sql.deleteFrom(SIGN_IN_TRY)
                .where(SIGN_IN_TRY.KEY.eq(keys(account, network).getFirst().digest()))
                .execute();
    }

    private static List<Key> keys(String account, String network) {
        String who = account.strip().toLowerCase(Locale.ROOT);
        String from = network(network);
        return List.of(
                new Key(Of.BOTH, digest("both " + from + " " + who)),
                new Key(Of.NETWORK, digest("network " + from)),
                new Key(Of.ACCOUNT, digest("account " + who)));
    }

    /** Of IPv6 a network is what one customer of a provider gets. */
    static String network(String address) {
        String[] groups = address.split(":");
        return address.contains(":") && groups.length > 4
                ? String.join(":", List.of(groups).subList(0, 4))
                : address;
    }

    private static byte[] digest(String text) {
        return Files.sha256(text.getBytes(StandardCharsets.UTF_8));
    }
}
