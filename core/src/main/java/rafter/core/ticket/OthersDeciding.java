package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalInt;
import rafter.core.text.MailAddress;

/** Decides the acts by which others come into the work on a ticket: calls, meetings, and helpers. */
final class OthersDeciding {

    private static final int MOST = 200;
    private static final int MOST_INVITED = 50;
    private static final int LONGEST_LINE = 200;
    private static final Duration LONGEST_CALL = Duration.ofHours(24);
    private static final Duration LONGEST_MEETING = Duration.ofDays(7);

    private final Work work;
    private final Doer doer;
    private final House house;
    private final Instant now;

    OthersDeciding(Work work, Doer doer, House house, Instant now) {
        this.work = work;
        this.doer = doer;
        this.house = house;
        this.now = now;
    }

    // ------------------------------------------------------------------ calls

    Decision log(Act.LogCall log) {
        Call.Said said = log.said();
        Optional<String> wrong = wrong(said);
        if (wrong.isPresent()) {
            return Deciding.invalid(wrong.get());
        }
        if (log.call().isEmpty()) {
            return logNew(said);
        }
        Optional<Call> before = work.call(log.call().getAsInt()).filter(call -> !call.gone());
        if (before.isEmpty()) {
            return gone("call");
        }
        return before.get().said().equals(said)
                ? Decision.Done.already()
                : WorkDeciding.done(
                        work,
                        new TicketEvent.CallLogged(
                                now, doer.actor(), before.get().id(), said),
                        new Act.LogCall(log.call(), before.get().said()));
    }

    private Decision logNew(Call.Said said) {
        if (work.calls().size() >= MOST) {
            return Deciding.invalid("A ticket has at most " + MOST + " calls.");
        }
        int id = work.calls().stream().mapToInt(Call::id).max().orElse(0) + 1;
        return WorkDeciding.done(
                work, new TicketEvent.CallLogged(now, doer.actor(), id, said), new Act.DropCall(id, true));
    }

    private Optional<String> wrong(Call.Said said) {
        if (said.length().isNegative() || said.length().compareTo(LONGEST_CALL) > 0) {
            return Optional.of("A call takes from nothing, when nobody answered, to 24 hours.");
        }
        if (said.at().isAfter(now)) {
            return Optional.of("That has not come yet. Choose when the call was.");
        }
        if (!house.works(said.person())) {
            return Optional.of("That person does not work here any more.");
        }
        return said.with().length() > LONGEST_LINE || said.notes().length() > WorkDeciding.LONGEST_TEXT
                ? Optional.of("Who it was with has at most 200 letters, the notes 5,000.")
                : Optional.empty();
    }

    Decision drop(Act.DropCall drop) {
        Optional<Call> call = work.call(drop.call());
        if (call.isEmpty()) {
            return gone("call");
        }
        return call.get().gone() == drop.gone()
                ? Decision.Done.already()
                : WorkDeciding.done(
                        work,
                        new TicketEvent.CallDropped(now, doer.actor(), drop.call(), drop.gone()),
                        new Act.DropCall(drop.call(), !drop.gone()));
    }

    // ------------------------------------------------------------------ meetings

    Decision plan(Act.SetMeeting set) {
        Meeting.Plan plan = set.plan();
        Optional<String> wrong = wrong(plan);
        if (wrong.isPresent()) {
            return Deciding.invalid(wrong.get());
        }
        var kept = new Meeting.Plan(
                plan.title().strip(), plan.at(), plan.length(), plan.place().strip(), plan.invited());
        if (set.meeting().isEmpty()) {
            return planNew(kept);
        }
        Optional<Meeting> before = work.meeting(set.meeting().getAsInt()).filter(one -> !one.off());
        if (before.isEmpty()) {
            return gone("meeting");
        }
        return before.get().plan().equals(kept)
                ? Decision.Done.already()
                : WorkDeciding.done(
                        work,
                        new TicketEvent.MeetingSet(
                                now, doer.actor(), before.get().id(), kept),
                        new Act.SetMeeting(
                                OptionalInt.of(before.get().id()), before.get().plan()));
    }

    private Decision planNew(Meeting.Plan plan) {
        if (work.meetings().size() >= MOST) {
            return Deciding.invalid("A ticket has at most " + MOST + " meetings.");
        }
        int id = work.meetings().stream().mapToInt(Meeting::id).max().orElse(0) + 1;
        return WorkDeciding.done(
                work, new TicketEvent.MeetingSet(now, doer.actor(), id, plan), new Act.CallOffMeeting(id, true));
    }

    private Optional<String> wrong(Meeting.Plan plan) {
        String title = plan.title().strip();
        if (title.isEmpty() || title.length() > LONGEST_LINE || plan.place().length() > LONGEST_LINE) {
            return Optional.of("A meeting has a title; title and place have at most 200 letters each.");
        }
        if (!plan.length().isPositive() || plan.length().compareTo(LONGEST_MEETING) > 0) {
            return Optional.of("A meeting takes from a minute to seven days.");
        }
        if (plan.at().isBefore(now) || plan.at().isAfter(now.plus(house.furthest()))) {
            return Optional.of("Choose a time that is still to come, within two years.");
        }
        Optional<String> unknown = plan.invited().stream()
                .filter(one -> MailAddress.of(one).filter(MailAddress::writable).isEmpty())
                .findFirst();
        if (unknown.isPresent()) {
            return Optional.of("“" + unknown.get() + "” is not a mail address.");
        }
        return plan.invited().size() > MOST_INVITED
                ? Optional.of("At most " + MOST_INVITED + " are invited.")
                : Optional.empty();
    }

    Decision callOff(Act.CallOffMeeting act) {
        Optional<Meeting> meeting = work.meeting(act.meeting());
        if (meeting.isEmpty()) {
            return gone("meeting");
        }
        return meeting.get().off() == act.off()
                ? Decision.Done.already()
                : WorkDeciding.done(
                        work,
                        new TicketEvent.MeetingOff(now, doer.actor(), act.meeting(), act.off()),
                        new Act.CallOffMeeting(act.meeting(), !act.off()));
    }

    // ------------------------------------------------------------------ helpers

    Decision ask(Help.Wanted typed) {
        String request = typed.request().strip();
        if (request.isEmpty() || request.length() > WorkDeciding.LONGEST_TEXT) {
            return Deciding.invalid("Say what is wanted, in at most 5,000 letters.");
        }
        if (typed.person().isPresent() == typed.team().isPresent()) {
            return Deciding.invalid("Choose one person, or one team.");
        }
        if (typed.person().filter(one -> !house.works(one)).isPresent()) {
            return Deciding.invalid("That person does not work here any more.");
        }
        if (typed.team().filter(one -> house.team(one).isEmpty()).isPresent()) {
            return Deciding.invalid("That team is gone.");
        }
        if (typed.due()
                .filter(due -> !due.isAfter(now) || due.isAfter(now.plus(house.furthest())))
                .isPresent()) {
            return Deciding.invalid("Choose a time that is still to come, within two years.");
        }
        if (work.helps().size() >= MOST) {
            return Deciding.invalid("Help is asked for at most " + MOST + " times on a ticket.");
        }
        var wanted = new Help.Wanted(typed.person(), typed.team(), request, typed.due());
        int id = work.helps().stream().mapToInt(Help::id).max().orElse(0) + 1;
        return WorkDeciding.done(
                work, new TicketEvent.HelpAsked(now, doer.actor(), id, wanted), new Act.EndHelp(id, "", true));
    }

    Decision end(Act.EndHelp end) {
        Optional<Help> help = work.help(end.help());
        if (help.isEmpty()) {
            return gone("request for help");
        }
        if (!help.get().open()) {
            return new Decision.Refused(
                    Decision.Why.STALE, "That was handed back or taken back already." + Deciding.UNCHANGED);
        }
        String result = end.result().strip();
        if (result.length() > WorkDeciding.LONGEST_TEXT || (result.isEmpty() && !end.withdrawn())) {
            return Deciding.invalid("Say what came of it, in at most 5,000 letters.");
        }
        boolean may = doer.handOverAny() || (end.withdrawn() ? asked(help.get()) : isAsked(help.get()));
        if (!may) {
            return Deciding.noRight(
                    end.withdrawn()
                            ? "Who asked for help can take that back, and leads."
                            : "Who was asked hands back, and leads.");
        }
        return WorkDeciding.done(
                work,
                new TicketEvent.HelpEnded(now, doer.actor(), end.help(), result, end.withdrawn()),
                new Act.ReopenHelp(end.help()));
    }

    private boolean asked(Help help) {
        return doer.actor().equals(help.askedBy());
    }

    private boolean isAsked(Help help) {
        return doer.actor() instanceof Actor.Person person
                && (help.wanted().person().filter(person.id()::equals).isPresent()
                        || help.wanted()
                                .team()
                                .filter(team -> house.in(team, person.id()))
                                .isPresent());
    }

    Decision reopen(Act.ReopenHelp reopen) {
        Optional<Help> help = work.help(reopen.help());
        if (help.isEmpty()) {
            return gone("request for help");
        }
        if (help.get().result().isEmpty()) {
            return Decision.Done.already();
        }
        Help.Result was = help.get().result().get();
        return WorkDeciding.done(
                work,
                new TicketEvent.HelpReopened(now, doer.actor(), reopen.help()),
                new Act.EndHelp(reopen.help(), was.words(), was.withdrawn()));
    }

    private static Decision gone(String what) {
        return new Decision.Refused(
                Decision.Why.STALE, "That " + what + " is not there any more." + Deciding.UNCHANGED);
    }

    /** How a call is written down; see {@link WorkDeciding#standing}. */
    static Optional<String> standing(Work work, Act.LogCall log) {
        return log.call().isEmpty()
                ? Optional.empty()
                : Optional.of(work.call(log.call().getAsInt())
                        .map(call -> call.said().toString())
                        .orElse(""));
    }

    /** How a meeting is planned; see {@link WorkDeciding#standing}. */
    static Optional<String> standing(Work work, Act.SetMeeting set) {
        return set.meeting().isEmpty()
                ? Optional.empty()
                : Optional.of(work.meeting(set.meeting().getAsInt())
                        .map(meeting -> meeting.plan().toString())
                        .orElse(""));
    }
}
