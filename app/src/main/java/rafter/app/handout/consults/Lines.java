package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT_FILE;
import static rafter.database.Tables.CONSULT_LINE;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Files;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.NewMessage;
import rafter.core.id.PersonId;

/** What is said in rooms. */
@Component
class Lines {

    static final int LONGEST = 4_000;
    /** A room that has more is read from its end. */
    private static final int MOST = 500;

    /** What a line is. */
    enum Kind {
        WORDS,
        /** Something that was done. */
        STEP,
        /** Somebody came or went. */
        HAPPENED
    }

    /** Who says something. */
    public record Speaker(String name, Optional<PersonId> person, Optional<Long> guest) {
        static final Speaker RAFTER = new Speaker("Rafter", Optional.empty(), Optional.empty());
    }

    /** A file that came with a line. */
    public record LineFile(long id, String name, String size) {}

    /** A line. */
    public record Line(long id, Instant at, Kind kind, Speaker speaker, String text, List<LineFile> files) {}

    private final DSLContext sql;
    private final Files files;
    private final LiveNews news;
    private final Clock clock;

    Lines(DSLContext sql, Files files, LiveNews news, Clock clock) {
        this.sql = sql;
        this.files = files;
        this.news = news;
        this.clock = clock;
    }

    /** The last lines of a room, the oldest first. */
    List<Line> of(long consult) {
        Map<Long, List<LineFile>> attached = sql.select(CONSULT_FILE.fields())
                .from(CONSULT_FILE)
                .join(CONSULT_LINE)
                .on(CONSULT_LINE.ID.eq(CONSULT_FILE.LINE_ID))
                .where(CONSULT_LINE.CONSULT_ID.eq(consult))
                .orderBy(CONSULT_FILE.ID)
                .fetchGroups(
                        r -> r.get(CONSULT_FILE.LINE_ID),
                        r -> new LineFile(
                                r.get(CONSULT_FILE.ID), r.get(CONSULT_FILE.NAME), Say.size(r.get(CONSULT_FILE.SIZE))));
        return sql.selectFrom(CONSULT_LINE)
                .where(CONSULT_LINE.CONSULT_ID.eq(consult))
                .orderBy(CONSULT_LINE.ID.desc())
                .limit(MOST)
                .fetch(r -> new Line(
                        r.getId(),
                        r.getAt(),
                        Kind.valueOf(r.getKind()),
                        new Speaker(
                                r.getAuthor(),
                                Optional.ofNullable(r.getPersonId()),
                                Optional.ofNullable(r.getGuestId())),
                        r.getText(),
                        attached.getOrDefault(r.getId(), List.of())))
                .reversed();
    }

    /**
     * Says something, once.
     *
     * @param once what is said a second time under this is said already
     * @throws Problem.Invalid when nothing is said, or too much at once
     */
    void say(long consult, Speaker speaker, Kind kind, String typed, String once, List<NewMessage.FileRef> with) {
        String text = typed.strip();
        if ((text.isEmpty() && with.isEmpty()) || text.length() > LONGEST) {
            throw new Problem.Invalid(
                    text.isEmpty()
                            ? "There are no words in it yet."
                            : "A line has at most " + LONGEST + " letters. It was not said; it is still here.");
        }
        Optional<Long> line = sql.insertInto(CONSULT_LINE)
                .set(CONSULT_LINE.CONSULT_ID, consult)
                .set(CONSULT_LINE.AT, clock.instant())
                .set(CONSULT_LINE.KIND, kind.name())
                .set(CONSULT_LINE.PERSON_ID, speaker.person().orElse(null))
                .set(CONSULT_LINE.GUEST_ID, speaker.guest().orElse(null))
                .set(CONSULT_LINE.AUTHOR, speaker.name())
                .set(CONSULT_LINE.TEXT, text)
                .set(CONSULT_LINE.ONCE, once)
                .onConflict(CONSULT_LINE.CONSULT_ID, CONSULT_LINE.ONCE)
                .doNothing()
                .returning(CONSULT_LINE.ID)
                .fetchOptional(CONSULT_LINE.ID);
        line.ifPresent(id -> with.forEach(file -> sql.insertInto(CONSULT_FILE)
                .set(CONSULT_FILE.LINE_ID, id)
                .set(CONSULT_FILE.NAME, file.name())
                .set(CONSULT_FILE.MEDIA_TYPE, file.mediaType())
                .set(CONSULT_FILE.SIZE, file.size())
                .set(CONSULT_FILE.SHA256, file.sha256())
                .execute()));
        news.roomChanged(consult);
    }

    /** Notes that something happened. */
    void happened(long consult, String words) {
        sql.insertInto(CONSULT_LINE)
                .set(CONSULT_LINE.CONSULT_ID, consult)
                .set(CONSULT_LINE.AT, clock.instant())
                .set(CONSULT_LINE.KIND, Kind.HAPPENED.name())
                .set(CONSULT_LINE.AUTHOR, Speaker.RAFTER.name())
                .set(CONSULT_LINE.TEXT, words)
                .set(CONSULT_LINE.ONCE, DSL.field("gen_random_uuid()::text", String.class))
                .execute();
        news.roomChanged(consult);
    }

    /** A file of a room: its name, and what is in it. */
    public record Content(String name, byte[] content) {}

    /** A file that came into a room. */
    Optional<Content> file(long consult, long file) {
        return sql.select(CONSULT_FILE.NAME, CONSULT_FILE.SHA256)
                .from(CONSULT_FILE)
                .join(CONSULT_LINE)
                .on(CONSULT_LINE.ID.eq(CONSULT_FILE.LINE_ID))
                .where(CONSULT_FILE.ID.eq(file))
                .and(CONSULT_LINE.CONSULT_ID.eq(consult))
                .fetchOptional(r -> new Content(r.value1(), files.read(r.value2())));
    }
}
