package rafter.app.tickets.macros;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.app.house.access.Holder;

/**
 * Several acts under one name.
 *
 * @param steps in the order in which they are done
 * @param linked the macro that is run on the tickets that are a part of the one this is run on
 * @param used how often it was run
 */
public record Macro(
        long id,
        String name,
        String description,
        String folder,
        Holder holder,
        List<Step> steps,
        Optional<Long> linked,
        int used,
        int version) {

    public Macro {
        steps = List.copyOf(steps);
    }

    /**
     * One act of a macro, as it was filled in: who and when are filled in anew each time.
     *
     * @param form the key of its {@link rafter.core.ticket.ActForm}
     * @param typed what was typed into it
     * @param offered whether it is done only where somebody ticks it, rather than always
     */
    public record Step(String form, Map<String, String> typed, boolean offered) {
        public Step {
            typed = Map.copyOf(typed);
        }
    }

    /** With other steps. */
    Macro with(List<Step> other) {
        return new Macro(id, name, description, folder, holder, other, linked, used, version);
    }
}
