package rafter.core.target;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.criteria.Criteria;

/**
 * A set of promises to the tickets that match its criteria. Of all policies the first in order that matches a ticket holds.
 *
 * @param id names it for good
 * @param description for colleagues; customers never see it
 * @param calendar the calendar in whose hours it counts; empty: around the clock
 * @param goals what is promised, by objective; an absent one is not promised
 * @param steps what happens around each objective
 */
public record Policy(
        String id,
        String name,
        String description,
        boolean on,
        Criteria criteria,
        Optional<String> calendar,
        Map<Objective, Goal> goals,
        List<Step> steps) {

    public Policy {
        var copy = new EnumMap<Objective, Goal>(Objective.class);
        copy.putAll(goals);
        goals = java.util.Collections.unmodifiableMap(copy);
        steps = List.copyOf(steps);
    }
}
