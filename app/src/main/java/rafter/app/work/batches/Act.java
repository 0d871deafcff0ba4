package rafter.app.work.batches;

import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import rafter.app.house.access.Person;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;

/**
 * What is to be done to each ticket of a batch.
 *
 * @param args what it needs besides, by name
 */
record Act(Kind kind, Map<String, String> args) {

    /** The acts that there are. */
    enum Kind {
        PERSON("Hand to a person", 'o', true),
        TEAM("Hand to a team", 'e', true),
        STATE("Move to a state", 's', true),
        PRIORITY("Set the priority", 'p', true),
        TOPIC("Set the topic", 't', true),
        TAG("Add a tag", 'g', true),
        UNTAG("Take a tag off", 'u', true),
        FIELD("Fill a field", 'f', true),
        DUE("Agree another time", 'd', true),
        BACK("Have them come back", 'k', true),
        NOTE("Write a note", 'n', true),
        ANSWER("Answer all", 'a', false),
        JOIN("Join into one", 'j', true),
        NO_REQUEST("Not a request", 'q', true),
        DELETE("Delete into the bin", 'x', true),
        RESTORE("Take out of the bin", 'r', false);

        private final String words;
        private final char letter;
        private final boolean undoable;

        Kind(String words, char letter, boolean undoable) {
            this.words = words;
            this.letter = letter;
            this.undoable = undoable;
        }

        public String words() {
            return words;
        }

        /** The key that chooses it on the page of a batch. */
        public String letter() {
            return String.valueOf(letter);
        }

        /** Whether it can be taken back. */
        boolean undoable() {
            return undoable;
        }

        /** As an address names it. */
        public String key() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }

        static Optional<Kind> of(String key) {
            return Arrays.stream(values()).filter(kind -> kind.key().equals(key)).findFirst();
        }
    }

    /** The longest text that an act takes along. */
    private static final int LONGEST = 50_000;

    Act {
        args = Map.copyOf(args);
    }

    String arg(String name) {
        return args.getOrDefault(name, "");
    }

    /**
     * Insists that it can be done at all.
     *
     * @throws Problem.Invalid when something is missing
     * @throws Problem.NoRight when the person may not do it
     */
    void check(Person me) {
        rafter.app.house.access.Access.require(me, Right.WORK);
        require(args.values().stream().allMatch(arg -> arg.length() <= LONGEST), "A text of a batch has at most " + LONGEST + " letters.");
        switch (kind) {
            case PERSON -> require(arg("person").matches("\\d{0,18}"), "Choose a person.");
            case TEAM -> require(arg("team").matches("\\d{1,18}"), "Choose a team.");
            case STATE -> require(TicketState.of(arg("state")).isPresent(), "Choose a state.");
            case PRIORITY -> require(Arrays.stream(Priority.values()).anyMatch(p -> p.name().equals(arg("priority"))), "Choose a priority.");
            case TOPIC -> require(arg("topic").length() <= 60, "A topic has at most sixty letters.");
            case TAG, UNTAG -> require(!arg("tag").isBlank() && arg("tag").length() <= 40 && !arg("tag").contains(","), "Write one tag of at most forty letters.");
            case FIELD -> require(OwnField.of(arg("field")).flatMap(field -> field.kept(arg("value"))).isPresent(), "Choose a field, and what can stand in it.");
            case DUE -> require(!arg("due").isBlank(), "Choose the time that was agreed.");
            case BACK -> require(!arg("back").isBlank(), "Choose when they come back.");
            case NOTE -> {
                require(!arg("text").isBlank(), "There are no words in the note yet.");
                requireKnown(arg("text"));
            }
            case ANSWER -> {
                require(!arg("text").isBlank(), "There are no words in the answer yet.");
                requireKnown(arg("text"));
            }
            case JOIN -> require(arg("into").matches("\\d{1,18}"), "Write the number of the ticket that the others are joined into.");
            case DELETE, RESTORE -> rafter.app.house.access.Access.require(me, Right.DELETE);
            case NO_REQUEST -> {}
        }
    }

    private static void requireKnown(String text) {
        var unknown = Placeholders.unknown(text, Batches.PLACEHOLDERS);
        require(unknown.isEmpty(), "Nobody knows what {" + String.join("}, {", unknown) + "} stands for.");
    }

    private static void require(boolean holds, String words) {
        if (!holds) {
            throw new Problem.Invalid(words + " Nothing was done yet.");
        }
    }
}
