package rafter.core.ticket;

import java.time.Instant;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Says acts as people read them, in the imperative: "Hand to Imani Okoro". */
public final class ActWords {

    private ActWords() {}

    /**
     * An act in words.
     *
     * @param when says an instant as people here read it
     */
    public static String of(Act act, House house, Function<Instant, String> when) {
        return switch (act) {
            case Act.HandToPerson a ->
                a.person().map(person -> "Hand to " + house.person(person)).orElse("Leave to the team");
            case Act.HandOver a -> "Hand to " + house.team(a.team()).orElse("a team that is gone");
            case Act.HandBack a -> "Hand back to " + back(a.ownerBefore(), a.teamBefore(), house);
            case Act.MoveTo a ->
                "Move to “" + house.state(a.state()).map(TicketState::name).orElse(a.state()) + "”";
            case Act.SetPriority a -> "Set priority " + a.priority();
            case Act.RaisePriority a -> "Raise the priority";
            case Act.SetTopic a ->
                a.topic().isBlank()
                        ? "Take the topic off"
                        : "Set topic “" + a.topic().strip() + "”";
            case Act.SetTags a ->
                a.tags().isEmpty()
                        ? "Take all tags off"
                        : "Set the tags to " + String.join(", ", new TreeSet<>(a.tags()));
            case Act.Tag a -> "Add tag “" + a.tag().strip() + "”";
            case Act.Untag a -> "Take tag “" + a.tag().strip() + "” off";
            case Act.Carry a -> "Carry " + house.field(a.field()) + " over to " + house.field(a.into());
            case Act.Fill a ->
                "Set " + house.field(a.field()) + " to "
                        + (a.value().isBlank()
                                ? "nothing"
                                : house.said(a.field(), a.value().strip()));
            case Act.AgreeTime a ->
                a.due().map(due -> "Agree on " + when.apply(due)).orElse("Take back the time agreed");
            case Act.BringBack a ->
                a.when().map(at -> "Have them come back " + when.apply(at)).orElse("Have them come back no more");
            case Act.AnswerBy a ->
                "Answer by " + house.channel(a.way().channel()).orElse(a.way().channel());
            case Act.Note a -> "Write a note";
            case Act.TakeNoteBack a -> "Take the note back";
            case Act.Answer a -> "Answer";
            case Act.Notify a ->
                "Tell "
                        + (a.whom() == Act.Whom.ADDRESS
                                ? a.address() + " by mail"
                                : a.whom().words());
            case Act.Join a -> "Join into " + a.into();
            case Act.Part a -> "Take out of " + a.from() + " again";
            case Act.NoRequest a ->
                a.sendersAside() ? "Not a request, and set their senders’ mail aside" : "Not a request";
            case Act.Delete a -> "Delete into the bin";
            case Act.Restore a -> "Take out of the bin";
            case Act.Several a ->
                a.acts().stream().map(one -> of(one.act(), house, when)).collect(Collectors.joining("; "));
            case Act.Split a -> "Split a message off";
            case Act.PutBack a -> "Put the message back";
            case Act.OfWork a -> work(a, house, when);
            case Act.PutPolicy a ->
                a.policy().isEmpty()
                        ? "Let the first policy promise that fits"
                        : "Have “" + house.policy(a.policy()).orElse("a policy that is gone") + "” promise";
            case Act.PutIntoQueue a ->
                a.queue()
                        .map(queue -> "Put into “" + house.queue(queue).orElse("a queue that is gone") + "”")
                        .orElse("Have it wait in the first queue that fits");
            case Act.PutSkill a ->
                "Say that it " + a.need().words() + " " + house.skill(a.skill()).orElse("a skill that is gone");
        };
    }

    private static String work(Act.OfWork act, House house, Function<Instant, String> when) {
        return switch (act) {
            case Act.Watch a -> house.person(a.person()) + (a.on() ? " watches" : " does not watch any more");
            case Act.SetTask a ->
                (a.task().isEmpty() ? "Add the task “" : "Change the task to “")
                        + a.what().strip() + "”"
                        + a.person()
                                .map(person -> " for " + house.person(person))
                                .orElse("")
                        + a.due().map(due -> " by " + when.apply(due)).orElse("");
            case Act.TickTask a -> a.done() ? "Tick the task off" : "Open the task again";
            case Act.DropTask a -> a.gone() ? "Drop the task" : "Bring the task back";
            case Act.OrderTask a -> "Move the task";
            case Act.SpendTime a ->
                (a.entry().isEmpty() ? "Write down " : "Correct to ")
                        + a.spent().time().toMinutes() + " minutes of "
                        + house.person(a.spent().person());
            case Act.DropTime a -> a.gone() ? "Take the time out" : "Put the time back";
            case Act.Conclude a ->
                a.resolution().none() ? "Take back how it was resolved" : "Write down how it was resolved";
            case Act.PutUnder a ->
                a.parent().map(parent -> "Put it under " + parent).orElse("Put it under no other ticket");
            case Act.LogCall a -> a.call().isEmpty() ? "Write a call down" : "Correct the call";
            case Act.DropCall a -> a.gone() ? "Take the call out" : "Put the call back";
            case Act.SetMeeting a ->
                (a.meeting().isEmpty() ? "Plan “" : "Change “")
                        + a.plan().title().strip() + "” " + when.apply(a.plan().at());
            case Act.CallOffMeeting a -> a.off() ? "Call the meeting off" : "Have the meeting after all";
            case Act.AskHelp a ->
                "Ask "
                        + a.wanted()
                                .person()
                                .map(house::person)
                                .or(() -> a.wanted().team().flatMap(house::team))
                                .orElse("somebody")
                        + " for help";
            case Act.EndHelp a -> a.withdrawn() ? "Ask for no help any more" : "Hand back with a result";
            case Act.ReopenHelp a -> "Ask for that help again";
            case Act.WatchFor a ->
                house.person(a.person()) + (a.of().isEmpty() ? " does not watch any more" : " watches for some things");
            case Act.WaitFor a ->
                a.until().isEmpty()
                        ? "Wait for nothing any more"
                        : "Come back when "
                                + a.until().stream()
                                        .sorted()
                                        .map(Await.Happening::words)
                                        .collect(Collectors.joining(" or "));
            case Act.AskBeside a -> "Ask a question beside it";
            case Act.AnswerBeside a -> "Answer a question beside it";
            case Act.DropBeside a -> "Take a question back";
        };
    }

    private static String back(Optional<PersonId> owner, Optional<TeamId> team, House house) {
        return owner.map(house::person).or(() -> team.flatMap(house::team)).orElse("nobody");
    }
}
