package rafter.core.routing;

import java.util.Arrays;
import java.util.Map;
import java.util.TreeMap;

/** What speaks for somebody, each as a share of one. */
public enum Factor {
    SKILLS("skills", "how far they have what the ticket needs", 30),
    ROOM("room", "how much of what they take at once is free", 25),
    CUSTOMER("customer", "whether they know the customer", 15),
    TOPIC("topic", "how well they resolved such tickets", 15),
    LANGUAGE("language", "whether they write the customer’s language", 5),
    TIME("time", "whether they come to it before it is due", 10);

    private final String words;
    private final String meaning;
    private final int weight;

    Factor(String words, String meaning, int weight) {
        this.words = words;
        this.meaning = meaning;
        this.weight = weight;
    }

    public String words() {
        return words;
    }

    public String meaning() {
        return meaning;
    }

    public static final int MOST = 100;

    /** What each counts, before anybody chose otherwise. */
    public static Map<Factor, Integer> weights() {
        var weights = new TreeMap<Factor, Integer>();
        Arrays.stream(values()).forEach(one -> weights.put(one, one.weight));
        return weights;
    }
}
