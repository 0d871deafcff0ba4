package rafter.core.routing;

/** How well somebody has a skill. */
public enum SkillLevel {
    /** Takes such tickets only when nobody else can. */
    LEARNING("learning", 0.35),
    ABLE("able", 0.8),
    EXPERT("expert", 1);

    private final String words;
    private final double worth;

    SkillLevel(String words, double worth) {
        this.words = words;
        this.worth = worth;
    }

    public String words() {
        return words;
    }

    /** How far it covers what a ticket needs, of one. */
    public double worth() {
        return worth;
    }

    /** Whether somebody of this level can deal with such a ticket alone. */
    public boolean covers() {
        return this != LEARNING;
    }
}
