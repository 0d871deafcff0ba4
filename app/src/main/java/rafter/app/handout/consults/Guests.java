package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.EXPERT;
import static rafter.database.Tables.PERSON;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Awaiting;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.core.consult.Who;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;

/** Who was asked into which room, and how they answered. */
@Component
class Guests implements Awaiting {

    /** How somebody who was asked stands. */
    enum State {
        ASKED("asked"),
        TAKEN("here"),
        DECLINED("declined"),
        LAPSED("did not answer in time"),
        WITHDRAWN("no longer needed"),
        LEFT("has left");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** Whether they may still come: who is late is welcome. */
        public boolean open() {
            return this == ASKED || this == LAPSED;
        }
    }

    /**
     * Somebody who was asked.
     *
     * @param address their mail address
     * @param optional asked for being who they are; nobody is asked in their place
     */
    public record Guest(
            long id,
            long consult,
            Who who,
            String name,
            String address,
            String why,
            State state,
            String reason,
            boolean optional,
            boolean helped,
            Instant asked,
            Optional<Instant> until) {

        Optional<PersonId> person() {
            return who instanceof Who.Colleague(PersonId id) ? Optional.of(id) : Optional.empty();
        }
    }

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Guests(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "rooms";
    }

    @Override
    public Field<Integer> waitingFor(Viewer me) {
        return Awaiting.count(
                CONSULT_GUEST.join(CONSULT).on(CONSULT.ID.eq(CONSULT_GUEST.CONSULT_ID)),
                inOpenRooms(me.id(), State.ASKED));
    }

    private static Condition inOpenRooms(PersonId person, State state) {
        return CONSULT_GUEST
                .PERSON_ID
                .eq(person)
                .and(CONSULT_GUEST.STATE.eq(state.name()))
                .and(CONSULT.STATE.eq("OPEN"));
    }

    /** Everybody who was asked into a room, in the order in which they were. */
    List<Guest> of(long consult) {
        return read(CONSULT_GUEST.CONSULT_ID.eq(consult));
    }

    Optional<Guest> find(long id) {
        return read(CONSULT_GUEST.ID.eq(id)).stream().findFirst();
    }

    /** What somebody is asked just now, the oldest first. */
    List<Guest> asked(PersonId person) {
        return read(inOpenRooms(person, State.ASKED));
    }

    /** The open rooms that somebody is in. */
    List<Guest> in(PersonId person) {
        return read(inOpenRooms(person, State.TAKEN));
    }

    /** Whose invitation has one of these identities. */
    Optional<Guest> byMail(Collection<String> identities) {
        return identities.isEmpty()
                ? Optional.empty()
                : read(CONSULT_GUEST.MAIL.in(identities)).stream().reduce((first, second) -> second);
    }

    List<Guest> read(Condition which) {
        return sql.select(CONSULT_GUEST.fields())
                .select(
                        DSL.coalesce(PERSON.NAME, EXPERT.NAME).as("called"),
                        DSL.coalesce(PERSON.ADDRESS, EXPERT.ADDRESS).as("written"))
                .from(CONSULT_GUEST)
                .join(CONSULT)
                .on(CONSULT.ID.eq(CONSULT_GUEST.CONSULT_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(CONSULT_GUEST.PERSON_ID))
                .leftJoin(EXPERT)
                .on(EXPERT.ID.eq(CONSULT_GUEST.EXPERT_ID))
                .where(which)
                .orderBy(CONSULT_GUEST.ID)
                .fetch(Guests::guest);
    }

    private static Guest guest(Record r) {
        Optional<PersonId> person = Optional.ofNullable(r.get(CONSULT_GUEST.PERSON_ID));
        Who who = person.isPresent()
                ? new Who.Colleague(person.get())
                : new Who.Outside(new ExpertId(r.get(CONSULT_GUEST.EXPERT_ID)));
        return new Guest(
                r.get(CONSULT_GUEST.ID),
                r.get(CONSULT_GUEST.CONSULT_ID),
                who,
                r.get("called", String.class),
                r.get("written", String.class),
                r.get(CONSULT_GUEST.WHY),
                State.valueOf(r.get(CONSULT_GUEST.STATE)),
                r.get(CONSULT_GUEST.REASON),
                r.get(CONSULT_GUEST.OPTIONAL),
                r.get(CONSULT_GUEST.HELPED),
                r.get(CONSULT_GUEST.ASKED_AT),
                Optional.ofNullable(r.get(CONSULT_GUEST.UNTIL_AT)));
    }

    /** Asks somebody; who was asked before is asked again. */
    Guest ask(long consult, Who who, String why, boolean optional, Instant until) {
        Instant now = clock.instant();
        long id = sql.insertInto(CONSULT_GUEST)
                .set(CONSULT_GUEST.CONSULT_ID, consult)
                .set(CONSULT_GUEST.PERSON_ID, who instanceof Who.Colleague(PersonId person) ? person : null)
                .set(CONSULT_GUEST.EXPERT_ID, who instanceof Who.Outside(ExpertId expert) ? expert.value() : null)
                .set(CONSULT_GUEST.WHY, why)
                .set(CONSULT_GUEST.OPTIONAL, optional)
                .set(CONSULT_GUEST.ASKED_AT, now)
                .set(CONSULT_GUEST.UNTIL_AT, until)
                .onConflict(
                        CONSULT_GUEST.CONSULT_ID,
                        who instanceof Who.Colleague ? CONSULT_GUEST.PERSON_ID : CONSULT_GUEST.EXPERT_ID)
                .doUpdate()
                .set(CONSULT_GUEST.STATE, State.ASKED.name())
                .set(CONSULT_GUEST.REASON, "")
                .set(CONSULT_GUEST.WHY, why)
                .set(CONSULT_GUEST.ASKED_AT, now)
                .set(CONSULT_GUEST.UNTIL_AT, until)
                .returning(CONSULT_GUEST.ID)
                .fetchSingle(CONSULT_GUEST.ID);
        Guest guest = find(id).orElseThrow();
        changed(guest);
        return guest;
    }

    /** Notes by which mail somebody was asked. */
    void mailed(long guest, String identity) {
        sql.update(CONSULT_GUEST)
                .set(CONSULT_GUEST.MAIL, identity)
                .where(CONSULT_GUEST.ID.eq(guest))
                .execute();
    }

    /** Moves somebody from one of these states into another one; false when they are in none of them. */
    boolean move(Guest guest, Collection<State> from, State to, String reason) {
        int changed = sql.update(CONSULT_GUEST)
                .set(CONSULT_GUEST.STATE, to.name())
                .set(CONSULT_GUEST.REASON, reason)
                .set(CONSULT_GUEST.ANSWERED_AT, clock.instant())
                .where(CONSULT_GUEST.ID.eq(guest.id()))
                .and(CONSULT_GUEST.STATE.in(from.stream().map(State::name).toList()))
                .execute();
        if (changed > 0) {
            changed(guest);
        }
        return changed > 0;
    }

    /** Notes who helped. */
    void helped(long consult, Collection<Long> guests) {
        sql.update(CONSULT_GUEST)
                .set(CONSULT_GUEST.HELPED, DSL.field(CONSULT_GUEST.ID.in(guests)))
                .where(CONSULT_GUEST.CONSULT_ID.eq(consult))
                .execute();
    }

    private void changed(Guest guest) {
        guest.person().ifPresent(news::offered);
        news.roomChanged(guest.consult());
        news.floorChanged();
    }
}
