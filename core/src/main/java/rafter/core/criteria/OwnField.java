package rafter.core.criteria;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

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
        NUMBER("a number", FieldType.NUMBER),
        DATE("a date", FieldType.DATE),
        CHOICE("one of several choices", FieldType.CHOICE);

        private final String words;
        private final FieldType type;

        Kind(String words, FieldType type) {
            this.words = words;
            this.type = type;
        }

        public String words() {
            return words;
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

    /** The longest text that an own field holds. */
    public static final int LONGEST = 200;

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
     * @param typed as somebody typed it
     * @return blank for a blank one; nothing when it cannot be one of this kind
     */
    public Optional<String> normalised(String typed) {
        String text = typed.strip();
        if (text.isEmpty()) {
            return Optional.of("");
        }
        return switch (kind) {
            case TEXT, CHOICE -> text.length() > LONGEST ? Optional.empty() : Optional.of(text);
            case NUMBER -> number(text).map(OwnField::plain);
            case DATE -> date(text).map(LocalDate::toString);
        };
    }

    private static String plain(BigDecimal number) {
        return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
    }

    /** A number of at most fifteen places before the point and six after it. */
    public static Optional<BigDecimal> number(String text) {
        return NUMBER.matcher(text.strip()).matches() ? Optional.of(new BigDecimal(text.strip())) : Optional.empty();
    }

    /** A date of four-digit years, such as 2027-03-01. */
    static Optional<LocalDate> date(String text) {
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
