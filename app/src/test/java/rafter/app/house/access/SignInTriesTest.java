package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;

import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;

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
    void each_further_wrong_try_costs_twice_the_wait_up_to_a_minute() {
        String network = "10.1." + RunningApp.unique() % 250 + ".1";
        wrong(4, network);
        assertThat(tries.wait(account, network).isPositive()).isFalse();
        wrong(1, network);
        assertThat(tries.wait(account, network)).isEqualTo(Duration.ofSeconds(1));
        wrong(3, network);
        assertThat(tries.wait(account.toUpperCase(), network)).isEqualTo(Duration.ofSeconds(8));
        wrong(9, network);
        assertThat(tries.wait(account, network)).isEqualTo(Duration.ofMinutes(1));
        clock().tick(Duration.ofMinutes(16));
        assertThat(tries.wait(account, network).isPositive()).isFalse();
        clock().set(RunningApp.MONDAY);
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
