package rafter.core.ticket;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;

/**
 * What was put on a ticket by hand or by a rule, over what follows from its facts by itself.
 *
 * @param policy the policy that promises, by its key; blank: the first whose criteria match
 * @param queue where it waits for somebody; empty: in the first queue whose criteria match
 * @param needed the skills that it needs, whatever it says
 * @param spared the skills that it does not need, whatever it says
 */
public record Steering(String policy, Optional<QueueId> queue, Set<SkillId> needed, Set<SkillId> spared) {

    /** Of a ticket on which nothing was put. */
    public static final Steering NONE = new Steering("", Optional.empty(), Set.of(), Set.of());

    public Steering {
        needed = Set.copyOf(needed);
        spared = Set.copyOf(spared);
    }

    /** Whether a ticket needs a skill. */
    public enum Need {
        /** It does, whatever it says. */
        NEEDED("needs"),
        /** It does not, whatever it says. */
        SPARED("does not need"),
        /** Its topic and its words say. */
        BY_ITSELF("says by itself whether it needs");

        private final String words;

        Need(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What was put on it about a skill. */
    public Need need(SkillId skill) {
        if (needed.contains(skill)) {
            return Need.NEEDED;
        }
        return spared.contains(skill) ? Need.SPARED : Need.BY_ITSELF;
    }

    Steering after(TicketEvent.OfSteering event) {
        return switch (event) {
            case TicketEvent.PolicyPut e -> new Steering(e.policy(), queue, needed, spared);
            case TicketEvent.QueuePut e -> new Steering(policy, e.queue(), needed, spared);
            case TicketEvent.SkillPut e ->
                new Steering(
                        policy,
                        queue,
                        with(needed, e.skill(), e.need() == Need.NEEDED),
                        with(spared, e.skill(), e.need() == Need.SPARED));
        };
    }

    private static Set<SkillId> with(Set<SkillId> all, SkillId one, boolean in) {
        var next = new HashSet<>(all);
        if (in) {
            next.add(one);
        } else {
            next.remove(one);
        }
        return next;
    }
}
