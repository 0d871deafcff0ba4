package rafter.core.rule;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import rafter.core.ticket.ActForm;

/**
 * One thing that a rule does: an act of {@link ActForm}, or one that only rules have, with what was filled in.
 *
 * @param form an {@link ActForm#key()} that is among {@link #ACTS}, or a {@link Special#key()}
 * @param typed what was filled in, by the names of the form's fields
 */
public record Deed(String form, Map<String, String> typed) {

    /** The acts of everybody that rules do, too. */
    public static final List<ActForm> ACTS = List.of(
            ActForm.TEAM,
            ActForm.PERSON,
            ActForm.PRIORITY,
            ActForm.RAISE,
            ActForm.STATE,
            ActForm.TOPIC,
            ActForm.TAG,
            ActForm.UNTAG,
            ActForm.FIELD,
            ActForm.QUEUE,
            ActForm.SKILL,
            ActForm.POLICY,
            ActForm.NOTE,
            ActForm.TASK,
            ActForm.WATCH,
            ActForm.BACK,
            ActForm.NOTIFY);

    /** Deeds that only rules have. */
    public enum Special {
        HAND_BY("Hand to whoever fits", "by team"),
        MAIL("Write to the customer", "template subject text"),
        OUTSIDE("Write to somebody outside", "address template subject text"),
        REMIND("Remind those outside whose answer we wait for", ""),
        CLOSE("Close without telling the customer", ""),
        MACRO("Run a macro", "macro"),
        CALL("Call another program", "address");

        private final String words;
        private final List<String> fields;

        Special(String words, String fields) {
            this.words = words;
            this.fields = fields.isEmpty() ? List.of() : List.of(fields.split(" "));
        }

        /** What a person chooses by. */
        public String words() {
            return words;
        }

        /** The names of the fields that it reads. */
        public List<String> fields() {
            return fields;
        }

        /** As data names it. */
        public String key() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** The one that data names so. */
        public static Optional<Special> of(String key) {
            return Arrays.stream(values()).filter(one -> one.key().equals(key)).findFirst();
        }
    }

    /** By what a person is found to whom a ticket is handed. */
    public enum By {
        PREVIOUS("who last owned it"),
        AGENT("who answered this customer last"),
        COMPANY("who looks after the customer’s company"),
        ROTATION("the next in turn of a team"),
        LEAST("who of a team has the fewest open tickets");

        private final String words;

        By(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** Whether it wants a team to choose among. */
        public boolean ofTeam() {
            return this == ROTATION || this == LEAST;
        }
    }

    public Deed {
        typed = Map.copyOf(typed);
    }

    /** What stands in a field of the form; blank when nothing does. */
    public String typed(String field) {
        return typed.getOrDefault(field, "");
    }

    /**
     * What it sets, so that two deeds that set the same thing otherwise can be told; several deeds may set one thing. Blank: nothing that
     * another could undo.
     */
    String sets() {
        return switch (form) {
            case "team", "person", "hand-by" -> "who has it";
            case "priority", "raise" -> "the priority";
            case "state", "close" -> "the state";
            case "topic" -> "the topic";
            case "queue" -> "the queue";
            case "policy" -> "the policy";
            case "tag", "untag" -> "the tag “" + typed("tag").strip() + "”";
            case "field" -> "the field " + typed("field");
            default -> "";
        };
    }

    /** Whether both may stand, whichever is done last. */
    boolean agrees(Deed other) {
        return sets().isEmpty() || !sets().equals(other.sets()) || equals(other);
    }

    /** The same with what belongs to its form alone. */
    public static Deed of(String form, Map<String, String> all) {
        Set<String> fields = Set.copyOf(ActForm.of(form)
                .filter(ACTS::contains)
                .map(ActForm::fields)
                .or(() -> Special.of(form).map(Special::fields))
                .orElse(List.of()));
        var kept = new TreeMap<String, String>();
        all.forEach((name, value) -> {
            if (fields.contains(name) && !value.isBlank()) {
                kept.put(name, value);
            }
        });
        return new Deed(form, kept);
    }

    /** Whether there is such a form. */
    public boolean known() {
        return Special.of(form).isPresent()
                || ActForm.of(form).filter(ACTS::contains).isPresent();
    }
}
