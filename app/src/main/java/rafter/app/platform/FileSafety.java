package rafter.app.platform;

import static rafter.database.Tables.FILE_SCAN;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;

/** Lets no file out or in that a scanner found something in. Each content is looked through once, when it is first wanted. */
@Component
public class FileSafety {

    /** A stand-in for a scanner: it finds a mark that stands in files made for trying it. */
    @Component
    @ConditionalOnProperty(name = "rafter.scanner", havingValue = "simulated")
    static class Simulated implements Scanner {

        private static final String MARK = "RAFTER-HARMFUL-FILE-FOR-TRIALS";

        @Override
        public Optional<String> scan(byte[] content) {
            return new String(content, StandardCharsets.ISO_8859_1).contains(MARK)
                    ? Optional.of("Trial harm")
                    : Optional.empty();
        }
    }

    private final DSLContext sql;
    private final ObjectProvider<Scanner> scanner;
    private final Clock clock;

    FileSafety(DSLContext sql, ObjectProvider<Scanner> scanner, Clock clock) {
        this.sql = sql;
        this.scanner = scanner;
        this.clock = clock;
    }

    /** What was found in a file; nothing when it seems harmless, or there is no scanner. */
    public Optional<String> found(byte[] content) {
        Optional<Scanner> there = Optional.ofNullable(scanner.getIfAvailable());
        if (there.isEmpty()) {
            return Optional.empty();
        }
        byte[] sha256 = Files.sha256(content);
        Optional<String> known = sql.select(FILE_SCAN.FOUND)
                .from(FILE_SCAN)
                .where(FILE_SCAN.SHA256.eq(sha256))
                .fetchOptional(FILE_SCAN.FOUND);
        if (known.isPresent()) {
            return known.filter(name -> !name.isEmpty());
        }
        Optional<String> found = there.get().scan(content);
        sql.insertInto(FILE_SCAN)
                .set(FILE_SCAN.SHA256, sha256)
                .set(FILE_SCAN.AT, clock.instant())
                .set(FILE_SCAN.FOUND, found.orElse(""))
                .onConflictDoNothing()
                .execute();
        return found;
    }

    /**
     * Insists that nothing was found in a file.
     *
     * @throws Problem.Invalid when something was
     */
    public void insist(byte[] content, String name) {
        found(content).ifPresent(what -> {
            throw new Problem.Invalid("“" + what + "” was found in " + name
                    + ", so it is neither shown nor sent. Ask whoever sent it for another copy.");
        });
    }

    /**
     * A file as somebody may save it, never shown by the browser itself.
     *
     * @throws Problem.Invalid when something was found in it
     */
    public ResponseEntity<byte[]> toSave(byte[] content, String name) {
        insist(content, name);
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(name, StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .header("X-Content-Type-Options", "nosniff")
                .header(HttpHeaders.CACHE_CONTROL, "private, no-store")
                .body(content);
    }
}
