package rafter.app.house.access;

import java.util.List;

/**
 * A page that a person can go to by its name.
 *
 * @param kind what it is one of, in a word
 * @param path its address
 */
public record Place(String words, String kind, String path) {

    /** Tells the pages of a part of the application. */
    @FunctionalInterface
    public interface Source {

        /** Those that this person may see. */
        List<Place> of(Viewer me);
    }

    /** A page of the application itself. */
    public static Place page(String words, String path) {
        return new Place(words, "page", path);
    }
}
