package rafter.core.routing;

/** Where somebody is. */
public enum Presence {
    HERE("at work"),
    AWAY("away"),
    OFF("off");

    private final String words;

    Presence(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }
}
