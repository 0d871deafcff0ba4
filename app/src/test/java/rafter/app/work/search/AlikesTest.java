package rafter.app.work.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.house.access.Reach;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Work;

/** Tickets look alike by the rare words of their subjects and of how they were resolved, and say which words these are. */
@ExtendWith(RunningApp.class)
class AlikesTest {

    private final Alikes alikes = bean(Alikes.class);
    private final int nth = unique();

    @AfterEach
    void everybody_sees_everything_again() {
        RunningApp.reach(odile(), new Reach.Everything());
    }

    private TicketNumber mailed(String subject) {
        int one = unique();
        String raw = "From: Somebody <s" + one + "@alike" + one + ".example>\nMessage-ID: <al" + one
                + "@post.example>\nSubject: " + subject + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private String rare(String word) {
        return word
                + Integer.toString(nth, 26)
                        .chars()
                        .map(c -> Character.isDigit(c) ? c - '0' + 'k' : c)
                        .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append);
    }

    @Test
    void what_shares_the_rare_words_is_found_with_how_it_ended_and_nothing_else() {
        TicketNumber earlier = mailed("The " + rare("gangway") + " " + rare("sensor") + " fails");
        bean(Acts.class)
                .perform(
                        earlier,
                        new Act.Conclude(new Work.Resolution("Salt in the plug", "Plug renewed", "corrosion")),
                        imani());
        mailed("Something quite different " + rare("altogether"));
        TicketNumber now = mailed("Again the " + rare("gangway") + " " + rare("sensor"));
        assertThat(alikes.to(now, odile())).hasSize(1).first().satisfies(one -> {
            assertThat(one.number()).isEqualTo(earlier);
            assertThat(one.done()).isEqualTo("Plug renewed");
            assertThat(one.cause()).isEqualTo("corrosion");
            assertThat(one.words()).contains(rare("gangway"), rare("sensor"));
        });
    }

    @Test
    void words_of_how_another_was_resolved_count_too() {
        TicketNumber earlier = mailed("Help " + rare("please"));
        bean(Acts.class)
                .perform(
                        earlier,
                        new Act.Conclude(new Work.Resolution(rare("winch") + " " + rare("jammed"), "Greased", "")),
                        imani());
        TicketNumber now = mailed(rare("winch") + " " + rare("jammed"));
        assertThat(alikes.to(now, odile())).extracting(Alikes.Found::number).containsExactly(earlier);
    }

    @Test
    void what_is_in_the_bin_or_out_of_reach_is_not_told() {
        TicketNumber earlier = mailed(rare("tiller") + " " + rare("cracked"));
        TicketNumber now = mailed(rare("tiller") + " " + rare("cracked") + " again");
        assertThat(alikes.to(now, odile())).hasSize(1);
        bean(Acts.class).perform(earlier, new Act.Delete(), RunningApp.ravi());
        assertThat(alikes.to(now, odile())).isEmpty();
        RunningApp.reach(odile(), new Reach.Teams(Set.of()));
        assertThatThrownBy(() -> alikes.to(now, odile())).isInstanceOf(Problem.NotFound.class);
    }

    @Test
    void a_subject_without_words_is_like_nothing() {
        assertThat(alikes.to(mailed("?? 4471"), odile())).isEmpty();
    }
}
