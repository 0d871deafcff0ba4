package rafter.app.arrival.telephone;

import static rafter.database.Tables.CALL;

import java.time.Instant;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Which files exchanges have of calls, until we have them, too. */
@Component
class CallFileBook {

    /** A file that the exchange has of a call. */
    public record FileOf(long call, boolean voice, String path, int tries) {}

    private final DSLContext sql;

    CallFileBook(DSLContext sql) {
        this.sql = sql;
    }

    /** A file of a call is with the exchange, and is to be fetched; the same one once. */
    @Transactional(propagation = Propagation.MANDATORY)
    void fileThere(long id, boolean voice, String path, Instant now) {
        var known = new HashSet<>(Set.of(
                sql.select(CALL.FILES_KNOWN).from(CALL).where(CALL.ID.eq(id)).fetchSingle(CALL.FILES_KNOWN)));
        if (known.add(path)) {
            sql.update(CALL)
                    .set(voice ? CALL.VOICE_FILE : CALL.RECORD_FILE, path)
                    .set(CALL.FILES_KNOWN, known.toArray(String[]::new))
                    .set(CALL.FILE_TRIES, 0)
                    .set(CALL.FILE_AT, now)
                    .where(CALL.ID.eq(id))
                    .execute();
        }
    }

    /** A file that is due to be fetched, and that nobody else fetches until the transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    Optional<FileOf> fileDue(Instant now) {
        return sql.selectFrom(CALL)
                .where(CALL.FILE_AT.le(now))
                .and(CALL.TICKET.isNotNull())
                .and(DSL.condition("pg_try_advisory_xact_lock(7432, {0}::int)", CALL.ID))
                .orderBy(CALL.FILE_AT)
                .limit(1)
                .fetchOptional(r -> {
                    boolean voice = !r.getVoiceFile().isEmpty();
                    return new FileOf(r.getId(), voice, voice ? r.getVoiceFile() : r.getRecordFile(), r.getFileTries());
                });
    }

    /** It was fetched, or given up; or it is tried again then. */
    @Transactional(propagation = Propagation.MANDATORY)
    void fileDone(FileOf file, boolean recorded, Optional<Instant> again) {
        sql.update(CALL)
                .set(file.voice() ? CALL.VOICE_FILE : CALL.RECORD_FILE, again.isPresent() ? file.path() : "")
                .set(CALL.FILE_TRIES, file.tries() + 1)
                .set(CALL.RECORDED, recorded ? DSL.inline(true) : CALL.RECORDED)
                .set(
                        CALL.FILE_AT,
                        again.isPresent()
                                ? DSL.val(again.get())
                                : DSL.when(
                                                file.voice() ? CALL.RECORD_FILE.ne("") : CALL.VOICE_FILE.ne(""),
                                                CALL.FILE_AT)
                                        .otherwise((Instant) null))
                .where(CALL.ID.eq(file.call()))
                .execute();
    }
}
