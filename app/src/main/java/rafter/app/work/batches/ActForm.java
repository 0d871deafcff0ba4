package rafter.app.work.batches;

import java.time.Instant;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongFunction;
import rafter.app.platform.Problem;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;

/** The acts that a batch offers, and how each is filled in on its page. */
enum ActForm {
    PERSON("Hand to a person", 'o') {
        @Override
        Act read(Filled filled) {
            return new Act.HandToPerson(
                    filled.text("person").isEmpty()
                            ? Optional.empty()
                            : Optional.of(filled.id("person", PersonId::new, "Choose a person.")));
        }
    },
    TEAM("Hand to a team", 'e') {
        @Override
        Act read(Filled filled) {
            return new Act.HandOver(filled.id("team", TeamId::new, "Choose a team."));
        }
    },
    STATE("Move to a state", 's') {
        @Override
        Act read(Filled filled) {
            return new Act.MoveTo(filled.text("state"));
        }
    },
    PRIORITY("Set the priority", 'p') {
        @Override
        Act read(Filled filled) {
            return new Act.SetPriority(filled.choice("priority", Priority.values(), "Choose a priority."));
        }
    },
    TOPIC("Set the topic", 't') {
        @Override
        Act read(Filled filled) {
            return new Act.SetTopic(filled.text("topic"));
        }
    },
    TAG("Add a tag", 'g') {
        @Override
        Act read(Filled filled) {
            return new Act.Tag(filled.text("tag"));
        }
    },
    UNTAG("Take a tag off", 'u') {
        @Override
        Act read(Filled filled) {
            return new Act.Untag(filled.text("tag"));
        }
    },
    FIELD("Fill a field", 'f') {
        @Override
        Act read(Filled filled) {
            return new Act.Fill(filled.text("field"), filled.text("value"));
        }
    },
    DUE("Agree another time", 'd') {
        @Override
        Act read(Filled filled) {
            return new Act.AgreeTime(
                    Optional.of(filled.time("due", "Choose the time that was agreed.")), filled.text("why"));
        }
    },
    BACK("Have them come back", 'k') {
        @Override
        Act read(Filled filled) {
            return new Act.BringBack(Optional.of(filled.time("back", "Choose when they come back.")));
        }
    },
    NOTE("Write a note", 'n') {
        @Override
        Act read(Filled filled) {
            return new Act.Note(filled.withPlaceholders("text"));
        }
    },
    ANSWER("Answer all", 'a') {
        @Override
        Act read(Filled filled) {
            Turn then = filled.text("then").isEmpty()
                    ? Turn.CUSTOMER
                    : filled.choice("then", Turn.values(), "Choose whose turn it is then.");
            return new Act.Answer(filled.withPlaceholders("text"), then);
        }
    },
    JOIN("Join into one", 'j') {
        @Override
        Act read(Filled filled) {
            return new Act.Join(filled.id(
                    "into", TicketNumber::new, "Write the number of the ticket that the others are joined into."));
        }
    },
    NO_REQUEST("Not a request", 'q') {
        @Override
        Act read(Filled filled) {
            return new Act.NoRequest(!filled.text("sender").isEmpty());
        }
    },
    DELETE("Delete into the bin", 'x') {
        @Override
        Act read(Filled filled) {
            return new Act.Delete();
        }
    },
    RESTORE("Take out of the bin", 'r') {
        @Override
        Act read(Filled filled) {
            return new Act.Restore();
        }
    };

    /** What an answer to many may hold, filled in for each. */
    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forCustomers());

    private static final int LONGEST = 50_000;
    private static final String NOTHING_DONE = " Nothing was done yet.";

    private final String words;
    private final char letter;

    ActForm(String words, char letter) {
        this.words = words;
        this.letter = letter;
    }

    /** What a person chooses by. */
    public String words() {
        return words;
    }

    /** The key that chooses it on the page of a batch. */
    public String letter() {
        return String.valueOf(letter);
    }

    /** As an address names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    static Optional<ActForm> of(String key) {
        return Arrays.stream(values()).filter(form -> form.key().equals(key)).findFirst();
    }

    /**
     * The act that a person filled in.
     *
     * @throws Problem.Invalid when something is missing or no value
     */
    abstract Act read(Filled filled);

    /**
     * What was typed into the form.
     *
     * @param times reads a time as a form writes it; nothing when it is blank
     */
    record Filled(Map<String, String> typed, Function<String, Optional<Instant>> times) {

        String text(String name) {
            String text = typed.getOrDefault(name, "");
            require(text.length() <= LONGEST, "A text of a batch has at most " + LONGEST + " letters.");
            return text;
        }

        <T extends Id> T id(String name, LongFunction<T> as, String words) {
            return Id.read(text(name), as).orElseThrow(() -> new Problem.Invalid(words + NOTHING_DONE));
        }

        <E extends Enum<E>> E choice(String name, E[] among, String words) {
            return Arrays.stream(among)
                    .filter(one -> one.name().equals(text(name)))
                    .findFirst()
                    .orElseThrow(() -> new Problem.Invalid(words + NOTHING_DONE));
        }

        Instant time(String name, String words) {
            return times.apply(text(name)).orElseThrow(() -> new Problem.Invalid(words + NOTHING_DONE));
        }

        String withPlaceholders(String name) {
            String text = text(name);
            var unknown = Placeholders.unknown(text, PLACEHOLDERS);
            require(unknown.isEmpty(), "Nobody knows what {" + String.join("}, {", unknown) + "} stands for.");
            return text;
        }

        private static void require(boolean holds, String words) {
            if (!holds) {
                throw new Problem.Invalid(words + NOTHING_DONE);
            }
        }
    }
}
