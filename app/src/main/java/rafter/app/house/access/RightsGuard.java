package rafter.app.house.access;

import org.springframework.stereotype.Component;
import rafter.app.platform.Guard;
import rafter.core.id.PersonId;

/** Knows the rights of those who work here. */
@Component
class RightsGuard implements Guard {

    private final Persons persons;

    RightsGuard(Persons persons) {
        this.persons = persons;
    }

    @Override
    public void houseRules(PersonId by) {
        persons.insist(by, Right.HOUSE_RULES);
    }

    @Override
    public void work(PersonId by) {
        persons.insist(by, Right.WORK);
    }
}
