package rafter.core.chat;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import rafter.core.text.Words;

/**
 * An invitation to chat that is shown on a page by itself.
 *
 * @param words what it says
 * @param pages on which pages
 * @param after how long somebody has looked at the page
 * @param searched it is shown to those alone who searched for one of these words, with commas between; blank: to all
 * @param every at most once in such a time to the same person
 */
public record Invite(long id, String words, Pages pages, Duration after, String searched, Duration every) {

    /** Between two different ones there is at least so much time. */
    public static final Duration APART = Duration.ofMinutes(30);

    /** The one that somebody is shown on this page, the first that fits; nothing when none does. O(n). */
    public static Optional<Invite> chosen(List<Invite> all, Visit visit, Instant now) {
        boolean lately =
                visit.shown().values().stream().anyMatch(at -> at.plus(APART).isAfter(now));
        return all.stream()
                .filter(one -> !lately && one.pages().has(visit.path()) && one.sought(visit) && one.due(visit, now))
                .min(Comparator.comparingInt(all::indexOf));
    }

    private boolean due(Visit visit, Instant now) {
        return Optional.ofNullable(visit.shown().get(id))
                .filter(last -> last.plus(every).isAfter(now))
                .isEmpty();
    }

    private boolean sought(Visit visit) {
        if (searched.isBlank()) {
            return true;
        }
        String text = Words.of(visit.searched()).stored();
        return List.of(searched.split(",")).stream()
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .anyMatch(phrase -> text.contains(Words.of(phrase).stored()));
    }
}
