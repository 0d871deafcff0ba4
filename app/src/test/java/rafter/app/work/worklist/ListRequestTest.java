package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** A list stands whole in its address. */
class ListRequestTest {

    private static final OwnField METRES = new OwnField(3, OwnField.Kind.NUMBER);

    private static ListView view(ListView.Scope scope, Shape shape) {
        return new ListView(
                1,
                "berths",
                "Berths",
                "",
                Criteria.everything(),
                scope,
                shape,
                Column.read(""),
                Sorting.read("next-due"),
                Optional.empty(),
                ListView.SeenBy.ME,
                Optional.of(new PersonId(1)),
                Optional.empty(),
                "",
                "",
                0);
    }

    private static Map<String, String> parameters(String query) {
        var all = new LinkedHashMap<String, String>();
        for (String one : query.split("&")) {
            String[] parts = one.split("=", 2);
            all.put(parts[0], URLDecoder.decode(parts[1], StandardCharsets.UTF_8));
        }
        return all;
    }

    static LongStream seeds() {
        return LongStream.range(0, 120);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_an_address_says_is_the_list_that_wrote_it(long seed) {
        var random = new Random(seed);
        ListView view = view(ListView.Scope.OPEN, Shape.values()[random.nextInt(5)]);
        var changed = new LinkedHashMap<String, String>();
        if (random.nextBoolean()) {
            changed.put("shape", Shape.values()[random.nextInt(5)].key());
        }
        if (random.nextBoolean()) {
            changed.put("sort", (random.nextBoolean() ? "-" : "") + order(random) + "," + order(random));
        }
        if (random.nextBoolean()) {
            changed.put(
                    "group",
                    random.nextInt(3) == 0 ? "" : Grouping.values()[random.nextInt(Grouping.values().length)].key());
        }
        if (random.nextBoolean()) {
            changed.put("cols", "subject:" + random.nextInt(1200) + ",number," + METRES.key());
        }
        if (random.nextBoolean()) {
            changed.put("limits", "in-hand:12,new:3");
        }
        if (random.nextBoolean()) {
            changed.put("due", "1000-2000");
        }
        if (random.nextBoolean()) {
            changed.put(
                    "q",
                    "{\"all\":[{\"field\":\"subject\",\"has-any\":[\"a & b=c\",\"日本\"]},{\"field\":\"" + METRES.key()
                            + "\",\"at-least\":[\"2\"]}],\"version\":1}");
        }
        ListRequest asked = ListRequest.read(view, changed);
        ListRequest again = ListRequest.read(view, parameters(asked.query()));
        assertThat(again).isEqualTo(asked);
        assertThat(again.query()).isEqualTo(asked.query());
        assertThat(asked.changed()).isEqualTo(!asked.equals(ListRequest.of(view)) && !onlyBrushed(asked, view));
    }

    private static boolean onlyBrushed(ListRequest asked, ListView view) {
        return ListRequest.read(
                        view,
                        Map.of(
                                "due",
                                asked.due().map(ListRequest.Stretch::written).orElse("")))
                .equals(asked);
    }

    private static String order(Random random) {
        return random.nextInt(5) == 0
                ? METRES.key()
                : KnownColumn.values()[random.nextInt(KnownColumn.values().length)].key();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "q|nonsense",
                "q|{\"field\":\"nothing\",\"is\":[\"x\"],\"version\":1}",
                "q|{\"field\":\"age\",\"at-least\":[\"soon\"],\"version\":1}",
                "shape|pie",
                "sort|luck",
                "due|1-",
                "due|yesterday"
            })
    void what_cannot_be_read_changes_nothing(String name, String value) {
        ListView view = view(ListView.Scope.OPEN, Shape.CARDS);
        assertThat(ListRequest.read(view, Map.of(name, value))).isEqualTo(ListRequest.of(view));
    }

    @Test
    void an_order_is_turned_round_by_asking_for_it_again() {
        ListRequest asked = ListRequest.of(view(ListView.Scope.OPEN, Shape.GRID));
        String once = asked.sortedBy(KnownColumn.AGE);
        ListRequest byAge = ListRequest.read(asked.view(), parameters(once));
        assertThat(byAge.sorting()).containsExactly(new Sorting(KnownColumn.AGE, false));
        ListRequest turned = ListRequest.read(asked.view(), parameters(byAge.sortedBy(KnownColumn.AGE)));
        assertThat(turned.sorting()).containsExactly(new Sorting(KnownColumn.AGE, true));
        assertThat(turned.mark(KnownColumn.AGE)).isEqualTo(" ↑");
        ListRequest second = ListRequest.read(asked.view(), parameters(turned.thenBy(KnownColumn.OWNER)));
        assertThat(second.sorting())
                .containsExactly(new Sorting(KnownColumn.AGE, true), new Sorting(KnownColumn.OWNER, false));
        assertThat(second.mark(KnownColumn.OWNER)).isEqualTo(" ↓2");
        assertThat(second.descents()).isEqualTo("1,0");
    }

    @Test
    void a_parted_list_is_walked_by_its_parts_first_and_lanes_are_not() {
        ListRequest parted =
                ListRequest.read(view(ListView.Scope.OPEN, Shape.LINES), Map.of("group", "team", "sort", "team,-age"));
        assertThat(parted.walked())
                .containsExactly(new Sorting(KnownColumn.TEAM_NAME, false), new Sorting(KnownColumn.AGE, true));
        ListRequest lanes =
                ListRequest.read(view(ListView.Scope.OPEN, Shape.LANES), Map.of("group", "team", "sort", "-age"));
        assertThat(lanes.walked()).containsExactly(new Sorting(KnownColumn.AGE, true));
    }

    @Test
    void limits_are_those_of_their_lane() {
        ListRequest asked = ListRequest.read(
                view(ListView.Scope.OPEN, Shape.LANES), Map.of("limits", "in-hand:12,freight:slots:3,:5,new:many"));
        assertThat(asked.limit("in-hand")).hasValue(12);
        assertThat(asked.limit("freight:slots"))
                .as("a topic may have a colon in it")
                .hasValue(3);
        assertThat(asked.limit("new")).isEmpty();
        assertThat(asked.limit("")).isEmpty();
        ListRequest byTopic = ListRequest.read(
                view(ListView.Scope.OPEN, Shape.LANES),
                Map.of("group", "topic", "limits", "topic/:7,topic/lost%2C+found:2,state/new:1"));
        assertThat(byTopic.limit("")).as("a lane of what has none").hasValue(7);
        assertThat(byTopic.limit("lost, found"))
                .as("a topic may have a comma in it")
                .hasValue(2);
        assertThat(byTopic.limit("new")).as("that is the limit of a state").isEmpty();
    }

    // ------------------------------------------------------------------ names of orders, columns and places

    @Test
    void no_two_orders_and_no_two_columns_have_the_same_name_in_an_address() {
        assertThat(Arrays.stream(KnownColumn.values()).map(KnownColumn::sortKey))
                .doesNotHaveDuplicates();
        assertThat(Arrays.stream(KnownColumn.values()).map(KnownColumn::key)).doesNotHaveDuplicates();
        assertThat(Arrays.stream(KnownColumn.values()))
                .allMatch(order -> Order.of(order.sortKey()).equals(Optional.of(order)));
        assertThat(Arrays.stream(OwnField.Kind.values()).map(kind -> new OwnField(8, kind)))
                .allMatch(field -> Order.of(field.key()).equals(Optional.of(new OwnOrder(field))));
    }

    @Test
    void every_column_orders_the_list_by_what_it_shows() {
        assertThat(Arrays.stream(KnownColumn.values()).map(KnownColumn::order)).doesNotHaveDuplicates();
        assertThat(new Column.Own(METRES).order()).isEqualTo(new OwnOrder(METRES));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "x", "!!!", "W10", "eyJhIjoxfQ", "WyJtYW55IixbXV0", "WyIxIl0", "WyIxIixbIm5vIHRpbWUiXV0"})
    void a_place_that_somebody_made_up_is_none(String written) {
        assertThat(Cursor.read(written, Sorting.read("next-due"))).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "next-due,2027-03-01T09:00:00.123456Z",
        "number,4471",
        "messages,12",
        "subject,' a | b \u0000 c '",
        "own-3-number,-12.5",
        "own-4-text,'日本'"
    })
    void a_place_is_read_again_as_it_was_written(String sort, String value) {
        var cursor = new Cursor(List.of(Optional.of(value)), new TicketNumber(4471));
        assertThat(Cursor.read(cursor.written(), Sorting.read(sort))).hasValue(cursor);
        assertThat(Cursor.read(cursor.written(), Sorting.read(sort + ",age")))
                .as("of another list")
                .isEmpty();
    }

    @Test
    void a_ticket_that_lacks_a_value_has_a_place_only_where_values_may_lack() {
        var lacking = new Cursor(List.of(Optional.empty()), new TicketNumber(7));
        var readable = new ArrayList<String>();
        for (KnownColumn order : KnownColumn.values()) {
            if (Cursor.read(lacking.written(), List.of(new Sorting(order, false)))
                    .isPresent()) {
                readable.add(order.sortKey());
            }
        }
        assertThat(readable)
                .containsExactlyInAnyOrder(
                        "next-due", "last-customer", "comes-back", "company", "plan", "owner", "team", "topic", "tags");
    }

    @Test
    void a_question_about_the_reader_makes_a_list_personal() {
        assertThat(rafter.core.criteria.Asking.personal(Criteria.test(KnownField.OWNER, Operator.IS, "me")))
                .isTrue();
        assertThat(rafter.core.criteria.Asking.personal(
                        new Criteria.Not(Criteria.test(KnownField.TEAM, Operator.IS, "mine"))))
                .isTrue();
        assertThat(rafter.core.criteria.Asking.personal(Criteria.test(KnownField.OWNER, Operator.IS, "7")))
                .isFalse();
        assertThat(rafter.core.criteria.Asking.personal(Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "me")))
                .isFalse();
    }
}
