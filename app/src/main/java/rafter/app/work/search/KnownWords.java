package rafter.app.work.search;

import static rafter.database.Tables.KNOWN_WORD;
import static rafter.database.Tables.KNOWN_WORD_UNTIL;
import static rafter.database.Tables.MESSAGE;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.DueWork;
import rafter.core.id.MessageId;

/** The words that anybody ever wrote: learned from messages, to mend typing errors and to know how a word may end. */
@Component
class KnownWords {

    private static final double LIKE_ENOUGH = 0.3;
    private static final int LEARNED_AT_ONCE = 2000;
    /** More endings of a word that is still being typed are not worth looking up each by each. */
    static final int ENDINGS = 40;

    private final DSLContext sql;

    KnownWords(DSLContext sql) {
        this.sql = sql;
    }

    /** The words that anybody wrote and that begin so, and the beginning itself; a few more than are of use when there are many. */
    List<String> endings(String beginning) {
        var endings = new LinkedHashSet<>(List.of(beginning));
        endings.addAll(sql.select(KNOWN_WORD.WORD)
                .from(KNOWN_WORD)
                .where(KNOWN_WORD.WORD.startsWith(beginning))
                .limit(ENDINGS + 1)
                .fetch(KNOWN_WORD.WORD));
        return List.copyOf(endings);
    }

    /** Each word that nobody ever wrote is replaced by the known one most like it, if one is like it at all. */
    List<String> meant(List<String> words) {
        return words.stream()
                .map(word -> known(word) ? word : mostLike(word).orElse(word))
                .toList();
    }

    private boolean known(String word) {
        return word.length() < 3 || sql.fetchExists(KNOWN_WORD, KNOWN_WORD.WORD.startsWith(word));
    }

    private Optional<String> mostLike(String word) {
        sql.execute("set local pg_trgm.similarity_threshold = " + String.format(Locale.ROOT, "%.2f", LIKE_ENOUGH));
        Field<Double> like = DSL.field("similarity({0}, {1})", Double.class, KNOWN_WORD.WORD, DSL.val(word));
        Field<Integer> edits = DSL.field("levenshtein({0}, {1})", Integer.class, KNOWN_WORD.WORD, DSL.val(word));
        return sql.select(KNOWN_WORD.WORD)
                .from(KNOWN_WORD)
                .where("{0} % {1}", KNOWN_WORD.WORD, DSL.val(word))
                .and(edits.le(Math.max(2, word.length() / 3)))
                .orderBy(edits, like.desc(), KNOWN_WORD.WORD)
                .limit(1)
                .fetchOptional(KNOWN_WORD.WORD);
    }

    /** Learns the words of messages that came since it last did; how many messages these were. */
    @Transactional
    public int learn() {
        MessageId until = sql.select(KNOWN_WORD_UNTIL.MESSAGE_ID)
                .from(KNOWN_WORD_UNTIL)
                .forUpdate()
                .fetchSingle(KNOWN_WORD_UNTIL.MESSAGE_ID);
        var ids = sql.select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.ID.gt(until))
                .and(MESSAGE.WORDS.isNotNull())
                .orderBy(MESSAGE.ID)
                .limit(LEARNED_AT_ONCE)
                .fetch(MESSAGE.ID);
        if (ids.isEmpty()) {
            return 0;
        }
        sql.execute("""
                insert into known_word (word)
                select distinct w from (
                    select unnest(string_to_array(m.words || ' ' || m.folded_words || ' ' || t.subject_words, ' ')) w
                    from message m join ticket t on t.number = m.ticket
                    where m.id > ? and m.id <= ?) words
                where length(w) between 3 and 30 and w !~ '[0-9]'
                on conflict do nothing
                """, until.value(), ids.getLast().value());
        sql.update(KNOWN_WORD_UNTIL)
                .set(KNOWN_WORD_UNTIL.MESSAGE_ID, ids.getLast())
                .execute();
        return ids.size();
    }

    /** Learns in the background. */
    @Configuration(proxyBeanMethods = false)
    static class Job {
        @Bean
        RecurringTask<Void> learnWords(KnownWords words) {
            return DueWork.inParts("learn-words", Duration.ofMinutes(1), LEARNED_AT_ONCE, words::learn);
        }
    }
}
