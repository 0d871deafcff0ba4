package rafter.core.people;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.LongStream;
import rafter.core.people.SamePerson.Known;
import rafter.core.text.MailAddress;
import rafter.core.text.Words;

/**
 * Finds, among many contacts, the pairs that may be one person, without comparing each with each. Every contact leaves marks: the end of each
 * number, its name at each of its domains, and each of its addresses as it is and with any one letter left out. Two whom {@link SamePerson}
 * takes for one share a mark (of two words one slip apart, one is the other with a letter left out, or both are the same without the letter that
 * differs: the method of deletion neighbourhoods by W. Garbe, 2012), so only those who share one are compared. The cost is that of sorting some
 * twenty-five marks a contact, eight bytes each.
 */
public final class SamePeople {

    /** The most contacts that can be looked through at once. */
    public static final int MOST = 1 << 20;

    /** A mark that more have, as the telephone of a whole office, tells nobody apart. */
    private static final int MOST_OF_A_SORT = 30;

    private static final long PLACE = MOST - 1;

    private SamePeople() {}

    /**
     * Two who may be one person, by their places in the list.
     *
     * @param one the earlier place
     */
    public record Pair(int one, int other) {}

    /**
     * Who may be one person, in the order of their places, each pair once.
     *
     * @param isPublic whether anybody can have an address at a domain
     * @param most so many pairs at most
     * @throws IllegalArgumentException for more contacts than {@link #MOST}
     */
    public static List<Pair> among(List<Known> all, Predicate<String> isPublic, int most) {
        if (all.size() > MOST) {
            throw new IllegalArgumentException("more than " + MOST + " contacts");
        }
        var pairs = new ArrayList<Pair>();
        for (long candidate : candidates(marks(all, isPublic))) {
            int one = (int) (candidate >>> 32);
            int other = (int) candidate;
            if (pairs.size() < most
                    && !SamePerson.signs(all.get(one), all.get(other), isPublic).isEmpty()) {
                pairs.add(new Pair(one, other));
            }
        }
        return pairs;
    }

    /** All marks in order, each with the place of whoever left it in its lower bits. */
    private static long[] marks(List<Known> all, Predicate<String> isPublic) {
        LongStream.Builder marks = LongStream.builder();
        for (int place = 0; place < all.size(); place++) {
            Known known = all.get(place);
            int at = place;
            known.phones().stream()
                    .flatMap(number -> SamePerson.ending(number).stream())
                    .forEach(end -> marks.add(mark("p" + end, at)));
            String name = String.join(" ", new TreeSet<>(Words.list(known.name())));
            for (MailAddress address : known.addresses()) {
                if (name.contains(" ") && !isPublic.test(address.domain())) {
                    marks.add(mark("n" + name + "@" + address.domain(), place));
                }
                slips(address, place, marks);
            }
        }
        return marks.build().sorted().toArray();
    }

    private static void slips(MailAddress address, int place, LongStream.Builder marks) {
        String letters = SamePerson.letters(address);
        if (letters.length() < SamePerson.LETTERS) {
            return;
        }
        marks.add(mark("a" + letters + "@" + address.domain(), place));
        for (int i = 0; i < letters.length(); i++) {
            // Figures tell people apart, so none of them is left out.
            if (!SamePerson.figure(letters.charAt(i))) {
                marks.add(mark("a" + without(letters, i) + "@" + address.domain(), place));
            }
        }
        marks.add(mark("d" + letters + "@" + address.domain(), place));
        for (int i = 0; i < address.domain().length(); i++) {
            marks.add(mark("d" + letters + "@" + without(address.domain(), i), place));
        }
    }

    private static String without(String word, int at) {
        return word.substring(0, at) + word.substring(at + 1);
    }

    /** The upper bits are those of a hash, by which at worst two are compared who are strangers. */
    private static long mark(String words, int place) {
        long hash = 0xcbf29ce484222325L;
        for (int i = 0; i < words.length(); i++) {
            hash = (hash ^ words.charAt(i)) * 0x100000001b3L;
        }
        return (((hash ^ (hash >>> 29)) * 0x9e3779b97f4a7c15L) & ~PLACE) | place;
    }

    /** Pairs who share a mark, the earlier place in the upper half, in order and each once. */
    private static long[] candidates(long[] marks) {
        LongStream.Builder found = LongStream.builder();
        int from = 0;
        while (from < marks.length) {
            int to = from;
            while (to < marks.length && (marks[to] & ~PLACE) == (marks[from] & ~PLACE)) {
                to++;
            }
            int[] places = Arrays.stream(marks, from, to)
                    .mapToInt(mark -> (int) (mark & PLACE))
                    .distinct()
                    .toArray();
            if (places.length <= MOST_OF_A_SORT) {
                couples(places, found);
            }
            from = to;
        }
        return found.build().sorted().distinct().toArray();
    }

    private static void couples(int[] places, LongStream.Builder found) {
        for (int i = 0; i < places.length; i++) {
            for (int j = i + 1; j < places.length; j++) {
                found.add(((long) places[i] << 32) | places[j]);
            }
        }
    }
}
