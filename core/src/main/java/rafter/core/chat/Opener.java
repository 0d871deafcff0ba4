package rafter.core.chat;

import java.util.List;

/**
 * A ready question that a customer can press. Its wording is the name of its macro, and its answer the macro's, so that they cannot drift
 * apart.
 *
 * @param macro which macro answers it
 * @param wording the question
 * @param pages on which pages it is shown
 * @param language in which language it is; blank: for whoever reads any other
 */
public record Opener(long id, long macro, String wording, Pages pages, String language) {

    /** So many are shown at once. */
    public static final int MOST = 6;

    /** Those that somebody sees, in their order; those in their language, or where there are none on this page, those for everybody. O(n). */
    public static List<Opener> shown(List<Opener> all, Visit visit) {
        List<Opener> here =
                all.stream().filter(one -> one.pages().has(visit.path())).toList();
        List<Opener> theirs = here.stream()
                .filter(one -> one.language().equals(visit.mainLanguage()))
                .toList();
        boolean own = !visit.mainLanguage().isEmpty() && !theirs.isEmpty();
        return (own
                        ? theirs
                        : here.stream().filter(one -> one.language().isEmpty()).toList())
                .stream().limit(MOST).toList();
    }
}
