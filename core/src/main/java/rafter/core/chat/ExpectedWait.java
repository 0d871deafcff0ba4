package rafter.core.chat;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.hipparchus.distribution.continuous.GammaDistribution;

/**
 * How long somebody may wait until a person comes, as a range: in three of five cases it is within it, in one it is shorter, in one longer.
 *
 * @param least the shorter end, in whole minutes
 * @param most the longer end, in whole minutes, longer than the shorter one
 */
public record ExpectedWait(Duration least, Duration most) {

    /** In one case of five it is shorter than the range, in one longer. */
    private static final double LOW = 0.2;

    private static final double HIGH = 0.8;

    /** So much a chat takes where none has been measured. */
    static final Duration USUAL = Duration.ofMinutes(8);

    /** What is usual counts as so many measured chats, so that the first few do not decide alone. */
    static final int USUAL_COUNTS = 5;

    /**
     * How long somebody waits at a place in the line. With c chats going on that end independently of each other after an exponentially
     * distributed time of mean m, the k-th end comes after an Erlang distributed time of shape k and scale m/c (the waiting time of the
     * M/M/c queue for a given number before one; Gross and Harris, Fundamentals of Queueing Theory, 2.3). O(1).
     *
     * @param place one: the next
     * @param free how many chats could begin at once; with place for them all nobody waits
     * @param places how many chats can go on at the same time
     * @param each how long a chat takes
     * @return nothing when nobody could ever come
     * @throws IllegalArgumentException when the place is before the first, or a number is negative
     */
    public static Optional<ExpectedWait> at(int place, int free, int places, Duration each) {
        if (place < 1 || free < 0 || places < 0 || each.isNegative()) {
            throw new IllegalArgumentException(
                    "place " + place + ", free " + free + " of " + places + ", each " + each);
        }
        if (places == 0) {
            return Optional.empty();
        }
        int ends = place - free;
        if (ends <= 0 || each.isZero()) {
            return Optional.of(new ExpectedWait(Duration.ZERO, Duration.ofMinutes(1)));
        }
        var wait = new GammaDistribution(ends, each.toMillis() / 60_000.0 / places);
        long least = (long) Math.floor(wait.inverseCumulativeProbability(LOW));
        long most = (long) Math.ceil(wait.inverseCumulativeProbability(HIGH));
        return Optional.of(new ExpectedWait(Duration.ofMinutes(least), Duration.ofMinutes(Math.max(least + 1, most))));
    }

    /** How long a chat takes, from what was measured, drawn towards what is usual where little was. O(n). */
    public static Duration each(List<Duration> measured) {
        Duration all = measured.stream().reduce(USUAL.multipliedBy(USUAL_COUNTS), Duration::plus);
        return all.dividedBy(measured.size() + USUAL_COUNTS);
    }

    /** As people read it, such as “2 to 4 minutes”. */
    public String words() {
        if (least.isZero()) {
            return most.toMinutes() <= 1 ? "less than a minute" : "less than " + most.toMinutes() + " minutes";
        }
        return least.toMinutes() + " to " + most.toMinutes() + " minutes";
    }
}
