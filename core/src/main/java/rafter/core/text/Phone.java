package rafter.core.text;

import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A telephone number, as somebody wrote it and as it is compared.
 *
 * @param written as it was typed, without blanks around it
 * @param digits its digits, without signs and without what only says that a country follows
 */
public record Phone(String written, String digits) {

    /** ITU-T E.164 allows fifteen digits; what is shorter than four is an extension that says nothing by itself. */
    private static final int FEWEST = 4;

    private static final int MOST = 15;
    private static final Pattern WRITING = Pattern.compile("\\+?[0-9 ()/.\\-\u00a0\u2011]+");

    /** What somebody typed as a number; nothing when it cannot be one. */
    public static Optional<Phone> of(String typed) {
        String written = typed.strip();
        String digits = digits(written);
        boolean can = WRITING.matcher(written).matches() && digits.length() >= FEWEST && digits.length() <= MOST;
        return can ? Optional.of(new Phone(written, digits)) : Optional.empty();
    }

    /**
     * What a piece of a number is looked for by: the same number is found whether it was written with its country, with the zero that
     * stands for the own country, or with neither. Nothing when it is no piece of a number, or too short to tell anything.
     */
    public static Optional<String> asked(String typed) {
        return of(typed)
                .map(phone -> phone.written().startsWith("+")
                        ? phone.digits()
                        : phone.digits().replaceFirst("^0+", ""))
                .filter(digits -> digits.length() >= FEWEST);
    }

    private static String digits(String written) {
        String plain = written.replaceAll("\\(0\\)", "").replaceAll("[^0-9]", "");
        return plain.startsWith("00") ? plain.substring(2) : plain;
    }
}
