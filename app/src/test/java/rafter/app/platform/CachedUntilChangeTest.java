package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class CachedUntilChangeTest {

    private final TicketChanges changes = new TicketChanges();
    private final AtomicInteger made = new AtomicInteger();

    private int get(CachedUntilChange<String, Integer> values, String key) {
        return values.get(key, made::incrementAndGet);
    }

    @Test
    void a_value_is_made_once_while_nothing_changes() {
        var values = new CachedUntilChange<String, Integer>(changes, Duration.ofMinutes(1));
        assertThat(get(values, "a")).isEqualTo(get(values, "a")).isNotEqualTo(get(values, "b"));
    }

    @Test
    void a_change_here_or_elsewhere_makes_it_anew_and_other_news_does_not() {
        var values = new CachedUntilChange<String, Integer>(changes, Duration.ofMinutes(1));
        int first = get(values, "a");
        changes.onNews(new News("writing", 4471));
        assertThat(get(values, "a")).isEqualTo(first);
        changes.onNews(new News("ticket", 4471));
        int second = get(values, "a");
        assertThat(second).isNotEqualTo(first);
        changes.changing();
        assertThat(get(values, "a")).isNotEqualTo(second);
    }

    @Test
    void what_changes_while_it_is_made_makes_it_old_at_once() {
        var values = new CachedUntilChange<String, Integer>(changes, Duration.ofMinutes(1));
        int first = values.get("a", () -> {
            changes.changing();
            return made.incrementAndGet();
        });
        assertThat(get(values, "a")).isNotEqualTo(first);
    }

    @Test
    void it_is_never_older_than_the_longest_while() {
        var values = new CachedUntilChange<String, Integer>(changes, Duration.ZERO);
        assertThat(get(values, "a")).isNotEqualTo(get(values, "a"));
    }
}
