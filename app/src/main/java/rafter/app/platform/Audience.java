package rafter.app.platform;

import java.util.function.Predicate;

/** Knows who opens a page, and which news are for them. */
public interface Audience {

    /**
     * What whoever acts in this request is told of while their page is open.
     *
     * @throws Problem.NoRight when nobody is signed in
     */
    Predicate<News> here();
}
