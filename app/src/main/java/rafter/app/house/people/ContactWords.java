package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;

import org.jooq.DSLContext;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.platform.CatchUp;
import rafter.core.text.Words;

/** Reads the words of names and addresses that an earlier version kept without them, once, while the application runs. */
@Component
class ContactWords {

    private static final int AT_ONCE = 500;

    private final DSLContext sql;

    ContactWords(DSLContext sql) {
        this.sql = sql;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        CatchUp.begin("words of contacts", () -> CatchUp.all(this::some));
    }

    private int some() {
        var names = sql.select(CONTACT.ID, CONTACT.NAME)
                .from(CONTACT)
                .where(CONTACT.NAME_WORDS.isNull())
                .limit(AT_ONCE)
                .fetch(r -> sql.update(CONTACT)
                        .set(CONTACT.NAME_WORDS, Words.of(r.value2()).stored())
                        .where(CONTACT.ID.eq(r.value1())));
        var addresses = sql.select(CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.FOLDED.isNull())
                .limit(AT_ONCE)
                .fetch(r -> sql.update(CONTACT_ADDRESS)
                        .set(CONTACT_ADDRESS.FOLDED, Words.fold(r.value1()))
                        .where(CONTACT_ADDRESS.ADDRESS.eq(r.value1())));
        sql.batch(names).execute();
        sql.batch(addresses).execute();
        return names.size() + addresses.size();
    }
}
