package rafter.core.text;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * What was said in a conversation before a message: by it a quotation is known. What stood in earlier messages is read when it is first
 * asked for. Confined to one message.
 */
public final class Earlier {

    /** Nothing was said before, so nothing can be quoted. */
    public static final Earlier NOTHING = new Earlier(Set.of(), List::of, false);

    /** Words are compared so many in a row. */
    private static final int ROW = 3;

    /** Shorter ones may be anybody's words. */
    private static final int PASSAGE = 5;

    private final Set<String> addresses;
    private final Supplier<List<String>> texts;
    private final boolean any;
    private @Nullable Set<Long> rows;

    private Earlier(Set<String> addresses, Supplier<List<String>> texts, boolean any) {
        this.addresses = addresses;
        this.texts = texts;
        this.any = any;
    }

    /**
     * A conversation that a message belongs to.
     *
     * @param addresses those who take part in it and our own, in lower case, without what follows a plus
     * @param texts what was written in it, quotations included
     */
    public static Earlier of(Set<String> addresses, Supplier<List<String>> texts) {
        return new Earlier(Set.copyOf(addresses), texts, true);
    }

    /** Whether there is anything earlier. */
    public boolean any() {
        return any;
    }

    /** Whether a line names somebody who takes part. */
    boolean names(String line) {
        return MailAddress.in(line, 10).stream()
                .anyMatch(address ->
                        addresses.contains(address.plain().toString()) || addresses.contains(address.toString()));
    }

    /**
     * Which lines stand in an earlier message: all their words lie in passages of at least {@value #PASSAGE} words that do, whatever lines these were
     * broken into. A line without words is of no passage. Costs O(w) for w words.
     */
    boolean[] known(List<TextLine> lines) {
        var words = new ArrayList<String>();
        int[] ends = new int[lines.size()];
        for (int i = 0; i < ends.length; i++) {
            words.addAll(Words.list(lines.get(i).text()));
            ends[i] = words.size();
        }
        boolean[] known = new boolean[ends.length];
        if (words.size() < PASSAGE || rows().isEmpty()) {
            return known;
        }
        boolean[] covered = covered(words);
        for (int i = 0; i < ends.length; i++) {
            int from = i == 0 ? 0 : ends[i - 1];
            int count = 0;
            for (int w = from; w < ends[i]; w++) {
                count += covered[w] ? 1 : 0;
            }
            int all = ends[i] - from;
            // A mail program changes a word here and there: of a long line nearly all is enough.
            known[i] = all > 0 && (all >= 12 ? count * 100 >= all * 85 : count == all);
        }
        return known;
    }

    /** The words that lie in known passages. */
    private boolean[] covered(List<String> words) {
        boolean[] covered = new boolean[words.size()];
        int from = 0;
        for (int i = 0; i + ROW <= words.size() + 1; i++) {
            if (i + ROW <= words.size() && rows().contains(row(words, i))) {
                continue;
            }
            int to = i + ROW - 1;
            if (i > from && to - from >= PASSAGE) {
                Arrays.fill(covered, from, to, true);
            }
            from = i + 1;
        }
        return covered;
    }

    private Set<Long> rows() {
        Set<Long> known = rows;
        if (known == null) {
            known = new HashSet<>();
            for (String text : texts.get()) {
                List<String> words = Words.list(text);
                for (int i = 0; i + ROW <= words.size(); i++) {
                    known.add(row(words, i));
                }
            }
            rows = known;
        }
        return known;
    }

    private static long row(List<String> words, int from) {
        long hash = 17;
        for (int i = from; i < from + ROW; i++) {
            hash = hash * 1_000_003 + words.get(i).hashCode();
        }
        return hash;
    }
}
