package rafter.core.ticket;

import java.time.Instant;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongFunction;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholders;

/** How an act is filled in by a person, wherever it is: for a batch, a step of a target, or whatever else lets acts be chosen. */
public enum ActForm {
    PERSON("Hand to a person", ActForm::handToPerson),
    TEAM("Hand to a team", filled -> new Act.HandOver(filled.id("team", TeamId::new, "Choose a team."))),
    STATE("Move to a state", filled -> new Act.MoveTo(filled.text("state"))),
    PRIORITY(
            "Set the priority",
            filled -> new Act.SetPriority(filled.choice("priority", Priority.values(), "Choose a priority."))),
    TOPIC("Set the topic", filled -> new Act.SetTopic(filled.text("topic"))),
    TAG("Add a tag", filled -> new Act.Tag(filled.text("tag"))),
    UNTAG("Take a tag off", filled -> new Act.Untag(filled.text("tag"))),
    FIELD("Fill a field", filled -> new Act.Fill(filled.text("field"), filled.text("value"))),
    DUE(
            "Agree another time",
            filled -> new Act.AgreeTime(
                    Optional.of(filled.time("due", "Choose the time that was agreed.")), filled.text("why"))),
    BACK(
            "Have them come back",
            filled -> new Act.BringBack(Optional.of(filled.time("back", "Choose when they come back.")))),
    NOTE("Write a note", filled -> new Act.Note(filled.withPlaceholders("text"))),
    ANSWER("Answer all", ActForm::answer),
    JOIN(
            "Join into one",
            filled -> new Act.Join(filled.id(
                    "into", TicketNumber::new, "Write the number of the ticket that the others are joined into."))),
    NO_REQUEST(
            "Not a request", filled -> new Act.NoRequest(!filled.text("sender").isEmpty())),
    RAISE("Raise the priority", filled -> new Act.RaisePriority()),
    NOTIFY("Tell somebody by mail", ActForm::tell),
    DELETE("Delete into the bin", filled -> new Act.Delete()),
    RESTORE("Take out of the bin", filled -> new Act.Restore());

    /** How long a text may be, in letters. */
    public static final int LONGEST = 50_000;

    private final String words;
    private final Function<Filled, Act> reading;

    ActForm(String words, Function<Filled, Act> reading) {
        this.words = words;
        this.reading = reading;
    }

    /** What a person chooses by. */
    public String words() {
        return words;
    }

    /** As an address names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The form of this key. */
    public static Optional<ActForm> of(String key) {
        return Arrays.stream(values()).filter(form -> form.key().equals(key)).findFirst();
    }

    /**
     * The act that a person filled in.
     *
     * @throws Unfilled when something is missing or no value
     */
    public Act read(Filled filled) {
        return reading.apply(filled);
    }

    private static Act handToPerson(Filled filled) {
        return new Act.HandToPerson(
                filled.text("person").isEmpty()
                        ? Optional.empty()
                        : Optional.of(filled.id("person", PersonId::new, "Choose a person.")));
    }

    private static Act answer(Filled filled) {
        Turn then = filled.text("then").isEmpty()
                ? Turn.CUSTOMER
                : filled.choice("then", Turn.values(), "Choose whose turn it is then.");
        return new Act.Answer(filled.withPlaceholders("text"), then);
    }

    private static Act tell(Filled filled) {
        Act.Whom whom = filled.choice("whom", Act.Whom.values(), "Choose who is told.");
        return new Act.Notify(
                whom, whom == Act.Whom.ADDRESS ? filled.address("address") : "", filled.withPlaceholders("text"));
    }

    /** A form in which something is missing or wrong; its message says what, in words for whoever filled it in. */
    public static final class Unfilled extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Unfilled(String words) {
            super(words);
        }

        /** What is missing or wrong. */
        public String words() {
            return String.valueOf(getMessage());
        }
    }

    /**
     * What was typed into the form.
     *
     * @param times reads a time as a form writes it; nothing when it is blank
     * @param placeholders the names of those that its texts may hold
     */
    public record Filled(
            Map<String, String> typed, Function<String, Optional<Instant>> times, Set<String> placeholders) {

        String text(String name) {
            String text = typed.getOrDefault(name, "");
            require(text.length() <= LONGEST, "A text has at most " + LONGEST + " letters.");
            return text;
        }

        <T extends Id> T id(String name, LongFunction<T> as, String words) {
            return Id.read(text(name), as).orElseThrow(() -> new Unfilled(words));
        }

        <E extends Enum<E>> E choice(String name, E[] among, String words) {
            return Arrays.stream(among)
                    .filter(one -> one.name().equals(text(name)))
                    .findFirst()
                    .orElseThrow(() -> new Unfilled(words));
        }

        Instant time(String name, String words) {
            return times.apply(text(name)).orElseThrow(() -> new Unfilled(words));
        }

        String address(String name) {
            return MailAddress.of(text(name))
                    .filter(MailAddress::writable)
                    .map(MailAddress::toString)
                    .orElseThrow(() -> new Unfilled("“" + text(name) + "” is not a mail address."));
        }

        String withPlaceholders(String name) {
            String text = text(name);
            var unknown = Placeholders.unknown(text, placeholders);
            require(unknown.isEmpty(), "Nobody knows what {" + String.join("}, {", unknown) + "} stands for.");
            return text;
        }

        private static void require(boolean holds, String words) {
            if (!holds) {
                throw new Unfilled(words);
            }
        }
    }
}
