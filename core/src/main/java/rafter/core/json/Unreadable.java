package rafter.core.json;

/** Thrown for JSON that is not what it should be; the message says what is wrong. */
public final class Unreadable extends IllegalArgumentException {

    /** Because of this. */
    public Unreadable(String message) {
        super(message);
    }
}
