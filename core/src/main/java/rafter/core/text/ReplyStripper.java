package rafter.core.text;

import java.util.List;
import java.util.regex.Pattern;

/**
 * Takes a plain-text reply apart.
 *
 * <p>The quoted rest begins at the first line that introduces an earlier message and is followed by nothing but it: an
 * attribution ("On ... wrote:"), a divider ("Original message"), a block of header lines ("From: ... Sent: ..."), or quote marks up to
 * the end. Quotes with words of the author's own below them stay, for they are what the words answer. The signature begins at
 * the mark of RFC 3676 ("-- ") or at a phone's closing line. When nothing of the author's own would be left, everything is
 * taken as their own. Linear in the length of the text.
 */
public final class ReplyStripper {

    private static final int ATTRIBUTION_LINES = 3;
    private static final int LONGEST_ATTRIBUTION = 400;
    private static final Pattern ATTRIBUTION = Pattern.compile(
            "^>?\\s*(On|Am|Den|Le|El|Op|På|Il|Em|W dniu|Dnia)\\b.{3,}"
                    + "(wrote|schrieb|skrev|a écrit|escribió|schreef|ha scritto|escreveu|napisał(\\(a\\))?)\\b.{0,120}:\\s*$",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
    private static final Pattern DIVIDER = Pattern.compile(
            "^\\s*[-_=*]{2,}\\s*(original message|forwarded message|reply above this line|opprinnelig melding"
                    + "|ursprüngliche nachricht|message d'origine|mensaje original)\\s*[-_=*]{0,}\\s*$",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern FROM_LINE =
            Pattern.compile("^\\s*\\*?(From|Von|Fra|De|Van|Från|Da|Od)\\s*:\\*?\\s+\\S.*", Pattern.CASE_INSENSITIVE);
    private static final Pattern HEADER_LINE = Pattern.compile(
            "^\\s*\\*?(Sent|Date|To|Subject|Cc|Gesendet|An|Betreff|Datum|Sendt|Til|Emne|Dato|Envoyé|À|Objet|Enviado|Para|Asunto)\\s*:\\*?\\s+\\S.*",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern RULE = Pattern.compile("^\\s*_{10,}\\s*$");
    private static final Pattern SIGNATURE_MARK = Pattern.compile("^--\\s?$");
    private static final Pattern PHONE_CLOSING = Pattern.compile(
            "^(Sent from my|Sent with my|Sendt fra min|Von meinem .* gesendet|Envoyé de mon|Enviado desde mi)\\b.{0,60}$",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);

    private ReplyStripper() {}

    /** Takes one message apart. */
    public static ReplyParts strip(String text) {
        List<String> lines = text.replace("\r\n", "\n").replace('\r', '\n').lines().toList();
        int quote = quoteStart(lines);
        int signature = signatureStart(lines, quote);
        String own = join(lines, 0, signature);
        if (own.isBlank()) {
            return new ReplyParts(join(lines, 0, lines.size()), "", "");
        }
        return new ReplyParts(own, join(lines, signature, quote), join(lines, quote, lines.size()));
    }

    /** Whether a line of text introduces an earlier message, as in "On Monday ... wrote:". */
    public static boolean isAttribution(String text) {
        return text.length() <= LONGEST_ATTRIBUTION && ATTRIBUTION.matcher(text.strip()).matches();
    }

    /** Whether text begins like the header lines that mail programs put above an earlier message. */
    public static boolean isHeaderBlock(String text) {
        List<String> lines = text.lines().filter(line -> !line.isBlank()).limit(4).toList();
        return lines.size() >= 2
                && FROM_LINE.matcher(lines.getFirst()).matches()
                && lines.stream().skip(1).anyMatch(line -> HEADER_LINE.matcher(line).matches());
    }

    /** Whether a line is a divider above an earlier message. */
    public static boolean isDivider(String line) {
        return DIVIDER.matcher(line).matches();
    }

    /** Whether a line begins a signature. */
    public static boolean isSignatureMark(String line) {
        return SIGNATURE_MARK.matcher(line).matches() || PHONE_CLOSING.matcher(line.strip()).matches();
    }

    private static int quoteStart(List<String> lines) {
        int trailing = trailingQuoteStart(lines);
        for (int i = 0; i < lines.size(); i++) {
            if (isDivider(lines.get(i)) || startsHeaderBlock(lines, i)) {
                return i;
            }
            int length = attributionLength(lines, i);
            if (length > 0 && onlyQuotedFrom(lines, i + length, trailing)) {
                return i;
            }
        }
        return trailing;
    }

    /** An attribution may be broken over a few lines. */
    private static int attributionLength(List<String> lines, int at) {
        var joined = new StringBuilder();
        for (int n = 1; n <= ATTRIBUTION_LINES && at + n <= lines.size(); n++) {
            joined.append(lines.get(at + n - 1)).append(' ');
            if (isAttribution(joined.toString())) {
                return n;
            }
        }
        return 0;
    }

    /** Below an attribution come marked quotes to the end, or unmarked ones when there are no marks at all. */
    private static boolean onlyQuotedFrom(List<String> lines, int from, int trailing) {
        boolean marked = lines.stream().skip(from).anyMatch(ReplyStripper::isMarked);
        return !marked || lines.subList(from, Math.max(from, trailing)).stream().allMatch(l -> l.isBlank() || isMarked(l));
    }

    private static boolean startsHeaderBlock(List<String> lines, int at) {
        int from = RULE.matcher(lines.get(at)).matches() ? at + 1 : at;
        int to = Math.min(lines.size(), from + 5);
        return from < to
                && FROM_LINE.matcher(lines.get(from)).matches()
                && lines.subList(from + 1, to).stream().anyMatch(line -> HEADER_LINE.matcher(line).matches());
    }

    private static int trailingQuoteStart(List<String> lines) {
        int start = lines.size();
        for (int i = lines.size() - 1; i >= 0; i--) {
            if (isMarked(lines.get(i))) {
                start = i;
            } else if (!lines.get(i).isBlank()) {
                break;
            }
        }
        return start;
    }

    private static int signatureStart(List<String> lines, int quote) {
        for (int i = 0; i < quote; i++) {
            if (SIGNATURE_MARK.matcher(lines.get(i)).matches()) {
                return i;
            }
            if (PHONE_CLOSING.matcher(lines.get(i).strip()).matches() && join(lines, i + 1, quote).isBlank()) {
                return i;
            }
        }
        return quote;
    }

    private static boolean isMarked(String line) {
        return line.startsWith(">");
    }

    private static String join(List<String> lines, int from, int to) {
        return String.join("\n", lines.subList(from, to)).strip();
    }
}
