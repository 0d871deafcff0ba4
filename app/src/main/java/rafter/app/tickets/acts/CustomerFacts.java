package rafter.app.tickets.acts;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.ContactColumns;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;

/** What is known of customers and of what they wrote, as far as criteria and promises ask about it. */
@Component
public class CustomerFacts {

    static final Set<KnownField> OF_MESSAGES = Set.of(KnownField.FIRST_MESSAGE, KnownField.ANY_MESSAGE);
    private static final Set<KnownField> OF_CUSTOMERS =
            Set.of(KnownField.PLAN, KnownField.COMPANY, KnownField.CONTACT_NAME, KnownField.CONTACT_ADDRESS);

    private final DSLContext sql;
    private final Writes writes;
    private final Targets targets;

    CustomerFacts(DSLContext sql, Writes writes, Targets targets) {
        this.sql = sql;
        this.writes = writes;
        this.targets = targets;
    }

    /** What promises ask about the customer of a ticket. */
    public Facts customer(TicketNumber number) {
        if (!Collections.disjoint(targets.asked(), OF_MESSAGES)) {
            writes.settle(List.of(number));
        }
        return customers(List.of(number)).getOrDefault(number, Facts.none());
    }

    /** What promises ask about the customers of tickets; what none asks about is not looked up. */
    public Map<TicketNumber, Facts> customers(Collection<TicketNumber> numbers) {
        return customers(numbers, targets.asked());
    }

    /** These facts about the customers of tickets, and perhaps more. */
    public Map<TicketNumber, Facts> customers(Collection<TicketNumber> numbers, Set<KnownField> asked) {
        var found = new HashMap<TicketNumber, Facts>();
        if (numbers.isEmpty()) {
            return found;
        }
        if (!Collections.disjoint(asked, OF_CUSTOMERS)) {
            addCustomers(numbers, found);
        }
        if (asked.contains(KnownField.FIRST_MESSAGE)) {
            addFirstMessages(numbers, found);
        }
        if (asked.contains(KnownField.ANY_MESSAGE)) {
            addMessages(numbers, found);
        }
        if (asked.contains(KnownField.EARLIER_TICKETS)) {
            addEarlierTickets(numbers, found);
        }
        return found;
    }

    private void addCustomers(Collection<TicketNumber> numbers, Map<TicketNumber, Facts> found) {
        sql.select(
                        TICKET.NUMBER,
                        CONTACT.NAME,
                        ContactColumns.addresses(),
                        COMPANY.ID,
                        COMPANY.PLAN,
                        CONTACT.OWN,
                        COMPANY.OWN)
                .from(TICKET)
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(TICKET.NUMBER.in(numbers))
                .forEach(r -> found.put(
                        r.value1(),
                        own(own(facts(r.value2(), r.value3(), r.value4(), r.value5()), r.value6()), r.value7())));
    }

    private static Facts known(Map<TicketNumber, Facts> found, TicketNumber number) {
        return found.getOrDefault(number, Facts.none());
    }

    private void addFirstMessages(Collection<TicketNumber> numbers, Map<TicketNumber, Facts> found) {
        sql.select(MESSAGE.TICKET, MESSAGE.TEXT)
                .distinctOn(MESSAGE.TICKET)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.in(numbers))
                .orderBy(MESSAGE.TICKET, MESSAGE.SEQ)
                .forEach(r ->
                        found.put(r.value1(), known(found, r.value1()).with(KnownField.FIRST_MESSAGE, r.value2())));
    }

    private void addMessages(Collection<TicketNumber> numbers, Map<TicketNumber, Facts> found) {
        sql.select(MESSAGE.TICKET, MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.in(numbers))
                .and(MESSAGE.KIND.ne(NewMessage.Kind.AUTOMATIC.name()))
                .orderBy(MESSAGE.TICKET, MESSAGE.SEQ)
                .fetchGroups(MESSAGE.TICKET, MESSAGE.TEXT)
                .forEach((number, texts) ->
                        found.put(number, known(found, number).with(KnownField.ANY_MESSAGE, texts)));
    }

    private void addEarlierTickets(Collection<TicketNumber> numbers, Map<TicketNumber, Facts> found) {
        var earlier = TICKET.as("earlier");
        sql.select(TICKET.NUMBER, DSL.count(earlier.NUMBER))
                .from(TICKET)
                .leftJoin(earlier)
                .on(earlier.CONTACT_ID.eq(TICKET.CONTACT_ID))
                .and(earlier.NUMBER.ne(TICKET.NUMBER))
                .and(earlier.OPENED_AT.le(TICKET.OPENED_AT))
                .and(DSL.condition("{0} > {1} - interval '30 days'", earlier.OPENED_AT, TICKET.OPENED_AT))
                .where(TICKET.NUMBER.in(numbers))
                .groupBy(TICKET.NUMBER)
                .forEach(r -> found.put(
                        r.value1(),
                        known(found, r.value1()).with(KnownField.EARLIER_TICKETS, Integer.toString(r.value2()))));
    }

    private static Facts own(Facts facts, @Nullable JSONB values) {
        Facts known = facts;
        for (var entry : values == null
                ? Set.<Map.Entry<String, String>>of()
                : OwnFields.read(values).entrySet()) {
            Optional<OwnField> field = OwnField.of(entry.getKey());
            known = field.isPresent() ? known.with(field.get(), entry.getValue()) : known;
        }
        return known;
    }

    /** What is written down about a contact and their company, their own fields among it. */
    public Facts ofContact(ContactId contact) {
        return sql.select(CONTACT.NAME, ContactColumns.addresses(), COMPANY.ID, COMPANY.PLAN, CONTACT.OWN, COMPANY.OWN)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(contact))
                .fetchOptional(r ->
                        own(own(facts(r.value1(), r.value2(), r.value3(), r.value4()), r.value5()), r.value6()))
                .orElse(Facts.none());
    }

    /** What promises ask about a customer whose ticket has no row yet. */
    Facts customerOfNew(ContactId contact) {
        if (Collections.disjoint(targets.asked(), OF_CUSTOMERS)) {
            return Facts.none();
        }
        return sql.select(CONTACT.NAME, ContactColumns.addresses(), COMPANY.ID, COMPANY.PLAN)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(contact))
                .fetchSingle(r -> facts(r.value1(), r.value2(), r.value3(), r.value4()));
    }

    private static Facts facts(
            String name, String @Nullable [] addresses, @Nullable CompanyId company, @Nullable String plan) {
        return Facts.none()
                .with(KnownField.CONTACT_NAME, name)
                .with(KnownField.CONTACT_ADDRESS, addresses == null ? List.of() : List.of(addresses))
                .with(KnownField.COMPANY, company == null ? "" : company.toString())
                .with(KnownField.PLAN, plan == null ? "" : plan);
    }
}
