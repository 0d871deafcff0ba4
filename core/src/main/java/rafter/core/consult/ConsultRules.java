package rafter.core.consult;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * How a workspace consults.
 *
 * @param accountPerson whether who looks after the company is proposed as a guest
 * @param lead whether a lead of the team of who asks is proposed as a guest
 * @param answerWithin how long somebody has to answer before the next one is asked, too
 * @param units how much of a person a room takes as long as they are in it
 * @param mail whether colleagues are asked by mail, too; others always are
 */
public record ConsultRules(boolean accountPerson, boolean lead, Duration answerWithin, double units, boolean mail) {

    public static final int MOST_UNITS = 20;
    private static final Duration SHORTEST = Duration.ofMinutes(1);
    private static final Duration LONGEST = Duration.ofHours(24);

    /** Before anybody chose otherwise. */
    public static ConsultRules usual() {
        return new ConsultRules(true, false, Duration.ofMinutes(10), 1, true);
    }

    /** What keeps them from being used, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (answerWithin.compareTo(SHORTEST) < 0 || answerWithin.compareTo(LONGEST) > 0) {
            faults.add("Who is asked has from 1 minute to 24 hours to answer.");
        }
        if (!(units >= 0 && units <= MOST_UNITS)) {
            faults.add("A room takes from 0 to " + MOST_UNITS + " of what a person takes at once.");
        }
        return faults;
    }
}
