package rafter.core.ticket;

/** Whose move it is on a ticket. */
public enum Turn {
    OURS,
    CUSTOMER,
    PARTNER,
    NOBODY
}
