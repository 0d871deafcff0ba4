package rafter.app.house.access;

/** Something that not everybody may do. */
public enum Right {
    /** Read and work on tickets. */
    WORK,
    /** Hand a colleague's ticket to somebody else. */
    HAND_OVER_ANY,
    /** Lay tickets into the bin, and take them out of it. */
    DELETE,
    /** Change what holds for everybody. */
    HOUSE_RULES
}
