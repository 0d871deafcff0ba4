package rafter.core.ticket;

import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What an event is called where it is kept, and in which version it is written. Names stay for good and a version is never used again for
 * another form: what was written once is read for ever.
 */
public enum EventKind {
    OPENED("opened", 2, TicketEvent.Opened.class),
    CUSTOMER_WROTE("customer-wrote", 2, TicketEvent.CustomerWrote.class),
    WE_WROTE("we-wrote", 2, TicketEvent.WeWrote.class),
    NOTE("note", 1, TicketEvent.NoteAdded.class),
    PUBLIC_NOTE("public-note", 1, TicketEvent.PublicNoteAdded.class),
    NOTE_TAKEN_BACK("note-taken-back", 1, TicketEvent.NoteTakenBack.class),
    BOUNCED("bounced", 1, TicketEvent.Bounced.class),
    STATE("state", 2, TicketEvent.StateChanged.class),
    PRIORITY("priority", 1, TicketEvent.PriorityChanged.class),
    OWNER("owner", 2, TicketEvent.OwnerChanged.class),
    TEAM("team", 2, TicketEvent.TeamChanged.class),
    TOPIC("topic", 1, TicketEvent.TopicChanged.class),
    TAGS("tags", 1, TicketEvent.TagsChanged.class),
    FIELD("field", 1, TicketEvent.FieldSet.class),
    LINKED("linked", 1, TicketEvent.Linked.class),
    UNLINKED("unlinked", 1, TicketEvent.Unlinked.class),
    CONTINUED("continued", 1, TicketEvent.Continued.class),
    CUSTOMER("customer", 2, TicketEvent.CustomerChanged.class),
    JOINED("joined", 1, TicketEvent.Joined.class),
    PARTED("parted", 1, TicketEvent.Parted.class),
    DISCARDED("discarded", 1, TicketEvent.Discarded.class),
    RESTORED("restored", 1, TicketEvent.Restored.class),
    TIME_AGREED("time-agreed", 2, TicketEvent.TimeAgreed.class),
    BRING_BACK("bring-back", 2, TicketEvent.BringBackSet.class),
    BROUGHT_BACK("brought-back", 1, TicketEvent.BroughtBack.class),
    WATCHED("watched", 1, TicketEvent.Watched.class),
    TASK("task", 1, TicketEvent.TaskSet.class),
    TASK_TICKED("task-ticked", 1, TicketEvent.TaskTicked.class),
    TASK_DROPPED("task-dropped", 1, TicketEvent.TaskDropped.class),
    TASKS_ORDERED("tasks-ordered", 1, TicketEvent.TasksOrdered.class),
    TIME_SPENT("time-spent", 1, TicketEvent.TimeSpent.class),
    TIME_DROPPED("time-dropped", 1, TicketEvent.TimeDropped.class),
    CONCLUDED("concluded", 1, TicketEvent.Concluded.class),
    PUT_UNDER("put-under", 1, TicketEvent.PutUnder.class),
    RATED("rated", 1, TicketEvent.WasRated.class),
    WROTE_OUTSIDE("wrote-outside", 1, TicketEvent.WroteOutside.class),
    OUTSIDE_WROTE("outside-wrote", 1, TicketEvent.OutsideWrote.class),
    CUSTOMER_IS("customer-is", 1, TicketEvent.CustomerIs.class),
    SPLIT_OFF("split-off", 1, TicketEvent.SplitOff.class),
    SPLIT_BACK("split-back", 1, TicketEvent.SplitBack.class),
    CALL("call", 1, TicketEvent.CallLogged.class),
    CALL_DROPPED("call-dropped", 1, TicketEvent.CallDropped.class),
    MEETING("meeting", 1, TicketEvent.MeetingSet.class),
    MEETING_OFF("meeting-off", 1, TicketEvent.MeetingOff.class),
    HELP_ASKED("help-asked", 1, TicketEvent.HelpAsked.class),
    HELP_ENDED("help-ended", 1, TicketEvent.HelpEnded.class),
    HELP_REOPENED("help-reopened", 1, TicketEvent.HelpReopened.class),
    WATCHED_FOR("watched-for", 1, TicketEvent.WatchedFor.class),
    AWAITS("awaits", 1, TicketEvent.Awaits.class),
    SIDE_ASKED("side-asked", 1, TicketEvent.SideAsked.class),
    SIDE_ANSWERED("side-answered", 1, TicketEvent.SideAnswered.class),
    SIDE_DROPPED("side-dropped", 1, TicketEvent.SideDropped.class),
    POLICY_PUT("policy-put", 1, TicketEvent.PolicyPut.class),
    QUEUE_PUT("queue-put", 1, TicketEvent.QueuePut.class),
    SKILL_PUT("skill-put", 1, TicketEvent.SkillPut.class),
    WAY_CHANGED("way-changed", 1, TicketEvent.WayChanged.class);

    private static final Map<String, EventKind> BY_NAME =
            Arrays.stream(values()).collect(Collectors.toUnmodifiableMap(EventKind::word, Function.identity()));
    private static final Map<Class<? extends TicketEvent>, EventKind> BY_TYPE =
            Arrays.stream(values()).collect(Collectors.toUnmodifiableMap(EventKind::type, Function.identity()));

    private final String word;
    private final int version;
    private final Class<? extends TicketEvent> type;

    EventKind(String word, int version, Class<? extends TicketEvent> type) {
        this.word = word;
        this.version = version;
        this.type = type;
    }

    /** Its name where events are kept. */
    public String word() {
        return word;
    }

    /** The version in which this Rafter writes it; it reads this one and all before. */
    public int version() {
        return version;
    }

    /** The events of this kind. */
    public Class<? extends TicketEvent> type() {
        return type;
    }

    /** The kind of this name, if this version of Rafter knows it. */
    public static Optional<EventKind> named(String word) {
        return Optional.ofNullable(BY_NAME.get(word));
    }

    /** The kind of an event. */
    public static EventKind of(TicketEvent event) {
        return Optional.ofNullable(BY_TYPE.get(event.getClass()))
                .orElseThrow(() -> new IllegalStateException(
                        "no name for " + event.getClass().getSimpleName()));
    }
}
