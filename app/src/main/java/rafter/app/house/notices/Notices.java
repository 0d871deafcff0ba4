package rafter.app.house.notices;

import static rafter.database.Tables.NOTICE;
import static rafter.database.Tables.NOTICE_CHOICE;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Awaiting;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Keeps what people are told, until they have read it. */
@Component
public class Notices implements Awaiting {

    /** What somebody can be told of. */
    public enum Kind {
        ASSIGNED("A ticket was handed to me"),
        ANSWERED("A customer wrote to a ticket of mine"),
        BACK("A ticket of mine came back"),
        MENTION("Somebody mentions me in a note"),
        STEP("A target is about to be late, or is"),
        OUTSIDE("Somebody outside answered on a ticket of mine"),
        TASK("Somebody gives me a task"),
        HELP("Somebody asks me, or a team of mine, for help"),
        HELP_BACK("What I asked somebody to do is handed back"),
        QUESTION("Somebody asks me, or a team of mine, something beside a ticket, or answers me"),
        HELP_LATE("Help that I asked for, or was asked for, is late"),
        CONSULT("Somebody asks me into a room"),
        WATCHED_CUSTOMER("A customer wrote to a ticket that I watch"),
        WATCHED_OURS("A colleague answered or wrote a note on a ticket that I watch"),
        WATCHED_STATE("A ticket that I watch changed its state"),
        RATED("A customer rated a ticket of mine"),
        NOT_SENT("A reply of mine did not go out when its time came"),
        BOUNCED("A mail on a ticket of mine was not delivered"),
        RULE("A rule tells of a ticket"),
        RULE_FAILED("A rule could not do something (administrators)"),
        MACHINE("A machine seems to answer our mail (administrators)");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * How a person wants to be told of something.
     *
     * @param bell in the list behind the bell
     * @param browser by the browser too, also while another window is in front
     */
    public record Choice(Kind kind, boolean bell, boolean browser) {}

    /** Something a person is to be told. */
    public record Told(PersonId person, TicketNumber ticket, Instant at, Kind kind, String words) {}

    /** A notice as its list shows it. */
    public record Notice(long id, TicketNumber ticket, String subject, Instant at, String words, boolean unread) {}

    private final DSLContext sql;
    private final LiveNews news;
    private final Persons persons;
    private final NoticeRules rules;
    private final Clock clock;

    Notices(DSLContext sql, LiveNews news, Persons persons, NoticeRules rules, Clock clock) {
        this.rules = rules;
        this.persons = persons;
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** Tells people something, if and when the transaction commits; those who do not want to hear of it are left in peace. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(Collection<Told> all) {
        List<Told> wanted = all.stream()
                .filter(one -> rules.get(one.kind()).active())
                .map(one -> rules.get(one.kind()).worded(one))
                .filter(one -> choices(one.person()).get(one.kind().ordinal()).bell())
                .toList();
        if (wanted.isEmpty()) {
            return;
        }
        var insert = sql.insertInto(NOTICE, NOTICE.PERSON_ID, NOTICE.TICKET, NOTICE.AT, NOTICE.KIND, NOTICE.WORDS);
        for (Told one : wanted) {
            insert = insert.values(
                    one.person(), one.ticket(), one.at(), one.kind().name(), one.words());
        }
        insert.execute();
        wanted.stream().map(Told::person).distinct().forEach(news::noticed);
    }

    /** Tells all administrators something about a ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tellAdministrators(TicketNumber ticket, Instant at, Kind kind, String words) {
        tell(persons.active().stream()
                .filter(person -> person.role() == Role.ADMINISTRATOR)
                .map(person -> new Told(person.id(), ticket, at, kind, words))
                .toList());
    }

    /** Tells one person something that happens now. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(PersonId person, TicketNumber ticket, Kind kind, String words) {
        tell(List.of(new Told(person, ticket, clock.instant(), kind, words)));
    }

    /** What a person chose of each kind, in the order of the kinds; the bell alone where they chose nothing. */
    public List<Choice> choices(PersonId person) {
        Map<String, Choice> chosen = sql.selectFrom(NOTICE_CHOICE)
                .where(NOTICE_CHOICE.PERSON_ID.eq(person))
                .fetchMap(NOTICE_CHOICE.KIND, r -> new Choice(Kind.valueOf(r.getKind()), r.getBell(), r.getBrowser()));
        return Arrays.stream(Kind.values())
                .map(kind -> chosen.getOrDefault(kind.name(), new Choice(kind, true, false)))
                .toList();
    }

    /** Notes how a person wants to be told. */
    @Transactional
    public void choose(PersonId person, List<Choice> choices) {
        for (Choice choice : choices) {
            sql.insertInto(
                            NOTICE_CHOICE,
                            NOTICE_CHOICE.PERSON_ID,
                            NOTICE_CHOICE.KIND,
                            NOTICE_CHOICE.BELL,
                            NOTICE_CHOICE.BROWSER)
                    .values(person, choice.kind().name(), choice.bell(), choice.browser())
                    .onConflict(NOTICE_CHOICE.PERSON_ID, NOTICE_CHOICE.KIND)
                    .doUpdate()
                    .set(NOTICE_CHOICE.BELL, choice.bell())
                    .set(NOTICE_CHOICE.BROWSER, choice.browser())
                    .execute();
        }
    }

    /** Whether anybody was told something of this kind about a ticket. */
    public boolean told(TicketNumber ticket, Kind kind) {
        return sql.fetchExists(NOTICE, NOTICE.TICKET.eq(ticket), NOTICE.KIND.eq(kind.name()));
    }

    /** The latest unread notice that a person wants the browser to show. */
    public Optional<Told> forBrowser(Viewer viewer) {
        PersonId person = viewer.id();
        var latest = sql.selectFrom(NOTICE)
                .where(NOTICE.PERSON_ID.eq(person))
                .and(NOTICE.READ_AT.isNull())
                .and(viewer.sees(NOTICE.TICKET))
                .orderBy(NOTICE.ID.desc())
                .limit(1)
                .fetchOptional(
                        r -> new Told(person, r.getTicket(), r.getAt(), Kind.valueOf(r.getKind()), r.getWords()));
        return latest.filter(one -> choices(person).get(one.kind().ordinal()).browser());
    }

    @Override
    public String name() {
        return "notices";
    }

    @Override
    public Field<Integer> waitingFor(Viewer me) {
        return Awaiting.count(
                NOTICE,
                NOTICE.PERSON_ID.eq(me.id()).and(NOTICE.READ_AT.isNull()).and(me.sees(NOTICE.TICKET)));
    }

    /** How many a person has not read. */
    public int unread(Viewer viewer) {
        return sql.select(waitingFor(viewer)).fetchSingle().value1();
    }

    /** A person's notices before one of them, the newest first. */
    public List<Notice> of(Viewer viewer, Optional<Long> before, int most) {
        return sql.select(NOTICE.ID, NOTICE.TICKET, TICKET.SUBJECT, NOTICE.AT, NOTICE.WORDS, NOTICE.READ_AT.isNull())
                .from(NOTICE)
                .join(viewer.tickets())
                .on(TICKET.NUMBER.eq(NOTICE.TICKET))
                .where(NOTICE.PERSON_ID.eq(viewer.id()))
                .and(NOTICE.ID.lt(before.orElse(Long.MAX_VALUE)))
                .orderBy(NOTICE.ID.desc())
                .limit(most)
                .fetch(r -> new Notice(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
    }

    /** Notes that a person has read everything up to a notice. */
    @Transactional
    public void read(PersonId person, long upTo) {
        sql.update(NOTICE)
                .set(NOTICE.READ_AT, clock.instant())
                .where(NOTICE.PERSON_ID.eq(person))
                .and(NOTICE.ID.le(upTo))
                .and(NOTICE.READ_AT.isNull())
                .execute();
        news.noticed(person);
    }
}
