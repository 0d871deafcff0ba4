package rafter.core.chat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;

/**
 * How the workspace chats.
 *
 * @param open whether chats can be begun at all
 * @param greeting what the panel says first
 * @param patience how long a customer's panel can be closed until they count as gone
 * @param gathering what is asked while they wait
 */
public record ChatRules(boolean open, String greeting, Duration patience, Gathering gathering) {

    public static final int LONGEST_GREETING = 300;
    public static final int MOST_QUESTIONS = 8;
    public static final int LONGEST_QUESTION = 200;
    public static final int MOST_CHOICES = 12;
    public static final Duration LEAST_PATIENCE = Duration.ofMinutes(1);
    public static final Duration MOST_PATIENCE = Duration.ofHours(12);

    /** The rules before anybody set any. */
    public static ChatRules usual() {
        var questions = List.of(
                new Gathering.Question("name", "What is your name?", new Gathering.Into.Name(), List.of()),
                new Gathering.Question(
                        "address",
                        "Where does a mail reach you, should we lose touch?",
                        new Gathering.Into.Address(),
                        List.of()));
        return new ChatRules(true, "How can we help?", Duration.ofMinutes(10), new Gathering(questions));
    }

    /** What is wrong with them, in words; empty when nothing is. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (greeting.isBlank() || greeting.length() > LONGEST_GREETING) {
            faults.add("Write how the panel greets, in at most " + LONGEST_GREETING + " letters.");
        }
        if (patience.compareTo(LEAST_PATIENCE) < 0 || patience.compareTo(MOST_PATIENCE) > 0) {
            faults.add("Somebody counts as gone after 1 minute at the least and 12 hours at the most.");
        }
        if (gathering.questions().size() > MOST_QUESTIONS) {
            faults.add("At most " + MOST_QUESTIONS + " questions are asked.");
        }
        var keys = new HashSet<String>();
        for (Gathering.Question one : gathering.questions()) {
            if (one.ask().isBlank() || one.ask().length() > LONGEST_QUESTION) {
                faults.add("Write each question in at most " + LONGEST_QUESTION + " letters.");
            }
            if (!keys.add(one.key())) {
                faults.add("“" + one.ask() + "” goes where another question goes already.");
            }
            if (one.choices().size() > MOST_CHOICES
                    || one.choices().stream().anyMatch(choice -> choice.length() > 60)) {
                faults.add("A question has at most " + MOST_CHOICES + " choices of sixty letters.");
            }
        }
        return List.copyOf(faults);
    }
}
