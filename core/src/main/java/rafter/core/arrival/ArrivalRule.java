package rafter.core.arrival;

import java.util.ArrayList;
import java.util.List;
import rafter.core.criteria.Criteria;

/**
 * What becomes of certain mail.
 *
 * @param id stays, whatever it is called
 * @param on whether it is read
 * @param criteria which mail, asked of {@link MailFacts}
 */
public record ArrivalRule(String id, String name, boolean on, Criteria criteria, Admission then) {

    public static final int LONGEST_NAME = 120;

    /** What keeps it from being read, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (name.isBlank()) {
            faults.add("It needs a name.");
        }
        if (name.length() > LONGEST_NAME) {
            faults.add("A name has at most " + LONGEST_NAME + " letters.");
        }
        if (criteria.equals(Criteria.everything())) {
            faults.add("It asks nothing, so it would take all mail. Say which mail it is for.");
        }
        faults.addAll(Criteria.faults(criteria));
        if (!MailFacts.FIELDS.containsAll(Criteria.asked(criteria))) {
            faults.add("It asks something that is not known of a mail.");
        }
        return faults;
    }
}
