package rafter.outside.demo;

import java.util.List;
import java.util.Map;

/**
 * How requests about a topic come to an end: what is written down of them, and what has to be done on the way.
 *
 * @param tasks may be none
 */
record Ending(String was, String done, String cause, List<String> tasks) {

    private static final Ending PLAIN = new Ending("", "", "", List.of());

    private static final Map<String, Ending> BY_TOPIC = Map.of(
            "freight slots",
            new Ending(
                    "The slot did not show as it was booked.",
                    "Had the freight office issue it anew and told the ramp.",
                    "slot under another vessel",
                    List.of("Ask the freight office", "Tell the ramp")),
            "lost items",
            new Ending(
                    "Something was left on board.",
                    "Found by the crew and sent on.",
                    "left behind",
                    List.of("Ask the crew of the sailing", "Look on the shelf at Aldermouth")),
            "billing",
            new Ending("An invoice was wrong.", "Corrected it and sent a new one.", "old address on file", List.of()),
            "bookings",
            new Ending("A booking had to be changed.", "Changed it at no charge.", "change of plans", List.of()),
            "groups",
            new Ending(
                    "A group wanted to travel together.",
                    "Held the seats and sent the terms.",
                    "group booking",
                    List.of("Hold the seats", "Send the terms", "Confirm with the school")),
            "passes",
            new Ending("A pass did not open the gate.", "Issued the pass anew.", "pass worn out", List.of()));

    /** How a request about this topic ends. */
    static Ending of(String topic) {
        return BY_TOPIC.getOrDefault(topic, PLAIN);
    }
}
