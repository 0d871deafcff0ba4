package rafter.app.work.time;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_TIME;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectJoinStep;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;

/** Adds up the time that was written down, of the tickets that its reader may see. */
@Component
class TimeTotals {

    private static final int GROUPS = 50;

    /** By what time is added up. */
    enum By {
        PERSON_WHO("person", PERSON.NAME),
        CUSTOMER("customer", CONTACT.NAME),
        FIRM("company", DSL.coalesce(COMPANY.NAME, DSL.inline("none"))),
        TOPIC("topic", DSL.coalesce(DSL.nullif(TICKET.TOPIC, DSL.inline("")), DSL.inline("none"))),
        KIND("kind", DSL.coalesce(DSL.nullif(TICKET_TIME.KIND, DSL.inline("")), DSL.inline("none"))),
        TICKET_ITSELF("ticket", DSL.concat(TICKET.NUMBER.cast(String.class), DSL.inline(" "), TICKET.SUBJECT));

        private final String words;
        private final Field<String> field;

        By(String words, Field<String> field) {
            this.words = words;
            this.field = field;
        }

        /** As people read it. */
        public String words() {
            return words;
        }

        /** As an address names it. */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * What is asked for.
     *
     * @param from the first instant of it
     * @param to the first that is not of it any more
     * @param mine only the reader's own
     */
    public record Asked(Instant from, Instant to, boolean mine) {}

    /** Time of one person, customer or whatever it is added up by; in minutes. */
    public record Group(String name, long minutes, long billable, int entries) {}

    /** Time as it was written down. */
    public record Entry(
            Instant at,
            String person,
            TicketNumber ticket,
            String subject,
            String customer,
            String company,
            String topic,
            String kind,
            int minutes,
            boolean billable,
            String note) {}

    private final DSLContext sql;

    TimeTotals(DSLContext sql) {
        this.sql = sql;
    }

    private static Condition within(Asked asked, Viewer me) {
        Condition time = TICKET_TIME.AT.ge(asked.from()).and(TICKET_TIME.AT.lt(asked.to()));
        return asked.mine() ? time.and(TICKET_TIME.PERSON_ID.eq(me.id())) : time;
    }

    private static <R extends Record> SelectJoinStep<R> joined(SelectJoinStep<R> from, Viewer me) {
        return from.join(me.tickets())
                .on(TICKET.NUMBER.eq(TICKET_TIME.TICKET))
                .join(PERSON)
                .on(PERSON.ID.eq(TICKET_TIME.PERSON_ID))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID));
    }

    /** The totals, the greatest first, and no more than fifty. */
    @Transactional(readOnly = true)
    List<Group> totals(By by, Asked asked, Viewer me) {
        Field<Long> minutes = DSL.sum(TICKET_TIME.MINUTES).cast(Long.class);
        return joined(
                        sql.select(
                                        by.field,
                                        minutes,
                                        DSL.coalesce(
                                                        DSL.sum(TICKET_TIME.MINUTES)
                                                                .filterWhere(TICKET_TIME.BILLABLE),
                                                        DSL.inline(0))
                                                .cast(Long.class),
                                        DSL.count())
                                .from(TICKET_TIME),
                        me)
                .where(within(asked, me))
                .groupBy(by.field)
                .orderBy(minutes.desc(), by.field)
                .limit(GROUPS)
                .fetch(r -> new Group(r.value1(), r.value2(), r.value3(), r.value4()));
    }

    /** All of it. */
    @Transactional(readOnly = true)
    Group total(Asked asked, Viewer me) {
        return sql.select(
                        DSL.coalesce(DSL.sum(TICKET_TIME.MINUTES), DSL.inline(0))
                                .cast(Long.class),
                        DSL.coalesce(DSL.sum(TICKET_TIME.MINUTES).filterWhere(TICKET_TIME.BILLABLE), DSL.inline(0))
                                .cast(Long.class),
                        DSL.count())
                .from(TICKET_TIME)
                .where(within(asked, me))
                .and(me.sees(TICKET_TIME.TICKET))
                .fetchSingle(r -> new Group("", r.value1(), r.value2(), r.value3()));
    }

    /** Each entry, the earliest first. */
    @Transactional(readOnly = true)
    void each(Asked asked, Viewer me, Consumer<Entry> what) {
        try (var cursor = joined(
                        sql.select(
                                        TICKET_TIME.AT,
                                        PERSON.NAME,
                                        TICKET.NUMBER,
                                        TICKET.SUBJECT,
                                        CONTACT.NAME,
                                        COMPANY.NAME,
                                        TICKET.TOPIC,
                                        TICKET_TIME.KIND,
                                        TICKET_TIME.MINUTES,
                                        TICKET_TIME.BILLABLE,
                                        TICKET_TIME.NOTE)
                                .from(TICKET_TIME),
                        me)
                .where(within(asked, me))
                .orderBy(TICKET_TIME.AT, TICKET_TIME.TICKET, TICKET_TIME.STINT)
                .fetchSize(1_000)
                .fetchLazy()) {
            cursor.forEach(r -> what.accept(new Entry(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    Say.orBlank(r.value6()),
                    r.value7(),
                    r.value8(),
                    r.value9(),
                    r.value10(),
                    r.value11())));
        }
    }
}
