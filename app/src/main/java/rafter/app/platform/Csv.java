package rafter.app.platform;

/** What is written into tables that other programs open. */
public final class Csv {

    private Csv() {}

    /** Programs for tables take a text that begins so for a formula, and a stranger may have written it. */
    public static String harmless(String text) {
        return text.isEmpty() || "=+-@\t\r".indexOf(text.charAt(0)) < 0 ? text : "'" + text;
    }
}
