package rafter.app.tickets.acts;

import java.util.List;
import java.util.Optional;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import rafter.app.promises.targets.Targets;
import rafter.core.target.Policy;

/** What can be put on a ticket over what follows from its facts: policies, queues and skills. */
@Component
public class SteeringChoices {

    private final Targets targets;
    private final ObjectProvider<HandOutDesk> desk;

    SteeringChoices(Targets targets, ObjectProvider<HandOutDesk> desk) {
        this.targets = targets;
        this.desk = desk;
    }

    /** The policies in force that are on, in their order. */
    public List<HandOutDesk.Choice> policies() {
        return targets.terms().editions().latest().book().policies().stream()
                .filter(Policy::on)
                .map(policy -> new HandOutDesk.Choice(policy.id(), policy.name()))
                .toList();
    }

    /** The queues that are on, in their order. */
    public List<HandOutDesk.Choice> queues() {
        return desk.stream().flatMap(one -> one.queues().stream()).toList();
    }

    /** The skills, in the order of the catalogue. */
    public List<HandOutDesk.Choice> skills() {
        return desk.stream().flatMap(one -> one.skills().stream()).toList();
    }

    /** What the one of this id is called among some. */
    public static Optional<String> name(List<HandOutDesk.Choice> all, String id) {
        return all.stream().filter(one -> one.id().equals(id)).findFirst().map(HandOutDesk.Choice::name);
    }
}
