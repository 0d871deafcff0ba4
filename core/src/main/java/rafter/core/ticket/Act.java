package rafter.core.ticket;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/**
 * Something that can be done to a ticket, whoever does it: a person by a button, a cell or a batch, Rafter by a step of a target. What
 * follows from it is decided by {@link Conduct}; its names in JSON stay for good.
 */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "act")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Act.HandToPerson.class, name = "hand-to-person"),
    @JsonSubTypes.Type(value = Act.HandOver.class, name = "hand-over"),
    @JsonSubTypes.Type(value = Act.HandBack.class, name = "hand-back"),
    @JsonSubTypes.Type(value = Act.MoveTo.class, name = "move-to"),
    @JsonSubTypes.Type(value = Act.SetPriority.class, name = "set-priority"),
    @JsonSubTypes.Type(value = Act.RaisePriority.class, name = "raise-priority"),
    @JsonSubTypes.Type(value = Act.SetTopic.class, name = "set-topic"),
    @JsonSubTypes.Type(value = Act.SetTags.class, name = "set-tags"),
    @JsonSubTypes.Type(value = Act.Tag.class, name = "tag"),
    @JsonSubTypes.Type(value = Act.Untag.class, name = "untag"),
    @JsonSubTypes.Type(value = Act.Fill.class, name = "fill"),
    @JsonSubTypes.Type(value = Act.Carry.class, name = "carry"),
    @JsonSubTypes.Type(value = Act.AgreeTime.class, name = "agree-time"),
    @JsonSubTypes.Type(value = Act.BringBack.class, name = "bring-back"),
    @JsonSubTypes.Type(value = Act.AnswerBy.class, name = "answer-by"),
    @JsonSubTypes.Type(value = Act.Note.class, name = "note"),
    @JsonSubTypes.Type(value = Act.TakeNoteBack.class, name = "take-note-back"),
    @JsonSubTypes.Type(value = Act.Answer.class, name = "answer"),
    @JsonSubTypes.Type(value = Act.Notify.class, name = "notify"),
    @JsonSubTypes.Type(value = Act.Join.class, name = "join"),
    @JsonSubTypes.Type(value = Act.Part.class, name = "part"),
    @JsonSubTypes.Type(value = Act.NoRequest.class, name = "no-request"),
    @JsonSubTypes.Type(value = Act.Delete.class, name = "delete"),
    @JsonSubTypes.Type(value = Act.Restore.class, name = "restore"),
    @JsonSubTypes.Type(value = Act.Several.class, name = "several"),
    @JsonSubTypes.Type(value = Act.Watch.class, name = "watch"),
    @JsonSubTypes.Type(value = Act.SetTask.class, name = "set-task"),
    @JsonSubTypes.Type(value = Act.TickTask.class, name = "tick-task"),
    @JsonSubTypes.Type(value = Act.DropTask.class, name = "drop-task"),
    @JsonSubTypes.Type(value = Act.OrderTask.class, name = "order-task"),
    @JsonSubTypes.Type(value = Act.SpendTime.class, name = "spend-time"),
    @JsonSubTypes.Type(value = Act.DropTime.class, name = "drop-time"),
    @JsonSubTypes.Type(value = Act.Conclude.class, name = "conclude"),
    @JsonSubTypes.Type(value = Act.PutUnder.class, name = "put-under"),
    @JsonSubTypes.Type(value = Act.Split.class, name = "split"),
    @JsonSubTypes.Type(value = Act.PutBack.class, name = "put-back"),
    @JsonSubTypes.Type(value = Act.LogCall.class, name = "log-call"),
    @JsonSubTypes.Type(value = Act.DropCall.class, name = "drop-call"),
    @JsonSubTypes.Type(value = Act.SetMeeting.class, name = "set-meeting"),
    @JsonSubTypes.Type(value = Act.CallOffMeeting.class, name = "call-off-meeting"),
    @JsonSubTypes.Type(value = Act.AskHelp.class, name = "ask-help"),
    @JsonSubTypes.Type(value = Act.EndHelp.class, name = "end-help"),
    @JsonSubTypes.Type(value = Act.ReopenHelp.class, name = "reopen-help"),
    @JsonSubTypes.Type(value = Act.WatchFor.class, name = "watch-for"),
    @JsonSubTypes.Type(value = Act.WaitFor.class, name = "wait-for"),
    @JsonSubTypes.Type(value = Act.AskBeside.class, name = "ask-beside"),
    @JsonSubTypes.Type(value = Act.AnswerBeside.class, name = "answer-beside"),
    @JsonSubTypes.Type(value = Act.DropBeside.class, name = "drop-beside"),
    @JsonSubTypes.Type(value = Act.PutPolicy.class, name = "put-policy"),
    @JsonSubTypes.Type(value = Act.PutIntoQueue.class, name = "put-into-queue"),
    @JsonSubTypes.Type(value = Act.PutSkill.class, name = "put-skill")
})
public sealed interface Act {

    /** What Rafter may do by a standing instruction, with no person to answer for it. */
    sealed interface Automatic extends Act {}

    /** A person gets the ticket; empty: nobody owns it, and its team has it. */
    record HandToPerson(Optional<PersonId> person) implements Act {}

    /** A team gets the ticket, and nobody owns it until somebody of the team takes it. */
    record HandOver(TeamId team) implements Automatic {}

    /**
     * Undoes that a ticket was handed to a team.
     *
     * @param team the team that must have it still, with no owner
     * @param teamBefore the team that gets it back
     * @param ownerBefore the owner who gets it back, if they work here still
     */
    record HandBack(TeamId team, Optional<TeamId> teamBefore, Optional<PersonId> ownerBefore) implements Act {}

    /** The ticket moves to a state, by its key. */
    record MoveTo(String state) implements Act {}

    record SetPriority(Priority priority) implements Act {}

    /** The priority rises by one, or stays when it is the highest. */
    record RaisePriority() implements Automatic {}

    /** What the ticket is about; blank: nothing in particular. */
    record SetTopic(String topic) implements Act {}

    /** The ticket has these tags and no others. */
    record SetTags(Set<String> tags) implements Act {
        public SetTags {
            tags = Set.copyOf(tags);
        }
    }

    record Tag(String tag) implements Automatic {}

    record Untag(String tag) implements Act {}

    /**
     * An own field gets a value.
     *
     * @param field its key
     * @param value as somebody typed it; blank to have none
     */
    record Fill(String field, String value) implements Act {}

    /**
     * Puts what stands in one own field into another that is empty.
     *
     * @param field the key of the one it comes from
     * @param into the key of the one it comes to
     */
    record Carry(String field, String into) implements Act {}

    /**
     * Another time is agreed with the customer for the resolution.
     *
     * @param due empty: what the policy says holds again
     * @param why in words; may be blank
     */
    record AgreeTime(Optional<Instant> due, String why) implements Act {}

    /** The ticket comes back at a time, should nothing be heard of the customer before; empty: not any more. */
    record BringBack(Optional<Instant> when) implements Act {}

    /** Answers go by this way from now on. */
    record AnswerBy(Way way) implements Act {}

    /** A note is written, which the customer never sees; may hold placeholders. */
    record Note(String text) implements Automatic {}

    /** A note of one's own is not shown any more. */
    record TakeNoteBack(MessageId message) implements Act {}

    /**
     * The customer is answered.
     *
     * @param text may hold placeholders
     * @param then whose move it is then
     */
    record Answer(String text, Turn then) implements Act {}

    /**
     * Somebody is told by mail.
     *
     * @param address where to, for {@link Whom#ADDRESS}; else empty
     * @param message what they read; may hold placeholders
     */
    record Notify(Whom whom, String address, String message) implements Automatic {}

    /** The ticket becomes a part of another one, where its conversation goes on. */
    record Join(TicketNumber into) implements Act {}

    /** A ticket that was joined is one of its own again. */
    record Part(TicketNumber from) implements Act {}

    /**
     * A message of the customer becomes a ticket of its own.
     *
     * @param subject what the new ticket is about; blank: what the message says it is
     */
    record Split(MessageId message, String subject) implements Act {}

    /** A message that was split off belongs here again, and the ticket that it had become is laid into the bin. */
    record PutBack(MessageId message) implements Act {}

    /** The ticket was no request; with it, its sender's mail may be set aside from now on. */
    record NoRequest(boolean sendersAside) implements Act {}

    /** The ticket is laid into the bin. */
    record Delete() implements Act {}

    /** The ticket is taken out of the bin. */
    record Restore() implements Act {}

    /** Several acts, in their order, all of them or none. */
    record Several(List<One> acts) implements Act {
        public Several {
            acts = List.copyOf(acts);
        }

        /**
         * One of several acts.
         *
         * @param seen how the ticket must stand in that respect; see {@link Conduct#standing}
         */
        public record One(Act act, Optional<String> seen) {}

        /** These, whatever happened to the ticket since they were chosen. */
        public static Several of(List<Act> acts) {
            return new Several(
                    acts.stream().map(act -> new One(act, Optional.empty())).toList());
        }
    }

    /** What is put on the ticket over what follows from its facts, see {@link Steering}. */
    sealed interface OfSteering extends Act {}

    /** A policy promises, by its key; blank: the first whose criteria match. */
    record PutPolicy(String policy) implements OfSteering {}

    /** It waits in a queue; empty: in the first whose criteria match. */
    record PutIntoQueue(Optional<QueueId> queue) implements OfSteering {}

    /** It needs a skill, does not need it, or says so by itself. */
    record PutSkill(SkillId skill, Steering.Need need) implements OfSteering {}

    /** What is done about the parts of the work; it changes neither whose move it is nor any clock. */
    sealed interface OfWork extends Act {}

    /** A person is told of what happens to the ticket, or is not any more. */
    record Watch(PersonId person, boolean on) implements OfWork {}

    /**
     * There is something to be done, or a task becomes another one.
     *
     * @param task its number; empty: a new one
     * @param person who is to do it; empty: whoever has the ticket
     */
    record SetTask(OptionalInt task, String what, Optional<PersonId> person, Optional<Instant> due) implements OfWork {}

    /** A task is done, or not done after all. */
    record TickTask(int task, boolean done) implements OfWork {}

    /** A task is dropped, or brought back. */
    record DropTask(int task, boolean gone) implements OfWork {}

    /**
     * A task moves among those that are shown.
     *
     * @param place its new place, from zero
     */
    record OrderTask(int task, int place) implements OfWork {}

    /**
     * Time was spent.
     *
     * @param entry its number, to correct it; empty: it is written down for the first time
     */
    record SpendTime(OptionalInt entry, Work.Spent spent) implements OfWork {}

    /** Time is taken out again, or put back. */
    record DropTime(int entry, boolean gone) implements OfWork {}

    /** How the ticket was resolved is written down. */
    record Conclude(Work.Resolution resolution) implements OfWork {}

    /** The ticket becomes a part of the trouble of another one, or of none. */
    record PutUnder(Optional<TicketNumber> parent) implements OfWork {}

    /**
     * A telephone call is written down.
     *
     * @param call its number, to correct it; empty: it is written down for the first time
     */
    record LogCall(OptionalInt call, Call.Said said) implements OfWork {}

    /** A call is taken out again, or put back. */
    record DropCall(int call, boolean gone) implements OfWork {}

    /**
     * A meeting is planned, or planned otherwise.
     *
     * @param meeting its number; empty: a new one
     */
    record SetMeeting(OptionalInt meeting, Meeting.Plan plan) implements OfWork {}

    /** A meeting is called off, or takes place after all. */
    record CallOffMeeting(int meeting, boolean off) implements OfWork {}

    /** Somebody else is asked to do a part. */
    record AskHelp(Help.Wanted wanted) implements OfWork {}

    /**
     * What was asked for is handed back with a result.
     *
     * @param withdrawn it is not wanted any more, whatever was done
     */
    record EndHelp(int help, String result, boolean withdrawn) implements OfWork {}

    /** What was handed back is wanted still. */
    record ReopenHelp(int help) implements OfWork {}

    /** Somebody is told of only this on the ticket; of nothing: they do not watch it any more. */
    record WatchFor(PersonId person, Set<Interest> of) implements OfWork {}

    /** It comes back once one of these things happens, with a note; of no thing and no note: not any more. */
    record WaitFor(Set<Await.Happening> until, String note) implements OfWork {}

    /** Asks a person, or anybody of a team, a quick question beside the ticket. */
    record AskBeside(Optional<PersonId> person, Optional<TeamId> team, String question) implements OfWork {}

    /** Answers a question that was asked beside the ticket. */
    record AnswerBeside(int talk, String words) implements OfWork {}

    /** Takes a question back that nobody has answered. */
    record DropBeside(int talk) implements OfWork {}

    /** Who is told. */
    enum Whom {
        OWNER("the owner"),
        TEAM("everybody of the team"),
        LEAD("the leads"),
        ADDRESS("an address");

        private final String words;

        Whom(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }
}
