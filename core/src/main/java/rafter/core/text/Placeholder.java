package rafter.core.text;

import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Everything that a text of ours can have filled in: one catalogue with the same names wherever such texts are written. */
public enum Placeholder {
    TICKET("ticket", "the ticket’s number", "number"),
    SUBJECT("subject", "what it is about"),
    TOPIC("topic", "the ticket’s topic"),
    OPENED("opened", "the day on which the ticket was opened"),
    CUSTOMER("customer", "the customer’s name"),
    FIRST_NAME("first name", "the customer’s first name"),
    COMPANY("company", "the customer’s company"),
    AGENT("agent", "who writes"),
    AGENT_FIRST_NAME("agent first name", "the first name of who writes"),
    TEAM("team", "the team that has the ticket"),
    WORKSPACE("workspace", "our own name"),
    TODAY("today", "the day on which it is written"),
    REQUEST_PAGE("request page", "the address of the page on which the customer sees this request"),
    RESOLUTION_DUE("resolution due", "by when the ticket is to be resolved"),
    OWNER("owner", "who owns the ticket"),
    TARGET("target", "which target it is about", "objective"),
    DUE("due", "when that falls due"),
    OPENS("opens", "when we are open again; while we are, now"),
    LINK("link", "the ticket’s address"),
    RATING("rating", "the links by which the customer rates"),
    MEETING("meeting", "what the meeting is about"),
    MEETING_TIME("meeting time", "when the meeting is"),
    MEETING_PLACE("meeting place", "where it is; nothing when nobody said"),
    QUESTION("question", "what help is asked for"),
    ROOM("room", "the address of the room");

    private static final Set<Placeholder> FOR_ACKNOWLEDGEMENTS =
            EnumSet.of(TICKET, SUBJECT, CUSTOMER, FIRST_NAME, WORKSPACE, REQUEST_PAGE, OPENS);
    private static final Set<Placeholder> FOR_MEETINGS =
            EnumSet.of(TICKET, SUBJECT, WORKSPACE, MEETING, MEETING_TIME, MEETING_PLACE);
    private static final Set<Placeholder> FOR_CONSULTS = EnumSet.of(TICKET, SUBJECT, WORKSPACE, AGENT, QUESTION, ROOM);
    private static final Set<Placeholder> FOR_RATING =
            EnumSet.of(TICKET, SUBJECT, CUSTOMER, FIRST_NAME, WORKSPACE, RATING);
    private static final Set<Placeholder> FOR_STEPS =
            EnumSet.of(TICKET, SUBJECT, CUSTOMER, FIRST_NAME, WORKSPACE, OWNER, TARGET, DUE, LINK);
    private static final Set<Placeholder> FOR_RULES = EnumSet.of(
            TICKET,
            SUBJECT,
            TOPIC,
            OPENED,
            CUSTOMER,
            FIRST_NAME,
            COMPANY,
            TEAM,
            WORKSPACE,
            TODAY,
            REQUEST_PAGE,
            RESOLUTION_DUE,
            OWNER,
            OPENS,
            LINK);
    private static final Set<Placeholder> FOR_WRITING = EnumSet.range(TICKET, RESOLUTION_DUE);

    private final String key;
    private final String meaning;
    private final List<String> former;

    Placeholder(String key, String meaning, String... former) {
        this.key = key;
        this.meaning = meaning;
        this.former = List.of(former);
    }

    /** Its name between the braces. */
    public String key() {
        return key;
    }

    /** What stands in its place, in words. */
    public String meaning() {
        return meaning;
    }

    /** Those of which an acknowledgement can make use, which nobody writes and which goes out before anybody has read the ticket. */
    public static Set<Placeholder> forAcknowledgements() {
        return EnumSet.copyOf(FOR_ACKNOWLEDGEMENTS);
    }

    /** Those of which a mail about a meeting can make use. */
    public static Set<Placeholder> forMeetings() {
        return EnumSet.copyOf(FOR_MEETINGS);
    }

    /** Those of which an invitation into a room can make use. */
    public static Set<Placeholder> forConsults() {
        return EnumSet.copyOf(FOR_CONSULTS);
    }

    /** Those of which the question how somebody was helped can make use. */
    public static Set<Placeholder> forRating() {
        return EnumSet.copyOf(FOR_RATING);
    }

    /** Those of which an answer, a note or a phrase can make use. */
    public static Set<Placeholder> forWriting() {
        return EnumSet.copyOf(FOR_WRITING);
    }

    /** Those of which a letter to somebody outside can make use: not of the page that is the customer's alone. */
    public static Set<Placeholder> forOutside() {
        Set<Placeholder> some = forWriting();
        some.remove(REQUEST_PAGE);
        return some;
    }

    /** Those of which the words of a target's step can make use. */
    public static Set<Placeholder> forSteps() {
        return EnumSet.copyOf(FOR_STEPS);
    }

    /** Those of which the words of a rule can make use. */
    public static Set<Placeholder> forRules() {
        return EnumSet.copyOf(FOR_RULES);
    }

    /** The names of these, with those that they had before: texts that were written then go on being filled. */
    public static Set<String> names(Set<Placeholder> some) {
        var names = new HashSet<String>();
        some.forEach(one -> {
            names.add(one.key);
            names.addAll(one.former);
        });
        return names;
    }

    /** The values by all the names under which they can be asked for. */
    public static Map<String, String> named(Map<Placeholder, String> values) {
        var named = new HashMap<String, String>();
        values.forEach((one, value) -> {
            named.put(one.key, value);
            one.former.forEach(name -> named.put(name, value));
        });
        return named;
    }

    /** What stands for a customer's first name: a greeting that fits, where only an address is known. */
    public static String firstName(String customer) {
        return customer.contains("@") || customer.isBlank()
                ? "there"
                : customer.strip().split("\\s+")[0];
    }
}
