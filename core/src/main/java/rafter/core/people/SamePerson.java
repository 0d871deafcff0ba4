package rafter.core.people;

import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.apache.commons.text.similarity.LevenshteinDistance;
import rafter.core.text.MailAddress;
import rafter.core.text.Words;

/**
 * Whether two contacts may be one person. Each sign is such that people would look twice; none of them joins anybody by itself. The cost is
 * that of comparing each address and each number of the one with each of the other.
 */
public final class SamePerson {

    /** Fewer letters are too easily alike. */
    static final int LETTERS = 5;

    /** Fewer figures are an extension, which many have. */
    private static final int FIGURES = 7;

    private static final LevenshteinDistance AT_MOST_ONE = new LevenshteinDistance(1);

    private SamePerson() {}

    /**
     * A contact, as far as it tells who somebody is.
     *
     * @param phones the digits of their numbers, with or without their country
     */
    public record Known(String name, List<MailAddress> addresses, Set<String> phones) {

        public Known {
            addresses = List.copyOf(addresses);
            phones = Set.copyOf(phones);
        }
    }

    /** What says that two may be one. */
    public enum Sign {
        PHONE("the same telephone"),
        NAME_AND_DOMAIN("the same name at the same domain"),
        NEAR_ADDRESS("almost the same address");

        private final String words;

        Sign(String words) {
            this.words = words;
        }

        /** As people read it. */
        public String words() {
            return words;
        }
    }

    /**
     * What says that two contacts may be one person; empty when nothing does.
     *
     * @param isPublic whether anybody can have an address at a domain
     */
    public static Set<Sign> signs(Known one, Known other, Predicate<String> isPublic) {
        var signs = EnumSet.noneOf(Sign.class);
        if (one.phones().stream().anyMatch(a -> other.phones().stream().anyMatch(b -> sameNumber(a, b)))) {
            signs.add(Sign.PHONE);
        }
        if (sameName(one.name(), other.name()) && shareDomain(one, other, isPublic)) {
            signs.add(Sign.NAME_AND_DOMAIN);
        }
        if (one.addresses().stream().anyMatch(a -> other.addresses().stream().anyMatch(b -> near(a, b)))) {
            signs.add(Sign.NEAR_ADDRESS);
        }
        return signs;
    }

    /** A number is written with its country, with the zero in place of it, or with neither. */
    static boolean sameNumber(String one, String other) {
        String a = one.replaceFirst("^0+", "");
        String b = other.replaceFirst("^0+", "");
        return Math.min(a.length(), b.length()) >= FIGURES && (a.endsWith(b) || b.endsWith(a));
    }

    /** In whatever order the parts stand; one word alone is no name. */
    private static boolean sameName(String one, String other) {
        Set<String> a = new HashSet<>(Words.list(one));
        return a.size() > 1 && a.equals(new HashSet<>(Words.list(other)));
    }

    private static boolean shareDomain(Known one, Known other, Predicate<String> isPublic) {
        return one.addresses().stream()
                .map(MailAddress::domain)
                .filter(domain -> !isPublic.test(domain))
                .anyMatch(domain ->
                        other.addresses().stream().map(MailAddress::domain).anyMatch(domain::equals));
    }

    /**
     * Whether two addresses differ by what a hand slips on: a sign between the parts of a name, a letter of the name, or a letter of the domain.
     * A figure that differs tells two people apart, and so do short names.
     */
    static boolean near(MailAddress one, MailAddress other) {
        String a = letters(one);
        String b = letters(other);
        if (Math.min(a.length(), b.length()) < LETTERS || !figures(a).equals(figures(b))) {
            return false;
        }
        boolean sameDomain = one.domain().equals(other.domain());
        return sameDomain ? within(a, b) : a.equals(b) && within(one.domain(), other.domain());
    }

    private static boolean within(String one, String other) {
        return AT_MOST_ONE.apply(one, other) >= 0;
    }

    /** The letters and figures of whom an address names, without signs between them. */
    static String letters(MailAddress address) {
        return address.plain().local().replaceAll("[.\\-_]", "");
    }

    private static String figures(String local) {
        return local.replaceAll("[^0-9]", "");
    }

    static boolean figure(char letter) {
        return letter >= '0' && letter <= '9';
    }

    /** The figures at the end of a number that two ways of writing it share; nothing for an extension. */
    static Optional<String> ending(String number) {
        String figures = number.replaceFirst("^0+", "");
        return figures.length() < FIGURES
                ? Optional.empty()
                : Optional.of(figures.substring(figures.length() - FIGURES));
    }
}
