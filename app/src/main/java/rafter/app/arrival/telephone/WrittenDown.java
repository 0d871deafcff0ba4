package rafter.app.arrival.telephone;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.platform.DueWork;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.NotesBeside;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.Course;
import rafter.core.ticket.Act;
import rafter.core.ticket.Call;

/** Writes a call that is over down among the calls of its ticket, with the notes; what was typed after its end is added. */
@Component
class WrittenDown {

    private static final Duration PAUSE = Duration.ofSeconds(20);
    private static final int AT_ONCE = 20;
    private static final int LONGEST = 5000;

    /** Looks again and again. */
    @Configuration(proxyBeanMethods = false)
    static class Timer {
        @Bean
        RecurringTask<Void> writeCallsDown(WrittenDown written) {
            return DueWork.inParts("write-calls-down", PAUSE, AT_ONCE, written::later);
        }
    }

    private final CallBook calls;
    private final Acts acts;
    private final NotesBeside tickets;
    private final TransactionTemplate transaction;
    private final Clock clock;

    WrittenDown(CallBook calls, Acts acts, NotesBeside tickets, TransactionTemplate transaction, Clock clock) {
        this.calls = calls;
        this.acts = acts;
        this.tickets = tickets;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Writes one down that is over just now. */
    @Transactional(propagation = Propagation.MANDATORY)
    void down(CallBook.Call call, Course course, TicketNumber ticket) {
        Optional<PersonId> person = course.people().isEmpty()
                ? call.rung()
                : Optional.of(course.people().getLast());
        person.ifPresent(one -> down(
                call,
                ticket,
                one,
                course.takenAt().orElse(course.beganAt()),
                course.talked().plus(course.held())));
    }

    private void down(CallBook.Call call, TicketNumber ticket, PersonId person, Instant at, Duration length) {
        String notes = call.notes().length() > LONGEST ? call.notes().substring(0, LONGEST) : call.notes();
        Instant now = clock.instant();
        // Their clock may go before ours.
        Instant began = at.isAfter(now) ? now : at;
        var said =
                new Call.Said(call.incoming(), person, began, length, CallListener.shown(call.number()), notes.strip());
        int last = last(ticket);
        OptionalInt there = calls.logged(call.id())
                .filter(id -> id <= last)
                .map(OptionalInt::of)
                .orElse(OptionalInt.empty());
        if (acts.byItself(ticket, new Act.LogCall(there, said)).isEmpty()) {
            calls.logged(call.id(), there.orElseGet(() -> last(ticket)), call.notesVersion());
        }
    }

    private int last(TicketNumber ticket) {
        return tickets.hold(ticket).work().calls().stream()
                .mapToInt(Call::id)
                .max()
                .orElse(0);
    }

    /** Writes down what was typed since. */
    @Transactional(propagation = Propagation.MANDATORY)
    void anew(CallBook.Call call) {
        call.ticket()
                .map(calls::goesOn)
                .filter(ticket ->
                        call.person().isPresent() && calls.logged(call.id()).isPresent())
                .ifPresent(ticket -> down(
                        call,
                        ticket,
                        call.person().orElseThrow(),
                        call.takenAt().orElse(call.beganAt()),
                        call.talked().plus(call.held())));
    }

    /** What was typed after the end by people who are free by now, some. */
    int later() {
        List<CallBook.Call> all = calls.unwritten(clock.instant(), AT_ONCE);
        all.forEach(call -> transaction.executeWithoutResult(status -> {
            anew(call);
            // Where its ticket takes nothing any more it stays with the call.
            calls.logged(call.id(), calls.logged(call.id()).orElse(0), call.notesVersion());
        }));
        return all.size();
    }
}
