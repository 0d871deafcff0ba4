package rafter.app.work.search;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;
import static rafter.database.Tables.KNOWN_WORD;
import static rafter.database.Tables.KNOWN_WORD_UNTIL;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.text.Phone;
import rafter.core.text.Words;

/**
 * Finds tickets, messages, contacts and companies, by words, number, address, telephone, tag, or what stands in an own field. Every word must be there, the last one as the beginning of a word, for it is still being
 * typed; a word that nobody ever wrote is taken for the known one most like it. Tickets whose subject has the words come before those
 * with the words in a message; among equals the latest come first.
 *
 * <p>Words that many have are found by looking at the latest few thousand rows; words that few have, by the index of words. Neither way alone
 * is quick for both, and the planner cannot know which a word is.
 */
@Component
class Search {

    private static final int MOST = 30;
    private static final int MOST_OF_PEOPLE = 8;
    /** Among so many of a name the likest are looked for. */
    private static final int NAMESAKES = 200;

    private static final double LIKE_ENOUGH = 0.3;
    private static final int LEARNED_AT_ONCE = 2000;
    private static final int LATEST = 3000;
    private static final int LONGEST_TAG = 40;
    /** More endings of a word that is still being typed are not worth looking up each by each. */
    private static final int ENDINGS = 40;

    /** A ticket that was found, and where. */
    record Hit(long number, String subject, String state, String contact, String when, String where, Passage passage) {}

    /**
     * A contact or company that was found.
     *
     * @param go the address of its page, or of its tickets
     */
    record Who(long id, String name, String detail, String go) {}

    /**
     * What was found.
     *
     * @param meant the words that were looked for in place of mistyped ones; blank when none was
     */
    record Found(String asked, String meant, List<Hit> tickets, List<Who> people, List<Who> companies) {
        public boolean nothing() {
            return tickets.isEmpty() && people.isEmpty() && companies.isEmpty();
        }
    }

    private final DSLContext sql;
    private final Targets targets;
    private final OwnFields fields;
    private final Clock clock;
    private final TicketStates states;

    Search(DSLContext sql, Targets targets, OwnFields fields, Clock clock, TicketStates states) {
        this.states = states;
        this.sql = sql;
        this.fields = fields;
        this.targets = targets;
        this.clock = clock;
    }

    /** Finds what the words say. */
    @Transactional(readOnly = true)
    Found find(String asked, int most, Viewer me) {
        List<String> words = Words.list(asked);
        if (words.isEmpty()) {
            return new Found(asked, "", List.of(), List.of(), List.of());
        }
        int limit = Math.min(most, MOST);
        List<Hit> hits = hits(asked, words, limit, me);
        List<String> meant = hits.isEmpty() ? meant(words) : words;
        if (!meant.equals(words)) {
            hits = hits(String.join(" ", meant), meant, limit, me);
        }
        String instead = meant.equals(words) || hits.isEmpty() ? "" : String.join(" ", meant);
        return new Found(asked, instead, hits, people(asked), companies(asked));
    }

    // ------------------------------------------------------------------ tickets and messages

    private List<Hit> hits(String asked, List<String> words, int most, Viewer me) {
        var found = new LinkedHashMap<Long, Hit>();
        byNumber(asked.strip(), me).ifPresent(hit -> found.put(hit.number(), hit));
        byField(asked, words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        byTag(asked, words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        bySubject(words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        if (found.size() < most) {
            byMessage(MESSAGE.WORDS, MESSAGE.TEXT, "a message of ", words, most, me)
                    .forEach(hit -> found.putIfAbsent(hit.number(), hit));
        }
        if (found.size() < most) {
            byMessage(MESSAGE.FOLDED_WORDS, MESSAGE.FOLDED, "what is folded away in a message of ", words, most, me)
                    .forEach(hit -> found.putIfAbsent(hit.number(), hit));
        }
        return found.values().stream().limit(most).toList();
    }

    private Optional<Hit> byNumber(String asked, Viewer me) {
        if (!asked.matches("#?\\d{1,18}")) {
            return Optional.empty();
        }
        return rows(
                        TICKET.NUMBER.eq(Long.valueOf(asked.replace("#", ""))),
                        DSL.inline(""),
                        "its number",
                        List.of(),
                        1,
                        me)
                .stream()
                .findFirst();
    }

    /** Tickets that have a tag of these words. */
    private List<Hit> byTag(String asked, List<String> words, int most, Viewer me) {
        String tag = asked.strip().toLowerCase(Locale.ROOT);
        if (tag.isEmpty() || tag.length() > LONGEST_TAG) {
            return List.of();
        }
        List<Long> numbers = holding(
                TICKET.TAGS,
                tags -> DSL.condition("{0} <> '{}'", tags).and(tags.contains(new String[] {tag})),
                most * 2,
                me);
        return numbers.isEmpty() ? List.of() : rows(TICKET.NUMBER.in(numbers), DSL.val(tag), "a tag", words, most, me);
    }

    /** Tickets of which an own field is exactly this, letter case and accents aside where it holds a text. */
    private List<Hit> byField(String asked, List<String> words, int most, Viewer me) {
        var found = new ArrayList<Hit>();
        for (AddedField field : fields.shown(OwnField.Bearer.TICKET)) {
            List<Long> numbers = stands(field, asked)
                    .map(has -> holding(column(field, TICKET.OWN, TICKET.OWN_FOLDED), has, most * 2, me))
                    .orElse(List.of());
            if (!numbers.isEmpty()) {
                Field<String> value = DSL.field("{0} ->> {1}", String.class, TICKET.OWN, DSL.val(field.key()));
                found.addAll(rows(TICKET.NUMBER.in(numbers), value, field.name(), words, most, me));
            }
        }
        return found;
    }

    /**
     * The latest tickets in whose column something stands: looked for among the latest few thousand, for what many have is there, and then
     * by the index of the column, for what few have.
     */
    private <T> List<Long> holding(Field<T> column, Function<Field<T>, Condition> has, int most, Viewer me) {
        Table<?> latest = DSL.select(TICKET.NUMBER, column)
                .from(me.tickets())
                .orderBy(TICKET.NUMBER.desc())
                .limit(LATEST)
                .asTable("latest");
        Field<Long> number = DSL.field(DSL.name("latest", TICKET.NUMBER.getName()), Long.class);
        Field<T> there = DSL.field(DSL.name("latest", column.getName()), column.getDataType());
        List<Long> found = sql.select(number)
                .from(latest)
                .where(has.apply(there))
                .orderBy(number.desc())
                .limit(most)
                .fetch(number);
        if (found.size() == most) {
            return found;
        }
        planOnlyByBitmaps(true);
        try {
            return sql.select(TICKET.NUMBER)
                    .from(me.tickets())
                    .where(has.apply(column))
                    .orderBy(TICKET.NUMBER.desc())
                    .limit(most)
                    .fetch(TICKET.NUMBER);
        } finally {
            planOnlyByBitmaps(false);
        }
    }

    /** That a field of a row is this; nothing when no such value can stand in it. */
    private static Optional<Function<Field<JSONB>, Condition>> stands(AddedField field, String asked) {
        Optional<String> value = switch (field.field().kind()) {
            case TEXT -> Optional.of(Words.fold(asked.strip()));
            case CHOICE ->
                field.choices().stream()
                        .filter(choice -> Words.fold(choice).equals(Words.fold(asked.strip())))
                        .findFirst();
            case NUMBER, DATE -> field.field().normalised(asked);
        };
        return value.filter(text -> !text.isEmpty() && text.length() <= OwnField.LONGEST)
                .map(text -> column -> DSL.condition("{0} <> '{}'", column)
                        .and(DSL.condition(
                                "{0} @> {1}", column, DSL.val(OwnFields.written(Map.of(field.key(), text))))));
    }

    /** The column in which a field is compared; both have an index that answers it. */
    private static Field<JSONB> column(AddedField field, Field<JSONB> own, Field<JSONB> folded) {
        return field.field().kind() == OwnField.Kind.TEXT ? folded : own;
    }

    /** Whether any field of contacts or companies holds what is looked for. */
    private Condition anyStands(OwnField.Bearer bearer, String asked, Field<JSONB> own, Field<JSONB> folded) {
        return fields.shown(bearer).stream()
                .flatMap(field -> stands(field, asked).map(has -> has.apply(column(field, own, folded))).stream())
                .reduce(DSL.falseCondition(), Condition::or);
    }

    private List<Hit> bySubject(List<String> words, int most, Viewer me) {
        List<Long> numbers =
                newest(me.tickets(), TICKET.NUMBER, TICKET.SUBJECT_WORDS, DSL.noCondition(), words, most * 2);
        return numbers.isEmpty()
                ? List.of()
                : rows(TICKET.NUMBER.in(numbers), TICKET.SUBJECT, "subject", words, most, me);
    }

    private List<Hit> rows(
            Condition condition, Field<String> text, String where, List<String> words, int most, Viewer me) {
        Instant now = clock.instant();
        return sql.select(
                        TICKET.NUMBER,
                        TICKET.SUBJECT,
                        TICKET.STATE,
                        CONTACT.NAME,
                        TICKET.CHANGED_AT,
                        text.as("passage"))
                .from(me.tickets())
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(condition)
                .and(DSL.not(DSL.condition(TICKET.DISCARDED)))
                .orderBy(TICKET.NUMBER.desc())
                .limit(most)
                .fetch(r -> hit(
                        r.value1(),
                        r.value2(),
                        r.value3(),
                        r.value4(),
                        r.value5(),
                        where,
                        Passage.of(r.value6(), words),
                        now));
    }

    private Hit hit(
            long number,
            String subject,
            String state,
            String contact,
            Instant at,
            String where,
            Passage passage,
            Instant now) {
        String words = states.name(state);
        return new Hit(
                number,
                subject,
                words,
                contact,
                Say.when(at, now, targets.terms().zone()),
                where,
                passage);
    }

    private List<Hit> byMessage(
            Field<String> kept, Field<String> text, String where, List<String> words, int most, Viewer me) {
        List<Long> ids = newest(MESSAGE, MESSAGE.ID, kept, me.sees(MESSAGE.TICKET), words, most * 3);
        if (ids.isEmpty()) {
            return List.of();
        }
        Instant now = clock.instant();
        // The latest messages first; several of one ticket make one hit.
        return sql.select(
                        TICKET.NUMBER,
                        TICKET.SUBJECT,
                        TICKET.STATE,
                        CONTACT.NAME,
                        MESSAGE.AT,
                        MESSAGE.AUTHOR,
                        DSL.left(text, 20_000))
                .from(MESSAGE)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(MESSAGE.TICKET))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(MESSAGE.ID.in(ids))
                .and(MESSAGE.KIND.ne(DSL.inline("AUTOMATIC")))
                .and(DSL.not(DSL.condition(TICKET.DISCARDED)))
                .orderBy(MESSAGE.ID.desc())
                .limit(most * 2)
                .fetch(r -> hit(
                        r.value1(),
                        r.value2(),
                        r.value3(),
                        r.value4(),
                        r.value5(),
                        where + r.value6(),
                        Passage.of(r.value7(), words),
                        now));
    }

    /** The highest keys of rows that have the words, among those that may be seen. */
    private List<Long> newest(
            Table<?> table, Field<Long> key, Field<String> field, Condition seen, List<String> words, int most) {
        Table<?> latest = DSL.select(key, field)
                .from(table)
                .where(seen)
                .orderBy(key.desc())
                .limit(LATEST)
                .asTable("latest");
        Field<Long> latestKey = DSL.field(DSL.name("latest", key.getName()), Long.class);
        Field<String> latestWords = DSL.field(DSL.name("latest", field.getName()), String.class);
        List<Long> found = sql.select(latestKey)
                .from(latest)
                .where(typed(latestWords, words))
                .orderBy(latestKey.desc())
                .limit(most)
                .fetch(latestKey);
        if (found.size() == most) {
            return found;
        }
        planOnlyByBitmaps(true);
        try {
            Condition some = field.equals(MESSAGE.FOLDED_WORDS)
                    ? has(field, words).and(field.ne(DSL.inline("")))
                    : has(field, words);
            return sql.select(key)
                    .from(table)
                    .where(some)
                    .and(seen)
                    .orderBy(key.desc())
                    .limit(most)
                    .fetch(key);
        } finally {
            planOnlyByBitmaps(false);
        }
    }

    /** The index of words can be read in no other way. */
    private void planOnlyByBitmaps(boolean only) {
        String others = only ? "off" : "on";
        sql.execute("set local enable_seqscan = " + others);
        sql.execute("set local enable_indexscan = " + others);
        sql.execute("set local max_parallel_workers_per_gather = " + (only ? "0" : "default"));
    }

    /** The last word counts as the beginning of one. */
    private static Condition typed(Field<String> field, List<String> words) {
        return listed(
                field, String.join(" & ", quoted(words)) + (words.getLast().length() > 1 ? ":*" : ""));
    }

    /** The words in a form that the index answers quickly. */
    private Condition has(Field<String> field, List<String> words) {
        String last = words.getLast();
        if (last.length() < 2) {
            return typed(field, words);
        }
        Condition all = words.size() == 1
                ? DSL.trueCondition()
                : listed(field, String.join(" & ", quoted(words.subList(0, words.size() - 1))));
        List<String> endings = endings(last);
        if (endings.size() <= ENDINGS) {
            // As whole words they are read from the index a few at a time, which a beginning of a word is not.
            return all.and(
                    listed(field, String.join(" | ", quoted(endings)) + (digits(last) ? " | '" + last + "':*" : "")));
        }
        return words.size() == 1 ? typed(field, words) : all.and(field.contains(" " + last));
    }

    private static boolean digits(String word) {
        return word.chars().anyMatch(Character::isDigit);
    }

    /** The words that anybody wrote and that begin so, and the beginning itself; a few more than are of use when there are many. */
    private List<String> endings(String beginning) {
        var endings = new LinkedHashSet<>(List.of(beginning));
        endings.addAll(sql.select(KNOWN_WORD.WORD)
                .from(KNOWN_WORD)
                .where(KNOWN_WORD.WORD.startsWith(beginning))
                .limit(ENDINGS + 1)
                .fetch(KNOWN_WORD.WORD));
        return List.copyOf(endings);
    }

    private static List<String> quoted(List<String> words) {
        return words.stream().map(word -> "'" + word + "'").toList();
    }

    private static Condition listed(Field<String> field, String query) {
        return DSL.condition("word_list({0}) @@ {1}::tsquery", field, DSL.val("(" + query + ")"));
    }

    // ------------------------------------------------------------------ typing errors

    /** Each word that nobody ever wrote is replaced by the known one most like it, if one is like it at all. */
    private List<String> meant(List<String> words) {
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
        long until = sql.select(KNOWN_WORD_UNTIL.MESSAGE_ID)
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
                """, until, ids.getLast());
        sql.update(KNOWN_WORD_UNTIL)
                .set(KNOWN_WORD_UNTIL.MESSAGE_ID, ids.getLast())
                .execute();
        return ids.size();
    }

    /** Learns in the background. */
    @Configuration(proxyBeanMethods = false)
    static class Job {
        @Bean
        RecurringTask<Void> learnWords(Search search) {
            return Tasks.recurring("learn-words", FixedDelay.of(Duration.ofMinutes(1)))
                    .execute((instance, context) -> {
                        while (search.learn() == LEARNED_AT_ONCE) {
                            // A part was full, so there may be more.
                        }
                    });
        }
    }

    // ------------------------------------------------------------------ people

    private List<Who> people(String asked) {
        String words = Words.of(asked).stored().strip();
        Map<Long, String> addresses = sql.select(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.ADDRESS.contains(asked.strip().toLowerCase(Locale.ROOT)))
                .limit(MOST_OF_PEOPLE)
                .fetchMap(CONTACT_ADDRESS.CONTACT_ID, CONTACT_ADDRESS.ADDRESS);
        Map<Long, String> phones = phones(asked);
        Field<String> address = DSL.field(DSL.select(DSL.min(CONTACT_ADDRESS.ADDRESS))
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID)));
        var ids = new LinkedHashSet<>(addresses.keySet());
        ids.addAll(phones.keySet());
        ids.addAll(named(CONTACT.NAME_WORDS.contains(words)));
        ids.addAll(named(anyStands(OwnField.Bearer.CONTACT, asked, CONTACT.OWN, CONTACT.OWN_FOLDED)));
        if (ids.isEmpty() && words.length() > 3) {
            // Only who is called nothing like it could have been mistyped.
            ids.addAll(named(DSL.condition("{0} % {1}", CONTACT.NAME_WORDS, DSL.val(words))));
        }
        return ids.isEmpty()
                ? List.of()
                : sql.select(CONTACT.ID, CONTACT.NAME, address, COMPANY.NAME)
                        .from(CONTACT)
                        .leftJoin(COMPANY)
                        .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                        .where(CONTACT.ID.in(ids))
                        .orderBy(
                                DSL.field("similarity({0}, {1})", Double.class, CONTACT.NAME_WORDS, DSL.val(words))
                                        .desc(),
                                CONTACT.ID)
                        .limit(MOST_OF_PEOPLE)
                        .fetch(r -> new Who(
                                r.value1(),
                                r.value2(),
                                detail(phones.getOrDefault(r.value1(), ""), r.value3(), r.value4()),
                                "/contacts/" + r.value1()));
    }

    /** Whose telephone number has these digits in it, with the number. */
    private Map<Long, String> phones(String asked) {
        Optional<String> digits = Phone.asked(asked);
        return digits.isEmpty()
                ? Map.of()
                : sql.select(CONTACT_PHONE.CONTACT_ID, DSL.min(CONTACT_PHONE.WRITTEN))
                        .from(CONTACT_PHONE)
                        .where(CONTACT_PHONE.DIGITS.contains(digits.get()))
                        .groupBy(CONTACT_PHONE.CONTACT_ID)
                        .limit(MOST_OF_PEOPLE)
                        .fetchMap(CONTACT_PHONE.CONTACT_ID, DSL.min(CONTACT_PHONE.WRITTEN));
    }

    private static String detail(String phone, @Nullable String address, @Nullable String company) {
        return Stream.of(phone, address == null ? "" : address, company == null ? "" : company)
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(", "));
    }

    private List<Long> named(Condition like) {
        return sql.select(CONTACT.ID).from(CONTACT).where(like).limit(NAMESAKES).fetch(CONTACT.ID);
    }

    private List<Who> companies(String asked) {
        String words = asked.strip().toLowerCase(Locale.ROOT);
        Field<String> name = DSL.lower(COMPANY.NAME);
        return sql.select(COMPANY.ID, COMPANY.NAME, COMPANY.PLAN)
                .from(COMPANY)
                .where(name.contains(words)
                        .or(
                                words.length() > 3
                                        ? DSL.condition("{0} % {1}", name, DSL.val(words))
                                        : DSL.falseCondition())
                        .or(anyStands(OwnField.Bearer.COMPANY, asked, COMPANY.OWN, COMPANY.OWN_FOLDED)))
                .orderBy(
                        DSL.field("similarity({0}, {1})", Double.class, name, DSL.val(words))
                                .desc(),
                        COMPANY.ID)
                .limit(MOST_OF_PEOPLE)
                .fetch(r -> new Who(r.value1(), r.value2(), r.value3(), ticketsOf(r.value1())));
    }

    /** Address of a company's open tickets. */
    private static String ticketsOf(long company) {
        return ChosenTickets.openWhere(Criteria.test(KnownField.COMPANY, Operator.IS, Long.toString(company)));
    }
}
