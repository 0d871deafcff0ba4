package rafter.app.platform;

/** Whole numbers as forms send them, such as the version of what was seen. */
public final class Whole {

    private Whole() {}

    /** The number of at most nine digits that stands there, or another one when none does. */
    public static int of(String typed, int otherwise) {
        return typed.matches("\\d{1,9}") ? Integer.parseInt(typed) : otherwise;
    }
}
