package rafter.core.criteria;

import java.util.Arrays;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** What can be asked about every ticket. */
public enum KnownField implements Field {
    PLAN(FieldType.CHOICE, "the customer’s plan"),
    COMPANY(FieldType.CHOICE, "the company"),
    CONTACT_NAME(FieldType.WORDS, "the contact’s name"),
    CONTACT_ADDRESS(FieldType.TEXT, "the contact’s address"),
    CHANNEL(FieldType.CHOICE, "the channel"),
    TEAM(FieldType.CHOICE, "the team"),
    TOPIC(FieldType.CHOICE, "the topic"),
    PRIORITY(FieldType.RANKED, "the priority"),
    TAGS(FieldType.SET, "the tags"),
    STATE(FieldType.CHOICE, "the state"),
    TURN(FieldType.CHOICE, "the turn"),
    SUBJECT(FieldType.WORDS, "the subject"),
    FIRST_MESSAGE(FieldType.WORDS, "the first message"),
    ANY_MESSAGE(FieldType.WORDS, "any message"),
    OWNER(FieldType.CHOICE, "the owner"),
    WATCHERS(FieldType.SET, "the watchers"),
    HELPERS(FieldType.SET, "who helps"),
    HELPING_TEAMS(FieldType.SET, "the team that helps"),
    OPEN_TASKS(FieldType.NUMBER, "the number of open tasks"),
    TIME_SPENT(FieldType.NUMBER, "the minutes spent"),
    CAUSE(FieldType.CHOICE, "the cause"),
    RATING(FieldType.CHOICE, "the rating"),
    CUSTOMER_MESSAGES(FieldType.NUMBER, "the number of messages from the customer"),
    OUR_MESSAGES(FieldType.NUMBER, "the number of messages from us"),
    REOPENINGS(FieldType.NUMBER, "how often it was reopened"),
    EARLIER_TICKETS(FieldType.NUMBER, "the customer’s tickets of the 30 days before"),
    AGE(FieldType.ELAPSED, "the time since it was opened"),
    IN_TURN(FieldType.ELAPSED, "the time in this turn"),
    SINCE_CUSTOMER(FieldType.ELAPSED, "the time since the customer wrote"),
    SINCE_BACK(FieldType.ELAPSED, "the time since it was brought back"),
    COMES_BACK(FieldType.AHEAD, "the time it comes back"),
    NEXT_TARGET(FieldType.DUE, "the next target"),
    FIRST_REPLY(FieldType.DUE, "the first reply"),
    NEXT_REPLY(FieldType.DUE, "the next reply"),
    RESOLUTION(FieldType.DUE, "the resolution"),
    PICK_UP(FieldType.DUE, "the pick-up"),
    REGULAR_UPDATE(FieldType.DUE, "the regular update"),
    SENDER(FieldType.TEXT, "the sender’s address"),
    SENDER_NAME(FieldType.WORDS, "the sender’s name"),
    SENDER_KNOWN(FieldType.CHOICE, "the sender"),
    RECIPIENT(FieldType.TEXT, "an address it was sent to"),
    MAILBOX(FieldType.CHOICE, "the mailbox"),
    WRITTEN_BY(FieldType.CHOICE, "its author"),
    HEADER(FieldType.WORDS, "the header"),
    MAIL_SIZE(FieldType.NUMBER, "its size in kB"),
    MAIL_FILES(FieldType.NUMBER, "the number of files"),
    JUNK_SCORE(FieldType.NUMBER, "the junk score"),
    OPEN_TICKETS(FieldType.NUMBER, "the number of the sender’s open tickets");

    /** What is known of a mail before it opens a ticket, and of no ticket. */
    private static final Set<KnownField> OF_MAIL = Set.copyOf(EnumSet.range(SENDER, OPEN_TICKETS));

    /** What is counted for rules alone: no list asks it of a million tickets. */
    private static final Set<KnownField> COUNTED = Set.copyOf(EnumSet.range(CUSTOMER_MESSAGES, EARLIER_TICKETS));

    /** What a promise may ask: what the events of a ticket and its customer tell, and no clock. */
    private static final Set<KnownField> OF_PROMISES = Set.copyOf(EnumSet.range(PLAN, FIRST_MESSAGE));

    private final FieldType type;
    private final String words;

    KnownField(FieldType type, String words) {
        this.type = type;
        this.words = words;
    }

    /** The fields that a promise may ask about: those whose answers do not depend on its own clocks, nor on the hour. */
    public static Set<KnownField> ofPromises() {
        return OF_PROMISES;
    }

    /** The fields that a list may ask about. */
    public static Set<KnownField> ofLists() {
        Set<KnownField> some = ofTickets();
        some.removeAll(COUNTED);
        return some;
    }

    /** The fields of tickets: all but those of mail that has not become one. */
    public static Set<KnownField> ofTickets() {
        return EnumSet.complementOf(EnumSet.copyOf(OF_MAIL));
    }

    /** The fields that a formula may name. */
    static Set<KnownField> ofFormulas() {
        var named = EnumSet.copyOf(OF_PROMISES);
        named.addAll(EnumSet.of(OWNER, OPEN_TASKS, TIME_SPENT));
        named.addAll(COUNTED);
        return named;
    }

    /** Those that criteria ask about. */
    public static Set<KnownField> askedBy(Criteria criteria) {
        var asked = EnumSet.noneOf(KnownField.class);
        Criteria.asked(criteria).forEach(field -> {
            if (field instanceof KnownField known) {
                asked.add(known);
            }
        });
        return asked;
    }

    @Override
    public FieldType type() {
        return type;
    }

    @Override
    public String words() {
        return words;
    }

    @Override
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The field that data names so. */
    public static Optional<KnownField> of(String key) {
        return Arrays.stream(values()).filter(field -> field.key().equals(key)).findFirst();
    }
}
