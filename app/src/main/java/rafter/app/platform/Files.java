package rafter.app.platform;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.CONSULT_FILE;
import static rafter.database.Tables.DRAFT_FILE;
import static rafter.database.Tables.DROPPED_FILE;
import static rafter.database.Tables.FILE;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.OUTBOX;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Bytes kept once, by what is in them. */
@Component
public class Files {

    /** More bytes than these are not kept waiting in memory. */
    public static final int LARGE = 200_000;

    /** A file that is to go is kept so long after it was last kept. */
    private static final Duration KEPT_FOR = Duration.ofDays(1);

    private static final Writes.Form KEEP =
            Writes.insertIfNew(Writes.Stage.FILES, FILE, FILE.SHA256, FILE.SIZE, FILE.CONTENT, FILE.CREATED_AT);

    private static final Duration TOUCHED_AFTER = Duration.ofHours(12);

    private final DSLContext sql;
    private final Writes writes;
    private final Clock clock;

    Files(DSLContext sql, Writes writes, Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.clock = clock;
    }

    /**
     * Keeps the bytes; keeping the same ones again changes nothing.
     *
     * @return their SHA-256, by which they are found again
     */
    public byte[] keep(byte[] content) {
        byte[] sha256 = sha256(content);
        if (content.length > LARGE) {
            keepLarge(sha256, content);
        } else {
            writes.write(KEEP, sha256, (long) content.length, content, clock.instant());
        }
        return sha256;
    }

    /** A large file is not sent to the database when it is there already, and does not wait in memory. */
    private void keepLarge(byte[] sha256, byte[] content) {
        if (!sql.fetchExists(FILE, FILE.SHA256.eq(sha256))) {
            sql.insertInto(FILE, FILE.SHA256, FILE.SIZE, FILE.CONTENT, FILE.CREATED_AT)
                    .values(sha256, (long) content.length, content, clock.instant())
                    .onConflictDoNothing()
                    .execute();
        }
    }

    /**
     * Keeps bytes that may have been dropped before, so that they are not cleared away just then. Mail is kept without this, for the same picture
     * comes with many mails at once, and their rows would wait for each other; should a file of theirs be cleared away meanwhile, they are taken in once more.
     */
    public byte[] keepOnceMore(byte[] content) {
        byte[] sha256 = keep(content);
        sql.update(FILE)
                .set(FILE.CREATED_AT, clock.instant())
                .where(FILE.SHA256.eq(sha256))
                .and(FILE.CREATED_AT.lt(clock.instant().minus(TOUCHED_AFTER)))
                .execute();
        return sha256;
    }

    /** Notes that these files have one use less. */
    public void dropped(Collection<byte[]> sha256) {
        sha256.forEach(one -> sql.insertInto(DROPPED_FILE, DROPPED_FILE.SHA256, DROPPED_FILE.DROPPED_AT)
                .values(one, clock.instant())
                .onConflict(DROPPED_FILE.SHA256)
                .doUpdate()
                .set(DROPPED_FILE.DROPPED_AT, DSL.excluded(DROPPED_FILE.DROPPED_AT))
                .execute());
    }

    /**
     * Clears away what was dropped a day ago and nothing refers to any more.
     *
     * @return how many files went
     */
    @Transactional
    public int clearAway() {
        Instant before = clock.instant().minus(KEPT_FOR);
        int gone = sql.deleteFrom(FILE)
                .where(FILE.SHA256.in(
                        DSL.select(DROPPED_FILE.SHA256).from(DROPPED_FILE).where(DROPPED_FILE.DROPPED_AT.lt(before))))
                .and(FILE.CREATED_AT.lt(before))
                .andNotExists(DSL.selectOne().from(DRAFT_FILE).where(DRAFT_FILE.SHA256.eq(FILE.SHA256)))
                .andNotExists(DSL.selectOne().from(CONSULT_FILE).where(CONSULT_FILE.SHA256.eq(FILE.SHA256)))
                .andNotExists(DSL.selectOne().from(ATTACHMENT).where(ATTACHMENT.SHA256.eq(FILE.SHA256)))
                .andNotExists(DSL.selectOne().from(INBOUND).where(INBOUND.RAW.eq(FILE.SHA256)))
                .andNotExists(DSL.selectOne().from(OUTBOX).where(OUTBOX.RAW.eq(FILE.SHA256)))
                .execute();
        sql.deleteFrom(DROPPED_FILE).where(DROPPED_FILE.DROPPED_AT.lt(before)).execute();
        return gone;
    }

    /** The bytes kept under this SHA-256. */
    public byte[] read(byte[] sha256) {
        return sql.select(FILE.CONTENT).from(FILE).where(FILE.SHA256.eq(sha256)).fetchSingle(FILE.CONTENT);
    }

    /** SHA-256 of the bytes. */
    public static byte[] sha256(byte[] content) {
        return newSha256().digest(content);
    }

    /** A digest to be fed piece by piece. */
    public static MessageDigest newSha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
