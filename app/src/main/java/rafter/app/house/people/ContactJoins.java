package rafter.app.house.people;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_HANDLE;
import static rafter.database.Tables.CONTACT_JOIN;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Words;
import rafter.database.tables.records.ContactJoinRecord;
import tools.jackson.databind.json.JsonMapper;

/** Makes one contact of two that are the same person, as far as contacts go, and two of them again. */
@Component
public class ContactJoins {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** A contact that was joined into another one, as it was. */
    record Gone(
            String name, long company, List<String> phones, String language, Map<String, String> own, String created) {}

    /**
     * What was joined.
     *
     * @param kept the contact that there still is
     * @param gone the one that was joined into it
     * @param tickets whose customer changed by it
     */
    public record Joined(long id, ContactId kept, ContactId gone, List<TicketNumber> tickets) {
        public Joined {
            tickets = List.copyOf(tickets);
        }
    }

    private final DSLContext sql;
    private final ContactCards cards;
    private final Audit audit;

    ContactJoins(DSLContext sql, ContactCards cards, Audit audit) {
        this.sql = sql;
        this.cards = cards;
        this.audit = audit;
    }

    /**
     * Takes hold of two contacts until the transaction ends, in the same order whoever asks.
     *
     * @throws Problem.NotFound when one of them is not there (any more)
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void hold(ContactId one, ContactId other) {
        int held = sql.select(CONTACT.ID)
                .from(CONTACT)
                .where(CONTACT.ID.in(one, other))
                .orderBy(CONTACT.ID)
                .forUpdate()
                .fetch()
                .size();
        if (held != 2) {
            throw new Problem.NotFound("One of these contacts is not there any more, or it is the same one twice.");
        }
    }

    /**
     * What the kept contact has in own fields afterwards: its own values, and the other's where it has none.
     *
     * @return by the field's key
     */
    public static Map<String, String> ownOf(ContactCard kept, ContactCard gone) {
        var own = new HashMap<>(gone.own());
        own.putAll(kept.own());
        return own;
    }

    /**
     * Moves what one contact has to another and takes it away; its tickets must have been given to the other before.
     *
     * @return the number by which it is taken back
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long join(ContactCard kept, ContactCard gone, List<TicketNumber> tickets, Instant now, PersonId by) {
        long id = remember(kept, gone, tickets, now, by);
        giveTo(kept.id(), gone.id());
        sql.deleteFrom(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(gone.id()))
                .execute();
        sql.deleteFrom(CONTACT).where(CONTACT.ID.eq(gone.id())).execute();
        Map<String, String> own = ownOf(kept, gone);
        sql.update(CONTACT)
                .set(CONTACT.OWN, OwnFields.written(own))
                .set(CONTACT.OWN_FOLDED, OwnFields.folded(own))
                .set(CONTACT.LANGUAGE, kept.language().isEmpty() ? gone.language() : kept.language())
                .set(CONTACT.VERSION, CONTACT.VERSION.plus(1))
                .where(CONTACT.ID.eq(kept.id()))
                .execute();
        var phones = new ArrayList<>(kept.phones());
        phones.addAll(gone.phones());
        cards.keepPhones(kept.id(), phones);
        audit.note(by, "joined contacts", gone.name() + " into " + kept.name());
        return id;
    }

    private long remember(ContactCard kept, ContactCard gone, List<TicketNumber> tickets, Instant now, PersonId by) {
        String created = sql.select(CONTACT.CREATED_AT)
                .from(CONTACT)
                .where(CONTACT.ID.eq(gone.id()))
                .fetchSingle(CONTACT.CREATED_AT)
                .toString();
        var was = new Gone(
                gone.name(),
                gone.company().map(CompanyId::value).orElse(0L),
                gone.phones(),
                gone.language(),
                gone.own(),
                created);
        return sql.insertInto(CONTACT_JOIN)
                .set(CONTACT_JOIN.KEPT_ID, kept.id().value())
                .set(CONTACT_JOIN.GONE_ID, gone.id().value())
                .set(CONTACT_JOIN.GONE, JSONB.valueOf(JSON.writeValueAsString(was)))
                .set(CONTACT_JOIN.ADDRESSES, gone.addresses().toArray(String[]::new))
                .set(
                        CONTACT_JOIN.TICKETS,
                        tickets.stream().map(TicketNumber::value).toArray(Long[]::new))
                .set(CONTACT_JOIN.HANDLES, handles(gone.id()))
                .set(CONTACT_JOIN.KEPT_OWN, OwnFields.written(kept.own()))
                .set(CONTACT_JOIN.JOINED_BY, by.value())
                .set(CONTACT_JOIN.JOINED_AT, now)
                .returning(CONTACT_JOIN.ID)
                .fetchSingle(CONTACT_JOIN.ID);
    }

    /** Addresses and names on networks that are one’s become the other’s. */
    private void giveTo(ContactId kept, ContactId gone) {
        sql.update(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.CONTACT_ID, kept)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(gone))
                .execute();
        sql.update(CONTACT_HANDLE)
                .set(CONTACT_HANDLE.CONTACT_ID, kept)
                .where(CONTACT_HANDLE.CONTACT_ID.eq(gone))
                .execute();
    }

    /** Their names on networks, each with its provider. */
    private String[] handles(ContactId contact) {
        return sql.select(DSL.concat(
                        CONTACT_HANDLE.PROVIDER_ID.cast(String.class), DSL.inline(" "), CONTACT_HANDLE.HANDLE))
                .from(CONTACT_HANDLE)
                .where(CONTACT_HANDLE.CONTACT_ID.eq(contact))
                .fetch(r -> r.value1())
                .toArray(String[]::new);
    }

    /**
     * What was joined, to be taken back.
     *
     * @throws Problem.Stale when it was taken back already
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Joined toTakeBack(long id) {
        ContactJoinRecord row = sql.selectFrom(CONTACT_JOIN)
                .where(CONTACT_JOIN.ID.eq(id))
                .forUpdate()
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("Nothing was joined by this number."));
        if (row.getUndoneAt() != null) {
            throw new Problem.Stale("It was taken back already.");
        }
        return new Joined(
                id,
                new ContactId(row.getKeptId()),
                new ContactId(row.getGoneId()),
                Arrays.stream(row.getTickets()).map(TicketNumber::new).toList());
    }

    /** Makes the contact that is gone anew, with the addresses and telephones that it had; those that are others' meanwhile stay there. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void takeBack(Joined joined, Instant now, PersonId by) {
        ContactJoinRecord row = sql.selectFrom(CONTACT_JOIN)
                .where(CONTACT_JOIN.ID.eq(joined.id()))
                .fetchSingle();
        Gone gone = JSON.readValue(row.getGone().data(), Gone.class);
        makeAnew(joined.gone(), gone);
        giveBack(joined, row);
        ContactCard kept = cards.get(joined.kept());
        cards.keepPhones(
                joined.kept(),
                kept.phones().stream()
                        .filter(phone -> !gone.phones().contains(phone))
                        .toList());
        cards.keepPhones(joined.gone(), gone.phones());
        sql.update(CONTACT)
                .set(CONTACT.OWN, row.getKeptOwn())
                .set(CONTACT.OWN_FOLDED, OwnFields.folded(OwnFields.read(row.getKeptOwn())))
                .set(CONTACT.VERSION, CONTACT.VERSION.plus(1))
                .where(CONTACT.ID.eq(joined.kept()))
                .execute();
        sql.update(CONTACT_JOIN)
                .set(CONTACT_JOIN.UNDONE_AT, now)
                .where(CONTACT_JOIN.ID.eq(joined.id()))
                .execute();
        audit.note(by, "took back joining contacts", gone.name());
    }

    private void makeAnew(ContactId id, Gone gone) {
        sql.insertInto(
                        CONTACT,
                        CONTACT.ID,
                        CONTACT.NAME,
                        CONTACT.NAME_WORDS,
                        CONTACT.COMPANY_ID,
                        CONTACT.OWN,
                        CONTACT.OWN_FOLDED,
                        CONTACT.LANGUAGE,
                        CONTACT.CREATED_AT)
                .values(
                        id,
                        gone.name(),
                        Words.of(gone.name()).stored(),
                        gone.company() == 0 ? null : new CompanyId(gone.company()),
                        OwnFields.written(gone.own()),
                        OwnFields.folded(gone.own()),
                        gone.language(),
                        Instant.parse(gone.created()))
                .execute();
    }

    private void giveBack(Joined joined, ContactJoinRecord row) {
        sql.update(CONTACT_ADDRESS)
                .set(CONTACT_ADDRESS.CONTACT_ID, joined.gone())
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(joined.kept()))
                .and(CONTACT_ADDRESS.ADDRESS.in(List.of(row.getAddresses())))
                .execute();
        sql.update(CONTACT_HANDLE)
                .set(CONTACT_HANDLE.CONTACT_ID, joined.gone())
                .where(CONTACT_HANDLE.CONTACT_ID.eq(joined.kept()))
                .and(DSL.concat(CONTACT_HANDLE.PROVIDER_ID.cast(String.class), DSL.inline(" "), CONTACT_HANDLE.HANDLE)
                        .in(List.of(row.getHandles())))
                .execute();
    }

    /** The contact that one was joined into; nothing when it was not. */
    public Optional<ContactId> into(ContactId gone) {
        return sql.select(CONTACT_JOIN.KEPT_ID)
                .from(CONTACT_JOIN)
                .where(CONTACT_JOIN.GONE_ID.eq(gone.value()))
                .and(CONTACT_JOIN.UNDONE_AT.isNull())
                .orderBy(CONTACT_JOIN.ID.desc())
                .limit(1)
                .fetchOptional(CONTACT_JOIN.KEPT_ID)
                .map(ContactId::new);
    }
}
