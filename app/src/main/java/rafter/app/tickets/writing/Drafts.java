package rafter.app.tickets.writing;

import static rafter.database.Tables.DRAFT;
import static rafter.database.Tables.DRAFT_FILE;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Files;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.NewMessage;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.DraftRecord;

/** What people are writing, kept while they type. */
@Component
public class Drafts {

    /** What a draft is to become. */
    public enum Kind {
        REPLY,
        NOTE,
        /** A letter to somebody outside. */
        OUTSIDE
    }

    /**
     * A draft.
     *
     * @param subject of a letter outside
     * @param thread the conversation that a letter outside belongs to; zero: a new one
     * @param version rises with every change; zero: there is none yet
     */
    public record Draft(
            String html,
            String to,
            String cc,
            String bcc,
            Turn then,
            String subject,
            long thread,
            int version,
            Optional<Instant> savedAt,
            List<DraftFile> files) {
        static final Draft NONE = new Draft("", "", "", "", Turn.CUSTOMER, "", 0, 0, Optional.empty(), List.of());
    }

    /**
     * A file attached to a draft.
     *
     * @param contentId the name by which the text refers to it as a picture; empty when it does not
     */
    public record DraftFile(long id, String name, String mediaType, long size, byte[] sha256, String contentId) {
        /** Its size as people say it. */
        public String sizeWords() {
            return Say.size(size);
        }
    }

    /** The files of a draft as those of the entry that it becomes. */
    public static List<NewMessage.FileRef> refs(List<DraftFile> attached) {
        return attached.stream()
                .map(file -> new NewMessage.FileRef(
                        file.sha256(), file.name(), file.mediaType(), file.size(), file.contentId()))
                .toList();
    }

    /** What came of saving. */
    public sealed interface Saved {
        /** It is kept. */
        record Kept(int version, Instant at) implements Saved {}

        /** It was changed elsewhere since; that text is given back and nothing was overwritten. */
        record ChangedElsewhere(Draft there) implements Saved {}
    }

    private static final int LONGEST = 500_000;
    private static final int LONGEST_ADDRESSES = 5_000;
    private static final Duration WRITING_NOW = Duration.ofMinutes(3);

    private final DSLContext sql;
    private final Files files;
    private final LiveNews news;
    private final Clock clock;

    Drafts(DSLContext sql, Files files, LiveNews news, Clock clock) {
        this.sql = sql;
        this.files = files;
        this.news = news;
        this.clock = clock;
    }

    /** A person's draft on a ticket. */
    public Draft find(TicketNumber ticket, Kind kind, Viewer by) {
        return sql.selectFrom(DRAFT)
                .where(is(ticket, kind, by))
                .fetchOptional(this::draft)
                .orElse(Draft.NONE);
    }

    /** What somebody is writing on a ticket. */
    public record Mine(Draft reply, Draft note) {
        /** Nothing yet. */
        public static final Mine NOTHING = new Mine(Draft.NONE, Draft.NONE);
    }

    /** A person's answer and note on a ticket. */
    public Mine mine(TicketNumber ticket, Viewer by) {
        Map<String, Draft> all = sql.selectFrom(DRAFT)
                .where(DRAFT.TICKET.eq(ticket))
                .and(DRAFT.PERSON_ID.eq(by.id()))
                .and(DRAFT.KIND.in(Kind.REPLY.name(), Kind.NOTE.name()))
                .fetchMap(DRAFT.KIND, this::draft);
        return new Mine(
                all.getOrDefault(Kind.REPLY.name(), Draft.NONE), all.getOrDefault(Kind.NOTE.name(), Draft.NONE));
    }

    private Draft draft(DraftRecord r) {
        List<DraftFile> attached = sql.selectFrom(DRAFT_FILE)
                .where(DRAFT_FILE.TICKET.eq(r.getTicket()))
                .and(DRAFT_FILE.PERSON_ID.eq(r.getPersonId()))
                .and(DRAFT_FILE.KIND.eq(r.getKind()))
                .orderBy(DRAFT_FILE.ID)
                .fetch(f -> new DraftFile(
                        f.getId(), f.getName(), f.getMediaType(), f.getSize(), f.getSha256(), f.getContentId()));
        return new Draft(
                r.getHtml(),
                r.getRecipients(),
                r.getCc(),
                r.getBcc(),
                Turn.valueOf(r.getThenTurn()),
                r.getSubject(),
                r.getThread(),
                r.getVersion(),
                Optional.of(r.getUpdatedAt()),
                attached);
    }

    /**
     * What somebody has written so far.
     *
     * @param to addresses as they were typed; blank: the customer's
     * @param cc further addresses as they were typed
     * @param bcc further addresses that the others do not see, as they were typed
     * @param then whose move it shall be
     * @param subject of a letter outside
     * @param thread the conversation that a letter outside belongs to; zero: a new one
     */
    public record Writing(String html, String to, String cc, String bcc, Turn then, String subject, long thread) {

        /** An answer or a note. */
        public Writing(String html, String to, String cc, String bcc, Turn then) {
            this(html, to, cc, bcc, then, "", 0);
        }

        static final Writing NOTHING = new Writing("", "", "", "", Turn.CUSTOMER);
    }

    /** Keeps what a person is writing to the customer. */
    @Transactional
    public Saved save(TicketNumber ticket, Kind kind, String html, String cc, Turn then, int base, Viewer by) {
        return save(ticket, kind, new Writing(html, "", cc, "", then), base, by);
    }

    /**
     * Keeps what a person is writing.
     *
     * @param base the version they began with
     */
    @Transactional
    public Saved save(TicketNumber ticket, Kind kind, Writing written, int base, Viewer by) {
        Access.require(by, Right.WORK);
        if (written.html().length() > LONGEST
                || written.to().length()
                                + written.cc().length()
                                + written.bcc().length()
                                + written.subject().length()
                        > LONGEST_ADDRESSES) {
            throw new Problem.Invalid(
                    "The text is longer than a mail should be. What was saved before is still there.");
        }
        requireTicket(ticket, by);
        Instant now = clock.instant();
        var clean = new Writing(
                SafeHtml.own(written.html()),
                written.to(),
                written.cc(),
                written.bcc(),
                written.then(),
                written.subject(),
                written.thread());
        int changed = base == 0 ? insert(ticket, kind, clean, now, by) : update(ticket, kind, clean, base, now, by);
        if (changed == 0) {
            return beside(ticket, kind, clean, now, by);
        }
        news.writing(ticket);
        return new Saved.Kept(base + 1, now);
    }

    /** Keeps what is written when the draft that it began with is not the one that is there. */
    private Saved beside(TicketNumber ticket, Kind kind, Writing clean, Instant now, Viewer by) {
        Draft there = find(ticket, kind, by);
        if (there.version() == 0) {
            // It was sent or thrown away elsewhere; what is typed here is a new one.
            insert(ticket, kind, clean, now, by);
            return new Saved.Kept(1, now);
        }
        boolean same = there.html().equals(clean.html())
                && there.to().equals(clean.to())
                && there.cc().equals(clean.cc())
                && there.subject().equals(clean.subject())
                && there.bcc().equals(clean.bcc());
        return same ? new Saved.Kept(there.version(), now) : new Saved.ChangedElsewhere(there);
    }

    private void requireTicket(TicketNumber ticket, Viewer by) {
        if (!sql.fetchExists(by.tickets(), TICKET.NUMBER.eq(ticket))) {
            throw new Problem.NotFound("There is no ticket " + ticket + ".");
        }
    }

    private int insert(TicketNumber ticket, Kind kind, Writing written, Instant now, Viewer by) {
        return sql.insertInto(DRAFT)
                .set(DRAFT.TICKET, ticket)
                .set(DRAFT.PERSON_ID, by.id())
                .set(DRAFT.KIND, kind.name())
                .set(DRAFT.HTML, written.html())
                .set(DRAFT.RECIPIENTS, written.to())
                .set(DRAFT.CC, written.cc())
                .set(DRAFT.BCC, written.bcc())
                .set(DRAFT.THEN_TURN, written.then().name())
                .set(DRAFT.SUBJECT, written.subject())
                .set(DRAFT.THREAD, written.thread())
                .set(DRAFT.VERSION, 1)
                .set(DRAFT.UPDATED_AT, now)
                .onConflictDoNothing()
                .execute();
    }

    private int update(TicketNumber ticket, Kind kind, Writing written, int base, Instant now, Viewer by) {
        return sql.update(DRAFT)
                .set(DRAFT.HTML, written.html())
                .set(DRAFT.RECIPIENTS, written.to())
                .set(DRAFT.CC, written.cc())
                .set(DRAFT.BCC, written.bcc())
                .set(DRAFT.THEN_TURN, written.then().name())
                .set(DRAFT.SUBJECT, written.subject())
                .set(DRAFT.THREAD, written.thread())
                .set(DRAFT.VERSION, base + 1)
                // Who goes on writing does not want it to go out as it was.
                .setNull(DRAFT.DUE)
                .set(DRAFT.TROUBLE, "")
                .set(DRAFT.UPDATED_AT, now)
                .where(is(ticket, kind, by))
                .and(DRAFT.VERSION.eq(base))
                .execute();
    }

    /** Begins a draft, if there is none. */
    void begin(TicketNumber ticket, Kind kind, Viewer by) {
        Access.require(by, Right.WORK);
        requireTicket(ticket, by);
        insert(ticket, kind, Writing.NOTHING, clock.instant(), by);
    }

    /** Throws a draft away with its files. */
    @Transactional
    public void discard(TicketNumber ticket, Kind kind, Viewer by) {
        files.dropped(
                find(ticket, kind, by).files().stream().map(DraftFile::sha256).toList());
        sql.deleteFrom(DRAFT).where(is(ticket, kind, by)).execute();
        news.writing(ticket);
    }

    /** The names of others who are writing a reply on a ticket just now. */
    public List<String> othersWriting(TicketNumber ticket, Viewer me) {
        return writers(ticket, DRAFT.PERSON_ID.ne(me.id()));
    }

    private List<String> writers(TicketNumber ticket, Condition who) {
        return sql.select(PERSON.NAME)
                .from(DRAFT)
                .join(PERSON)
                .on(PERSON.ID.eq(DRAFT.PERSON_ID))
                .where(DRAFT.TICKET.eq(ticket))
                .and(DRAFT.KIND.eq(Kind.REPLY.name()))
                .and(who)
                .and(DRAFT.HTML.ne(""))
                .and(DRAFT.UPDATED_AT.gt(clock.instant().minus(WRITING_NOW)))
                .orderBy(PERSON.NAME)
                .fetch(PERSON.NAME);
    }

    /** Who is writing a reply on a ticket just now, by name. */
    public List<String> writing(TicketNumber ticket) {
        return writers(ticket, DSL.noCondition());
    }

    private static Condition is(TicketNumber ticket, Kind kind, Viewer by) {
        return DRAFT.TICKET.eq(ticket).and(DRAFT.KIND.eq(kind.name())).and(DRAFT.PERSON_ID.eq(by.id()));
    }
}
