package rafter.core.social;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

class PostTest {

    private static final Instant AT = Instant.parse("2027-03-01T10:00:00Z");
    private static final PostEvent.Written WRITTEN = new PostEvent.Written("1", AT, "@noor", "Late again");

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static PostEvent edited(int minute, String text) {
        return new PostEvent.Edited("e" + minute, AT.plusSeconds(60L * minute), text);
    }

    @Test
    void an_edit_keeps_what_was_there_before() {
        Post post = Post.of(List.of(WRITTEN, edited(2, "Late again, as ever"))).orElseThrow();
        assertThat(post.edited()).isTrue();
        assertThat(post.text(false)).contains("Late again, as ever");
        assertThat(post.versions()).extracting(Post.Version::text).containsExactly("Late again", "Late again, as ever");
        assertThat(post.author()).isEqualTo("@noor");
    }

    @Test
    void of_a_deleted_post_the_mark_stays_and_its_text_where_the_workspace_keeps_it() {
        Post post = Post.of(List.of(new PostEvent.Deleted("d", AT.plusSeconds(9)), WRITTEN))
                .orElseThrow();
        assertThat(post.deletedAt()).contains(AT.plusSeconds(9));
        assertThat(post.text(false)).isEmpty();
        assertThat(post.text(true)).contains("Late again");
    }

    @Test
    void what_is_told_before_it_was_written_waits_for_that() {
        assertThat(Post.of(List.of(edited(2, "x"), new PostEvent.Liked("l", AT, 4))))
                .isEmpty();
    }

    @Test
    void an_edit_that_changes_nothing_is_none_and_the_last_count_of_likes_holds() {
        Post post = Post.of(List.of(
                        WRITTEN,
                        edited(1, "Late again"),
                        new PostEvent.Liked("l2", AT.plusSeconds(20), 9),
                        new PostEvent.Liked("l1", AT.plusSeconds(10), 30)))
                .orElseThrow();
        assertThat(post.edited()).isFalse();
        assertThat(post.likes()).isEqualTo(9);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void late_twice_and_in_any_order_comes_to_the_same(long seed) {
        var random = new Random(seed);
        var told = new ArrayList<PostEvent>();
        told.add(WRITTEN);
        for (int i = 0; i < 8; i++) {
            Instant at = AT.plusSeconds(1 + random.nextInt(5));
            told.add(
                    switch (random.nextInt(3)) {
                        case 0 -> new PostEvent.Edited("x" + i, at, "Text " + random.nextInt(3));
                        case 1 -> new PostEvent.Liked("x" + i, at, random.nextInt(100));
                        default -> new PostEvent.Deleted("x" + i, at);
                    });
        }
        Post once = Post.of(told).orElseThrow();
        var again = new ArrayList<>(told);
        again.addAll(told.subList(0, random.nextInt(told.size())));
        Collections.shuffle(again, random);
        assertThat(Post.of(again)).contains(once);
    }
}
