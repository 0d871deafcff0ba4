package rafter.app.arrival.telephone;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;

import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Say;
import rafter.app.platform.Trigrams;
import rafter.core.id.CompanyId;
import rafter.core.text.Words;

/** What can be chosen on the sheet of a call: topics, and who it is that calls. */
@Component
class CallChoices {

    private static final int TOPICS = 60;
    private static final int FOUND = 12;

    /** A contact or company that can be chosen. */
    public record Choice(long id, String name, String more) {}

    private final DSLContext sql;

    CallChoices(DSLContext sql) {
        this.sql = sql;
    }

    /** Topics that tickets have, the most used first. */
    List<String> topics() {
        return sql
                .select(TICKET.TOPIC)
                .from(TICKET)
                .where(TICKET.TOPIC.ne(""))
                .groupBy(TICKET.TOPIC)
                .orderBy(DSL.count().desc())
                .limit(TOPICS)
                .fetch(TICKET.TOPIC)
                .stream()
                .sorted()
                .toList();
    }

    /** Companies whose name has these words. */
    List<Choice> companies(String asked) {
        return sql.select(COMPANY.ID, COMPANY.NAME, COMPANY.PLAN)
                .from(COMPANY)
                .where(COMPANY.NAME.containsIgnoreCase(asked.strip()))
                .orderBy(COMPANY.NAME)
                .limit(FOUND)
                .fetch(r -> new Choice(r.value1().value(), r.value2(), Say.orBlank(r.value3())));
    }

    /** Contacts whose name has these words, of one company where one is chosen. */
    List<Choice> contacts(String asked, Optional<CompanyId> company) {
        if (asked.isBlank() && company.isEmpty()) {
            return List.of();
        }
        Condition named = asked.isBlank()
                ? DSL.noCondition()
                : Trigrams.of(CONTACT.NAME_WORDS)
                        .contains(Words.of(asked).stored().strip());
        return sql.select(CONTACT.ID, CONTACT.NAME, COMPANY.NAME)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(named)
                .and(company.map(CONTACT.COMPANY_ID::eq).orElse(DSL.noCondition()))
                .and(CONTACT.STRANGER.isFalse())
                .orderBy(CONTACT.NAME)
                .limit(FOUND)
                .fetch(r -> new Choice(r.value1().value(), r.value2(), Say.orBlank(r.value3())));
    }
}
