package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;

/** Lanes are drawn as a screen shows them; the rest comes by scrolling, each once and in its place. */
@ExtendWith(RunningApp.class)
class LaneRunTest {

    private static final List<String> ALL =
            IntStream.rangeClosed(1, 41).mapToObj(n -> "p" + n).toList();

    private static ListRequest list(String shape, String group) {
        return ListRequest.read(bean(Views.class).get("open", imani()), Map.of("shape", shape, "group", group));
    }

    @Test
    void run_after_run_gives_each_lane_once() {
        for (Shape shape : List.of(Shape.LANES, Shape.CLOCK)) {
            var met = new ArrayList<String>();
            Optional<String> further;
            do {
                Map<String, String> asked = met.isEmpty() ? Map.of() : Map.of("after-lane", met.getLast());
                List<String> drawn = LaneRun.read(shape, asked).of(ALL);
                assertThat(drawn).hasSizeBetween(1, 16);
                met.addAll(drawn);
                further = LaneRun.further(drawn, ALL);
            } while (further.isPresent());
            assertThat(met).isEqualTo(ALL);
        }
    }

    @Test
    void as_many_come_again_as_a_reader_has_and_never_fewer_than_at_first() {
        assertThat(LaneRun.read(Shape.CLOCK, Map.of("lanes", "32")).of(ALL)).hasSize(32);
        assertThat(LaneRun.read(Shape.CLOCK, Map.of("lanes", "all")).of(ALL)).isEqualTo(ALL);
        int first = LaneRun.read(Shape.CLOCK, Map.of()).of(ALL).size();
        for (String odd : List.of("", "0", "3", "-5", "1e9", "999999999999", "many")) {
            assertThat(LaneRun.read(Shape.CLOCK, Map.of("lanes", odd)).of(ALL))
                    .as(odd)
                    .hasSize(first);
        }
    }

    @Test
    void after_a_lane_that_is_gone_it_begins_anew_and_nothing_comes_after_the_last() {
        assertThat(LaneRun.read(Shape.LANES, Map.of("after-lane", "p99")).of(ALL))
                .startsWith("p1");
        assertThat(LaneRun.read(Shape.LANES, Map.of("after-lane", "p41")).of(ALL))
                .isEmpty();
        assertThat(LaneRun.further(List.of(), ALL)).isEmpty();
        assertThat(LaneRun.further(List.of(), List.of())).isEmpty();
    }

    @Test
    void lanes_that_come_later_are_those_of_the_whole_and_the_clock_tells_of_all_from_the_beginning() {
        var lanes = bean(Lanes.class);
        for (String group : List.of("state", "owner", "holder")) {
            ListRequest asked = list(group.equals("holder") ? "clock" : "lanes", group);
            var met = new ArrayList<String>();
            var texts = new ArrayList<String>();
            Optional<String> after = Optional.empty();
            do {
                var run = new LaneRun(after, 2);
                if (asked.shape() == Shape.CLOCK) {
                    ClockLanes drawn = lanes.clock(asked, run, imani());
                    drawn.lanes().forEach(lane -> met.add(lane.holder().key()));
                    texts.add(drawn.text());
                    after = drawn.further();
                } else {
                    Lanes.Row drawn = lanes.of(asked, run, imani());
                    drawn.lanes().forEach(lane -> met.add(lane.key()));
                    after = drawn.further();
                }
            } while (after.isPresent());
            var every = new LaneRun(Optional.empty(), LaneRun.MOST_LANES);
            List<String> whole = asked.shape() == Shape.CLOCK
                    ? lanes.clock(asked, every, imani()).lanes().stream()
                            .map(lane -> lane.holder().key())
                            .toList()
                    : lanes.of(asked, every, imani()).lanes().stream()
                            .map(Lanes.Lane::key)
                            .toList();
            assertThat(met).hasSizeGreaterThan(2).isEqualTo(whole);
            assertThat(texts).allMatch(text -> text.contains(" in " + whole.size() + " lanes"));
        }
    }
}
