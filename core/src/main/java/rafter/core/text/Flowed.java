package rafter.core.text;

/** Text whose lines a mail program broke so that they can be joined again: {@code format=flowed}, RFC 3676. */
public final class Flowed {

    private static final String SIGNATURE = "-- ";

    private Flowed() {}

    /**
     * Joins lines that were broken softly, of each depth of quotation for itself. O(n).
     *
     * @param deleteBlank whether the blank at the end of a softly broken line belongs to the break ({@code DelSp=yes})
     */
    public static String join(String text, boolean deleteBlank) {
        var out = new StringBuilder();
        int depth = -1;
        boolean open = false;
        for (String line : text.split("\r\n|\n|\r", -1)) {
            int quotes = quotes(line);
            String words = line.substring(quotes);
            String plain = words.startsWith(" ") ? words.substring(1) : words;
            boolean mark = plain.equals(SIGNATURE);
            if (open && (quotes != depth || mark)) {
                out.append('\n');
                open = false;
            }
            if (!open && quotes > 0) {
                out.append(">".repeat(quotes)).append(' ');
            }
            boolean soft = plain.endsWith(" ") && !mark;
            out.append(soft && deleteBlank ? plain.substring(0, plain.length() - 1) : plain);
            if (!soft) {
                out.append('\n');
            }
            open = soft;
            depth = quotes;
        }
        return out.isEmpty() || (text.endsWith("\n") && open)
                ? out.toString()
                : out.substring(0, out.length() - (open ? 0 : 1));
    }

    private static int quotes(String line) {
        int count = 0;
        while (count < line.length() && line.charAt(count) == '>') {
            count++;
        }
        return count;
    }
}
