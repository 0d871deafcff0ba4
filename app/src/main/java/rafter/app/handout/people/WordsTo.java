package rafter.app.handout.people;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.PERSON_WORDS;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Awaiting;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;

/** A few words from one person to another, on every page of theirs until they were read. Leads begin; whoever was written to can answer. */
@Component
public class WordsTo implements Awaiting {

    static final int LONGEST = 500;
    /** So many words somebody can send within {@link #WITHIN}. */
    private static final int MOST = 20;

    private static final Duration WITHIN = Duration.ofMinutes(10);
    private static final Duration KEPT = Duration.ofDays(90);

    /** Words that were not read yet. */
    public record Unread(long id, PersonId from, String name, String text, Instant at) {}

    private final DSLContext sql;
    private final Persons persons;
    private final LiveNews news;
    private final Clock clock;

    WordsTo(DSLContext sql, Persons persons, LiveNews news, Clock clock) {
        this.sql = sql;
        this.persons = persons;
        this.news = news;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "words";
    }

    @Override
    public Field<Integer> waitingFor(Viewer me) {
        return Awaiting.count(PERSON_WORDS, unreadBy(me));
    }

    private static Condition unreadBy(Viewer me) {
        return PERSON_WORDS.TO_ID.eq(me.id()).and(PERSON_WORDS.READ_AT.isNull());
    }

    /** What somebody has to read, the oldest first. */
    public Optional<Unread> unread(Viewer me) {
        return sql.select(PERSON_WORDS.fields())
                .select(PERSON.NAME)
                .from(PERSON_WORDS)
                .join(PERSON)
                .on(PERSON.ID.eq(PERSON_WORDS.FROM_ID))
                .where(unreadBy(me))
                .orderBy(PERSON_WORDS.ID)
                .limit(1)
                .fetchOptional(r -> new Unread(
                        r.get(PERSON_WORDS.ID),
                        r.get(PERSON_WORDS.FROM_ID),
                        r.get(PERSON.NAME),
                        r.get(PERSON_WORDS.TEXT),
                        r.get(PERSON_WORDS.AT)));
    }

    /**
     * A lead writes to somebody.
     *
     * @throws Problem.Invalid when there are no words, or too many
     */
    @Transactional
    public void send(PersonId to, String text, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        write(to, text, lead);
    }

    private void write(PersonId to, String typed, Viewer from) {
        String text = typed.strip();
        if (text.isEmpty() || text.length() > LONGEST) {
            throw new Problem.Invalid("Write from 1 to " + LONGEST + " letters. Nothing was sent.");
        }
        Person person = persons.find(to)
                .filter(Person::active)
                .orElseThrow(() -> new Problem.NotFound("They do not work here any more. Nothing was sent."));
        Instant now = clock.instant();
        int lately =
                sql.fetchCount(PERSON_WORDS, PERSON_WORDS.FROM_ID.eq(from.id()), PERSON_WORDS.AT.gt(now.minus(WITHIN)));
        if (lately >= MOST) {
            throw new Problem.Invalid(
                    "You wrote " + lately + " times in ten minutes. Wait a little. Nothing was sent.");
        }
        sql.insertInto(PERSON_WORDS)
                .set(PERSON_WORDS.FROM_ID, from.id())
                .set(PERSON_WORDS.TO_ID, person.id())
                .set(PERSON_WORDS.AT, now)
                .set(PERSON_WORDS.TEXT, text)
                .execute();
        sql.deleteFrom(PERSON_WORDS)
                .where(PERSON_WORDS.TO_ID.eq(person.id()))
                .and(PERSON_WORDS.READ_AT.lt(now.minus(KEPT)))
                .execute();
        news.offered(person.id());
    }

    /**
     * Somebody has read it, and may answer.
     *
     * @param answer goes to whoever wrote; blank: none
     * @throws Problem.Stale when they read it already
     */
    @Transactional
    public void read(long id, String answer, Viewer me) {
        Unread words = sql.selectFrom(PERSON_WORDS)
                .where(PERSON_WORDS.ID.eq(id))
                .and(PERSON_WORDS.TO_ID.eq(me.id()))
                .and(PERSON_WORDS.READ_AT.isNull())
                .forUpdate()
                .fetchOptional(r -> new Unread(r.getId(), r.getFromId(), "", r.getText(), r.getAt()))
                .orElseThrow(() -> new Problem.Stale("You have read that already. Nothing was sent."));
        if (!answer.isBlank()) {
            write(words.from(), answer, me);
        }
        sql.update(PERSON_WORDS)
                .set(PERSON_WORDS.READ_AT, clock.instant())
                .where(PERSON_WORDS.ID.eq(id))
                .execute();
        news.offered(me.id());
    }
}
