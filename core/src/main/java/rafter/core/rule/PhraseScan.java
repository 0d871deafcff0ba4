package rafter.core.rule;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.ahocorasick.trie.Trie;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Operator;
import rafter.core.text.Words;

/**
 * Finds the phrases of many criteria in one pass over a text (Aho and Corasick, Efficient string matching, 1975): O(n + z) for n letters and
 * z finds, however many phrases there are. It answers exactly as {@link Words#has} does.
 */
public final class PhraseScan {

    private final Trie trie;
    /** The phrases as they were typed, by what a text keeps of them. */
    private final Map<String, List<String>> typed;

    private final Set<Field> fields;

    private PhraseScan(Trie trie, Map<String, List<String>> typed, Set<Field> fields) {
        this.trie = trie;
        this.typed = typed;
        this.fields = fields;
    }

    /** A scan for all words that any of these criteria look for. */
    public static PhraseScan of(Collection<Criteria> all) {
        var kept = new HashMap<String, String>();
        var fields = new HashSet<Field>();
        all.forEach(criteria -> collect(criteria, kept, fields));
        List<String> phrases = kept.values().stream()
                .filter(phrase -> phrase.length() > 1)
                .distinct()
                .toList();
        var typed = new HashMap<String, List<String>>();
        kept.forEach((phrase, text) ->
                typed.computeIfAbsent(text, key -> new ArrayList<>()).add(phrase));
        return new PhraseScan(Trie.builder().addKeywords(phrases).build(), typed, Set.copyOf(fields));
    }

    private static void collect(Criteria criteria, Map<String, String> kept, Set<Field> fields) {
        switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts.forEach(part -> collect(part, kept, fields));
            case Criteria.Any(List<Criteria> parts) -> parts.forEach(part -> collect(part, kept, fields));
            case Criteria.Not(Criteria part) -> collect(part, kept, fields);
            case Criteria.Expert expert -> {}
            case Criteria.Test test -> {
                boolean looked = test.operator() != Operator.HAS_FORM && test.operator() != Operator.BEGINS_WITH;
                if (test.field().type() == FieldType.WORDS && looked) {
                    fields.add(test.field());
                    test.values()
                            .forEach(value -> kept.put(value, Words.of(value).stored()));
                }
            }
        }
    }

    /**
     * Looks through the texts of a ticket, once for all criteria that this was made of. What comes of it answers for these criteria and these
     * facts alone.
     */
    public Matching.Finder over(Facts facts) {
        var found = new HashMap<Field, Set<String>>();
        for (Field field : fields) {
            facts.of(field, Fact.Running.class).ifPresent(running -> found.put(field, in(running.words())));
        }
        return (field, text, phrase) -> {
            Set<String> there = found.get(field);
            return there != null && there.contains(phrase);
        };
    }

    /** The phrases, as they were typed, that stand in a text. */
    private Set<String> in(Words words) {
        var there = new HashSet<String>();
        trie.parseText(words.stored(), emit -> there.addAll(typed.getOrDefault(emit.getKeyword(), List.of())));
        return there;
    }
}
