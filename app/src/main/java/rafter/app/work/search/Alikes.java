package rafter.app.work.search;

import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.TICKET;

import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;
import rafter.core.text.Alike;

/**
 * Finds tickets that look like one, by the words of their subjects and of how they were resolved. Of each word the latest tickets that have
 * it are read; how densely they lie says how rare it is.
 */
@Component
class Alikes {

    private static final int MOST_WORDS = 10;
    private static final int LATEST_OF_A_WORD = 40;
    private static final int SHOWN = 5;
    /** Less of the weight of its words in common is chance. */
    private static final double ENOUGH = 0.45;

    /**
     * A ticket that looks alike.
     *
     * @param state how it stands
     * @param words which words it has in common, the rarest first
     * @param done what was done about it, as somebody wrote it down; blank: nobody did
     * @param cause why it came to be, as somebody wrote it down
     */
    public record Found(
            TicketNumber number, String subject, String state, List<String> words, String done, String cause) {}

    private record Scored(Found found, Alike.Likeness likeness) {}

    private final DSLContext sql;
    private final LatestFirst latestFirst;
    private final Viewers viewers;
    private final TicketStates states;

    Alikes(DSLContext sql, LatestFirst latestFirst, Viewers viewers, TicketStates states) {
        this.sql = sql;
        this.latestFirst = latestFirst;
        this.viewers = viewers;
        this.states = states;
    }

    /** The tickets most like one, the likest first; of those equally alike such as were resolved with words come first. */
    @Transactional(readOnly = true)
    List<Found> to(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        List<String> words = sql
                .select(TICKET.SUBJECT)
                .from(me.tickets())
                .where(TICKET.NUMBER.eq(number))
                .fetch(TICKET.SUBJECT)
                .stream()
                .flatMap(subject -> Alike.telling(subject).stream())
                .limit(MOST_WORDS)
                .toList();
        if (words.isEmpty()) {
            return List.of();
        }
        double last = sql.select(DSL.max(TICKET.NUMBER))
                .from(me.tickets())
                .fetchSingle(DSL.max(TICKET.NUMBER))
                .value();
        var near = new HashSet<TicketNumber>();
        var oneIn = new HashMap<String, Double>();
        for (String word : words) {
            List<TicketNumber> having =
                    having(me.tickets(), TICKET.NUMBER, TICKET.SUBJECT_WORDS, DSL.noCondition(), word);
            oneIn.put(word, oneIn(having, last));
            near.addAll(having);
            near.addAll(having(RESOLUTION, RESOLUTION.TICKET, RESOLUTION.WORDS, me.sees(RESOLUTION.TICKET), word));
        }
        return likest(number, near, Alike.to(oneIn), words.size() > 1 ? 2 : 1, me);
    }

    private List<TicketNumber> having(
            Table<?> table, Field<TicketNumber> key, Field<String> column, Condition seen, String word) {
        return latestFirst.keys(
                table,
                key,
                column,
                seen,
                latest -> latest.contains(" " + word + " "),
                () -> has(column, word),
                LATEST_OF_A_WORD);
    }

    private static Condition has(Field<String> column, String word) {
        return DSL.condition("word_list({0}) @@ {1}::tsquery", column, DSL.val("'" + word + "'"));
    }

    private static double oneIn(List<TicketNumber> having, double last) {
        double among = having.size() < LATEST_OF_A_WORD
                ? last
                : last - having.getLast().value() + 1;
        return among / Math.max(1, having.size());
    }

    private List<Found> likest(TicketNumber number, Collection<TicketNumber> near, Alike alike, int least, Viewer me) {
        return saidOnce(sql
                .select(
                        TICKET.NUMBER,
                        TICKET.SUBJECT,
                        TICKET.SUBJECT_WORDS,
                        TICKET.STATE,
                        RESOLUTION.WORDS,
                        RESOLUTION.DONE,
                        RESOLUTION.CAUSE)
                .from(me.tickets())
                .leftJoin(RESOLUTION)
                .on(RESOLUTION.TICKET.eq(TICKET.NUMBER))
                .where(TICKET.NUMBER.in(near))
                .and(TICKET.NUMBER.ne(number))
                .and(TICKET.DISCARDED.isFalse())
                .and(TICKET.JOINED_INTO.isNull())
                .fetch(r -> {
                    Alike.Likeness likeness = alike.of(wordsOf(r.value3(), Say.orBlank(r.value5())));
                    return new Scored(
                            new Found(
                                    r.value1(),
                                    r.value2(),
                                    states.name(r.value4()),
                                    likeness.words(),
                                    Say.orBlank(r.value6()),
                                    Say.orBlank(r.value7())),
                            likeness);
                })
                .stream()
                .filter(one -> one.likeness().score() >= ENOUGH
                        && one.likeness().words().size() >= least)
                .sorted(Comparator.comparingDouble(
                                (Scored one) -> one.likeness().score())
                        .reversed()
                        .thenComparing(one -> one.found().done().isEmpty())
                        .thenComparing(Comparator.comparingLong(
                                        (Scored one) -> one.found().number().value())
                                .reversed()))
                .limit(SHOWN)
                .map(Scored::found)
                .toList());
    }

    /** What was done about several of them alike is told with the first. */
    private static List<Found> saidOnce(List<Found> all) {
        var told = new HashSet<String>();
        return all.stream()
                .map(one -> told.add(one.done())
                        ? one
                        : new Found(one.number(), one.subject(), one.state(), one.words(), "", one.cause()))
                .toList();
    }

    private static Set<String> wordsOf(String... stored) {
        var words = new LinkedHashSet<String>();
        Stream.of(stored).flatMap(one -> Stream.of(one.split("[ |]+"))).forEach(words::add);
        return words;
    }
}
