package rafter.core.ticket;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import rafter.core.id.QueueId;

/** Decides what is put on a ticket over what follows from its facts. */
final class SteeringDeciding {

    private final Steering steering;
    private final Doer doer;
    private final House house;
    private final Instant now;

    SteeringDeciding(Steering steering, Doer doer, House house, Instant now) {
        this.steering = steering;
        this.doer = doer;
        this.house = house;
        this.now = now;
    }

    Decision decide(Act.OfSteering act) {
        return switch (act) {
            case Act.PutPolicy a -> policy(a.policy());
            case Act.PutIntoQueue a -> queue(a.queue());
            case Act.PutSkill a -> skill(a);
        };
    }

    /** How the ticket stands in the respect that an act changes. */
    static String standing(Steering steering, Act.OfSteering act) {
        return switch (act) {
            case Act.PutPolicy a -> steering.policy();
            case Act.PutIntoQueue a -> steering.queue().map(QueueId::toString).orElse("");
            case Act.PutSkill a -> steering.need(a.skill()).name();
        };
    }

    private Decision policy(String policy) {
        // A promise is made to a customer, so it is not for everybody to choose another one.
        if (!doer.handOverAny()) {
            return Deciding.noRight("Which policy promises is for leads to say, and for rules.");
        }
        if (!policy.isEmpty() && house.policy(policy).isEmpty()) {
            return Deciding.invalid("There is no such policy any more.");
        }
        return changes(
                steering.policy(), policy, to -> new TicketEvent.PolicyPut(now, doer.actor(), to), Act.PutPolicy::new);
    }

    private Decision queue(Optional<QueueId> queue) {
        if (queue.isPresent() && queue.flatMap(house::queue).isEmpty()) {
            return Deciding.invalid("There is no such queue any more.");
        }
        return changes(
                steering.queue(), queue, to -> new TicketEvent.QueuePut(now, doer.actor(), to), Act.PutIntoQueue::new);
    }

    private Decision skill(Act.PutSkill put) {
        if (put.need() != Steering.Need.BY_ITSELF && house.skill(put.skill()).isEmpty()) {
            return Deciding.invalid("There is no such skill any more.");
        }
        return changes(
                steering.need(put.skill()),
                put.need(),
                to -> new TicketEvent.SkillPut(now, doer.actor(), put.skill(), to),
                to -> new Act.PutSkill(put.skill(), to));
    }

    private static <T> Decision changes(T before, T after, Function<T, TicketEvent> event, Function<T, Act> undo) {
        return before.equals(after)
                ? Decision.Done.already()
                : new Decision.Done(
                        List.of(event.apply(after)),
                        Optional.of(new Decision.Undo(undo.apply(before), Optional.of(words(after)))));
    }

    private static String words(Object standing) {
        return standing instanceof Optional<?> one ? one.map(Object::toString).orElse("") : standing.toString();
    }
}
