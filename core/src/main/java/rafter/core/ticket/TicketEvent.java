package rafter.core.ticket;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** One thing that happened to a ticket. The list of them is the truth about it; everything else is derived. */
public sealed interface TicketEvent {

    /** When it happened. */
    Instant at();

    /** Who did it. */
    Actor actor();

    /** The entry that this event adds to the conversation, if it adds one. */
    default Optional<MessageId> entry() {
        return switch (this) {
            case CustomerWrote e -> Optional.of(e.message());
            case WeWrote e -> Optional.of(e.message());
            case NoteAdded e -> Optional.of(e.message());
            case PublicNoteAdded e -> Optional.of(e.message());
            case Bounced e -> Optional.of(e.message());
            case Opened e -> Optional.empty();
            case StateChanged e -> Optional.empty();
            case PriorityChanged e -> Optional.empty();
            case OwnerChanged e -> Optional.empty();
            case TeamChanged e -> Optional.empty();
            case TopicChanged e -> Optional.empty();
            case TagsChanged e -> Optional.empty();
            case FieldSet e -> Optional.empty();
            case Linked e -> Optional.empty();
            case Unlinked e -> Optional.empty();
            case Continued e -> Optional.empty();
            case CustomerChanged e -> Optional.empty();
            case Joined e -> Optional.empty();
            case Parted e -> Optional.empty();
            case NoteTakenBack e -> Optional.empty();
            case Discarded e -> Optional.empty();
            case Restored e -> Optional.empty();
            case TimeAgreed e -> Optional.empty();
            case BringBackSet e -> Optional.empty();
            case BroughtBack e -> Optional.empty();
            case CustomerIs e -> Optional.empty();
            case WroteOutside e -> Optional.of(e.message());
            case OutsideWrote e -> Optional.of(e.message());
            case SplitOff e -> Optional.empty();
            case SplitBack e -> Optional.empty();
            case WayChanged e -> Optional.empty();
            case OfWork e -> Optional.empty();
            case OfSteering e -> Optional.empty();
        };
    }

    /** How a ticket came to be. */
    enum Origin {
        /** The customer wrote first. */
        CUSTOMER,
        /** We wrote first. */
        OURS
    }

    /** The ticket began. Every list of events starts with this one and holds it once. */
    record Opened(
            Instant at,
            Actor actor,
            Origin origin,
            Way way,
            String subject,
            ContactId contact,
            Priority priority,
            Optional<TeamId> team)
            implements TicketEvent {}

    /**
     * A message of the customer's side was added.
     *
     * @param message the entry
     * @param automatic written by a machine: it changes no turn and starts nothing
     */
    record CustomerWrote(Instant at, Actor actor, MessageId message, boolean automatic) implements TicketEvent {}

    /**
     * A message to the customer was added.
     *
     * @param automatic written by Rafter itself, such as an acknowledgement: it changes no turn and meets nothing
     */
    record WeWrote(Instant at, Actor actor, MessageId message, boolean automatic) implements TicketEvent {}

    /** A note, which the customer never sees. */
    record NoteAdded(Instant at, Actor actor, MessageId message) implements TicketEvent {}

    /** Somebody of ours wrote down what the customer sees on the page of their request, without a mail. */
    record PublicNoteAdded(Instant at, Actor actor, MessageId message) implements TicketEvent {}

    /** One of our messages could not be delivered. */
    record Bounced(Instant at, Actor actor, MessageId message) implements TicketEvent {}

    /** The ticket moved to a state; with it, the turn. */
    record StateChanged(Instant at, Actor actor, TicketState state) implements TicketEvent {}

    record PriorityChanged(Instant at, Actor actor, Priority priority) implements TicketEvent {}

    /** A person took the ticket or was given it; empty: nobody owns it now. */
    record OwnerChanged(Instant at, Actor actor, Optional<PersonId> owner) implements TicketEvent {}

    /** A team has the ticket; empty: none does. */
    record TeamChanged(Instant at, Actor actor, Optional<TeamId> team) implements TicketEvent {}

    record TopicChanged(Instant at, Actor actor, String topic) implements TicketEvent {}

    record TagsChanged(Instant at, Actor actor, Set<String> tags) implements TicketEvent {
        public TagsChanged {
            tags = Set.copyOf(tags);
        }
    }

    /** The ticket was linked to an earlier one that it follows. */
    record Linked(Instant at, Actor actor, TicketNumber earlier, String why) implements TicketEvent {}

    /**
     * What is known of the customer as far as promises depend on it.
     *
     * @param plan what their company has bought; empty: nothing
     */
    record CustomerKnown(Optional<CompanyId> company, String plan) {}

    /** The ticket is another contact's, for two contacts turned out to be one person, or two after all. */
    record CustomerIs(Instant at, Actor actor, ContactId contact) implements TicketEvent {}

    /** The customer's company, or its plan, became another one. */
    record CustomerChanged(Instant at, Actor actor, CustomerKnown before, CustomerKnown after) implements TicketEvent {}

    /** The ticket became a part of another one, where its conversation goes on. */
    record Joined(Instant at, Actor actor, TicketNumber into) implements TicketEvent {}

    /**
     * A ticket that had been joined is one of its own again, as though it had never been.
     *
     * @param from the ticket that it was a part of
     */
    record Parted(Instant at, Actor actor, TicketNumber from) implements TicketEvent {}

    /**
     * What a ticket was linked to it has to do with no more.
     *
     * @param other that ticket
     */
    record Unlinked(Instant at, Actor actor, TicketNumber other, String why) implements TicketEvent {}

    /**
     * A later ticket goes on with what this one was about.
     *
     * @param later that ticket
     */
    record Continued(Instant at, Actor actor, TicketNumber later, String why) implements TicketEvent {}

    /**
     * A note was taken back by who wrote it: it is not shown any more.
     *
     * @param message the entry
     */
    record NoteTakenBack(Instant at, Actor actor, MessageId message) implements TicketEvent {}

    /** The ticket was no request, or is deleted. */
    record Discarded(Instant at, Actor actor, String why) implements TicketEvent {}

    /** A ticket that had been discarded is one again, as though it had never been. */
    record Restored(Instant at, Actor actor) implements TicketEvent {}

    /**
     * An own field of the ticket got another value.
     *
     * @param field the field's key
     * @param value as it is kept; blank: it has none any more
     */
    record FieldSet(Instant at, Actor actor, String field, String value) implements TicketEvent {}

    /**
     * The customer was promised another time for the resolution than the policy says.
     *
     * @param due that time; empty: what the policy says holds again
     * @param why in words
     */
    record TimeAgreed(Instant at, Actor actor, Optional<Instant> due, String why) implements TicketEvent {}

    /**
     * The ticket is to come back at a time, should nothing be heard of the customer before.
     *
     * @param when that time; empty: not any more
     */
    record BringBackSet(Instant at, Actor actor, Optional<Instant> when) implements TicketEvent {}

    /** The time came at which the ticket was to come back. */
    record BroughtBack(Instant at, Actor actor) implements TicketEvent {}

    /**
     * We wrote to a third party; the customer never sees it.
     *
     * @param message the entry
     * @param thread the conversation that it belongs to
     */
    record WroteOutside(Instant at, Actor actor, MessageId message, long thread) implements TicketEvent {}

    /**
     * A third party wrote to us; the customer never sees it.
     *
     * @param automatic written by a machine: it changes no turn
     */
    record OutsideWrote(Instant at, Actor actor, MessageId message, long thread, boolean automatic)
            implements TicketEvent {}

    /**
     * A message of the customer was about something else and goes on as a ticket of its own; with it go the clocks that it began.
     *
     * @param message the entry, which stays readable here
     * @param into that ticket
     */
    record SplitOff(Instant at, Actor actor, MessageId message, TicketNumber into) implements TicketEvent {}

    /**
     * A message that had been split off belongs here after all, as though it had never been.
     *
     * @param from the ticket that it had become
     */
    record SplitBack(Instant at, Actor actor, MessageId message, TicketNumber from) implements TicketEvent {}

    /**
     * Answers go by another way from now on: the customer wrote by that one, or somebody of ours chose it.
     *
     * @param way the way that they take
     */
    record WayChanged(Instant at, Actor actor, Way way) implements TicketEvent {}

    /** Something was put on the ticket over what follows from its facts, see {@link Steering}. */
    sealed interface OfSteering extends TicketEvent {}

    /** Which policy promises; blank: the first whose criteria match. */
    record PolicyPut(Instant at, Actor actor, String policy) implements OfSteering {}

    /** In which queue it waits for somebody; empty: in the first whose criteria match. */
    record QueuePut(Instant at, Actor actor, Optional<QueueId> queue) implements OfSteering {}

    /** Whether it needs a skill. */
    record SkillPut(Instant at, Actor actor, SkillId skill, Steering.Need need) implements OfSteering {}

    /** Something about the parts of the work: it changes neither whose move it is nor any clock. */
    sealed interface OfWork extends TicketEvent {}

    /** Somebody is told of what happens to the ticket from now on, or is not any more. */
    record Watched(Instant at, Actor actor, PersonId person, boolean on) implements OfWork {}

    /**
     * There is something to be done for the ticket, or what there was is another thing now.
     *
     * @param task its number on this ticket
     */
    record TaskSet(Instant at, Actor actor, int task, String what, Optional<PersonId> person, Optional<Instant> due)
            implements OfWork {}

    /** A task is done, or not done after all. */
    record TaskTicked(Instant at, Actor actor, int task, boolean done) implements OfWork {}

    /** A task need not be done, or is to be done after all. */
    record TaskDropped(Instant at, Actor actor, int task, boolean gone) implements OfWork {}

    /** The tasks stand in this order. */
    record TasksOrdered(Instant at, Actor actor, List<Integer> order) implements OfWork {
        public TasksOrdered {
            order = List.copyOf(order);
        }
    }

    /**
     * Time was spent, or what was written down of it is corrected.
     *
     * @param stint its number on this ticket
     */
    record TimeSpent(Instant at, Actor actor, int stint, Work.Spent spent) implements OfWork {}

    /** Time that was written down does not count, or counts after all. */
    record TimeDropped(Instant at, Actor actor, int stint, boolean gone) implements OfWork {}

    /** Somebody wrote down how the ticket was resolved. */
    record Concluded(Instant at, Actor actor, Work.Resolution resolution) implements OfWork {}

    /** The ticket is a part of the trouble of another one; nothing: of none. */
    record PutUnder(Instant at, Actor actor, Optional<TicketNumber> parent) implements OfWork {}

    /**
     * A telephone call was written down, or what was written down of it is corrected.
     *
     * @param call its number on this ticket
     */
    record CallLogged(Instant at, Actor actor, int call, Call.Said said) implements OfWork {}

    /** A call that was written down does not stand any more, or does after all. */
    record CallDropped(Instant at, Actor actor, int call, boolean gone) implements OfWork {}

    /**
     * A meeting is planned, or planned otherwise.
     *
     * @param meeting its number on this ticket
     */
    record MeetingSet(Instant at, Actor actor, int meeting, Meeting.Plan plan) implements OfWork {}

    /** A meeting is called off, or takes place after all. */
    record MeetingOff(Instant at, Actor actor, int meeting, boolean off) implements OfWork {}

    /**
     * Somebody else is asked to do a part.
     *
     * @param help its number on this ticket
     */
    record HelpAsked(Instant at, Actor actor, int help, Help.Wanted wanted) implements OfWork {}

    /** Somebody who was asked hands back with a result, or is not needed any more. */
    record HelpEnded(Instant at, Actor actor, int help, String result, boolean withdrawn) implements OfWork {}

    /** What was handed back or not needed any more is wanted still. */
    record HelpReopened(Instant at, Actor actor, int help) implements OfWork {}

    /** Somebody is told of only this on the ticket from now on; of nothing: they do not watch it any more. */
    record WatchedFor(Instant at, Actor actor, PersonId person, Set<Interest> of) implements OfWork {}

    /** It comes back once something happens, or does not wait for that any more. */
    record Awaits(Instant at, Actor actor, Optional<Await> what) implements OfWork {}

    /**
     * Somebody asks a quick question beside the ticket.
     *
     * @param talk its number on this ticket
     * @param person who is asked; nothing: anybody of the team
     */
    record SideAsked(
            Instant at, Actor actor, int talk, Optional<PersonId> person, Optional<TeamId> team, String question)
            implements OfWork {}

    /** Somebody answers a question that was asked beside the ticket. */
    record SideAnswered(Instant at, Actor actor, int talk, String words) implements OfWork {}

    /** A question that was asked beside the ticket is taken back. */
    record SideDropped(Instant at, Actor actor, int talk) implements OfWork {}

    /** The customer said what they think of how they were helped. */
    record WasRated(Instant at, Actor actor, Work.Rating rating, String comment) implements OfWork {}
}
