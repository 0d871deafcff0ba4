package rafter.core.routing;

/** How a queue hands its tickets out. */
public enum Handing {
    HAND("by hand", "Somebody picks one."),
    PULL("pull", "Who asks for the next one gets the best that they can take."),
    ROTATION("rotation", "Each in turn."),
    LEAST("least loaded", "Who has least of what they take at once."),
    FIT("best fit", "Who fits best, by the weights of the workspace."),
    OFFERS("offers", "Who fits best is asked, then the next.");

    private final String words;
    private final String meaning;

    Handing(String words, String meaning) {
        this.words = words;
        this.meaning = meaning;
    }

    public String words() {
        return words;
    }

    public String meaning() {
        return meaning;
    }

    /** Whether tickets are given to people without anybody asking for them. */
    public boolean gives() {
        return this == ROTATION || this == LEAST || this == FIT;
    }
}
