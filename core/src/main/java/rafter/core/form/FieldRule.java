package rafter.core.form;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import rafter.core.criteria.Criteria;

/**
 * What a form does with a field of tickets that match.
 *
 * @param field the number of the field
 * @param choices what it offers then, of {@link Effect#NARROW} alone
 * @param when which tickets
 */
public record FieldRule(long field, Effect effect, List<String> choices, Criteria when) {

    public FieldRule {
        choices = List.copyOf(choices);
    }

    /** What happens to the field. */
    public enum Effect {
        /** It is asked for only where a rule of this effect matches. */
        SHOW("is shown only"),
        /** It must be filled before the ticket ends. */
        REQUIRE("must be filled"),
        /** It offers only some of its choices. */
        NARROW("offers less");

        private final String words;

        Effect(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** The effect that data names so. */
        public static Optional<Effect> of(String name) {
            return Arrays.stream(values())
                    .filter(one -> one.name().equals(name.toUpperCase(Locale.ROOT)))
                    .findFirst();
        }
    }
}
