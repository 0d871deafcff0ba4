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

    private static final int LARGE = 200_000;

    private final DSLContext sql;
    private final Clock clock;

    Files(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * Keeps the bytes; keeping the same ones again changes nothing.
     *
     * @return their SHA-256, by which they are found again
     */
    public byte[] keep(byte[] content) {
        byte[] sha256 = sha256(content);
        // A large file is not sent to the database when it is there already; for a small one asking costs more.
        boolean known = content.length > LARGE && sql.fetchExists(FILE, FILE.SHA256.eq(sha256));
        if (!known) {
            sql.insertInto(FILE)
                    .set(FILE.SHA256, sha256)
                    .set(FILE.SIZE, (long) content.length)
                    .set(FILE.CONTENT, content)
                    .set(FILE.CREATED_AT, clock.instant())
                    .onConflictDoNothing()
                    .execute();
        }
        return sha256;
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
