package rafter.app.arrival.sorting;

import java.util.UUID;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.platform.Say;
import rafter.core.arrival.Admission;
import rafter.core.arrival.ArrivalRule;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/**
 * A rule of arriving mail as the fields of its form, and back.
 *
 * @param id “new” for one that is not there yet
 */
record ArrivingForm(String id, String name, boolean on, Criteria criteria, Admission then) {

    static final String NEW = "new";

    static ArrivingForm empty() {
        return new ArrivingForm(NEW, "", true, Criteria.test(KnownField.SENDER, Operator.ENDS_WITH), Admission.ASIDE);
    }

    static ArrivingForm of(ArrivalRule rule) {
        return new ArrivingForm(rule.id(), rule.name(), rule.on(), rule.criteria(), rule.then());
    }

    static ArrivingForm read(MultiValueMap<String, String> typed) {
        return new ArrivingForm(
                text(typed, "id"),
                text(typed, "name"),
                typed.containsKey("on"),
                CriteriaForm.read(typed),
                Admission.of(text(typed, "then")).orElse(Admission.TICKET));
    }

    private static String text(MultiValueMap<String, String> typed, String name) {
        return Say.orBlank(typed.getFirst(name)).strip();
    }

    /** This form after a button was pressed that changes its shape. */
    ArrivingForm after(String act) {
        return new ArrivingForm(id, name, on, CriteriaForm.act(criteria, act), then);
    }

    /** The rule that it says. */
    ArrivalRule rule() {
        return new ArrivalRule(id.equals(NEW) ? UUID.randomUUID().toString() : id, name, on, criteria, then);
    }
}
