package rafter.core.target;

/** What is promised. */
public enum Objective {
    FIRST_REPLY("first reply"),
    NEXT_REPLY("next reply"),
    RESOLUTION("resolution");

    private final String words;

    Objective(String words) {
        this.words = words;
    }

    /** How people say it. */
    public String words() {
        return words;
    }
}
