package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.core.io.ClassPathResource;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.ChannelNames;
import rafter.app.platform.Problem;

@ExtendWith(RunningApp.class)
class ViewsTest {

    private final Views views = bean(Views.class);

    private ListRequest lines() {
        return ListRequest.read(
                views.get("open", imani()), Map.of("shape", "lines", "sort", "priority,-age", "group", "team"));
    }

    private ListView keep(ListView.SeenBy seenBy, Viewer by) {
        return views.add(lines(), new Views.Named("View " + unique(), "", seenBy, Optional.empty(), "LEAD"), by);
    }

    private List<String> visible(Viewer person) {
        return views.visible(person).stream().map(ListView::key).toList();
    }

    @Test
    void what_is_kept_comes_back_as_it_was_shown() {
        ListView kept = keep(ListView.SeenBy.ME, imani());
        assertThat(ListRequest.of(kept).shape()).isEqualTo(Shape.LINES);
        assertThat(kept.sorting()).isEqualTo(Sorting.read("priority,-age"));
        assertThat(kept.grouping()).hasValue(Grouping.TEAM);
        assertThat(ListRequest.of(kept).changed()).isFalse();
        assertThat(views.pinned(imani())).extracting(ListView::key).contains(kept.key());
        views.delete(kept, imani());
    }

    @Test
    void each_channel_has_a_mark_of_its_own_in_a_list() throws IOException {
        var shapes = new ClassPathResource("templates/platform/shapes.html").getContentAsString(StandardCharsets.UTF_8);
        assertThat(bean(ChannelNames.class).channelNames().keySet())
                .isNotEmpty()
                .allSatisfy(key -> assertThat(shapes).contains("id=\"i-" + key + "\""));
    }

    @Test
    void a_view_is_seen_by_those_it_is_shared_with_and_nobody_else() {
        ListView mine = keep(ListView.SeenBy.ME, imani());
        ListView leads = keep(ListView.SeenBy.ROLE, odile());
        ListView all = keep(ListView.SeenBy.EVERYONE, odile());
        assertThat(visible(sefa())).doesNotContain(mine.key(), leads.key()).contains(all.key());
        assertThat(visible(odile())).contains(leads.key(), all.key()).doesNotContain(mine.key());
        assertThatThrownBy(() -> views.get(mine.key(), sefa())).isInstanceOf(Problem.NotFound.class);
        assertThatThrownBy(() -> views.delete(all, sefa())).isInstanceOf(Problem.NoRight.class);
        List.of(leads, all).forEach(view -> views.delete(view, odile()));
        views.delete(mine, imani());
    }

    @Test
    void who_has_a_view_among_their_tabs_keeps_a_copy_when_it_goes() {
        ListView shared = keep(ListView.SeenBy.EVERYONE, odile());
        views.pin(shared, true, sefa());
        assertThat(views.usedBy(shared, odile())).containsExactly("Sefa Tui");
        assertThat(views.delete(shared, odile())).isEqualTo(1);
        ListView copy = views.pinned(sefa()).stream()
                .filter(v -> v.title().equals(shared.title()))
                .findFirst()
                .orElseThrow();
        assertThat(copy.owner()).hasValue(sefa().id());
        assertThat(copy.sorting()).isEqualTo(shared.sorting());
        assertThat(visible(odile())).doesNotContain(shared.key());
        views.delete(copy, sefa());
    }

    @Test
    void a_deleted_view_comes_back_to_all_who_had_it_but_not_over_a_copy_that_was_changed() {
        ListView shared = keep(ListView.SeenBy.EVERYONE, odile());
        views.pin(shared, true, sefa());
        views.pin(shared, true, imani());
        views.delete(shared, odile());
        assertThat(views.haveCopies(shared)).containsExactly("Imani Okoro", "Sefa Tui");
        ListView changed = views.pinned(imani()).stream()
                .filter(v -> v.title().equals(shared.title()))
                .findFirst()
                .orElseThrow();
        views.rename(
                changed,
                new Views.Named("My own now", "", ListView.SeenBy.ME, Optional.empty(), ""),
                changed.version(),
                imani());
        assertThatThrownBy(() -> views.bringBack(shared.key(), sefa()))
                .as("somebody else's")
                .isInstanceOf(Problem.NotFound.class);
        views.bringBack(shared.key(), odile());
        assertThat(views.pinned(odile())).extracting(ListView::key).contains(shared.key());
        assertThat(views.pinned(sefa())).extracting(ListView::key).contains(shared.key());
        assertThat(visible(sefa()))
                .as("their copy goes")
                .hasSameSizeAs(visible(sefa()).stream().distinct().toList());
        assertThat(views.pinned(imani())).extracting(ListView::title).contains("My own now");
        assertThatThrownBy(() -> views.bringBack(shared.key(), odile()))
                .as("a second time")
                .isInstanceOf(Problem.NotFound.class);
        views.delete(views.get(shared.key(), odile()), odile());
        views.delete(views.get(changed.key(), imani()), imani());
    }

    @Test
    void a_view_is_renamed_and_shared_without_changing_what_it_lists() {
        ListView view = keep(ListView.SeenBy.ME, odile());
        views.rename(
                view,
                new Views.Named("Other words", "for all", ListView.SeenBy.EVERYONE, Optional.empty(), ""),
                view.version(),
                odile());
        ListView now = views.get(view.key(), sefa());
        assertThat(now.title()).isEqualTo("Other words");
        assertThat(now.criteria()).isEqualTo(view.criteria());
        assertThat(now.sorting()).isEqualTo(view.sorting());
        assertThat(now.columns()).isEqualTo(view.columns());
        views.delete(now, odile());
    }

    @Test
    void a_view_that_somebody_changed_meanwhile_is_not_kept_over() {
        ListView view = keep(ListView.SeenBy.ME, imani());
        var named = new Views.Named("Another name", "", ListView.SeenBy.ME, Optional.empty(), "");
        views.keep(ListRequest.of(view), named, view.version(), imani());
        assertThatThrownBy(() -> views.keep(ListRequest.of(view), named, view.version(), imani()))
                .isInstanceOf(Problem.Stale.class);
        assertThat(views.get(view.key(), imani()).title()).isEqualTo("Another name");
        views.delete(view, imani());
    }

    @Test
    void what_ships_stays_as_it_is_and_agents_do_not_share_with_everyone() {
        ListView open = views.get("open", odile());
        assertThatThrownBy(() -> views.delete(open, odile())).isInstanceOf(Problem.NoRight.class);
        assertThatThrownBy(() -> keep(ListView.SeenBy.EVERYONE, imani())).isInstanceOf(Problem.NoRight.class);
        var nameless = new Views.Named(" ", "", ListView.SeenBy.ME, Optional.empty(), "");
        assertThatThrownBy(() -> views.add(lines(), nameless, imani())).isInstanceOf(Problem.Invalid.class);
        assertThat(visible(imani())).as("the bin is for administrators").doesNotContain("bin");
    }

    @ParameterizedTest
    @CsvSource({
        "'number,subject:400', 'number,subject:400'",
        "'subject:5', 'subject:48'",
        "'subject:9999', 'subject:900'",
        "'number,number', 'number'",
        "'tags,beauty', 'tags'"
    })
    void columns_are_read_with_their_widths_within_bounds_and_each_once(String written, String read) {
        assertThat(Column.written(Column.read(written))).isEqualTo(read);
    }

    @ParameterizedTest
    @CsvSource({
        "'priority,-age', 'priority,-age'",
        "'age,age', 'age'",
        "'age,priority,number', 'age,priority'",
        "'beauty,-owner', '-owner'"
    })
    void of_orders_the_first_two_known_ones_count(String written, String read) {
        assertThat(Sorting.written(Sorting.read(written))).isEqualTo(read);
    }

    @Test
    void what_is_over_is_not_shown_in_lanes() {
        assertThat(ListRequest.read(views.get("closed", imani()), Map.of("shape", "lanes"))
                        .shape())
                .isEqualTo(Shape.CARDS);
        assertThat(ListRequest.read(views.get("open", imani()), Map.of("shape", "lanes", "limits", "new:3"))
                        .limit("new"))
                .hasValue(3);
    }

    @Test
    void whoever_loses_the_only_tab_stands_on_those_that_ship() {
        ListView shared = keep(ListView.SeenBy.ROLE, odile());
        List<ListView> before = views.pinned(odile());
        before.stream().filter(view -> view.id() != shared.id()).forEach(view -> views.pin(view, false, odile()));
        assertThat(views.pinned(odile())).extracting(ListView::key).containsExactly(shared.key());
        RunningApp.sql()
                .update(rafter.database.Tables.LIST_VIEW)
                .set(rafter.database.Tables.LIST_VIEW.ROLE, "AGENT")
                .set(rafter.database.Tables.LIST_VIEW.PERSON_ID, sefa().id())
                .where(rafter.database.Tables.LIST_VIEW.ID.eq(shared.id()))
                .execute();
        assertThat(views.pinned(odile())).isNotEmpty().allMatch(ListView::shipped);
        views.pinned(odile()).forEach(view -> views.pin(view, true, odile()));
    }
}
