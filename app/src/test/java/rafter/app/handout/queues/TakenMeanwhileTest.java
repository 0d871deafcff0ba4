package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.OFFER;

import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Handing;
import rafter.core.ticket.Act;

/** A ticket that somebody makes theirs at the very moment at which it is to be handed out stays theirs, and nobody waits for them. */
class TakenMeanwhileTest extends QueuesAtWork {

    /** What comes of something that somebody does while Imani makes a ticket hers and is not done with it. */
    private static <T> T meanwhile(TicketNumber taken, QueuesAtWork at, Callable<T> work) {
        return bean(TransactionTemplate.class).execute(status -> {
            at.acts.perform(taken, new Act.HandToPerson(Optional.of(imani().id())), imani());
            try (var other = Executors.newSingleThreadExecutor()) {
                return other.submit(work).get(20, TimeUnit.SECONDS);
            } catch (Exception e) {
                throw new AssertionError("It waits for Imani.", e);
            }
        });
    }

    @Test
    void who_asks_for_the_next_one_gets_the_one_after_it() {
        saved(queue("A", Handing.PULL, about("pull")));
        TicketNumber first = mail("pull", "Help");
        TicketNumber second = mail("pull", "Help");
        Optional<HandingOut.Got> got = meanwhile(first, this, () -> handing.next(sefa()));
        assertThat(got).map(HandingOut.Got::number).contains(second);
        assertThat(owner(first)).contains(imani().id().value());
        assertThat(owner(second)).contains(sefa().id().value());
    }

    @Test
    void who_asks_for_the_only_one_gets_none() {
        saved(queue("A", Handing.PULL, about("only")));
        TicketNumber only = mail("only", "Help");
        Optional<HandingOut.Got> got = meanwhile(only, this, () -> handing.next(sefa()));
        assertThat(got).isEmpty();
        assertThat(owner(only)).contains(imani().id().value());
    }

    @ParameterizedTest
    @EnumSource(
            mode = EnumSource.Mode.EXCLUDE,
            names = {"HAND", "PULL"})
    void it_is_not_given_to_anybody_else_nor_is_anybody_asked(Handing way) {
        saved(queue("A", way, about("way")));
        TicketNumber first = mail("way", "Help");
        TicketNumber second = mail("way", "Help");
        int done = meanwhile(first, this, giving::giveOut);
        assertThat(done).isEqualTo(1);
        assertThat(owner(first)).contains(imani().id().value());
        assertThat(sql().fetchCount(OFFER, OFFER.TICKET.eq(first))).isZero();
        assertThat(owner(second).isPresent() || sql().fetchExists(OFFER, OFFER.TICKET.eq(second)))
                .isTrue();
    }
}
