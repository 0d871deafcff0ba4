package rafter.app.tickets.acts;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import org.jooq.DSLContext;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.platform.CatchUp;
import rafter.core.text.Words;

/** Reads the words of texts that an earlier version kept without them, once, while the application runs. */
@Component
class WordsReader {

    private static final int AT_ONCE = 500;

    private final DSLContext sql;

    WordsReader(DSLContext sql) {
        this.sql = sql;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        // Until then lists by words find what has been read.
        CatchUp.begin("words of texts", this::readAll);
    }

    /** Reads all that are unread; how many these were. */
    int readAll() {
        return CatchUp.all(this::some);
    }

    private int some() {
        var messages = sql.select(MESSAGE.ID, MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.WORDS.isNull())
                .limit(AT_ONCE)
                .fetch(r -> sql.update(MESSAGE)
                        .set(MESSAGE.WORDS, EntryStore.storedWords(r.value2()))
                        .where(MESSAGE.ID.eq(r.value1())));
        var subjects = sql.select(TICKET.NUMBER, TICKET.SUBJECT)
                .from(TICKET)
                .where(TICKET.SUBJECT_WORDS.eq(""))
                .limit(AT_ONCE)
                .fetch(r -> sql.update(TICKET)
                        .set(TICKET.SUBJECT_WORDS, Words.of(r.value2()).stored())
                        .where(TICKET.NUMBER.eq(r.value1())));
        sql.batch(messages).execute();
        sql.batch(subjects).execute();
        return messages.size() + subjects.size();
    }
}
