package rafter.app.work.customers;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.COMPANY_DOMAIN;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.platform.Trigrams;
import rafter.core.id.CompanyId;
import rafter.core.id.TicketNumber;

/** Companies as a list, by name, and how it stands with one. Counts of tickets are of those that the reader may see. */
@Component
class CompanyDirectory {

    private static final Duration YEAR = Duration.ofDays(365);
    private static final Field<String> COMPANY_NAME = DSL.lower(COMPANY.NAME);

    private final DSLContext sql;

    CompanyDirectory(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A company in the list.
     *
     * @param people how many contacts it has
     * @param open how many open tickets they have
     */
    public record Firm(CompanyId id, String name, String plan, String domains, int people, int open) {}

    /** A part of the companies whose name or domain has these words in it, by name. */
    @Transactional(readOnly = true)
    ByName.Part<Firm> companies(String words, ByName.From<CompanyId> from, Viewer me) {
        return ByName.part(
                from,
                id -> sql.select(COMPANY_NAME, COMPANY.ID)
                        .from(COMPANY)
                        .where(COMPANY.ID.eq(id))
                        .fetchOptional()
                        .map(r -> new ByName.Place<>(r.value1(), r.value2())),
                (place, backwards) -> firms(words, place, backwards, me));
    }

    private List<Firm> firms(String words, Optional<ByName.Place<CompanyId>> place, boolean backwards, Viewer me) {
        String asked = words.strip().toLowerCase(Locale.ROOT);
        Field<String> domains =
                DSL.field(DSL.select(DSL.listAgg(COMPANY_DOMAIN.DOMAIN, ", ").withinGroupOrderBy(COMPANY_DOMAIN.DOMAIN))
                        .from(COMPANY_DOMAIN)
                        .where(COMPANY_DOMAIN.COMPANY_ID.eq(COMPANY.ID)));
        Condition meant = asked.isEmpty()
                ? DSL.noCondition()
                : Trigrams.of(COMPANY_NAME)
                        .contains(asked)
                        .or(COMPANY.ID.in(DSL.select(COMPANY_DOMAIN.COMPANY_ID)
                                .from(COMPANY_DOMAIN)
                                .where(COMPANY_DOMAIN.DOMAIN.contains(asked))));
        return sql.select(COMPANY.ID, COMPANY.NAME, COMPANY.PLAN, domains, people(COMPANY.ID), open(COMPANY.ID, me))
                .from(COMPANY)
                .where(meant)
                .and(ByName.beyond(COMPANY_NAME, COMPANY.ID, place, backwards))
                .orderBy(ByName.order(COMPANY_NAME, COMPANY.ID, backwards))
                .limit(ByName.PAGE + 1)
                .fetch(r ->
                        new Firm(r.value1(), r.value2(), r.value3(), Say.orBlank(r.value4()), r.value5(), r.value6()));
    }

    private static Field<Integer> people(Field<CompanyId> company) {
        return DSL.field(DSL.selectCount().from(CONTACT).where(CONTACT.COMPANY_ID.eq(company)));
    }

    private static Field<Integer> open(Field<CompanyId> company, Viewer me) {
        return DSL.field(DSL.selectCount()
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .and(TICKET.OPEN));
    }

    /**
     * How it stands with a company.
     *
     * @param late how many of its open tickets are over a target
     * @param year how many requests it made within a year
     */
    public record Figures(int people, int open, int late, int year) {}

    /** How it stands with a company now. */
    @Transactional(readOnly = true)
    Figures figures(CompanyId company, Viewer me, Instant now) {
        return sql.select(
                        people(DSL.val(company, COMPANY.ID)),
                        DSL.count().filterWhere(TICKET.OPEN),
                        DSL.count().filterWhere(DSL.condition(TICKET.OPEN).and(TICKET.NEXT_DUE.le(now))),
                        DSL.count().filterWhere(TICKET.OPENED_AT.ge(now.minus(YEAR))))
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .andNot(TICKET.DISCARDED)
                .fetchSingle(r -> new Figures(r.value1(), r.value2(), r.value3(), r.value4()));
    }

    /** A ticket of a company, with who wrote. */
    public record Theirs(TicketNumber number, String subject, String state, String contact, Instant changed) {}

    /** The latest tickets of a company, open ones or ended ones. */
    @Transactional(readOnly = true)
    List<Theirs> tickets(CompanyId company, boolean open, int most, Viewer me) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE, CONTACT.NAME, TICKET.CHANGED_AT)
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(CONTACT.COMPANY_ID.eq(company))
                .and(TICKET.OPEN.eq(open))
                .andNot(TICKET.DISCARDED)
                .orderBy(TICKET.CHANGED_AT.desc(), TICKET.NUMBER.desc())
                .limit(most)
                .fetch(r -> new Theirs(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
    }
}
