package rafter.core.routing;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import rafter.core.id.SkillId;
import rafter.core.text.Words;

/** That a ticket needs a skill, and why. */
public record Need(Skill skill, Why why) {

    /** What says so. */
    public sealed interface Why {
        /** It, as people read it. */
        String words();

        /** Its topic. */
        record Topic(String topic) implements Why {
            @Override
            public String words() {
                return "for its topic, " + topic;
            }
        }

        /** A word in its subject or its first message. */
        record Word(String word) implements Why {
            @Override
            public String words() {
                return "for the word “" + word + "”";
            }
        }

        /** Somebody, or a rule, put it there. */
        record Said() implements Why {
            @Override
            public String words() {
                return "put there by hand or by a rule";
            }
        }
    }

    /**
     * What a ticket needs, each skill once, in the order of the catalogue: what was said counts before its topic, and that before its words.
     * O(c · w) for c skills with w words.
     *
     * @param text its subject and first message
     * @param said the skills that were put there
     * @param not the skills that were taken away, whatever its topic and words are
     */
    public static List<Need> of(
            Collection<Skill> catalogue, String topic, Words text, Set<SkillId> said, Set<SkillId> not) {
        Map<SkillId, Need> needs = new LinkedHashMap<>();
        for (Skill skill : catalogue) {
            if (said.contains(skill.id())) {
                needs.put(skill.id(), new Need(skill, new Why.Said()));
            } else if (!not.contains(skill.id())) {
                found(skill, topic, text).forEach(why -> needs.putIfAbsent(skill.id(), new Need(skill, why)));
            }
        }
        return List.copyOf(needs.values());
    }

    private static List<Why> found(Skill skill, String topic, Words text) {
        var all = new ArrayList<Why>();
        skill.topics().stream()
                .filter(one -> !topic.isBlank() && one.equalsIgnoreCase(topic))
                .forEach(one -> all.add(new Why.Topic(one)));
        skill.words().stream()
                .filter(word -> !word.isBlank() && text.has(word))
                .forEach(word -> all.add(new Why.Word(word)));
        return all;
    }
}
