package rafter.app.house.forms;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;

/** What forms and the rules of fields may ask about. */
final class Terms {

    static final int LONGEST_NAME = 60;
    static final String KEPT = " Nothing was saved yet; what you typed is still here.";
    /** What is known of a ticket while its form is filled. */
    static final Set<KnownField> ASKED = EnumSet.of(
            KnownField.CHANNEL,
            KnownField.TOPIC,
            KnownField.PRIORITY,
            KnownField.TEAM,
            KnownField.STATE,
            KnownField.TAGS,
            KnownField.SUBJECT,
            KnownField.PLAN,
            KnownField.COMPANY,
            KnownField.CONTACT_NAME,
            KnownField.CONTACT_ADDRESS);

    private Terms() {}

    /** Refuses criteria that cannot be asked while a form is filled. */
    static void check(Criteria when) {
        List<String> faults = new ArrayList<>(Criteria.faults(when));
        faults.addAll(Criteria.asked(when).stream()
                .filter(field -> field instanceof KnownField known && !ASKED.contains(known))
                .map(field -> "Forms cannot ask about “" + field.words() + "”.")
                .toList());
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults) + KEPT);
        }
    }
}
