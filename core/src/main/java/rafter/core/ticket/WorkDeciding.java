package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Decides the acts on the parts of the work: who watches, tasks, time, how it was resolved, and what it is a part of. */
final class WorkDeciding {

    static final int LONGEST_TASK = 300;
    private static final int LONGEST_AWAITED = 500;
    static final int MOST_TASKS = 100;
    static final int LONGEST_KIND = 40;
    static final int LONGEST_TEXT = 5_000;
    static final int LONGEST_CAUSE = 80;
    static final int MOST_TIME_ENTRIES = 1_000;
    static final Duration MOST_TIME = Duration.ofHours(24);

    private final TicketNumber number;
    private final Work work;
    private final Doer doer;
    private final House house;
    private final Instant now;

    WorkDeciding(TicketNumber number, Work work, Doer doer, House house, Instant now) {
        this.number = number;
        this.work = work;
        this.doer = doer;
        this.house = house;
        this.now = now;
    }

    Decision decide(Act.OfWork act) {
        return switch (act) {
            case Act.Watch a -> watch(a);
            case Act.SetTask a -> task(a);
            case Act.TickTask a -> tick(a);
            case Act.DropTask a -> drop(a);
            case Act.OrderTask a -> order(a);
            case Act.SpendTime a -> spend(a);
            case Act.DropTime a -> dropTime(a);
            case Act.Conclude a -> conclude(a.resolution());
            case Act.PutUnder a -> under(a.parent());
            case Act.LogCall a -> others().log(a);
            case Act.DropCall a -> others().drop(a);
            case Act.SetMeeting a -> others().plan(a);
            case Act.CallOffMeeting a -> others().callOff(a);
            case Act.AskHelp a -> others().ask(a.wanted());
            case Act.EndHelp a -> others().end(a);
            case Act.ReopenHelp a -> others().reopen(a);
            case Act.WatchFor a -> watchFor(a);
            case Act.WaitFor a -> waitFor(a);
            case Act.AskBeside a -> beside().ask(a);
            case Act.AnswerBeside a -> beside().answer(a);
            case Act.DropBeside a -> beside().drop(a);
        };
    }

    private OthersDeciding others() {
        return new OthersDeciding(work, doer, house, now);
    }

    /** How the work stands in the respect that an act changes; empty when nobody remembers that. */
    static Optional<String> standing(Work work, Act.OfWork act) {
        return switch (act) {
            case Act.SetTask a ->
                a.task().isEmpty()
                        ? Optional.empty()
                        : Optional.of(work.task(a.task().getAsInt())
                                .map(WorkDeciding::words)
                                .orElse(""));
            case Act.SpendTime a ->
                a.entry().isEmpty()
                        ? Optional.empty()
                        : Optional.of(work.time(a.entry().getAsInt())
                                .map(entry -> entry.spent().toString())
                                .orElse(""));
            case Act.Conclude a -> Optional.of(work.resolution().toString());
            case Act.PutUnder a ->
                Optional.of(work.parent().map(TicketNumber::toString).orElse(""));
            case Act.Watch a -> Optional.empty();
            case Act.TickTask a -> Optional.empty();
            case Act.DropTask a -> Optional.empty();
            case Act.OrderTask a -> Optional.empty();
            case Act.DropTime a -> Optional.empty();
            case Act.LogCall a -> OthersDeciding.standing(work, a);
            case Act.SetMeeting a -> OthersDeciding.standing(work, a);
            case Act.DropCall a -> Optional.empty();
            case Act.CallOffMeeting a -> Optional.empty();
            case Act.AskHelp a -> Optional.empty();
            case Act.EndHelp a -> Optional.empty();
            case Act.ReopenHelp a -> Optional.empty();
            case Act.WatchFor a -> Optional.empty();
            case Act.WaitFor a -> Optional.of(work.await().map(Await::standing).orElse(""));
            case Act.AskBeside a -> Optional.empty();
            case Act.AnswerBeside a -> Optional.empty();
            case Act.DropBeside a -> Optional.empty();
        };
    }

    private static String words(Work.Task task) {
        return task.what() + "|" + task.person().map(PersonId::toString).orElse("") + "|"
                + task.due().map(Instant::toString).orElse("");
    }

    private Decision watch(Act.Watch watch) {
        if (work.watchers().contains(watch.person()) == watch.on()) {
            return Decision.Done.already();
        }
        if (watch.on() && !house.works(watch.person())) {
            return Deciding.invalid("That person does not work here any more.");
        }
        return done(
                new TicketEvent.Watched(now, doer.actor(), watch.person(), watch.on()),
                new Act.WatchFor(watch.person(), work.watching().getOrDefault(watch.person(), Set.of())));
    }

    private Decision watchFor(Act.WatchFor watch) {
        Set<Interest> before = work.watching().getOrDefault(watch.person(), Set.of());
        if (before.equals(watch.of())) {
            return Decision.Done.already();
        }
        if (before.isEmpty() && !house.works(watch.person())) {
            return Deciding.invalid("That person does not work here any more.");
        }
        return done(
                new TicketEvent.WatchedFor(now, doer.actor(), watch.person(), watch.of()),
                new Act.WatchFor(watch.person(), before));
    }

    private Decision waitFor(Act.WaitFor wait) {
        String note = wait.note().strip();
        if (note.length() > LONGEST_AWAITED) {
            return Deciding.invalid("A note to yourself has at most " + LONGEST_AWAITED + " letters.");
        }
        Optional<Await> next = wait.until().isEmpty() && note.isEmpty()
                ? Optional.empty()
                : Optional.of(new Await(wait.until(), note));
        if (work.await().equals(next)) {
            return Decision.Done.already();
        }
        return done(
                new TicketEvent.Awaits(now, doer.actor(), next),
                new Act.WaitFor(
                        work.await().map(Await::until).orElse(Set.of()),
                        work.await().map(Await::note).orElse("")));
    }

    private BesideDeciding beside() {
        return new BesideDeciding(work, doer, house, now);
    }

    // ------------------------------------------------------------------ tasks

    private Decision task(Act.SetTask set) {
        String what = set.what().strip();
        if (what.isEmpty() || what.length() > LONGEST_TASK) {
            return Deciding.invalid("A task says what is to be done in at most " + LONGEST_TASK + " letters.");
        }
        if (set.person().isPresent() && set.person().filter(house::works).isEmpty()) {
            return Deciding.invalid("That person does not work here any more.");
        }
        if (set.due().filter(due -> due.isAfter(now.plus(house.furthest()))).isPresent()) {
            return Deciding.invalid("That is more than two years ahead. Choose an earlier time.");
        }
        if (set.task().isEmpty()) {
            return newTask(what, set);
        }
        Optional<Work.Task> before = work.task(set.task().getAsInt());
        if (before.isEmpty()) {
            return noTask();
        }
        Work.Task was = before.get();
        if (was.what().equals(what)
                && was.person().equals(set.person())
                && was.due().equals(set.due())) {
            return Decision.Done.already();
        }
        return done(
                new TicketEvent.TaskSet(now, doer.actor(), was.id(), what, set.person(), set.due()),
                new Act.SetTask(OptionalInt.of(was.id()), was.what(), was.person(), was.due()));
    }

    private Decision newTask(String what, Act.SetTask set) {
        if (work.tasks().size() >= MOST_TASKS) {
            return Deciding.invalid("A ticket has at most " + MOST_TASKS + " tasks.");
        }
        int id = work.tasks().stream().mapToInt(Work.Task::id).max().orElse(0) + 1;
        return done(
                new TicketEvent.TaskSet(now, doer.actor(), id, what, set.person(), set.due()),
                new Act.DropTask(id, true));
    }

    private Decision tick(Act.TickTask tick) {
        Optional<Work.Task> task = work.task(tick.task()).filter(one -> !one.gone());
        if (task.isEmpty()) {
            return noTask();
        }
        return task.get().doneAt().isPresent() == tick.done()
                ? Decision.Done.already()
                : done(
                        new TicketEvent.TaskTicked(now, doer.actor(), tick.task(), tick.done()),
                        new Act.TickTask(tick.task(), !tick.done()));
    }

    private Decision drop(Act.DropTask drop) {
        Optional<Work.Task> task = work.task(drop.task());
        if (task.isEmpty()) {
            return noTask();
        }
        return task.get().gone() == drop.gone()
                ? Decision.Done.already()
                : done(
                        new TicketEvent.TaskDropped(now, doer.actor(), drop.task(), drop.gone()),
                        new Act.DropTask(drop.task(), !drop.gone()));
    }

    private Decision order(Act.OrderTask order) {
        List<Integer> before = work.shownTasks().stream().map(Work.Task::id).toList();
        int at = before.indexOf(order.task());
        if (at < 0) {
            return noTask();
        }
        int to = Math.clamp(order.place(), 0, before.size() - 1);
        if (to == at) {
            return Decision.Done.already();
        }
        var next = new ArrayList<>(before);
        next.removeIf(id -> id == order.task());
        next.add(to, order.task());
        return done(
                new TicketEvent.TasksOrdered(now, doer.actor(), List.copyOf(next)),
                new Act.OrderTask(order.task(), at));
    }

    private static Decision noTask() {
        return new Decision.Refused(Decision.Why.STALE, "That task is not there any more. Nothing was changed.");
    }

    // ------------------------------------------------------------------ time

    private Decision spend(Act.SpendTime spend) {
        Work.Spent spent = spend.spent();
        Optional<Decision> refused = refused(spent);
        if (refused.isPresent()) {
            return refused.get();
        }
        if (spend.entry().isEmpty()) {
            return spendNew(spent);
        }
        Optional<Work.TimeEntry> before = work.time(spend.entry().getAsInt()).filter(entry -> !entry.gone());
        if (before.isEmpty()) {
            return noTime();
        }
        Work.TimeEntry was = before.get();
        if (!mayCorrect(was)) {
            return Deciding.noRight("You correct your own time; that of others is for leads.");
        }
        return was.spent().equals(spent)
                ? Decision.Done.already()
                : done(
                        new TicketEvent.TimeSpent(now, doer.actor(), was.id(), spent),
                        new Act.SpendTime(OptionalInt.of(was.id()), was.spent()));
    }

    private Optional<Decision> refused(Work.Spent spent) {
        if (!spent.time().isPositive() || spent.time().compareTo(MOST_TIME) > 0) {
            return Optional.of(Deciding.invalid("Write how long it took, from a minute to 24 hours."));
        }
        if (spent.at().isAfter(now)) {
            return Optional.of(Deciding.invalid("That has not come yet. Choose when it began."));
        }
        if (!house.works(spent.person())) {
            return Optional.of(Deciding.invalid("That person does not work here any more."));
        }
        boolean mine = doer.actor().equals(new Actor.Person(spent.person()));
        if (!mine && !doer.handOverAny()) {
            return Optional.of(Deciding.noRight("You write down your own time; that of others is for leads."));
        }
        return spent.kind().length() > LONGEST_KIND || spent.note().length() > LONGEST_TASK
                ? Optional.of(Deciding.invalid(
                        "The kind has at most " + LONGEST_KIND + " letters, the note " + LONGEST_TASK + "."))
                : Optional.empty();
    }

    private Decision spendNew(Work.Spent spent) {
        if (work.time().size() >= MOST_TIME_ENTRIES) {
            return Deciding.invalid("A ticket has at most " + MOST_TIME_ENTRIES + " entries of time.");
        }
        int id = work.time().stream().mapToInt(Work.TimeEntry::id).max().orElse(0) + 1;
        return done(new TicketEvent.TimeSpent(now, doer.actor(), id, spent), new Act.DropTime(id, true));
    }

    private boolean mayCorrect(Work.TimeEntry entry) {
        return doer.handOverAny()
                || doer.actor().equals(new Actor.Person(entry.spent().person()));
    }

    private Decision dropTime(Act.DropTime drop) {
        Optional<Work.TimeEntry> entry = work.time(drop.entry());
        if (entry.isEmpty()) {
            return noTime();
        }
        if (!mayCorrect(entry.get())) {
            return Deciding.noRight("You correct your own time; that of others is for leads.");
        }
        return entry.get().gone() == drop.gone()
                ? Decision.Done.already()
                : done(
                        new TicketEvent.TimeDropped(now, doer.actor(), drop.entry(), drop.gone()),
                        new Act.DropTime(drop.entry(), !drop.gone()));
    }

    private static Decision noTime() {
        return new Decision.Refused(Decision.Why.STALE, "That time is not there any more. Nothing was changed.");
    }

    // ------------------------------------------------------------------ ends

    private Decision conclude(Work.Resolution typed) {
        var resolution = new Work.Resolution(
                typed.was().strip(), typed.done().strip(), typed.cause().strip());
        if (resolution.was().length() > LONGEST_TEXT || resolution.done().length() > LONGEST_TEXT) {
            return Deciding.invalid("What it was and what was done have at most 5,000 letters each.");
        }
        if (resolution.cause().length() > LONGEST_CAUSE) {
            return Deciding.invalid("The cause has at most " + LONGEST_CAUSE + " letters.");
        }
        return work.resolution().equals(resolution)
                ? Decision.Done.already()
                : done(new TicketEvent.Concluded(now, doer.actor(), resolution), new Act.Conclude(work.resolution()));
    }

    private Decision under(Optional<TicketNumber> parent) {
        if (parent.equals(Optional.of(number))) {
            return Deciding.invalid("A ticket cannot be a part of itself.");
        }
        return work.parent().equals(parent)
                ? Decision.Done.already()
                : done(new TicketEvent.PutUnder(now, doer.actor(), parent), new Act.PutUnder(work.parent()));
    }

    private Decision done(TicketEvent.OfWork event, Act.OfWork back) {
        return done(work, event, back);
    }

    /** It happens, and is taken back so. */
    static Decision done(Work work, TicketEvent.OfWork event, Act.OfWork back) {
        return new Decision.Done(
                List.of(event), Optional.of(new Decision.Undo(back, standing(work.after(event), back))));
    }
}
