package rafter.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * Takes a message apart into what its author wrote this time, the earlier messages that it carries along, and a signature.
 *
 * <p>Folding wants proof, for what is folded away is easily overlooked. A passage is a quotation when its marks say so, or when it stands
 * word for word in an earlier message of the conversation, or when it begins with header lines that name an address of the conversation.
 * Introducing lines ("On ... wrote:", "Original message") belong to the quotation below them and prove nothing by themselves. Quotes with words
 * of the author's own between them stay, for they are what the words answer; a message that is passed on stays, for it is what the message is about; and
 * the first message of a conversation quotes nothing. The signature begins at the mark of RFC 3676 ("-- ") or at a telephone's closing
 * line. When nothing of the author's own would be left, everything is their own. Costs O(n) for n words: at most {@value #MOST_TRIES}
 * places are tried.
 */
public final class ReplyStripper {

    private static final int MOST_TRIES = 20;
    private static final int SIGNATURE_LINES = 10;
    private static final int SIGNATURE_LETTERS = 800;
    /** A quotation above its answer that is shorter than this is left: it says what is answered. */
    private static final int SHORT_QUOTE = 4;

    private static final Pattern CONTACT =
            Pattern.compile("\\d[\\d ()./-]{5,}|@|www\\.|https?:", Pattern.CASE_INSENSITIVE);
    private static final Pattern AFTERTHOUGHT =
            Pattern.compile("^\\s*(p\\.? ?s\\.?|nb|n\\.b\\.)(\\W.*)?$", Pattern.CASE_INSENSITIVE);

    /** Which lines are which; half-open, and empty where there is nothing. */
    public record Cut(int quotedFrom, int quotedTo, int signatureFrom, int signatureTo) {

        static final Cut NOTHING = new Cut(0, 0, 0, 0);

        /** Whether this line is of an earlier message. */
        public boolean quoted(int line) {
            return line >= quotedFrom && line < quotedTo;
        }

        /** Whether this line is of the signature. */
        public boolean signature(int line) {
            return line >= signatureFrom && line < signatureTo;
        }
    }

    /** What came of trying a place. */
    private sealed interface Trial {
        record Quotation(Cut cut) implements Trial {}

        record NoProof() implements Trial {}

        /** It is a quotation, and there are own words between its lines. */
        record AnsweredBetween() implements Trial {}
    }

    private final List<TextLine> lines;
    private final Earlier earlier;
    /** Whether quotations are told by marks at the lines rather than by markup around them; markup may hold answers between the lines. */
    private final boolean plainMarks;
    /** Which lines stand in an earlier message. */
    private final boolean[] known;

    private ReplyStripper(List<TextLine> lines, Earlier earlier) {
        this.lines = lines;
        this.earlier = earlier;
        this.plainMarks = lines.stream().allMatch(TextLine::sure);
        this.known = earlier.any() ? earlier.known(lines) : new boolean[lines.size()];
    }

    /** Takes plain text apart. */
    public static ReplyParts strip(String text, Earlier earlier) {
        List<TextLine> lines = TextLine.of(text);
        Cut cut = cut(lines, earlier);
        List<String> written =
                text.replace("\r\n", "\n").replace('\r', '\n').lines().toList();
        var own = new ArrayList<String>();
        for (int i = 0; i < written.size(); i++) {
            if (!cut.quoted(i) && !cut.signature(i)) {
                own.add(written.get(i));
            }
        }
        return new ReplyParts(
                String.join("\n", own).strip(),
                String.join("\n", written.subList(cut.signatureFrom(), cut.signatureTo()))
                        .strip(),
                String.join("\n", written.subList(cut.quotedFrom(), cut.quotedTo()))
                        .strip());
    }

    /** Says which lines of a message are which. */
    public static Cut cut(List<TextLine> lines, Earlier earlier) {
        return new ReplyStripper(lines, earlier).cut();
    }

    private Cut cut() {
        Cut quoted = earlier.any() ? quoted() : Cut.NOTHING;
        boolean toTheEnd = quoted.quotedTo() == 0 || restIsBlank(quoted.quotedTo());
        int end = quoted.quotedTo() > 0 && toTheEnd ? quoted.quotedFrom() : lines.size();
        int signature = signatureFrom(quoted.quotedTo() > 0 && !toTheEnd ? quoted.quotedTo() : 0, end);
        Cut all = new Cut(quoted.quotedFrom(), quoted.quotedTo(), signature, signature == end ? signature : end);
        return leavesWords(all) ? all : leavesWords(quoted) ? quoted : Cut.NOTHING;
    }

    private boolean restIsBlank(int from) {
        return lines.subList(from, lines.size()).stream().allMatch(TextLine::blank);
    }

    private boolean leavesWords(Cut cut) {
        for (int i = 0; i < lines.size(); i++) {
            if (!lines.get(i).blank() && !cut.quoted(i) && !cut.signature(i)) {
                return true;
            }
        }
        return false;
    }

    // ------------------------------------------------------------------ quotations

    private Cut quoted() {
        int tries = 0;
        int at = 0;
        while (at < lines.size() && tries < MOST_TRIES) {
            TextLine line = lines.get(at);
            if (line.depth() == 0 && Introductions.isForward(line.text())) {
                return Cut.NOTHING;
            }
            int head = line.depth() == 0 ? introduction(at) : 0;
            if (line.blank() || (head == 0 && line.depth() == 0)) {
                at++;
                continue;
            }
            tries++;
            switch (from(at, head)) {
                case Trial.Quotation(Cut cut) -> {
                    return cut;
                }
                case Trial.AnsweredBetween between -> {
                    return trailing();
                }
                case Trial.NoProof none -> at = head > 0 ? at + head : afterRun(at);
            }
        }
        return Cut.NOTHING;
    }

    private int afterRun(int at) {
        int next = at;
        while (next < lines.size()
                && (lines.get(next).depth() > 0 || lines.get(next).blank())) {
            next++;
        }
        return next;
    }

    /** How many lines from here on introduce an earlier message, within the quotation they lie in. */
    private int introduction(int at) {
        TextLine line = lines.get(at);
        if (line.blank()) {
            return 0;
        }
        if (Introductions.isDivider(line.text()) || isRuleAboveHeader(at)) {
            int next = nextWords(at + 1);
            int header = next < lines.size() && lines.get(next).depth() == line.depth()
                    ? Introductions.header(lines, next)
                    : 0;
            return header > 0 ? next + header - at : 1;
        }
        int header = Introductions.header(lines, at);
        int attribution = header > 0 ? header : Introductions.attribution(lines, at);
        return attribution > 0 ? attribution : looksLikeAttribution(at) ? 1 : 0;
    }

    private boolean isRuleAboveHeader(int at) {
        String text = lines.get(at).text().strip();
        boolean rule = text.length() >= 10 && text.chars().allMatch(c -> c == '_' || c == '-');
        return rule
                && at + 1 < lines.size()
                && Introductions.header(lines, Math.min(nextWords(at + 1), lines.size() - 1)) > 0;
    }

    /** In whatever language: a line with a date or an address that ends in a colon, right above marked lines. */
    private boolean looksLikeAttribution(int at) {
        String text = lines.get(at).text().strip();
        int next = nextWords(at + 1);
        return text.endsWith(":")
                && text.length() < 200
                && text.chars().anyMatch(c -> Character.isDigit(c) || c == '@')
                && next < lines.size()
                && lines.get(next).depth() > 0
                && lines.get(next).sure();
    }

    private int nextWords(int from) {
        int next = from;
        while (next < lines.size() && lines.get(next).blank()) {
            next++;
        }
        return next;
    }

    /** The quotation that begins here, or why there is none. */
    private Trial from(int at, int head) {
        boolean named = namesTheConversation(at, head);
        boolean answersLieWithin = !plainMarks && mostlyKnown(at + head);
        boolean proven = named;
        int last = at + head - 1;
        int firstOwn = -1;
        for (int next = nextWords(at + head); next < lines.size(); next = nextWords(next + 1)) {
            if (lines.get(next).wordless()) {
                continue;
            }
            int inner = quoted(next, answersLieWithin) ? 1 : innerIntroduction(next);
            if (inner > 0) {
                if (firstOwn >= 0) {
                    return new Trial.AnsweredBetween();
                }
                proven = true;
                last = next + inner - 1;
                next = last;
                continue;
            }
            if (!proven) {
                return new Trial.NoProof();
            }
            firstOwn = firstOwn < 0 ? next : firstOwn;
        }
        if (!proven) {
            return new Trial.NoProof();
        }
        // Header lines that name the conversation stand above all that they introduce, known or not.
        boolean onlyNamed = named && last < at + head;
        return answered(at, onlyNamed || firstOwn < 0 ? lines.size() : last + 1, head);
    }

    /** Whether a line is known, or marked as quoted where no answers lie between such lines. */
    private boolean quoted(int at, boolean answersLieWithin) {
        TextLine line = lines.get(at);
        boolean marked = line.depth() > 0 && line.sure();
        return known[at] || (marked && !(answersLieWithin && line.depth() == 1));
    }

    private boolean namesTheConversation(int at, int head) {
        int header = Introductions.header(lines, at) > 0 ? at : Math.min(nextWords(at + 1), lines.size() - 1);
        return head > 0
                && Introductions.header(lines, header) > 0
                && lines.subList(at, at + head).stream().anyMatch(line -> earlier.names(line.text()));
    }

    /** An introduction further down counts only where a quotation follows it. */
    private int innerIntroduction(int at) {
        int inner = introduction(at);
        int next = nextWords(at + inner);
        if (inner == 0 || next >= lines.size()) {
            return 0;
        }
        boolean follows = lines.get(next).depth() > lines.get(at).depth() || known[next];
        return follows || namesTheConversation(at, inner) ? inner : 0;
    }

    /** Whether most of a quotation that markup tells was said before, so that the rest of it is the writer's. */
    private boolean mostlyKnown(int from) {
        int all = 0;
        int said = 0;
        for (int i = from; i < lines.size(); i++) {
            if (lines.get(i).depth() == 1 && Words.list(lines.get(i).text()).size() >= 3) {
                all++;
                said += known[i] ? 1 : 0;
            }
        }
        return all > 0 && said * 10 >= all * 6;
    }

    /** A short quotation with an answer below it stays in view. */
    private Trial answered(int from, int to, int head) {
        boolean below = !restIsBlank(to);
        boolean above = lines.subList(0, from).stream().anyMatch(line -> !line.blank());
        long words =
                lines.subList(from, to).stream().filter(line -> !line.blank()).count() - head;
        if (below && (above || words < SHORT_QUOTE)) {
            return new Trial.NoProof();
        }
        return new Trial.Quotation(new Cut(from, to, 0, 0));
    }

    /** Where quotes are answered one by one: the marked rest below the last own words. */
    private Cut trailing() {
        int start = lines.size();
        for (int i = lines.size() - 1;
                i >= 0
                        && (lines.get(i).blank()
                                || (lines.get(i).depth() > 0 && lines.get(i).sure()));
                i--) {
            start = lines.get(i).blank() ? start : i;
        }
        return start < lines.size() && plainMarks ? new Cut(start, lines.size(), 0, 0) : Cut.NOTHING;
    }

    // ------------------------------------------------------------------ signatures

    private int signatureFrom(int from, int end) {
        int bare = -1;
        int bareCount = 0;
        for (int i = from; i < end; i++) {
            String text = lines.get(i).text();
            if (lines.get(i).depth() > 0) {
                continue;
            }
            if (text.equals("-- ") && isClosing(i + 1, end)) {
                return i;
            }
            if (text.strip().equals("--")) {
                bare = i;
                bareCount++;
            }
            if (Introductions.isPhoneClosing(text)
                    && lines.subList(i + 1, end).stream().allMatch(TextLine::blank)) {
                return i;
            }
        }
        return bareCount == 1 && isClosing(bare + 1, end) && isCard(bare + 1, end) ? bare : end;
    }

    /** A closing block is short, and holds no afterthought. */
    private boolean isClosing(int from, int end) {
        List<TextLine> block =
                lines.subList(from, end).stream().filter(line -> !line.blank()).toList();
        int letters = block.stream().mapToInt(line -> line.text().length()).sum();
        return !block.isEmpty()
                && block.size() <= SIGNATURE_LINES
                && letters <= SIGNATURE_LETTERS
                && block.stream()
                        .noneMatch(line -> AFTERTHOUGHT.matcher(line.text()).matches());
    }

    /** Below a mark that lost its blank only what looks like a visiting card is a signature. */
    private boolean isCard(int from, int end) {
        return lines.subList(from, end).stream()
                .anyMatch(line -> line.text().length() < 200
                        && CONTACT.matcher(line.text()).find());
    }
}
