package rafter.core.ticket;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** Decides one act on one ticket. */
final class Deciding {

    static final String UNCHANGED = " Nothing was changed.";
    private static final String LOOK_AGAIN = " Nothing was changed; look again and choose.";
    private static final int LONGEST_TOPIC = 60;
    private static final int LONGEST_TAG = 40;
    private static final int MOST_TAGS = 20;
    private static final int LONGEST_REASON = 200;

    private final TicketNumber number;
    private final Ticket ticket;
    private final Doer doer;
    private final House house;
    private final Instant now;
    private final Optional<String> seen;

    Deciding(TicketNumber number, Ticket ticket, Doer doer, House house, Instant now, Optional<String> seen) {
        this.number = number;
        this.ticket = ticket;
        this.doer = doer;
        this.house = house;
        this.now = now;
        this.seen = seen;
    }

    Decision decide(Act act) {
        Optional<Decision> hindered = hindered(act).or(() -> changedMeanwhile(act));
        return hindered.orElseGet(() -> switch (act) {
            case Act.HandToPerson a -> handToPerson(a.person());
            case Act.HandOver a -> handOver(a.team());
            case Act.HandBack a -> handBack(a);
            case Act.MoveTo a -> moveTo(a.state());
            case Act.SetPriority a -> priority(a.priority());
            case Act.RaisePriority a ->
                ticket.priority() == Priority.P1
                        ? Decision.Done.already()
                        : priority(Priority.values()[ticket.priority().ordinal() - 1]);
            case Act.SetTopic a -> topic(a.topic().strip());
            case Act.SetTags a -> tags(a.tags());
            case Act.Tag a -> tag(tag(a.tag()), true);
            case Act.Untag a -> tag(tag(a.tag()), false);
            case Act.Fill a -> fill(a);
            case Act.Carry a -> carry(a);
            case Act.AgreeTime a -> agree(a);
            case Act.BringBack a -> bringBack(a.when());
            case Act.AnswerBy a -> answerBy(a.way());
            case Act.NoRequest a -> discard(Conduct.NO_REQUEST);
            case Act.Delete a ->
                doer.delete() ? discard(Conduct.DELETED) : noRight("Only administrators delete tickets.");
            case Act.Restore a -> restore();
            case Act.Several a -> several(a);
            case Act.OfWork a -> new WorkDeciding(number, ticket.work(), doer, house, now).decide(a);
            case Act.OfSteering a -> new SteeringDeciding(ticket.steering(), doer, house, now).decide(a);
            // Which message it is, only who has the conversation can tell; here it is decided whether one may be split
            // off at all.
            case Act.Split a -> new Decision.Done(List.of(), Optional.empty());
            case Act.PutBack a -> new Decision.Done(List.of(), Optional.empty());
            case Act.Join a -> join(a.into());
            case Act.Part a -> part(a.from());
            // What is written is an entry before it is an event, so these are decided by whether they may be written at
            // all.
            case Act.Note a -> written(a.text(), "note", new Decision.Done(List.of(), Optional.empty()));
            case Act.Answer a -> written(a.text(), "answer", new Decision.Done(List.of(), Optional.empty()));
            case Act.Notify a -> new Decision.Done(List.of(), Optional.empty());
            case Act.TakeNoteBack a ->
                new Decision.Done(
                        List.of(new TicketEvent.NoteTakenBack(now, doer.actor(), a.message())), Optional.empty());
        });
    }

    // ------------------------------------------------------------------ what hinders

    /** What lies in the bin or is a part of another ticket can only be brought out of that. */
    private Optional<Decision> hindered(Act act) {
        boolean goesOn = act instanceof Act.Restore
                || act instanceof Act.Part
                || act instanceof Act.TakeNoteBack
                || act instanceof Act.Notify
                || act instanceof Act.Several;
        if (goesOn) {
            return Optional.empty();
        }
        if (ticket.joinedInto().isPresent()) {
            return Optional.of(invalid("Ticket " + number + " goes on in ticket "
                    + ticket.joinedInto().orElseThrow() + ", which it was joined into."));
        }
        boolean intoTheBin = act instanceof Act.Delete || act instanceof Act.NoRequest;
        if (ticket.discarded() && !intoTheBin) {
            return Optional.of(invalid("Ticket " + number + " is in the bin. Take it out of the bin first."));
        }
        return Optional.empty();
    }

    private Optional<Decision> changedMeanwhile(Act act) {
        if (seen.isEmpty() || Conduct.standing(ticket, act).equals(seen)) {
            return Optional.empty();
        }
        String somebody = "Somebody changed ticket " + number + " meanwhile.";
        String words = switch (act) {
            case Act.HandToPerson a ->
                ticket.owner().map(house::person).orElse("Nobody") + " owns ticket " + number + " now.";
            case Act.MoveTo a -> "Ticket " + number + " is “" + ticket.state().name() + "” now.";
            case Act.SetPriority a -> "Ticket " + number + " is " + ticket.priority() + " now.";
            case Act.AgreeTime a -> "Another time was agreed meanwhile, or the one agreed was taken back.";
            case Act.BringBack a -> "Somebody else set when it comes back meanwhile.";
            case Act.AnswerBy a -> "Answers go by another way meanwhile.";
            case Act.SetTopic a ->
                "Its topic is " + (ticket.topic().isEmpty() ? "empty" : "“" + ticket.topic() + "”") + " now.";
            case Act.Fill a -> "Somebody put something else into " + house.field(a.field()) + " since.";
            case Act.SetTags a -> "Its tags are others now.";
            // Of these nobody remembers how the ticket stood.
            case Act.HandOver a -> somebody;
            case Act.HandBack a -> somebody;
            case Act.RaisePriority a -> somebody;
            case Act.Tag a -> somebody;
            case Act.Untag a -> somebody;
            case Act.Carry a -> somebody;
            case Act.Note a -> somebody;
            case Act.TakeNoteBack a -> somebody;
            case Act.Answer a -> somebody;
            case Act.Notify a -> somebody;
            case Act.Join a -> somebody;
            case Act.Part a -> somebody;
            case Act.NoRequest a -> somebody;
            case Act.Delete a -> somebody;
            case Act.Restore a -> somebody;
            case Act.SetTask a -> "Somebody changed that task meanwhile.";
            case Act.SpendTime a -> "Somebody corrected that time meanwhile.";
            case Act.Conclude a -> "Somebody else wrote down how it was resolved meanwhile.";
            case Act.Several a -> somebody;
            case Act.Split a -> somebody;
            case Act.PutBack a -> somebody;
            case Act.OfWork a -> somebody;
            case Act.PutPolicy a -> "Somebody else said which policy promises meanwhile.";
            case Act.PutIntoQueue a -> "Somebody else said where it waits meanwhile.";
            case Act.PutSkill a -> "Somebody else said what it needs meanwhile.";
        };
        return Optional.of(new Decision.Refused(Decision.Why.STALE, words + LOOK_AGAIN));
    }

    // ------------------------------------------------------------------ who has it

    private Decision handToPerson(Optional<PersonId> person) {
        Optional<PersonId> owner = ticket.owner();
        if (!isMine(owner) && owner.isPresent() && !isMine(person) && !mayHandOn()) {
            return noRight("A colleague owns this ticket. Take it first, or ask a lead to hand it over.");
        }
        if (person.isPresent() && person.filter(house::works).isEmpty()) {
            return invalid("That person does not work here any more.");
        }
        return changes(owner, person, to -> new TicketEvent.OwnerChanged(now, doer.actor(), to), Act.HandToPerson::new);
    }

    private boolean isMine(Optional<PersonId> person) {
        return person.map(Actor.Person::new).filter(doer.actor()::equals).isPresent();
    }

    /** Who handed it to its owner may take that back. */
    private boolean mayHandOn() {
        return doer.handOverAny() || ticket.handedBy().equals(Optional.of(doer.actor()));
    }

    private Decision handOver(TeamId team) {
        if (ticket.owner().isPresent() && !isMine(ticket.owner()) && !doer.handOverAny()) {
            return noRight("A colleague owns this ticket. Take it first, or ask a lead to hand it over.");
        }
        if (house.team(team).isEmpty()) {
            return invalid("There is no such team any more.");
        }
        var undo = new Decision.Undo(new Act.HandBack(team, ticket.team(), ticket.owner()), Optional.empty());
        return done(toTeam(Optional.of(team), Optional.empty()), undo);
    }

    private Decision handBack(Act.HandBack back) {
        if (!ticket.team().equals(Optional.of(back.team())) || ticket.owner().isPresent()) {
            return new Decision.Refused(
                    Decision.Why.STALE, "Ticket " + number + " was handed on meanwhile." + UNCHANGED);
        }
        return new Decision.Done(toTeam(back.teamBefore(), back.ownerBefore().filter(house::works)), Optional.empty());
    }

    private List<TicketEvent> toTeam(Optional<TeamId> team, Optional<PersonId> owner) {
        var events = new ArrayList<TicketEvent>();
        if (!ticket.team().equals(team)) {
            events.add(new TicketEvent.TeamChanged(now, doer.actor(), team));
        }
        if (!ticket.owner().equals(owner)) {
            events.add(new TicketEvent.OwnerChanged(now, doer.actor(), owner));
        }
        return events;
    }

    // ------------------------------------------------------------------ what it is

    private Decision moveTo(String key) {
        Optional<TicketState> state = house.state(key);
        if (state.isEmpty()) {
            return invalid("There is no such state.");
        }
        Optional<Decision> hindrance = Conduct.lacks(ticket, state.get(), house);
        if (hindrance.isPresent() && !ticket.state().equals(state.get())) {
            return hindrance.get();
        }
        return changes(
                ticket.state(),
                state.get(),
                to -> new TicketEvent.StateChanged(now, doer.actor(), to),
                before -> new Act.MoveTo(before.key()));
    }

    private Decision priority(Priority priority) {
        return changes(
                ticket.priority(),
                priority,
                to -> new TicketEvent.PriorityChanged(now, doer.actor(), to),
                Act.SetPriority::new);
    }

    private Decision topic(String topic) {
        return topic.length() > LONGEST_TOPIC
                ? invalid("A topic has at most sixty letters.")
                : changes(
                        ticket.topic(),
                        topic,
                        to -> new TicketEvent.TopicChanged(now, doer.actor(), to),
                        Act.SetTopic::new);
    }

    private static String tag(String typed) {
        return typed.strip().toLowerCase(java.util.Locale.ROOT);
    }

    private Decision tag(String tag, boolean on) {
        if (tag.isEmpty() || tag.contains(",")) {
            return invalid("Write one tag of at most forty letters.");
        }
        var next = new HashSet<>(ticket.tags());
        boolean changes = on ? next.add(tag) : next.remove(tag);
        if (!changes) {
            return Decision.Done.already();
        }
        Decision decision = tags(next);
        return decision instanceof Decision.Done done
                ? done(done.events(), new Decision.Undo(on ? new Act.Untag(tag) : new Act.Tag(tag), Optional.empty()))
                : decision;
    }

    private Decision tags(Set<String> tags) {
        return tags.size() > MOST_TAGS || tags.stream().anyMatch(tag -> tag.length() > LONGEST_TAG)
                ? invalid("At most twenty tags of forty letters each.")
                : changes(
                        ticket.tags(),
                        tags,
                        to -> new TicketEvent.TagsChanged(now, doer.actor(), to),
                        Act.SetTags::new);
    }

    /** What stands in the other already is worth more than what is carried over. */
    private Decision carry(Act.Carry carry) {
        String value = ticket.own().getOrDefault(carry.field(), "");
        boolean taken = !ticket.own().getOrDefault(carry.into(), "").isEmpty();
        return value.isEmpty() || taken ? Decision.Done.already() : fill(new Act.Fill(carry.into(), value));
    }

    private Decision fill(Act.Fill fill) {
        String before = ticket.own().getOrDefault(fill.field(), "");
        Optional<String> kept = house.normalised(fill.field(), fill.value(), before);
        if (kept.isEmpty()) {
            return invalid("“" + fill.value() + "” cannot stand in " + house.holds(fill.field()) + ".");
        }
        return changes(
                before,
                kept.get(),
                to -> new TicketEvent.FieldSet(now, doer.actor(), fill.field(), to),
                to -> new Act.Fill(fill.field(), to));
    }

    // ------------------------------------------------------------------ times

    private Decision agree(Act.AgreeTime agree) {
        if (agree.why().length() > LONGEST_REASON) {
            return invalid("The reason has at most " + LONGEST_REASON + " letters.");
        }
        return ahead(agree.due())
                .orElseGet(() -> changes(
                        ticket.agreedDue(),
                        agree.due(),
                        to -> new TicketEvent.TimeAgreed(
                                now, doer.actor(), to, agree.why().strip()),
                        before -> new Act.AgreeTime(before, "")));
    }

    private Decision bringBack(Optional<Instant> when) {
        return ahead(when)
                .orElseGet(() -> changes(
                        ticket.bringBackAt(),
                        when,
                        to -> new TicketEvent.BringBackSet(now, doer.actor(), to),
                        Act.BringBack::new));
    }

    private Decision answerBy(Way way) {
        return house.channel(way.channel()).isEmpty()
                ? invalid("There is no such channel.")
                : changes(
                        ticket.way(), way, to -> new TicketEvent.WayChanged(now, doer.actor(), to), Act.AnswerBy::new);
    }

    private Optional<Decision> ahead(Optional<Instant> at) {
        if (!ticket.open()) {
            return Optional.of(invalid("Ticket " + number + " is "
                    + ticket.state().name().toLowerCase(java.util.Locale.ROOT) + ", so no time is set for it."));
        }
        if (at.isPresent() && !at.get().isAfter(now)) {
            return Optional.of(invalid("That time has passed. Choose one that is to come."));
        }
        if (at.isPresent() && at.get().isAfter(now.plus(house.furthest()))) {
            return Optional.of(invalid("That is more than two years ahead. Choose an earlier time."));
        }
        return Optional.empty();
    }

    // ------------------------------------------------------------------ ends

    private Decision discard(String why) {
        return ticket.discarded()
                ? Decision.Done.already()
                : done(
                        List.of(new TicketEvent.Discarded(now, doer.actor(), why)),
                        new Decision.Undo(new Act.Restore(), Optional.empty()));
    }

    private Decision restore() {
        if (!ticket.discarded()) {
            return Decision.Done.already();
        }
        if (!ticket.discardedWhy().equals(Conduct.NO_REQUEST) && !doer.delete()) {
            return noRight("Only administrators take out of the bin what was deleted.");
        }
        return new Decision.Done(List.of(new TicketEvent.Restored(now, doer.actor())), Optional.empty());
    }

    private Decision join(TicketNumber into) {
        if (into.equals(number)) {
            return invalid("It is the ticket that the others are joined into.");
        }
        return done(
                List.of(new TicketEvent.Joined(now, doer.actor(), into)),
                new Decision.Undo(new Act.Part(into), Optional.empty()));
    }

    private Decision part(TicketNumber from) {
        return ticket.joinedInto().equals(Optional.of(from))
                ? new Decision.Done(List.of(new TicketEvent.Parted(now, doer.actor(), from)), Optional.empty())
                : new Decision.Refused(
                        Decision.Why.STALE,
                        "Ticket " + number + " is no part of ticket " + from + " any more." + UNCHANGED);
    }

    /** One after the other, each on the ticket as those before it leave it; what takes them back goes the other way. */
    private Decision several(Act.Several several) {
        Ticket next = ticket;
        var events = new ArrayList<TicketEvent>();
        var back = new ArrayList<Act.Several.One>();
        for (Act.Several.One one : several.acts()) {
            Decision decision = Conduct.decide(number, next, one.act(), doer, house, now, one.seen());
            if (!(decision instanceof Decision.Done(List<TicketEvent> more, Optional<Decision.Undo> undo))) {
                return decision;
            }
            for (TicketEvent event : more) {
                next = next.after(event);
            }
            events.addAll(more);
            undo.ifPresent(taken -> back.addFirst(new Act.Several.One(taken.act(), taken.seen())));
        }
        return back.isEmpty()
                ? new Decision.Done(events, Optional.empty())
                : new Decision.Done(events, Optional.of(new Decision.Undo(new Act.Several(back), Optional.empty())));
    }

    // ------------------------------------------------------------------

    private static Decision written(String text, String what, Decision allowed) {
        return text.isBlank() ? invalid("There are no words in the " + what + " yet.") : allowed;
    }

    /** One value becomes another one; what takes it back expects that it is still that one. */
    private <T> Decision changes(T before, T after, Function<T, TicketEvent> event, Function<T, Act> undo) {
        if (before.equals(after)) {
            return Decision.Done.already();
        }
        TicketEvent happens = event.apply(after);
        Act back = undo.apply(before);
        return done(List.of(happens), new Decision.Undo(back, Conduct.standing(ticket.after(happens), back)));
    }

    private static Decision done(List<TicketEvent> events, Decision.Undo undo) {
        return events.isEmpty() ? Decision.Done.already() : new Decision.Done(events, Optional.of(undo));
    }

    static Decision invalid(String words) {
        return new Decision.Refused(Decision.Why.INVALID, words + UNCHANGED);
    }

    static Decision noRight(String words) {
        return new Decision.Refused(Decision.Why.NO_RIGHT, words + UNCHANGED);
    }
}
