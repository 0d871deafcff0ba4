package rafter.core.routing;

import java.util.ArrayList;
import java.util.List;
import rafter.core.id.SkillId;

/**
 * Something that people can and tickets need.
 *
 * @param words by which a ticket asks for it
 * @param topics of which every ticket needs it
 */
public record Skill(SkillId id, String name, String description, List<String> words, List<String> topics) {

    public static final int LONGEST_NAME = 60;
    public static final int MOST_WORDS = 50;

    public Skill {
        words = List.copyOf(words);
        topics = List.copyOf(topics);
    }

    /** What keeps it from being used, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (name.isBlank() || name.length() > LONGEST_NAME) {
            faults.add("A skill needs a name of at most " + LONGEST_NAME + " letters.");
        }
        if (words.size() > MOST_WORDS || words.stream().anyMatch(word -> word.length() > LONGEST_NAME)) {
            faults.add("A skill has at most " + MOST_WORDS + " words of at most " + LONGEST_NAME + " letters each.");
        }
        return faults;
    }
}
