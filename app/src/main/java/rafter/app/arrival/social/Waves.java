package rafter.app.arrival.social;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.social.Mood;
import rafter.core.social.Wave;
import rafter.core.ticket.Act;

/** Many posts on one matter, seen as one, and answered together. */
@Component
public class Waves {

    private static final Duration BACK = Duration.ofDays(2);
    private static final int MOST_POSTS = 3000;
    private static final int MOST_ANSWERED = 200;
    private static final int MOST_REASONS = 5;

    /**
     * A wave.
     *
     * @param first its first post, by which it is known
     * @param perHour how many came in each hour, the first one first
     * @param annoyed how many of them are
     * @param open how many nobody has done anything about
     */
    public record Seen(long first, Wave wave, List<Posts.Post> posts, List<Integer> perHour, int annoyed, int open) {

        /** How many came in the hour of the most. */
        public int most() {
            return perHour.stream().mapToInt(Integer::intValue).max().orElse(1);
        }

        /** How many there are. */
        public int count() {
            return posts.size();
        }
    }

    /** What came of answering together. */
    public record Answered(List<TicketNumber> tickets, List<String> reasons) {}

    private final Posts posts;
    private final SocialRules rules;
    private final SocialDesk desk;
    private final Acts acts;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final BrieflyCached<List<Seen>> current = new BrieflyCached<>(Duration.ofSeconds(3), this::look);

    Waves(Posts posts, SocialRules rules, SocialDesk desk, Acts acts, TransactionTemplate transaction, Clock clock) {
        this.posts = posts;
        this.rules = rules;
        this.desk = desk;
        this.acts = acts;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** The waves of the last two days, the largest first. */
    public List<Seen> all() {
        return current.get();
    }

    /** The one that has a post. */
    public Optional<Seen> of(long post) {
        return all().stream()
                .filter(seen -> seen.posts().stream().anyMatch(one -> one.id() == post))
                .findFirst();
    }

    private List<Seen> look() {
        List<Posts.Post> recent = posts.recent(clock.instant().minus(BACK), MOST_POSTS);
        Map<String, Posts.Post> byId =
                recent.stream().collect(Collectors.toMap(post -> Long.toString(post.id()), Function.identity()));
        List<Wave.Item> items = recent.stream()
                .map(post -> new Wave.Item(Long.toString(post.id()), post.writtenAt(), post.text()))
                .toList();
        return Wave.among(items, rules.rules().waveOf(), rules.rules().waveWithin()).stream()
                .map(wave -> seen(wave, byId))
                .toList();
    }

    private static Seen seen(Wave wave, Map<String, Posts.Post> byId) {
        List<Posts.Post> all = wave.posts().stream()
                .flatMap(id -> Optional.ofNullable(byId.get(id)).stream())
                .toList();
        Instant begin = wave.from().truncatedTo(ChronoUnit.HOURS);
        var hours = new ArrayList<Integer>();
        for (Posts.Post post : all) {
            int hour = (int) Duration.between(begin, post.writtenAt()).toHours();
            while (hours.size() <= hour) {
                hours.add(0);
            }
            hours.set(hour, hours.get(hour) + 1);
        }
        return new Seen(
                all.getFirst().id(),
                wave,
                all,
                hours,
                (int) all.stream()
                        .filter(post -> post.moodKind() == Mood.Kind.BAD)
                        .count(),
                (int) all.stream()
                        .filter(post -> post.state() == Posts.State.NEW)
                        .count());
    }

    /**
     * Answers several posts with the same words, each where it was written; the tickets of all stand beneath the first one, so that what comes later is
     * told to all of them. What cannot be answered keeps nothing from the others.
     *
     * @throws Problem.Invalid when none is chosen
     */
    public Answered answer(Collection<Long> chosen, SocialDesk.Answer answer, Viewer me) {
        Access.require(me, Right.WORK);
        if (chosen.isEmpty() || chosen.size() > MOST_ANSWERED) {
            throw new Problem.Invalid(
                    "Choose at least one of them, and at most " + MOST_ANSWERED + ". What you typed is still here.");
        }
        var done = new ArrayList<TicketNumber>();
        var reasons = new ArrayList<String>();
        for (Posts.Post post : posts.all(chosen)) {
            try {
                TicketNumber number = transaction.execute(status -> answered(post, answer, done, me));
                if (number != null) {
                    done.add(number);
                }
            } catch (Problem e) {
                reasons.add(post.handle() + ": " + e.words());
            }
        }
        current.forget();
        if (done.isEmpty()) {
            throw new Problem.Invalid(reasons.getFirst() + " What you typed is still here.");
        }
        return new Answered(done, reasons.stream().limit(MOST_REASONS).toList());
    }

    private TicketNumber answered(Posts.Post post, SocialDesk.Answer answer, List<TicketNumber> done, Viewer me) {
        TicketNumber number = desk.answer(post.id(), answer, me);
        if (!done.isEmpty() && !done.contains(number) && post.ticket().isEmpty()) {
            acts.perform(number, new Act.PutUnder(Optional.of(done.getFirst())), me);
        }
        return number;
    }
}
