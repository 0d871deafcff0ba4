package rafter.app.tickets.rules;

import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.criteria.CriteriaSql;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Field;
import rafter.core.criteria.Operator;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleChecks;
import rafter.core.text.Words;

/** Finds words of rules that stand in tickets in another form alone. */
@Component
class OtherForms {

    private final DSLContext sql;

    OtherForms(DSLContext sql) {
        this.sql = sql;
    }

    /** By what a finding is kept. */
    static String key(Field field, String phrase) {
        return field.key() + " " + Words.fold(phrase);
    }

    /** Of phrases that no ticket of the period has, the first form that one has. */
    @Transactional(readOnly = true)
    public Map<String, String> of(RuleBook book, Instant since) {
        var found = new HashMap<String, String>();
        for (Rule rule : book.rules()) {
            if (rule.on()) {
                RuleChecks.phrases(rule.criteria()).forEach(test -> {
                    for (String phrase : test.values()) {
                        if (!phrase.isBlank() && !stands(test.field(), phrase, since)) {
                            forms(phrase)
                                    .filter(form -> stands(test.field(), form, since))
                                    .findFirst()
                                    .ifPresent(form -> found.put(key(test.field(), phrase), form));
                        }
                    }
                });
            }
        }
        return found;
    }

    /** The phrase with each of its words in each of its forms, the others as they are. */
    private static Stream<String> forms(String phrase) {
        List<String> words = Words.list(phrase);
        return IntStream.range(0, words.size())
                .boxed()
                .flatMap(i -> Words.forms(words.get(i)).stream()
                        .filter(form -> !form.equals(words.get(i)))
                        .map(form -> {
                            var other = new ArrayList<>(words);
                            other.set(i, form);
                            return String.join(" ", other);
                        }));
    }

    private boolean stands(Field field, String phrase, Instant since) {
        return sql.fetchExists(
                TICKET,
                TICKET.OPENED_AT.ge(since),
                CriteriaSql.condition(new Criteria.Test(field, Operator.HAS_ANY, List.of(phrase))));
    }
}
