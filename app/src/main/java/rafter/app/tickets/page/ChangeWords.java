package rafter.app.tickets.page;

import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import java.util.stream.Collectors;
import rafter.app.house.access.Colleagues;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Say;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Await;
import rafter.core.ticket.House;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;

/** Says in words what was done to a ticket. */
record ChangeWords(Colleagues colleagues, OwnFields fields, House house, ZoneId zone, Instant now) {

    /** A change as it reads; nothing when it is told otherwise, or need not be. */
    Optional<String> of(TicketEvent event) {
        String who = who(event.actor());
        return switch (event) {
            case TicketEvent.StateChanged e ->
                event.actor() instanceof Actor.System && e.state().turn() == Turn.OURS
                        ? Optional.empty()
                        : Optional.of(who + " set the state to " + e.state().name());
            case TicketEvent.PriorityChanged e ->
                Optional.of(who + " set the priority to " + e.priority() + " "
                        + e.priority().word());
            case TicketEvent.OwnerChanged e -> Optional.of(owner(e, who));
            case TicketEvent.TeamChanged e ->
                Optional.of(
                        who + " handed it to " + e.team().map(colleagues::team).orElse("no team"));
            case TicketEvent.TopicChanged e ->
                Optional.of(who + (e.topic().isEmpty() ? " took the topic away" : " set the topic to " + e.topic()));
            case TicketEvent.TagsChanged e ->
                Optional.of(who
                        + (e.tags().isEmpty()
                                ? " took the tags away"
                                : " set the tags to "
                                        + String.join(
                                                ", ", e.tags().stream().sorted().toList())));
            case TicketEvent.Linked e -> Optional.of("Linked to ticket " + e.earlier() + ": " + e.why());
            case TicketEvent.CustomerChanged e ->
                Optional.of("The customer’s plan is "
                        + (e.after().plan().isEmpty() ? "none" : e.after().plan()) + " from here on");
            case TicketEvent.CustomerIs e ->
                Optional.of(who + " joined its customer with another contact, or took that back");
            case TicketEvent.Joined e -> Optional.of(who + " joined it into ticket " + e.into());
            case TicketEvent.Discarded e -> Optional.of(who + " put it into the bin: " + e.why());
            case TicketEvent.Restored e -> Optional.of(who + " took it out of the bin");
            case TicketEvent.Parted e -> Optional.of(who + " took it out of ticket " + e.from() + " again");
            case TicketEvent.Unlinked e -> Optional.of("No longer linked to ticket " + e.other() + ": " + e.why());
            case TicketEvent.Continued e -> Optional.of("Ticket " + e.later() + " goes on with it: " + e.why());
            case TicketEvent.NoteTakenBack e -> Optional.of(who + " took a note back");
            case TicketEvent.FieldSet e ->
                Optional.of(
                        e.value().isEmpty()
                                ? who + " took " + fields.name(e.field()) + " away"
                                : who + " set " + fields.name(e.field()) + " to " + fields.said(e.field(), e.value()));
            case TicketEvent.TimeAgreed e ->
                Optional.of(e.due()
                        .map(due -> who + " agreed with the customer on " + when(due)
                                + (e.why().isEmpty() ? "" : ": " + e.why()))
                        .orElse(who + " took back the time agreed with the customer"));
            case TicketEvent.BringBackSet e ->
                Optional.of(e.when()
                        .map(at -> who + " has it come back " + when(at))
                        .orElse(who + " does not have it come back any more"));
            case TicketEvent.WayChanged e ->
                Optional.of(who + " answers by "
                        + house.channel(e.way().channel()).orElse(e.way().channel()) + " from now on");
            case TicketEvent.BroughtBack e -> Optional.of("It came back, as set");
            case TicketEvent.SplitOff e -> Optional.of(who + " split a message off into ticket " + e.into());
            case TicketEvent.SplitBack e ->
                Optional.of(who + " put back the message that had become ticket " + e.from());
            case TicketEvent.OfWork e -> Optional.of(work(e, who));
            case TicketEvent.OfSteering e -> Optional.of(steering(e, who));
            case TicketEvent.Opened e -> Optional.empty();
            case TicketEvent.CustomerWrote e -> Optional.empty();
            case TicketEvent.WeWrote e -> Optional.empty();
            case TicketEvent.NoteAdded e -> Optional.empty();
            case TicketEvent.PublicNoteAdded e -> Optional.empty();
            case TicketEvent.Bounced e -> Optional.empty();
            case TicketEvent.WroteOutside e -> Optional.empty();
            case TicketEvent.OutsideWrote e -> Optional.empty();
        };
    }

    private String steering(TicketEvent.OfSteering event, String who) {
        return switch (event) {
            case TicketEvent.PolicyPut e ->
                e.policy().isEmpty()
                        ? who + " let the first policy promise that fits"
                        : who + " had the policy " + house.policy(e.policy()).orElse("that is gone now") + " promise";
            case TicketEvent.QueuePut e ->
                e.queue()
                        .map(queue -> who + " put it into the queue "
                                + house.queue(queue).orElse("that is gone now"))
                        .orElse(who + " had it wait in the first queue that fits");
            case TicketEvent.SkillPut e ->
                who + " said that it " + e.need().words() + " "
                        + house.skill(e.skill()).orElse("a skill that is gone now");
        };
    }

    private String work(TicketEvent.OfWork event, String who) {
        return switch (event) {
            case TicketEvent.Watched e ->
                event.actor().equals(new Actor.Person(e.person()))
                        ? who + (e.on() ? " watches it" : " does not watch it any more")
                        : who
                                + (e.on() ? " had " : " took ")
                                + who(new Actor.Person(e.person()))
                                + (e.on() ? " watch it" : " off its watchers");
            case TicketEvent.TaskSet e ->
                who + " set task " + e.task() + ": " + e.what()
                        + e.person()
                                .map(person -> ", for " + who(new Actor.Person(person)))
                                .orElse("")
                        + e.due().map(due -> ", by " + when(due)).orElse("");
            case TicketEvent.TaskTicked e ->
                who + (e.done() ? " ticked task " + e.task() + " off" : " opened task " + e.task() + " again");
            case TicketEvent.TaskDropped e ->
                who + (e.gone() ? " dropped task " + e.task() : " brought task " + e.task() + " back");
            case TicketEvent.TasksOrdered e -> who + " put the tasks into another order";
            case TicketEvent.TimeSpent e ->
                who + " wrote down " + Say.amount(e.spent().time())
                        + (e.spent().kind().isEmpty() ? "" : " of " + e.spent().kind())
                        + " (time " + e.stint() + ")";
            case TicketEvent.TimeDropped e ->
                who + (e.gone() ? " took time " + e.stint() + " out" : " put time " + e.stint() + " back");
            case TicketEvent.Concluded e ->
                who + (e.resolution().none() ? " took back how it was resolved" : " wrote down how it was resolved");
            case TicketEvent.PutUnder e ->
                who
                        + e.parent()
                                .map(parent -> " put it under ticket " + parent)
                                .orElse(" put it under no other ticket");
            case TicketEvent.CallLogged e ->
                who(new Actor.Person(e.said().person()))
                        + (e.said().incoming() ? " was called by " : " called ")
                        + (e.said().with().isBlank() ? "the customer" : e.said().with())
                        + (e.said().length().isZero()
                                ? ", nobody answered"
                                : ", " + Say.amount(e.said().length()))
                        + (e.said().notes().isBlank() ? "" : ": “" + e.said().notes() + "”");
            case TicketEvent.CallDropped e ->
                who + (e.gone() ? " took call " : " put call ") + e.call() + (e.gone() ? " out" : " back");
            case TicketEvent.MeetingSet e ->
                who + " planned “" + e.plan().title() + "” " + when(e.plan().at());
            case TicketEvent.MeetingOff e ->
                who
                        + (e.off()
                                ? " called meeting " + e.meeting() + " off"
                                : " has meeting " + e.meeting() + " after all");
            case TicketEvent.HelpAsked e ->
                who + " asked "
                        + e.wanted()
                                .person()
                                .map(person -> who(new Actor.Person(person)))
                                .or(() -> e.wanted().team().map(colleagues::team))
                                .orElse("somebody")
                        + " for help: “" + e.wanted().request() + "”"
                        + e.wanted().due().map(due -> ", by " + when(due)).orElse("");
            case TicketEvent.HelpEnded e ->
                who + (e.withdrawn() ? " asks for that help no more" : " handed back: “" + e.result() + "”");
            case TicketEvent.HelpReopened e -> who + " asks for that help again";
            case TicketEvent.WatchedFor e ->
                event.actor().equals(new Actor.Person(e.person()))
                        ? who + (e.of().isEmpty() ? " does not watch it any more" : " watches it for some things")
                        : who
                                + (e.of().isEmpty() ? " took " : " had ")
                                + who(new Actor.Person(e.person()))
                                + (e.of().isEmpty() ? " off its watchers" : " watch it for some things");
            case TicketEvent.Awaits e ->
                who
                        + e.what()
                                .map(what -> " has it come back"
                                        + (what.until().isEmpty() ? "" : " when " + until(what))
                                        + (what.note().isEmpty() ? "" : ", with “" + what.note() + "”"))
                                .orElse(" does not have it come back by what happens any more");
            case TicketEvent.SideAsked e ->
                who + " asked "
                        + e.person()
                                .map(person -> who(new Actor.Person(person)))
                                .or(() -> e.team().map(colleagues::team))
                                .orElse("somebody")
                        + ": “" + e.question() + "”";
            case TicketEvent.SideAnswered e -> who + " answered: “" + e.words() + "”";
            case TicketEvent.SideDropped e -> who + " took a question back";
            case TicketEvent.WasRated e ->
                who + " rated it: " + e.rating().word() + (e.comment().isEmpty() ? "" : ", “" + e.comment() + "”");
        };
    }

    /** What a ticket waits for, in words. */
    static String until(Await await) {
        return await.until().stream().sorted().map(Await.Happening::words).collect(Collectors.joining(" or "));
    }

    private String owner(TicketEvent.OwnerChanged e, String who) {
        if (e.owner().isEmpty()) {
            return who + " put it back: nobody owns it";
        }
        boolean self =
                e.actor() instanceof Actor.Person p && p.id().equals(e.owner().orElseThrow());
        return self
                ? who + " took it"
                : who + " handed it to " + who(new Actor.Person(e.owner().orElseThrow()));
    }

    /** Who did something, as the words about it begin. */
    String who(Actor actor) {
        return switch (actor) {
            case Actor.Person p -> colleagues.name(p.id());
            case Actor.Contact c -> "The customer";
            case Actor.System s -> "Rafter";
        };
    }

    /** An instant, in words. */
    String when(Instant at) {
        return Say.when(at, now, zone);
    }
}
