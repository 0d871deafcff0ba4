package rafter.app.access;

import org.springframework.stereotype.Component;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;

/** Knows the rights of those who work here. */
@Component
class RightsGuard implements Guard {

    private final Persons persons;

    RightsGuard(Persons persons) {
        this.persons = persons;
    }

    @Override
    public void houseRules(long by) {
        insist(by, Right.HOUSE_RULES);
    }

    @Override
    public void work(long by) {
        insist(by, Right.WORK);
    }

    private void insist(long by, Right right) {
        if (by != ITSELF) {
            Access.require(persons.find(by).filter(Person::active).orElseThrow(() -> new Problem.NoRight("You do not work here any more.")), right);
        }
    }
}
