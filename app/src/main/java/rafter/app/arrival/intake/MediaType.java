package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import jakarta.mail.Part;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a part says it is, read leniently: comments, missing quotes, stray semicolons and blanks hide nothing of it.
 *
 * @param name type and subtype in lower case
 * @param written all that was said, without comments
 */
record MediaType(String name, String written) {

    private static final int LONGEST = 2_000;
    private static final Pattern NAME = Pattern.compile(
            "^\\s*([a-z0-9!#$&^_.+-]{1,60})\\s*/\\s*([a-z0-9!#$&^_.+-]{1,80})", Pattern.CASE_INSENSITIVE);

    static MediaType of(Part part) {
        String type;
        try {
            type = part.getContentType();
        } catch (MessagingException broken) {
            return read("");
        }
        return read(type == null ? "" : type);
    }

    static MediaType read(String type) {
        String plain = withoutComments(type.length() > LONGEST ? type.substring(0, LONGEST) : type)
                .replaceAll("[\\r\\n\\t]", " ");
        Matcher name = NAME.matcher(plain);
        if (name.find()) {
            return new MediaType((name.group(1) + "/" + name.group(2)).toLowerCase(Locale.ROOT), plain);
        }
        String first = plain.replaceFirst(";.*", "").strip().toLowerCase(Locale.ROOT);
        return new MediaType(
                first.equals("text") || first.isEmpty() ? "text/plain" : "application/octet-stream", plain);
    }

    private static String withoutComments(String type) {
        var plain = new StringBuilder();
        int depth = 0;
        boolean quoted = false;
        for (int i = 0; i < type.length(); i++) {
            char c = type.charAt(i);
            quoted ^= c == '"' && depth == 0;
            depth += !quoted && c == '(' ? 1 : 0;
            if (depth == 0) {
                plain.append(c);
            }
            depth -= !quoted && c == ')' && depth > 0 ? 1 : 0;
        }
        return plain.toString();
    }

    boolean is(String... names) {
        return java.util.List.of(names).contains(name);
    }

    boolean multipart() {
        return name.startsWith("multipart/");
    }

    /** The value of a parameter. */
    Optional<String> parameter(String parameter) {
        Matcher found = Pattern.compile(
                        "(?:^|[;\\s])" + Pattern.quote(parameter) + "\\s*=\\s*(?:\"([^\"]*)\"|([^\\s;\"]+))",
                        Pattern.CASE_INSENSITIVE)
                .matcher(written);
        return found.find()
                ? Optional.of(found.group(1) == null ? found.group(2) : found.group(1))
                        .map(String::strip)
                        .filter(value -> !value.isEmpty())
                : Optional.empty();
    }
}
