package rafter.outside;

/** A service outside that somebody plays: it tells Rafter what happens, and can be put out of order. */
abstract class Played {

    private final Teller teller;
    private boolean down;

    Played(Teller teller) {
        this.teller = teller;
    }

    Teller teller() {
        return teller;
    }

    /** Whether it takes what it is told. */
    synchronized boolean down() {
        return down;
    }

    /** From now on it is out of order, or works. */
    synchronized void down(boolean now) {
        down = now;
    }
}
