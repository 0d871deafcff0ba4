package rafter.app.work.today;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CALL;
import static rafter.database.Tables.TICKET_CLOCK;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.core.id.PersonId;
import rafter.core.ticket.Work.Rating;

/** The last seven days of one person, beside those of all who worked in them. */
@Component
class WeekFigures {

    private static final Duration WEEK = Duration.ofDays(7);
    private static final PersonId NOBODY = new PersonId(0);

    /** So many of so many. */
    private record Part(int good, int all) {

        static final Part NONE = new Part(0, 0);

        Part and(Part more) {
            return new Part(good + more.good, all + more.all);
        }

        String words() {
            return Today.share(good, all);
        }
    }

    private final DSLContext sql;

    WeekFigures(DSLContext sql) {
        this.sql = sql;
    }

    List<Today.Figure> figures(Viewer me, Instant now) {
        Instant from = now.minus(WEEK);
        return List.of(
                counted("answers", me, answers(me, from)),
                shared("targets met", me, targetsMet(me, from)),
                counted("calls", me, calls(me, from)),
                shared("rated good", me, rated(me, from)));
    }

    private static Today.Figure counted(String words, Viewer me, Map<PersonId, Integer> each) {
        int sum = each.values().stream().mapToInt(n -> n).sum();
        String average = each.isEmpty() ? "–" : Long.toString(Math.round(sum / (double) each.size()));
        return new Today.Figure(words, Integer.toString(each.getOrDefault(me.id(), 0)), average);
    }

    private static Today.Figure shared(String words, Viewer me, Map<PersonId, Part> each) {
        Part all = each.values().stream().reduce(Part.NONE, Part::and);
        return new Today.Figure(words, each.getOrDefault(me.id(), Part.NONE).words(), all.words());
    }

    private Map<PersonId, Integer> answers(Viewer me, Instant from) {
        return sql.select(MESSAGE.PERSON_ID, DSL.count())
                .from(MESSAGE)
                .where(MESSAGE.KIND.eq(DSL.inline("PUBLIC")))
                .and(MESSAGE.AT.ge(from))
                .and(me.sees(MESSAGE.TICKET))
                .and(MESSAGE.PERSON_ID.isNotNull())
                .groupBy(MESSAGE.PERSON_ID)
                .fetchMap(MESSAGE.PERSON_ID, DSL.count());
    }

    private Map<PersonId, Part> targetsMet(Viewer me, Instant from) {
        return sql.select(TICKET_CLOCK.OWNER_ID, DSL.count().filterWhere(DSL.not(TICKET_CLOCK.LATE)), DSL.count())
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.ENDED_AT.ge(from))
                .and(TICKET_CLOCK.STATE.eq("MET"))
                .and(me.sees(TICKET_CLOCK.TICKET))
                .and(TICKET_CLOCK.OWNER_ID.isNotNull())
                .groupBy(TICKET_CLOCK.OWNER_ID)
                .fetchMap(r -> r.value1(), r -> new Part(r.value2(), r.value3()));
    }

    private Map<PersonId, Integer> calls(Viewer me, Instant from) {
        return sql.select(TICKET_CALL.PERSON_ID, DSL.count())
                .from(TICKET_CALL)
                .where(TICKET_CALL.AT.ge(from))
                .and(me.sees(TICKET_CALL.TICKET))
                .groupBy(TICKET_CALL.PERSON_ID)
                .fetchMap(TICKET_CALL.PERSON_ID, DSL.count());
    }

    /** How many of each person’s tickets were rated good, and how many at all; those of nobody count for all. */
    private Map<PersonId, Part> rated(Viewer me, Instant from) {
        return sql.select(
                        TICKET.OWNER_ID,
                        DSL.count().filterWhere(TICKET.RATING.eq(DSL.inline(Rating.GOOD.name()))),
                        DSL.count())
                .from(RATING_REQUEST)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(RATING_REQUEST.TICKET))
                .where(RATING_REQUEST.RATED_AT.ge(from))
                .and(TICKET.RATING.isNotNull())
                .groupBy(TICKET.OWNER_ID)
                .fetchMap(r -> Optional.ofNullable(r.value1()).orElse(NOBODY), r -> new Part(r.value2(), r.value3()));
    }
}
