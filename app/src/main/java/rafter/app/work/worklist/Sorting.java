package rafter.app.work.worklist;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import rafter.app.house.criteria.CriteriaNames;

/** One order of a list, and which way round. */
public record Sorting(Order order, boolean descending) {

    /** More than two nobody can follow. */
    private static final int MOST = 2;

    /** Reads orders as an address names them: {@code priority,-age}. */
    static List<Sorting> read(String written) {
        var all = new ArrayList<Sorting>();
        for (String one : written.split(",")) {
            boolean descending = one.startsWith("-");
            Optional<Order> order = Order.of(descending ? one.substring(1) : one);
            boolean known =
                    order.isEmpty() || all.stream().anyMatch(s -> s.order().equals(order.get()));
            if (!known && all.size() < MOST) {
                all.add(new Sorting(order.get(), descending));
            }
        }
        return all;
    }

    static String written(List<Sorting> all) {
        return all.stream()
                .map(s -> (s.descending() ? "-" : "") + s.order().sortKey())
                .collect(Collectors.joining(","));
    }

    public Sorting turned() {
        return new Sorting(order, !descending);
    }

    /** As a sentence says it. */
    public String words(CriteriaNames names) {
        return (order instanceof OwnOrder own ? names.name(own.of()) : order.words())
                + (descending ? ", the other way round" : "");
    }
}
