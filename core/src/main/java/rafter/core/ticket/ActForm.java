package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongFunction;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholders;
import rafter.core.time.Amount;

/** How an act is filled in by a person, wherever it is: for a batch, a step of a target, or whatever else lets acts be chosen. */
public enum ActForm {
    PERSON("Hand to a person", "person", ActForm::handToPerson),
    TEAM("Hand to a team", "team", filled -> new Act.HandOver(filled.id("team", TeamId::new, "Choose a team."))),
    STATE("Move to a state", "state", filled -> new Act.MoveTo(filled.text("state"))),
    PRIORITY(
            "Set the priority",
            "priority",
            filled -> new Act.SetPriority(filled.choice("priority", Priority.values(), "Choose a priority."))),
    TOPIC("Set the topic", "topic", filled -> new Act.SetTopic(filled.text("topic"))),
    TAG("Add a tag", "tag", filled -> new Act.Tag(filled.text("tag"))),
    UNTAG("Take a tag off", "tag", filled -> new Act.Untag(filled.text("tag"))),
    FIELD("Fill a field", "field value", filled -> new Act.Fill(filled.text("field"), filled.text("value"))),
    DUE(
            "Agree another time",
            "due why",
            filled -> new Act.AgreeTime(
                    Optional.of(filled.time("due", "Choose the time that was agreed.")), filled.text("why"))),
    BACK(
            "Have them come back",
            "back",
            filled -> new Act.BringBack(Optional.of(filled.time("back", "Choose when they come back.")))),
    NOTE("Write a note", "text", filled -> new Act.Note(filled.withPlaceholders("text"))),
    ANSWER("Answer", "text then", ActForm::answer),
    JOIN(
            "Join into one",
            "into",
            filled -> new Act.Join(filled.id(
                    "into", TicketNumber::new, "Write the number of the ticket that the others are joined into."))),
    NO_REQUEST(
            "Not a request",
            "sender",
            filled -> new Act.NoRequest(!filled.text("sender").isEmpty())),
    RAISE("Raise the priority", "", filled -> new Act.RaisePriority()),
    NOTIFY("Tell somebody by mail", "whom address text", ActForm::tell),
    DELETE("Delete into the bin", "", filled -> new Act.Delete()),
    RESTORE("Take out of the bin", "", filled -> new Act.Restore()),
    TASK("Add a task", "task person by", ActForm::task),
    WATCH(
            "Have somebody watch",
            "person",
            filled -> new Act.Watch(filled.id("person", PersonId::new, "Choose who watches."), true)),
    TIME("Write down time", "amount kind note billable", ActForm::time),
    POLICY("Have another policy promise", "policy", filled -> new Act.PutPolicy(filled.text("policy"))),
    QUEUE(
            "Put into a queue",
            "queue",
            filled -> new Act.PutIntoQueue(Optional.of(filled.id("queue", QueueId::new, "Choose a queue.")))),
    SKILL(
            "Say that it needs a skill",
            "skill",
            filled -> new Act.PutSkill(filled.id("skill", SkillId::new, "Choose a skill."), Steering.Need.NEEDED)),
    CONCLUDE(
            "Write down how it was resolved",
            "was done cause",
            filled -> new Act.Conclude(
                    new Work.Resolution(filled.text("was"), filled.text("done"), filled.text("cause"))));

    /** How long a text may be, in letters. */
    public static final int LONGEST = 50_000;

    private final String words;
    private final List<String> fields;
    private final Function<Filled, Act> reading;

    ActForm(String words, String fields, Function<Filled, Act> reading) {
        this.words = words;
        this.fields = fields.isEmpty() ? List.of() : List.of(fields.split(" "));
        this.reading = reading;
    }

    /** What a person chooses by. */
    public String words() {
        return words;
    }

    /** The names of the fields that it reads. */
    public List<String> fields() {
        return fields;
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

    private static Act task(Filled filled) {
        Optional<PersonId> person = filled.text("person").isEmpty()
                ? Optional.empty()
                : Optional.of(filled.id("person", PersonId::new, "Choose a person."));
        Optional<Instant> by = filled.text("by").isEmpty()
                ? Optional.empty()
                : Optional.of(filled.time("by", "Choose by when the task is to be done."));
        String what = filled.text("task");
        if (what.isBlank()) {
            throw new Unfilled("Say what is to be done.");
        }
        return new Act.SetTask(OptionalInt.empty(), what, person, by);
    }

    private static Act time(Filled filled) {
        Duration time = Amount.read(filled.text("amount"))
                .orElseThrow(() -> new Unfilled("Write how long it took, such as 25 m."));
        PersonId person = filled.id("person", PersonId::new, "Choose whose time it is.");
        Instant ended = filled.time("ended", "Choose when it ended.");
        return new Act.SpendTime(
                OptionalInt.empty(),
                new Work.Spent(
                        person,
                        ended.minus(time),
                        time,
                        filled.text("kind").strip(),
                        !filled.text("billable").isEmpty(),
                        filled.text("note").strip()));
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
