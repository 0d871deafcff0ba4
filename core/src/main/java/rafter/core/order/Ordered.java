package rafter.core.order;

import java.util.ArrayList;
import java.util.List;

/** Lists whose order people change. */
public final class Ordered {

    private Ordered() {}

    /**
     * A list with one of its things so many places further down, up for less than nothing; at most to the end. The others keep their order.
     *
     * @param at the place of the thing; a list that has no such place stays as it is
     */
    public static <T> List<T> moved(List<T> list, int at, int by) {
        var all = new ArrayList<>(list);
        if (at >= 0 && at < all.size()) {
            all.add(Math.max(0, Math.min(all.size() - 1, at + by)), all.remove(at));
        }
        return all;
    }
}
