package rafter.app.platform;

/** Something a person can bring about, with a message for them: what happened, what was kept, what to do. */
public abstract sealed class Problem extends RuntimeException {

    private Problem(String message) {
        super(message);
    }

    /** The message for the person. */
    public String words() {
        return String.valueOf(getMessage());
    }

    /** What was asked for does not exist, or not for this person. */
    public static final class NotFound extends Problem {
        public NotFound(String message) {
            super(message);
        }
    }

    /** The person lacks the right. */
    public static final class NoRight extends Problem {
        public NoRight(String message) {
            super(message);
        }
    }

    /** What was entered cannot be accepted. */
    public static final class Invalid extends Problem {
        public Invalid(String message) {
            super(message);
        }
    }

    /** Somebody else changed the same thing meanwhile. */
    public static final class Stale extends Problem {
        public Stale(String message) {
            super(message);
        }
    }
}
