package rafter.app.tickets.rating;

import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Work;

/** Takes what customers say of how they were helped, from whoever has the link that was sent to them, once. */
@Component
public class Ratings {

    /**
     * What a link leads to.
     *
     * @param rated what was said already
     */
    record Asked(TicketNumber number, String subject, Optional<String> rated) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final Notices notices;
    private final Clock clock;

    Ratings(DSLContext sql, TicketStore store, Notices notices, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.notices = notices;
        this.clock = clock;
    }

    /**
     * What is asked by a link.
     *
     * @throws Problem.NotFound when we sent no such link
     */
    @Transactional(readOnly = true)
    Asked asked(String token) {
        return sql.select(RATING_REQUEST.TICKET, TICKET.SUBJECT, TICKET.RATING)
                .from(RATING_REQUEST)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(RATING_REQUEST.TICKET))
                .where(RATING_REQUEST.TOKEN.eq(RatingRequests.hashed(token)))
                .fetchOptional(r -> new Asked(
                        r.value1(),
                        r.value2(),
                        Optional.ofNullable(r.value3())
                                .map(rating -> Work.Rating.valueOf(rating).word())))
                .orElseThrow(Ratings::noLink);
    }

    private static Problem noLink() {
        return new Problem.NotFound(
                "This is no link of ours, or a part of it is missing. Copy it whole from the message that you got.");
    }

    /**
     * Takes a rating.
     *
     * @throws Problem.NotFound when we sent no such link
     * @throws Problem.Stale when the ticket was rated already
     * @throws Problem.Invalid when the comment is too long
     */
    @Transactional
    public void rate(String token, Work.Rating rating, String comment) {
        rate(asked(token).number(), rating, comment);
    }

    /**
     * Takes the rating of a customer who was asked otherwise than by a link, such as in a talk.
     *
     * @throws Problem.Stale when the ticket was rated already
     * @throws Problem.Invalid when the comment is too long
     */
    @Transactional
    public void rate(TicketNumber number, Work.Rating rating, String comment) {
        TicketStore.Held held = store.hold(number);
        Instant now = clock.instant();
        switch (Conduct.rated(held.ticket(), now, rating, comment)) {
            case Decision.Done done -> {
                store.append(held, done.events(), now);
                sql.update(RATING_REQUEST)
                        .set(RATING_REQUEST.RATED_AT, now)
                        .where(RATING_REQUEST.TICKET.eq(number))
                        .execute();
                held.ticket()
                        .owner()
                        .ifPresent(owner -> notices.tell(
                                owner,
                                number,
                                Notices.Kind.RATED,
                                "The customer rates " + number + " as "
                                        + rating.word().toLowerCase(Locale.ROOT) + ": "
                                        + held.ticket().subject()));
            }
            case Decision.Refused(Decision.Why why, String words) ->
                throw why == Decision.Why.STALE ? new Problem.Stale(words) : new Problem.Invalid(words);
        }
    }

    /** Why the customer of a resolved ticket was not asked; nothing when they were, or may be still. */
    public List<String> notAsked(TicketNumber number) {
        return sql.select(RATING_REQUEST.WHY)
                .from(RATING_REQUEST)
                .where(RATING_REQUEST.TICKET.eq(number))
                .and(RATING_REQUEST.ASKED_AT.isNull())
                .fetch(RATING_REQUEST.WHY);
    }
}
