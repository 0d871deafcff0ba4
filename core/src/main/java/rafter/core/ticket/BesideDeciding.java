package rafter.core.ticket;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Decides the quick questions that are asked beside a ticket. */
final class BesideDeciding {

    private static final int MOST = 200;
    private static final int LONGEST = 1_000;

    private final Work work;
    private final Doer doer;
    private final House house;
    private final Instant now;

    BesideDeciding(Work work, Doer doer, House house, Instant now) {
        this.work = work;
        this.doer = doer;
        this.house = house;
        this.now = now;
    }

    Decision ask(Act.AskBeside ask) {
        String question = ask.question().strip();
        if (question.isEmpty() || question.length() > LONGEST) {
            return Deciding.invalid("Write a question of at most 1,000 letters.");
        }
        if (ask.person().isPresent() == ask.team().isPresent()) {
            return Deciding.invalid("Choose one person, or one team.");
        }
        if (ask.person().filter(one -> !house.works(one)).isPresent()) {
            return Deciding.invalid("That person does not work here any more.");
        }
        if (ask.team().filter(one -> house.team(one).isEmpty()).isPresent()) {
            return Deciding.invalid("That team is gone.");
        }
        if (work.talks().size() >= MOST) {
            return Deciding.invalid("At most " + MOST + " questions are asked beside a ticket.");
        }
        int id = work.talks().stream().mapToInt(Talk::id).max().orElse(0) + 1;
        return WorkDeciding.done(
                work,
                new TicketEvent.SideAsked(now, doer.actor(), id, ask.person(), ask.team(), question),
                new Act.DropBeside(id));
    }

    /** The first answer counts; whoever comes later is told who was first. */
    Decision answer(Act.AnswerBeside answer) {
        Optional<Talk> talk = work.talk(answer.talk());
        String words = answer.words().strip();
        if (talk.isEmpty() || talk.get().dropped()) {
            return stale("That question was taken back.");
        }
        if (talk.get().answer().isPresent()) {
            return stale(name(talk.get().answer().get().by()) + " answered that question already.");
        }
        if (words.isEmpty() || words.length() > LONGEST) {
            return Deciding.invalid("Write an answer of at most 1,000 letters.");
        }
        return new Decision.Done(
                List.of(new TicketEvent.SideAnswered(now, doer.actor(), answer.talk(), words)), Optional.empty());
    }

    Decision drop(Act.DropBeside drop) {
        Optional<Talk> talk = work.talk(drop.talk());
        if (talk.isEmpty() || talk.get().dropped()) {
            return Decision.Done.already();
        }
        if (talk.get().answer().isPresent()) {
            return stale("That question was answered already.");
        }
        if (!doer.actor().equals(talk.get().by()) && !doer.handOverAny()) {
            return Deciding.noRight("Who asked can take a question back, and leads.");
        }
        return new Decision.Done(
                List.of(new TicketEvent.SideDropped(now, doer.actor(), drop.talk())), Optional.empty());
    }

    private String name(Actor actor) {
        return actor instanceof Actor.Person person ? house.person(person.id()) : "Rafter";
    }

    private static Decision stale(String words) {
        return new Decision.Refused(Decision.Why.STALE, words + Deciding.UNCHANGED);
    }
}
