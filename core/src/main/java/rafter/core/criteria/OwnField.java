package rafter.core.criteria;

import java.math.BigDecimal;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.core.text.Words;

/**
 * A field that an administrator added. Whose it is and its kind never change, so they are a part of its name in data: what was written
 * about it can be understood without knowing what it is called today.
 *
 * @param bearer what has a value in it
 */
public record OwnField(long id, Bearer bearer, Kind kind) implements Field {

    /** What can have own fields. A ticket is asked about its customer's, too. */
    public enum Bearer {
        TICKET("own", "tickets"),
        CONTACT("contact", "contacts"),
        COMPANY("company", "companies");

        private final String key;
        private final String words;

        Bearer(String key, String words) {
            this.key = key;
            this.words = words;
        }

        /** In words, of all of them. */
        public String words() {
            return words;
        }

        private static Optional<Bearer> of(String key) {
            return Arrays.stream(values())
                    .filter(bearer -> bearer.key.equals(key))
                    .findFirst();
        }
    }

    /** A field of tickets. */
    public OwnField(long id, Kind kind) {
        this(id, Bearer.TICKET, kind);
    }

    /** What an own field can hold. */
    public enum Kind {
        TEXT("a short text", FieldType.TEXT),
        LONG("a long text", FieldType.TEXT),
        NUMBER("a number", FieldType.NUMBER),
        DATE("a date", FieldType.DATE),
        CHOICE("one of several choices", FieldType.CHOICE),
        SEVERAL("several of its choices", FieldType.SET),
        TREE("a choice in a tree, such as a service", FieldType.SET),
        TICK("a tick", FieldType.CHOICE),
        PERSON("a person who works here", FieldType.CHOICE),
        COMPANY("a company", FieldType.CHOICE),
        LINK("a link", FieldType.TEXT);

        private final String words;
        private final FieldType type;

        Kind(String words, FieldType type) {
            this.words = words;
            this.type = type;
        }

        public String words() {
            return words;
        }

        /** Whether an administrator writes down what can be chosen. */
        public boolean hasChoices() {
            return this == CHOICE || this == SEVERAL || this == TREE;
        }

        /** Whether it holds a text that people write freely, which is compared letter case and accents aside. */
        public boolean written() {
            return type == FieldType.TEXT;
        }

        /** As data names it. */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }

        /** The kind that data names so. */
        public static Optional<Kind> of(String key) {
            return Arrays.stream(values())
                    .filter(kind -> kind.key().equals(key))
                    .findFirst();
        }
    }

    /** The longest short text that an own field holds. */
    public static final int LONGEST = 200;
    /** The longest long text that an own field holds. */
    public static final int LONGEST_LONG = 4_000;
    /** The longest link that an own field holds. */
    public static final int LONGEST_LINK = 1_000;
    /** What a tick has that is set. */
    public static final String TICKED = "yes";

    private static final Set<String> TICKS = Set.of(TICKED, "true", "on", "1", "x");
    private static final Set<String> NO_TICKS = Set.of("no", "false", "off", "0");

    private static final Pattern KEY = Pattern.compile("(own|contact|company)-(\\d{1,18})-([a-z]+)");
    private static final Pattern NUMBER = Pattern.compile("[-+]?\\d{1,15}(\\.\\d{1,6})?");

    @Override
    public FieldType type() {
        return kind.type;
    }

    @Override
    public String words() {
        return "own field " + id;
    }

    @Override
    public String key() {
        return bearer.key + "-" + id + "-" + kind.key();
    }

    /** The own field that data names so. */
    public static Optional<OwnField> of(String key) {
        Matcher matcher = KEY.matcher(key);
        return matcher.matches()
                ? Bearer.of(matcher.group(1))
                        .flatMap(bearer -> Kind.of(matcher.group(3))
                                .map(kind -> new OwnField(Long.parseLong(matcher.group(2)), bearer, kind)))
                : Optional.empty();
    }

    /**
     * A value as it is kept, so that equal ones are written alike.
     *
     * @param typed as somebody typed it; of several values each on a line of its own
     * @return blank for a blank one; nothing when it cannot be one of this kind
     */
    public Optional<String> normalised(String typed) {
        String text = typed.strip();
        if (text.isEmpty()) {
            return Optional.of("");
        }
        return switch (kind) {
            case TEXT, CHOICE -> within(text, LONGEST);
            case LONG -> within(text.replace("\r\n", "\n").replace('\r', '\n'), LONGEST_LONG);
            case NUMBER -> number(text).map(OwnField::plain);
            case DATE -> date(text).map(LocalDate::toString);
            case SEVERAL -> Optional.of(String.join("\n", lines(text)));
            case TREE -> ChoiceTree.path(text).map(ChoiceTree::written);
            case TICK -> tick(text);
            case PERSON, COMPANY -> text.matches("\\d{1,18}") ? Optional.of(text) : Optional.empty();
            case LINK -> link(text);
        };
    }

    private static Optional<String> within(String text, int longest) {
        return text.length() > longest ? Optional.empty() : Optional.of(text);
    }

    /** Several values are kept a line each, in one order whichever way they were ticked. */
    private static List<String> lines(String text) {
        return text.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .distinct()
                .sorted()
                .toList();
    }

    private static Optional<String> tick(String text) {
        Set<String> said = Set.copyOf(lines(text.toLowerCase(Locale.ROOT)));
        if (said.stream().anyMatch(TICKS::contains)) {
            return Optional.of(TICKED);
        }
        return NO_TICKS.containsAll(said) ? Optional.of("") : Optional.empty();
    }

    /** An address of the web with a host; nothing else is ever made into a link. */
    private static Optional<String> link(String text) {
        try {
            URI address = new URI(text);
            boolean web = "http".equalsIgnoreCase(address.getScheme()) || "https".equalsIgnoreCase(address.getScheme());
            return web && address.getHost() != null ? within(text, LONGEST_LINK) : Optional.empty();
        } catch (URISyntaxException e) {
            return Optional.empty();
        }
    }

    /** The values of which a kept one consists: each choice of several, otherwise the value itself. */
    public List<String> values(String kept) {
        return kind == Kind.SEVERAL ? lines(kept) : kept.isEmpty() ? List.of() : List.of(kept);
    }

    /**
     * A kept value as it is compared: texts letter case and accents aside; of sets what can be asked for, in small letters and a line each.
     * Of a choice in a tree that is every level above it, too.
     */
    public String compared(String kept) {
        return switch (kind) {
            case TEXT, LONG, LINK -> Words.fold(kept);
            case SEVERAL, TREE -> String.join("\n", asked(kept));
            case NUMBER, DATE, CHOICE, TICK, PERSON, COMPANY -> kept;
        };
    }

    private List<String> asked(String kept) {
        List<String> all =
                kind == Kind.TREE ? ChoiceTree.path(kept).map(ChoiceTree::above).orElse(List.of()) : lines(kept);
        return all.stream().map(one -> one.toLowerCase(Locale.ROOT)).toList();
    }

    /** What criteria compare of values as they are kept. */
    List<String> facts(List<String> kept) {
        return type() == FieldType.SET
                ? kept.stream().flatMap(one -> asked(one).stream()).toList()
                : kept;
    }

    private static String plain(BigDecimal number) {
        return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
    }

    /** A number of at most fifteen places before the point and six after it. */
    public static Optional<BigDecimal> number(String text) {
        return NUMBER.matcher(text.strip()).matches() ? Optional.of(new BigDecimal(text.strip())) : Optional.empty();
    }

    /** A date of four-digit years, such as 2027-03-01. */
    public static Optional<LocalDate> date(String text) {
        if (text.strip().length() != 10) {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDate.parse(text.strip()));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
