package rafter.app.house.people;

import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;

import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.core.id.ContactId;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/** The mail addresses and telephone numbers of many contacts, read and added at once. */
@Component
class ContactLines {

    /** By so many figures at its end a telephone number is known, with or without the code of its country. */
    static final int END = 7;

    private final DSLContext sql;

    ContactLines(DSLContext sql) {
        this.sql = sql;
    }

    /** The end of a telephone number, as it has an index. */
    static Field<String> end() {
        return DSL.field("right({0}, {1})", String.class, CONTACT_PHONE.DIGITS, DSL.inline(END));
    }

    /** The end of these figures, of which there are enough. */
    static String end(String digits) {
        return digits.substring(digits.length() - END);
    }

    /** The mail addresses of some contacts, in order. */
    Map<ContactId, List<String>> addresses(Condition whose) {
        return sql.select(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(whose)
                .orderBy(CONTACT_ADDRESS.ADDRESS)
                .fetchGroups(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS);
    }

    /**
     * The telephone numbers of some contacts, in their order.
     *
     * @param how as they were written, or their digits alone
     */
    Map<ContactId, List<String>> phones(Field<String> how, Condition whose) {
        return sql.select(CONTACT_PHONE.CONTACT_ID, how)
                .from(CONTACT_PHONE)
                .where(whose)
                .orderBy(CONTACT_PHONE.POSITION)
                .fetchGroups(CONTACT_PHONE.CONTACT_ID, how);
    }

    /** A mail address that a contact gets. */
    public record Address(ContactId contact, String address) {}

    /** A telephone number that a contact gets, and in which place among theirs. */
    public record Telephone(ContactId contact, String written, int position) {}

    void addAddresses(List<Address> all) {
        if (all.isEmpty()) {
            return;
        }
        var insert = sql.insertInto(
                CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS, CONTACT_ADDRESS.FOLDED, CONTACT_ADDRESS.CONTACT_ID);
        for (Address one : all) {
            insert = insert.values(one.address(), Words.fold(one.address()), one.contact());
        }
        insert.execute();
    }

    void addPhones(List<Telephone> all) {
        if (all.isEmpty()) {
            return;
        }
        var insert = sql.insertInto(
                CONTACT_PHONE,
                CONTACT_PHONE.CONTACT_ID,
                CONTACT_PHONE.DIGITS,
                CONTACT_PHONE.WRITTEN,
                CONTACT_PHONE.POSITION);
        for (Telephone one : all) {
            Phone phone = Phone.of(one.written()).orElseThrow();
            insert = insert.values(one.contact(), phone.digits(), phone.written(), one.position());
        }
        insert.execute();
    }
}
