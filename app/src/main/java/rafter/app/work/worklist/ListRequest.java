package rafter.app.work.worklist;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.json.Unreadable;

/**
 * What a list is to show: a view, and what was changed of it for the moment. All of it stands in the address, so that a link shows the
 * same list.
 *
 * @param due only tickets with a running target that falls due in this stretch of time
 */
public record ListRequest(
        ListView view,
        Criteria criteria,
        Shape shape,
        List<Sorting> sorting,
        Optional<Grouping> grouping,
        List<Column.Shown> columns,
        String limits,
        Optional<Stretch> due) {

    public ListRequest {
        grouping = grouping.map(by -> by == Grouping.HOLDER && shape.list() ? Grouping.OWNER : by);
    }

    /** By what lanes are laid out. */
    public Grouping lanesBy() {
        return shape == Shape.CLOCK
                ? grouping.filter(by -> by == Grouping.TEAM).orElse(Grouping.HOLDER)
                : grouping.orElse(Grouping.STATE);
    }

    /** A stretch of time, from the horizon. */
    public record Stretch(Instant from, Instant until) {

        public String written() {
            return from.getEpochSecond() + "-" + until.getEpochSecond();
        }

        static Optional<Stretch> read(String written) {
            if (!written.matches("\\d{1,11}-\\d{1,11}")) {
                return Optional.empty();
            }
            String[] parts = written.split("-");
            return Optional.of(new Stretch(
                    Instant.ofEpochSecond(Long.parseLong(parts[0])), Instant.ofEpochSecond(Long.parseLong(parts[1]))));
        }
    }

    /** The view as it is kept. */
    static ListRequest of(ListView view) {
        return new ListRequest(
                view,
                view.criteria(),
                view.shape(),
                view.sorting(),
                view.grouping(),
                view.columns(),
                view.limits(),
                Optional.empty());
    }

    /** Reads what an address changes of a view; what cannot be read changes nothing. */
    static ListRequest read(ListView view, Map<String, String> parameters) {
        ListRequest kept = of(view);
        List<Sorting> sorting = Sorting.read(parameters.getOrDefault("sort", ""));
        return new ListRequest(
                view,
                criteria(parameters.getOrDefault("q", "")).orElse(kept.criteria),
                // What is over has no lanes: nobody moves it, and nothing of it falls due.
                Shape.of(parameters.getOrDefault("shape", ""))
                        .filter(shape -> shape.list() || !view.ended())
                        .orElse(kept.shape),
                sorting.isEmpty() ? kept.sorting : sorting,
                parameters.containsKey("group") ? Grouping.of(parameters.get("group")) : kept.grouping,
                parameters.containsKey("cols") ? Column.read(parameters.get("cols")) : kept.columns,
                parameters.getOrDefault("limits", kept.limits),
                Stretch.read(parameters.getOrDefault("due", "")));
    }

    private static Optional<Criteria> criteria(String json) {
        if (json.isBlank()) {
            return Optional.empty();
        }
        try {
            Criteria criteria = CriteriaJson.read(json);
            return Criteria.faults(criteria).isEmpty() ? Optional.of(criteria) : Optional.empty();
        } catch (Unreadable e) {
            return Optional.empty();
        }
    }

    /** Whether something was changed for the moment that could be kept. */
    public boolean changed() {
        return !parameters(false).isEmpty();
    }

    /** Whether what is asked, and not only how it is shown, was changed. */
    public boolean otherTickets() {
        return !criteria.equals(view.criteria()) || due.isPresent();
    }

    /** The orders in which a list is walked: those of its groups come first. */
    public List<Sorting> walked() {
        if (grouping.isEmpty() || !shape.list()) {
            return sorting;
        }
        var all = new ArrayList<Sorting>();
        all.add(new Sorting(grouping.get().order(), false));
        sorting.stream().filter(s -> !s.order().equals(grouping.get().order())).forEach(all::add);
        return all;
    }

    private Map<String, String> parameters(boolean all) {
        ListRequest kept = of(view);
        var p = new LinkedHashMap<String, String>();
        if (all) {
            p.put("view", view.key());
        }
        if (!criteria.equals(kept.criteria)) {
            p.put("q", CriteriaJson.write(criteria));
        }
        if (shape != kept.shape) {
            p.put("shape", shape.key());
        }
        if (!sorting.equals(kept.sorting)) {
            p.put("sort", Sorting.written(sorting));
        }
        if (!grouping.equals(kept.grouping)) {
            p.put("group", grouping.map(Grouping::key).orElse(""));
        }
        if (!columns.equals(kept.columns)) {
            p.put("cols", Column.written(columns));
        }
        if (!limits.equals(kept.limits)) {
            p.put("limits", limits);
        }
        if (all) {
            due.ifPresent(stretch -> p.put("due", stretch.written()));
        }
        return p;
    }

    /** The part of an address after the question mark that shows this list. */
    public String query() {
        return written(parameters(true));
    }

    /** This list with one thing changed; an empty value takes it away. */
    public String with(String name, String value) {
        var p = new LinkedHashMap<>(parameters(true));
        p.put(name, value);
        if (value.isEmpty() && !name.equals("group")) {
            p.remove(name);
        }
        return written(p);
    }

    /** The address of this list, ordered by an order; turned round when it is so ordered already. */
    public String sortedBy(Order order) {
        boolean again = sorting.getFirst().order().equals(order);
        return with("sort", (again && !sorting.getFirst().descending() ? "-" : "") + order.sortKey());
    }

    /** This list with an order as the second one. */
    public String thenBy(Order order) {
        boolean again = sorting.size() > 1 && sorting.get(1).order().equals(order);
        var all = new ArrayList<>(sorting.subList(0, 1));
        all.add(new Sorting(order, again && !sorting.get(1).descending()));
        return with("sort", Sorting.written(all));
    }

    private static String written(Map<String, String> parameters) {
        return parameters.entrySet().stream()
                .map(e -> e.getKey() + "=" + URLEncoder.encode(e.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
    }

    /** The greatest number of tickets that a lane should hold, if one is set. */
    public Optional<Integer> limit(String lane) {
        // Those that were set before lanes by several things had limits stand there without what they are by.
        return limitOf(limitKey(lane)).or(() -> lane.isEmpty() ? Optional.empty() : limitOf(lane));
    }

    /** As a lane's limit is written down: without a comma, which parts them. */
    public String limitKey(String lane) {
        return lanesBy().key() + "/" + URLEncoder.encode(lane, StandardCharsets.UTF_8);
    }

    private Optional<Integer> limitOf(String key) {
        for (String one : limits.split(",")) {
            int colon = one.lastIndexOf(':');
            if (colon > 0
                    && one.substring(0, colon).equals(key)
                    && one.substring(colon + 1).matches("\\d{1,4}")) {
                return Optional.of(Integer.parseInt(one.substring(colon + 1)));
            }
        }
        return Optional.empty();
    }

    /** Whether the Grid shows a column. */
    public boolean shows(Column column) {
        return columns.stream().anyMatch(shown -> shown.column().equals(column));
    }

    /** Which way a column is ordered, if it is; with a 2 when it is the second order. */
    public String mark(Column column) {
        for (int i = 0; i < sorting.size(); i++) {
            if (sorting.get(i).order().equals(column.order())) {
                return (sorting.get(i).descending() ? " ↑" : " ↓") + (i == 0 ? "" : "2");
            }
        }
        return "";
    }

    /** Which of the orders in which the list is walked run down, for the browser: {@code 1,0}. */
    public String descents() {
        return walked().stream().map(s -> s.descending() ? "1" : "0").collect(Collectors.joining(","));
    }
}
