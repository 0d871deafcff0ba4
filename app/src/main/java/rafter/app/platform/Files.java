package rafter.app.platform;

import static rafter.database.Tables.FILE;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Bytes kept once, by what is in them. */
@Component
public class Files {

    /** More bytes than these are not kept waiting in memory. */
    public static final int LARGE = 200_000;

    private static final Writes.Form KEEP =
            Writes.insertIfNew(Writes.Stage.FILES, FILE, FILE.SHA256, FILE.SIZE, FILE.CONTENT, FILE.CREATED_AT);

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

    /** The bytes kept under this SHA-256. */
    public byte[] read(byte[] sha256) {
        return sql.select(FILE.CONTENT)
                .from(FILE)
                .where(FILE.SHA256.eq(sha256))
                .fetchSingle(FILE.CONTENT);
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
