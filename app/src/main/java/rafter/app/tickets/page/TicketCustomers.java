package rafter.app.tickets.page;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.ContactColumns;
import rafter.app.platform.Languages;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.Blanks;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/** Who asks, as the page of a ticket shows them. */
@Component
class TicketCustomers {

    private static final DateTimeFormatter THEIR_TIME = DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH);

    /**
     * Somebody who asks, with what there is to know of them.
     *
     * @param language in which they are written to; blank: nobody said
     */
    public record Customer(
            ContactId id,
            String name,
            String initials,
            Optional<CompanyId> companyId,
            String company,
            String plan,
            List<String> addresses,
            List<String> phones,
            List<String> handles,
            List<OwnFields.OwnValue> own,
            String localTime,
            String language,
            String spent,
            String rated,
            int year,
            int open) {

        /** In which language they are written to, in words; blank when nobody said. */
        public String languageName() {
            return Languages.name(language);
        }

        /** As one writes to them. */
        Blanks.Customer written() {
            return new Blanks.Customer(name, company, language);
        }
    }

    /** What became of their tickets. */
    private record Tally(int year, int open, Duration spent, int rated, int good) {}

    private final DSLContext sql;
    private final OwnFields fields;

    TicketCustomers(DSLContext sql, OwnFields fields) {
        this.sql = sql;
        this.fields = fields;
    }

    /** The customer of a ticket, with as much of their tickets as somebody sees. */
    Customer of(Ticket ticket, Viewer me, Instant now) {
        var contact = sql.select(
                        CONTACT.NAME,
                        ContactColumns.addresses(),
                        ContactColumns.phones(),
                        ContactColumns.handles(),
                        COMPANY.NAME,
                        COMPANY.PLAN,
                        CONTACT.OWN,
                        COMPANY.OWN,
                        CONTACT.COMPANY_ID,
                        CONTACT.ZONE,
                        CONTACT.LANGUAGE)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(ticket.contact()))
                .fetchSingle();
        Tally tally = tally(ticket.contact(), me, now);
        var own = new ArrayList<>(fields.values(OwnField.Bearer.CONTACT, OwnFields.read(contact.get(CONTACT.OWN))));
        Optional.ofNullable(contact.get(COMPANY.OWN))
                .map(OwnFields::read)
                .ifPresent(values -> own.addAll(fields.values(OwnField.Bearer.COMPANY, values)));
        return new Customer(
                ticket.contact(),
                contact.value1(),
                Say.initials(contact.value1()),
                Optional.ofNullable(contact.get(CONTACT.COMPANY_ID)),
                Say.orBlank(contact.get(COMPANY.NAME)),
                Say.orBlank(contact.get(COMPANY.PLAN)),
                ContactColumns.list(contact.value2()),
                ContactColumns.list(contact.value3()),
                ContactColumns.list(contact.value4()),
                own,
                localTime(contact.get(CONTACT.ZONE), now),
                contact.get(CONTACT.LANGUAGE),
                tally.spent().isZero() ? "" : Amount.written(tally.spent()),
                tally.rated() == 0 ? "" : tally.good() + " of " + tally.rated() + " rated good",
                tally.year(),
                tally.open());
    }

    private Tally tally(ContactId contact, Viewer me, Instant now) {
        return sql.select(
                        DSL.count().filterWhere(TICKET.OPENED_AT.gt(now.minus(Duration.ofDays(365)))),
                        DSL.count().filterWhere(TICKET.OPEN),
                        DSL.coalesce(DSL.sum(TICKET.MINUTES), DSL.inline(BigDecimal.ZERO)),
                        DSL.count(TICKET.RATING),
                        DSL.count().filterWhere(TICKET.RATING.eq(DSL.inline(Work.Rating.GOOD.name()))))
                .from(me.tickets())
                .where(TICKET.CONTACT_ID.eq(contact))
                .fetchSingle(r -> new Tally(
                        r.value1(), r.value2(), Duration.ofMinutes(r.value3().longValue()), r.value4(), r.value5()));
    }

    /** What time it is for them; blank when nobody said where they are. */
    private static String localTime(String zone, Instant now) {
        return zone.isEmpty() ? "" : THEIR_TIME.format(now.atZone(ZoneId.of(zone))) + ", " + zone;
    }
}
