package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.TICKET;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;

@ExtendWith(RunningApp.class)
class WorklistTest {

    private static final List<TicketNumber> MINE = new ArrayList<>();
    private static final LaneRun EVERY = new LaneRun(Optional.empty(), LaneRun.MOST_LANES);

    @BeforeAll
    static void tickets_of_all_kinds() {
        bean(Persons.class).addTeam("Quay " + unique(), RunningApp.ravi().id());
        Tickets tickets = bean(Tickets.class);
        for (int i = 0; i < 40; i++) {
            int nth = unique();
            String raw = "From: w" + nth + "@post.example\nMessage-ID: <w" + nth + "@post.example>\nSubject: List "
                    + nth + "\n\nHello " + nth;
            TicketNumber number = RunningApp.ticketOf(
                    RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
            MINE.add(number);
            bean(Acts.class).perform(number, new Act.SetPriority(Priority.values()[i % 4]), imani());
            if (i % 3 > 0) {
                bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
            }
            if (i % 5 == 0) {
                bean(Acts.class)
                        .perform(
                                number,
                                new Act.MoveTo(TicketState.shipped().get(i % 6).key()),
                                imani());
            }
        }
    }

    private static ListRequest list(String view, String sort, String group) {
        var parameters = new java.util.HashMap<String, String>();
        parameters.put("sort", sort);
        parameters.put("group", group);
        return ListRequest.read(bean(Views.class).get(view, imani()), parameters);
    }

    private static ListRequest list(String view) {
        return ListRequest.of(bean(Views.class).get(view, imani()));
    }

    private static List<WorklistStore.TicketRow> first(ListRequest asked, int size) {
        return bean(WorklistStore.class)
                .page(bean(Worklist.class).among(asked, imani()), asked.walked(), Optional.empty(), size);
    }

    static Stream<Arguments> lists() {
        var all = new ArrayList<Arguments>();
        for (String view : List.of("my-turn", "unowned", "open", "closed", "soon", "waiting")) {
            for (Order order : KnownColumn.values()) {
                all.add(Arguments.of(view, order.sortKey(), ""));
                all.add(Arguments.of(view, "-" + order.sortKey(), ""));
            }
        }
        all.add(Arguments.of("open", "priority,-age", ""));
        all.add(Arguments.of("open", "-owner,next-due", ""));
        all.add(Arguments.of("open", "team,-last-customer", ""));
        Stream.of(Grouping.values()).forEach(g -> all.add(Arguments.of("open", "-age", g.key())));
        return all.stream();
    }

    @Test
    void how_many_a_list_has_is_kept_for_that_list_and_that_reader_alone() {
        Worklist worklist = bean(Worklist.class);
        Viewer sefa = RunningApp.sefa();
        for (String view : List.of("my-turn", "open", "closed", "unowned")) {
            for (Viewer reader : List.of(imani(), sefa, imani())) {
                assertThat(worklist.total(list(view), Map.of(), reader).count())
                        .as("%s of %s", view, reader.person().name())
                        .isEqualTo(worklist.total(list(view), reader).count());
            }
        }
        assertThat(worklist.total(list("my-turn"), Map.of(), imani()).count())
                .isGreaterThan(worklist.total(list("my-turn"), Map.of(), sefa).count());
    }

    @ParameterizedTest
    @MethodSource("lists")
    void walking_the_pages_meets_every_ticket_of_the_list_once_and_backwards_in_the_same_order(
            String view, String sort, String group) {
        ListRequest asked = list(view, sort, group);
        var store = bean(WorklistStore.class);
        WorklistStore.Selection among = bean(Worklist.class).among(asked, imani());
        List<TicketNumber> seen = walk(asked, after -> store.page(among, asked.walked(), after, 37), false);
        assertThat(seen)
                .hasSize(bean(Worklist.class).total(asked, imani()).count())
                .doesNotHaveDuplicates();
        assertThat(walk(asked, before -> store.before(among, asked.walked(), before, 41), true))
                .isEqualTo(seen);
    }

    private static List<TicketNumber> walk(
            ListRequest asked, Function<Optional<Cursor>, List<WorklistStore.TicketRow>> pages, boolean backwards) {
        var seen = new LinkedList<TicketNumber>();
        Optional<Cursor> from = Optional.empty();
        List<WorklistStore.TicketRow> page;
        do {
            page = pages.apply(from);
            List<TicketNumber> numbers =
                    page.stream().map(WorklistStore.TicketRow::number).toList();
            seen.addAll(backwards ? 0 : seen.size(), numbers);
            from = page.isEmpty()
                    ? from
                    : Cursor.read(
                            (backwards ? page.getFirst() : page.getLast())
                                    .cursor()
                                    .written(),
                            asked.walked());
            assertThat(from).as("a cursor can be read again").isPresent();
        } while (!page.isEmpty());
        return new ArrayList<>(seen);
    }

    @Test
    void what_changes_while_a_list_is_walked_is_shown_at_most_once_and_what_stays_is_never_skipped() {
        ListRequest asked = list("open", "next-due", "");
        var store = bean(WorklistStore.class);
        WorklistStore.Selection among = bean(Worklist.class).among(asked, imani());
        List<TicketNumber> steady = MINE.subList(0, 20);
        var seen = new ArrayList<TicketNumber>();
        Optional<Cursor> after = Optional.empty();
        List<WorklistStore.TicketRow> page;
        int turn = 20;
        do {
            page = store.page(among, asked.walked(), after, 9);
            page.forEach(row -> seen.add(row.number()));
            after = page.isEmpty() ? after : Optional.of(page.getLast().cursor());
            if (turn < MINE.size()) {
                bean(Acts.class).perform(MINE.get(turn++), new Act.MoveTo(TicketState.RESOLVED.key()), imani());
            }
        } while (!page.isEmpty());
        List<TicketNumber> stayed = steady.stream()
                .filter(n -> store.those(among, asked.walked(), List.of(n)).size() == 1)
                .toList();
        assertThat(seen).doesNotHaveDuplicates().containsAll(stayed);
    }

    @Test
    void orders_run_as_they_say_and_what_is_lacking_comes_last_either_way() {
        var dues = first(list("open", "next-due", ""), 500).stream()
                .map(row -> row.nextDue().orElse(Instant.MAX))
                .toList();
        assertThat(dues).isSorted();
        var down = first(list("open", "-next-due", ""), 500).stream()
                .map(row -> row.nextDue().orElse(Instant.MIN))
                .toList();
        assertThat(down).isSortedAccordingTo(java.util.Comparator.reverseOrder());
        var two = first(list("open", "priority,-number", ""), 500);
        for (int i = 1; i < two.size(); i++) {
            int by = two.get(i - 1).priority().compareTo(two.get(i).priority());
            assertThat(by < 0
                            || by == 0
                                    && two.get(i - 1)
                                                    .number()
                                                    .compareTo(two.get(i).number())
                                            > 0)
                    .isTrue();
        }
    }

    @Test
    void a_parted_list_counts_its_groups_and_lanes_hold_all_tickets() {
        for (Grouping grouping : Grouping.values()) {
            ListRequest asked = list("open", "", grouping.key());
            int total = bean(Worklist.class).total(asked, imani()).count();
            Worklist.Page page = bean(Worklist.class).page(asked, imani(), Optional.empty(), 300);
            assertThat(page.groups().values().stream().mapToInt(n -> n).sum()).isEqualTo(total);
            assertThat(page.cards()).allMatch(card -> page.groups().containsKey(card.group()));
            assertThat(bean(Lanes.class).of(asked, EVERY, imani()).lanes().stream()
                            .mapToInt(Lanes.Lane::total)
                            .sum())
                    .isEqualTo(total);
        }
    }

    @Test
    void the_clock_gives_every_person_and_team_a_lane_and_says_how_many_have_no_room() {
        ListRequest asked = ListRequest.read(
                bean(Views.class).get("open", imani()),
                Map.of("shape", "clock", "limits", "holder/p" + imani().id() + ":0,holder/:0"));
        int total = bean(Worklist.class).total(list("open"), imani()).count();
        for (ListRequest by :
                List.of(asked, ListRequest.read(asked.view(), Map.of("shape", "clock", "group", "team")))) {
            ClockLanes lanes = bean(Lanes.class).clock(by, EVERY, imani());
            assertThat(lanes.lanes())
                    .allMatch(lane -> lane.marks().size() + lane.more()
                            == lane.holder().size().total());
            assertThat(lanes.lanes().stream()
                            .mapToInt(lane -> lane.holder().size().total())
                            .sum())
                    .isEqualTo(total);
            int late = RunningApp.sql()
                    .fetchCount(TICKET, DSL.condition(TICKET.OPEN).and(TICKET.NEXT_DUE.le(clock().instant())));
            assertThat(lanes.lanes().stream()
                            .mapToInt(lane -> lane.holder().size().late())
                            .sum())
                    .as("those that are not drawn are counted, too")
                    .isEqualTo(late);
        }
        String team = bean(Persons.class).teams().getFirst().name();
        List<ClockLanes.Lane> lanes =
                bean(Lanes.class).clock(asked, EVERY, imani()).lanes();
        assertThat(lanes)
                .extracting(lane -> lane.holder().title())
                .contains("Unowned, no team", "Imani Okoro", "Sefa Tui", team);
        assertThat(lanes)
                .filteredOn(lane -> lane.holder().key().equals("p" + imani().id()))
                .allMatch(
                        lane -> lane.holder().tooMany() == lane.holder().size().total());
        assertThat(lanes)
                .filteredOn(lane -> lane.holder().key().isEmpty())
                .allMatch(lane -> lane.holder().limit().equals(Optional.of(0)));
        assertThat(lanes)
                .filteredOn(lane -> lane.holder().title().equals(team))
                .allMatch(lane -> lane.holder().drop().field().equals("team"));
    }

    @Test
    void groups_stand_in_the_order_of_their_meaning() {
        for (Map.Entry<String, List<String>> by : Map.of(
                        "state",
                                bean(TicketStates.class).all().stream()
                                        .map(TicketState::name)
                                        .toList(),
                        "turn", List.of("Our turn", "The customer’s turn", "A partner’s turn", "Nobody’s turn"))
                .entrySet()) {
            ListRequest asked = ListRequest.read(
                    bean(Views.class).get("open", imani()),
                    Map.of("shape", "lines", "group", by.getKey(), "sort", "-age"));
            List<String> met = bean(Worklist.class).page(asked, imani(), Optional.empty(), 100_000).cards().stream()
                    .map(Worklist.Card::group)
                    .distinct()
                    // Other tests leave tickets in states that they took out of use.
                    .filter(group -> !group.startsWith("At the quay"))
                    .toList();
            assertThat(met)
                    .hasSizeGreaterThan(1)
                    .isEqualTo(by.getValue().stream().filter(met::contains).toList());
        }
    }

    @Test
    void an_address_says_the_whole_list_and_reads_back_to_the_same() {
        ListRequest asked = ListRequest.read(
                bean(Views.class).get("open", imani()),
                Map.of(
                        "q",
                        "{\"field\":\"subject\",\"has-any\":[\"season pass & more\"],\"version\":1}",
                        "shape",
                        "grid",
                        "sort",
                        "priority,-age",
                        "group",
                        "team",
                        "cols",
                        "number,subject:400",
                        "limits",
                        "new:4",
                        "due",
                        "100-200"));
        var parameters = new java.util.HashMap<String, String>();
        for (String part : asked.query().split("&")) {
            String[] pair = part.split("=", 2);
            parameters.put(pair[0], java.net.URLDecoder.decode(pair[1], java.nio.charset.StandardCharsets.UTF_8));
        }
        assertThat(ListRequest.read(asked.view(), parameters)).isEqualTo(asked);
        assertThat(ListRequest.read(asked.view(), Map.of("q", "{nonsense", "sort", "beauty", "due", "soon")))
                .isEqualTo(ListRequest.of(asked.view()));
    }

    @Test
    void each_view_holds_what_it_says() {
        var store = bean(WorklistStore.class);
        assertThat(first(list("my-turn"), 500))
                .isNotEmpty()
                .allMatch(row -> row.turn().equals("OURS") && row.owner().equals(Optional.of(imani().id())));
        assertThat(first(list("unowned"), 500))
                .isNotEmpty()
                .allMatch(row -> row.owner().isEmpty());
        assertThat(first(list("closed"), 500))
                .isNotEmpty()
                .allMatch(row -> row.turn().equals("NOBODY"));
        assertThat(first(list("open"), 500)).noneMatch(row -> row.turn().equals("NOBODY"));
    }

    @Test
    void only_what_is_in_the_view_comes_back_and_what_changed_is_found() {
        var worklist = bean(Worklist.class);
        List<TicketNumber> in = worklist.those(list("unowned"), imani(), MINE).stream()
                .map(Worklist.Card::number)
                .toList();
        assertThat(in).isNotEmpty().hasSizeLessThan(MINE.size());
        assertThat(worklist.any(list("unowned"), imani(), MINE)).hasSameSizeAs(MINE);
        assertThat(worklist.changedSince(list("open"), imani(), RunningApp.MONDAY, 1000))
                .containsAll(in);
        assertThat(worklist.changedSince(list("open"), imani(), RunningApp.MONDAY.plusSeconds(60), 1000))
                .doesNotContainAnyElementsOf(MINE);
    }

    @Test
    void the_horizon_counts_every_running_target_that_falls_due_within_it() {
        Horizon horizon = bean(Worklist.class).horizon(list("open"), imani());
        assertThat(horizon.total()).isPositive();
        assertThat(horizon.late()).isZero();
        assertThat(horizon.text()).contains(horizon.total() + " targets running");
        int drawn = horizon.marks().size()
                + horizon.more().stream()
                        .mapToInt(m -> Integer.parseInt(m.words().substring(1)))
                        .sum();
        assertThat(drawn).isEqualTo(horizon.total());
        assertThat(horizon.marksSvg().split("<a ")).hasSize(horizon.marks().size() + 1);
    }

    @Test
    void what_is_late_stands_in_the_bin() {
        RunningApp.clock().tick(Duration.ofDays(20));
        Horizon horizon = bean(Worklist.class).horizon(list("open"), imani());
        assertThat(horizon.late()).isEqualTo(horizon.total()).isPositive();
        assertThat(horizon.marks())
                .hasSize(Math.min(9, horizon.late()))
                .allMatch(mark -> mark.tone().equals("late"));
        RunningApp.clock().set(RunningApp.MONDAY);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "x", "%%", "[]", "[\"x\",[]]", "[\"5\",[\"yesterday\"]]", "[\"5\"]", "{}", "[\"5\",[],[]]"})
    void a_wrong_place_in_an_address_is_no_place(String written) {
        List<Sorting> due = Sorting.read("next-due");
        assertThat(Cursor.read(written, due)).isEmpty();
        assertThat(Cursor.read(
                        java.util.Base64.getUrlEncoder().encodeToString(written.getBytes(StandardCharsets.UTF_8)), due))
                .isEmpty();
    }

    @Test
    void a_place_is_read_back_as_it_was_written() {
        List<Sorting> sorting = Sorting.read("next-due,-subject");
        var due = new Cursor(
                List.of(Optional.of("2027-03-01T09:00:00.123456789Z"), Optional.of(" déjà \"vu\" ")),
                new TicketNumber(4471));
        var undue = new Cursor(List.of(Optional.empty(), Optional.of("")), new TicketNumber(4471));
        assertThat(Cursor.read(due.written(), sorting)).hasValue(due);
        assertThat(Cursor.read(undue.written(), sorting)).hasValue(undue);
        assertThat(Cursor.read(due.written(), Sorting.read("next-due")))
                .as("of another list")
                .isEmpty();
    }

    // ------------------------------------------------------------------ lanes by scrolling

    static Stream<Arguments> lanes() {
        return Stream.of(Grouping.values())
                .flatMap(g -> Stream.of("next-due", "-age", "customer", "-priority,number")
                        .map(sort -> Arguments.of(g.key(), sort)));
    }

    @ParameterizedTest
    @MethodSource("lanes")
    void scrolling_a_lane_meets_each_of_its_tickets_once_in_the_order_of_the_list(String group, String sort) {
        var parameters = new java.util.HashMap<String, String>();
        parameters.put("shape", "lanes");
        parameters.put("group", group);
        parameters.put("sort", sort);
        ListRequest asked = ListRequest.read(bean(Views.class).get("open", imani()), parameters);
        var lanes = bean(Lanes.class);
        var all = new ArrayList<TicketNumber>();
        for (Lanes.Lane lane : lanes.of(asked, EVERY, imani()).lanes()) {
            var cards = new ArrayList<>(lane.cards());
            Optional<String> next = lane.next();
            while (next.isPresent()) {
                Lanes.Lane rest = lanes.more(asked, lane.key(), Cursor.read(next.get(), asked.walked()), imani());
                cards.addAll(rest.cards());
                next = rest.next();
            }
            assertThat(cards).as(lane.title()).hasSize(lane.total());
            all.addAll(cards.stream().map(Worklist.Card::number).toList());
            assertThat(cards.stream().map(Worklist.Card::number).toList())
                    .isEqualTo(inOrder(
                            asked, cards.stream().map(Worklist.Card::number).toList()));
        }
        assertThat(all)
                .doesNotHaveDuplicates()
                .hasSize(bean(Worklist.class).total(asked, imani()).count());
    }

    /** The same tickets as the whole list has them. */
    private static List<TicketNumber> inOrder(ListRequest asked, List<TicketNumber> numbers) {
        var among = bean(Worklist.class).among(asked, imani());
        return bean(WorklistStore.class).page(among, asked.walked(), Optional.empty(), 5000).stream()
                .map(WorklistStore.TicketRow::number)
                .filter(numbers::contains)
                .toList();
    }

    // ------------------------------------------------------------------ why, and the horizon in words

    @Test
    void a_list_says_why_a_ticket_is_in_it_and_why_it_is_not_any_more() {
        TicketNumber number = MINE.get(1);
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.IN_HAND.key()), imani());
        Worklist.Why in = bean(Worklist.class).why(list("my-turn"), number, imani());
        assertThat(in.in()).isTrue();
        assertThat(in.because()).containsExactly("the turn is ours", "the owner is me");
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.WITH_CUSTOMER.key()), imani());
        Worklist.Why out = bean(Worklist.class).why(list("my-turn"), number, imani());
        assertThat(out.in()).isFalse();
        assertThat(out.because())
                .containsExactly(
                        "the turn is customer’s, not ours",
                        "who helps is not known, not me",
                        "the team that helps is not known, not one of mine");
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        assertThat(bean(Worklist.class).why(list("open"), number, imani()).because())
                .containsExactly("it is not among the tickets that “Everything open” begins with");
        assertThat(bean(Worklist.class).why(list("closed"), number, imani()).because())
                .containsExactly("the list holds all tickets");
    }

    @Test
    void a_time_is_told_as_people_say_it() {
        TicketNumber number = MINE.get(2);
        Worklist.Why why = bean(Worklist.class).why(list("soon"), number, imani());
        assertThat(why.because()).allMatch(words -> words.contains("the next target is due within 4 h"));
        assertThat(why.because()).noneMatch(words -> words.contains("Z"));
    }

    @Test
    void the_horizon_in_words_tells_of_every_target_that_it_draws_and_opens_it() {
        Horizon horizon = bean(Worklist.class).horizon(list("open"), imani());
        assertThat(horizon.stretches().stream().mapToInt(Horizon.Stretch::count).sum())
                .isEqualTo(horizon.total());
        assertThat(horizon.stretches())
                .allMatch(stretch -> ListRequest.Stretch.read(stretch.due()).isPresent()
                        && !stretch.kinds().isBlank());
        for (Horizon.Stretch stretch : horizon.stretches()) {
            ListRequest asked = ListRequest.read(bean(Views.class).get("open", imani()), Map.of("due", stretch.due()));
            // A ticket may have several targets in a stretch, but none that is listed has none.
            assertThat(bean(Worklist.class).total(asked, imani()).count()).isBetween(1, stretch.count());
        }
    }

    @Test
    void own_fields_are_columns_and_orders_like_any_other() {
        var weight = RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.NUMBER, "Weight " + unique(), "");
        List<String> weights = List.of("9", "100", "-2.5", "0.75");
        for (int i = 0; i < weights.size(); i++) {
            RunningApp.fill(MINE.get(6 + i), Map.of(weight.key(), weights.get(i)), imani());
        }
        for (String way : List.of("", "-")) {
            ListRequest asked = list("open", way + weight.key(), "");
            var store = bean(WorklistStore.class);
            var among = bean(Worklist.class).among(asked, imani());
            List<TicketNumber> seen = walk(asked, after -> store.page(among, asked.walked(), after, 7), false);
            assertThat(seen)
                    .doesNotHaveDuplicates()
                    .hasSize(bean(Worklist.class).total(asked, imani()).count());
            assertThat(walk(asked, before -> store.before(among, asked.walked(), before, 11), true))
                    .isEqualTo(seen);
            List<String> first = first(asked, 500).stream()
                    .map(row -> row.own().getOrDefault(weight.key(), ""))
                    .filter(v -> !v.isEmpty())
                    .toList();
            var sorted = first.stream().map(java.math.BigDecimal::new).toList();
            assertThat(sorted)
                    .isSortedAccordingTo(
                            way.isEmpty() ? java.util.Comparator.naturalOrder() : java.util.Comparator.reverseOrder());
        }
        String columns = "number," + weight.key() + ":88,subject";
        assertThat(Column.written(Column.read(columns))).isEqualTo(columns);
    }
}
