package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;

import java.time.Duration;
import java.util.Locale;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.platform.Limits;
import rafter.database.Tables;

/** Guessing is slowed down, and the owner of an account is not locked out by it. */
@ExtendWith(RunningApp.class)
class SignInTriesTest {

    private final String account = "someone" + RunningApp.unique() + "@ternpassage.example";
    private final SignInTries tries = bean(SignInTries.class);

    private void wrong(int times, String network) {
        for (int i = 0; i < times; i++) {
            tries.wrong(account, network);
        }
    }

    @Test
    void five_wrong_tries_cost_no_wait_and_each_further_one_twenty_seconds() {
        String network = "10.1." + RunningApp.unique() % 250 + ".1";
        wrong(4, network);
        assertThat(tries.wait(account, network)).isZero();
        wrong(1, network);
        assertThat(tries.wait(account, network)).isEqualTo(Duration.ofSeconds(20));
        assertThat(tries.wait(" " + account.toUpperCase(Locale.ROOT), network)).isEqualTo(Duration.ofSeconds(20));
        wrong(9, network);
        assertThat(tries.wait(account, network)).as("nobody is locked out").isEqualTo(Duration.ofSeconds(20));
        clock().tick(Duration.ofSeconds(20));
        assertThat(tries.wait(account, network)).isZero();
        wrong(1, network);
        assertThat(tries.wait(account, network)).isEqualTo(Duration.ofSeconds(20));
        clock().tick(Duration.ofMinutes(16));
        assertThat(tries.wait(account, network)).isZero();
        clock().set(RunningApp.MONDAY);
    }

    @Test
    void what_is_counted_is_forgotten_when_it_is_full_again() {
        String network = "10.5." + RunningApp.unique() % 250 + ".1";
        wrong(3, network);
        assertThat(RunningApp.sql().fetchCount(Tables.RATE_LIMIT)).isGreaterThanOrEqualTo(3);
        assertThat(RunningApp.sql().fetchCount(Tables.RATE_LIMIT, Tables.RATE_LIMIT.EXPIRES_AT.isNull()))
                .as("each says when it may be forgotten")
                .isZero();
        // The library forgets by the time of the machine, which a test does not move.
        int moved = RunningApp.sql()
                .update(Tables.RATE_LIMIT)
                .set(Tables.RATE_LIMIT.EXPIRES_AT, 1L)
                .execute();
        assertThat(RunningApp.bean(Limits.class).forgetFull()).isEqualTo(moved);
        assertThat(tries.wait(account, network)).isZero();
    }

    @Test
    void tries_at_once_are_all_counted() throws Exception {
        var limit = new Limits.Limit("at-once", 50, Duration.ofHours(1));
        Limits limits = RunningApp.bean(Limits.class);
        String who = "crowd" + RunningApp.unique();
        try (var threads = Executors.newFixedThreadPool(8)) {
            for (int i = 0; i < 49; i++) {
                threads.submit(() -> limits.count(limit, who));
            }
        }
        assertThat(limits.wait(limit, who)).isZero();
        limits.count(limit, who);
        assertThat(limits.wait(limit, who)).isEqualTo(Duration.ofHours(1));
    }

    @Test
    void another_network_is_let_in_and_the_right_password_ends_the_wait() {
        String network = "10.2." + RunningApp.unique() % 250 + ".1";
        wrong(20, network);
        assertThat(tries.wait(account, "10.3.0.1").isPositive()).isFalse();
        tries.right(account, network);
        assertThat(tries.wait(account, network).isPositive()).isFalse();
    }

    @Test
    void a_network_that_guesses_at_many_accounts_waits_for_all_of_them() {
        String network = "10.4." + RunningApp.unique() % 250 + ".1";
        for (int i = 0; i < 31; i++) {
            tries.wrong("other" + i + account, network);
        }
        assertThat(tries.wait(account, network)).isPositive();
    }

    @Test
    void of_a_long_network_address_the_first_half_counts() {
        assertThat(SignInTries.network("2001:db8:1:2:3:4:5:6")).isEqualTo("2001:db8:1:2");
        assertThat(SignInTries.network("10.0.0.1")).isEqualTo("10.0.0.1");
    }
}
