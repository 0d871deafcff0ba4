package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** What a page missed between being made and listening. */
class RecentNewsTest {

    private final RecentNews recent = new RecentNews();

    private static News ticket(long number) {
        return new News("ticket", number);
    }

    @Test
    void what_came_after_a_mark_is_known_each_thing_once_and_in_its_order() {
        recent.heard(ticket(1));
        String mark = recent.mark();
        assertThat(recent.since(mark))
                .hasValueSatisfying(none -> assertThat(none).isEmpty());
        recent.heard(ticket(3));
        recent.heard(ticket(2));
        recent.heard(ticket(3));
        assertThat(recent.since(mark))
                .hasValueSatisfying(missed -> assertThat(missed).containsExactly(ticket(3), ticket(2)));
    }

    @Test
    void what_concerns_the_nodes_alone_is_not_for_pages() {
        String mark = recent.mark();
        assertThat(recent.heard(new News("sessions", 7))).isFalse();
        assertThat(recent.heard(new News("mail", 0))).isFalse();
        assertThat(recent.heard(ticket(1))).isTrue();
        assertThat(recent.since(mark))
                .hasValueSatisfying(missed -> assertThat(missed).containsExactly(ticket(1)));
    }

    @Test
    void a_mark_that_is_too_old_or_of_another_node_or_none_says_nothing() {
        String old = recent.mark();
        for (int i = 0; i < 1_000; i++) {
            recent.heard(ticket(i));
        }
        assertThat(recent.since(old))
                .hasValueSatisfying(missed -> assertThat(missed).hasSize(1_000));
        recent.heard(ticket(1_000));
        assertThat(recent.since(old)).isEmpty();
        String ahead = recent.mark().replaceAll("\\d+$", "1002");
        assertThat(recent.since(ahead)).isEmpty();
        assertThat(recent.since(new RecentNews().mark())).isEmpty();
        assertThat(recent.since("")).isEmpty();
        assertThat(recent.since(recent.mark() + "9999999999999999999")).isEmpty();
    }
}
