package rafter.app.arrival.sorting;

import java.time.Instant;
import java.util.Map;

/** What rules of arriving mail decided. */
public interface Decisions {

    /** How many mails each rule decided about since then, by its id, and {@link Junk#DECIDED} for the junk score. */
    Map<String, Integer> since(Instant from);
}
