package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_HANDLE;
import static rafter.database.Tables.CONTACT_PHONE;

import java.util.List;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;

/** What contacts are known by, as columns of queries over contacts. */
public final class ContactColumns {

    private ContactColumns() {}

    /** All mail addresses of the contact of a query's row, in order; null when there is none. */
    public static Field<String[]> addresses() {
        return DSL.field(DSL.select(DSL.arrayAgg(CONTACT_ADDRESS.ADDRESS).orderBy(CONTACT_ADDRESS.ADDRESS))
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID)));
    }

    /** All telephones of the contact of a query's row, as they were written, in order; null when there is none. */
    public static Field<String[]> phones() {
        return DSL.field(DSL.select(DSL.arrayAgg(CONTACT_PHONE.WRITTEN).orderBy(CONTACT_PHONE.POSITION))
                .from(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(CONTACT.ID)));
    }

    /** All names on networks of the contact of a query's row, in order; null when there is none. */
    public static Field<String[]> handles() {
        return DSL.field(DSL.select(DSL.arrayAgg(CONTACT_HANDLE.HANDLE).orderBy(CONTACT_HANDLE.HANDLE))
                .from(CONTACT_HANDLE)
                .where(CONTACT_HANDLE.CONTACT_ID.eq(CONTACT.ID)));
    }

    /** What {@link #addresses}, {@link #phones} or {@link #handles} gave, of which none is null. */
    public static List<String> list(String @Nullable [] all) {
        return all == null ? List.of() : List.of(all);
    }
}
