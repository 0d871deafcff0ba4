package rafter.core.ticket;

import java.time.Instant;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/** One thing that happened to a ticket. The list of them is the truth about it; everything else is derived. */
public sealed interface TicketEvent {

    /** When it happened. */
    Instant at();

    /** Who did it. */
    Actor actor();

    /** The entry that this event adds to the conversation, if it adds one. */
    default OptionalLong entry() {
        return switch (this) {
            case CustomerWrote e -> OptionalLong.of(e.message());
            case WeWrote e -> OptionalLong.of(e.message());
            case NoteAdded e -> OptionalLong.of(e.message());
            case Bounced e -> OptionalLong.of(e.message());
            case Opened e -> OptionalLong.empty();
            case StateChanged e -> OptionalLong.empty();
            case PriorityChanged e -> OptionalLong.empty();
            case OwnerChanged e -> OptionalLong.empty();
            case TeamChanged e -> OptionalLong.empty();
            case TopicChanged e -> OptionalLong.empty();
            case TagsChanged e -> OptionalLong.empty();
            case FieldSet e -> OptionalLong.empty();
            case Linked e -> OptionalLong.empty();
            case Unlinked e -> OptionalLong.empty();
            case Continued e -> OptionalLong.empty();
            case CustomerChanged e -> OptionalLong.empty();
            case Joined e -> OptionalLong.empty();
            case Parted e -> OptionalLong.empty();
            case NoteTakenBack e -> OptionalLong.empty();
            case Discarded e -> OptionalLong.empty();
            case Restored e -> OptionalLong.empty();
            case TimeAgreed e -> OptionalLong.empty();
            case BringBackSet e -> OptionalLong.empty();
            case BroughtBack e -> OptionalLong.empty();
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
            long contact,
            Priority priority,
            OptionalLong team)
            implements TicketEvent {}

    /**
     * A message of the customer's side was added.
     *
     * @param message the entry
     * @param automatic written by a machine: it changes no turn and starts nothing
     */
    record CustomerWrote(Instant at, Actor actor, long message, boolean automatic) implements TicketEvent {}

    /**
     * A message to the customer was added.
     *
     * @param automatic written by Rafter itself, such as an acknowledgement: it changes no turn and meets nothing
     */
    record WeWrote(Instant at, Actor actor, long message, boolean automatic) implements TicketEvent {}

    /** A note, which the customer never sees. */
    record NoteAdded(Instant at, Actor actor, long message) implements TicketEvent {}

    /** One of our messages could not be delivered. */
    record Bounced(Instant at, Actor actor, long message) implements TicketEvent {}

    /** The ticket moved to a state; with it, the turn. */
    record StateChanged(Instant at, Actor actor, TicketState state) implements TicketEvent {}

    record PriorityChanged(Instant at, Actor actor, Priority priority) implements TicketEvent {}

    /** A person took the ticket or was given it; empty: nobody owns it now. */
    record OwnerChanged(Instant at, Actor actor, OptionalLong owner) implements TicketEvent {}

    /** A team has the ticket; empty: none does. */
    record TeamChanged(Instant at, Actor actor, OptionalLong team) implements TicketEvent {}

    record TopicChanged(Instant at, Actor actor, String topic) implements TicketEvent {}

    record TagsChanged(Instant at, Actor actor, Set<String> tags) implements TicketEvent {
        public TagsChanged {
            tags = Set.copyOf(tags);
        }
    }

    /** The ticket was linked to an earlier one that it follows. */
    record Linked(Instant at, Actor actor, long earlier, String why) implements TicketEvent {}

    /**
     * What is known of the customer as far as promises depend on it.
     *
     * @param plan what their company has bought; empty: nothing
     */
    record CustomerKnown(OptionalLong company, String plan) {}

    /** The customer's company, or its plan, became another one. */
    record CustomerChanged(Instant at, Actor actor, CustomerKnown before, CustomerKnown after) implements TicketEvent {}

    /** The ticket became a part of another one, where its conversation goes on. */
    record Joined(Instant at, Actor actor, long into) implements TicketEvent {}

    /**
     * A ticket that had been joined is one of its own again, as though it had never been.
     *
     * @param from the ticket that it was a part of
     */
    record Parted(Instant at, Actor actor, long from) implements TicketEvent {}

    /**
     * What a ticket was linked to it has to do with no more.
     *
     * @param other that ticket
     */
    record Unlinked(Instant at, Actor actor, long other, String why) implements TicketEvent {}

    /**
     * A later ticket goes on with what this one was about.
     *
     * @param later that ticket
     */
    record Continued(Instant at, Actor actor, long later, String why) implements TicketEvent {}

    /**
     * A note was taken back by who wrote it: it is not shown any more.
     *
     * @param message the entry
     */
    record NoteTakenBack(Instant at, Actor actor, long message) implements TicketEvent {}

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
}
