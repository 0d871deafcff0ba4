package rafter.app.work.search;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.OwnField;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Words;

/**
 * Finds tickets, messages, contacts and companies, by words, number, address, telephone, tag, or what stands in an own field. Every word must be there, the last one as the beginning of a word, for it is still being
 * typed; a word that nobody ever wrote is taken for the known one most like it. Tickets whose subject has the words come before those
 * with the words in a message; among equals the latest come first.
 */
@Component
class Search {

    private static final int MOST = 30;
    private static final int LONGEST_TAG = 40;

    /** A ticket that was found, and where. */
    public record Hit(
            TicketNumber number,
            String subject,
            String state,
            String contact,
            String when,
            String where,
            Passage passage) {}

    /**
     * What was found.
     *
     * @param meant the words that were looked for in place of mistyped ones; blank when none was
     */
    public record Found(
            String asked,
            String meant,
            List<Hit> tickets,
            List<PeopleSearch.Who> people,
            List<PeopleSearch.Who> companies) {
        public boolean nothing() {
            return tickets.isEmpty() && people.isEmpty() && companies.isEmpty();
        }
    }

    private final DSLContext sql;
    private final LatestFirst latestFirst;
    private final WordConditions conditions;
    private final KnownWords known;
    private final PeopleSearch people;
    private final Targets targets;
    private final OwnFields fields;
    private final Clock clock;
    private final TicketStates states;

    Search(
            DSLContext sql,
            LatestFirst latestFirst,
            WordConditions conditions,
            KnownWords known,
            PeopleSearch people,
            Targets targets,
            OwnFields fields,
            Clock clock,
            TicketStates states) {
        this.latestFirst = latestFirst;
        this.conditions = conditions;
        this.known = known;
        this.people = people;
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
        List<String> meant = hits.isEmpty() ? known.meant(words) : words;
        if (!meant.equals(words)) {
            hits = hits(String.join(" ", meant), meant, limit, me);
        }
        String instead = meant.equals(words) || hits.isEmpty() ? "" : String.join(" ", meant);
        return new Found(asked, instead, hits, people.people(asked), people.companies(asked));
    }

    // ------------------------------------------------------------------ tickets and messages

    private List<Hit> hits(String asked, List<String> words, int most, Viewer me) {
        var found = new LinkedHashMap<TicketNumber, Hit>();
        byNumber(asked.strip(), me).ifPresent(hit -> found.put(hit.number(), hit));
        byField(asked, words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        byTag(asked, words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        bySubject(words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
        byResolution(words, most, me).forEach(hit -> found.putIfAbsent(hit.number(), hit));
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
                        TICKET.NUMBER.eq(new TicketNumber(Long.parseLong(asked.replace("#", "")))),
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
        List<TicketNumber> numbers = holding(
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
            List<TicketNumber> numbers = FieldConditions.stands(field, asked)
                    .map(has ->
                            holding(FieldConditions.column(field, TICKET.OWN, TICKET.OWN_FOLDED), has, most * 2, me))
                    .orElse(List.of());
            if (!numbers.isEmpty()) {
                Field<String> value = DSL.field("{0} ->> {1}", String.class, TICKET.OWN, DSL.val(field.key()));
                found.addAll(rows(TICKET.NUMBER.in(numbers), value, field.name(), words, most, me));
            }
        }
        return found;
    }

    /** The latest tickets in whose column something stands. */
    private <T> List<TicketNumber> holding(Field<T> column, Function<Field<T>, Condition> has, int most, Viewer me) {
        return latestFirst.keys(
                me.tickets(), TICKET.NUMBER, column, DSL.noCondition(), has, () -> has.apply(column), most);
    }

    private List<Hit> bySubject(List<String> words, int most, Viewer me) {
        List<TicketNumber> numbers =
                newest(me.tickets(), TICKET.NUMBER, TICKET.SUBJECT_WORDS, DSL.noCondition(), words, most * 2);
        return numbers.isEmpty()
                ? List.of()
                : rows(TICKET.NUMBER.in(numbers), TICKET.SUBJECT, "subject", words, most, me);
    }

    /** Tickets of which somebody wrote down so how they were resolved. */
    private List<Hit> byResolution(List<String> words, int most, Viewer me) {
        List<TicketNumber> numbers =
                newest(RESOLUTION, RESOLUTION.TICKET, RESOLUTION.WORDS, me.sees(RESOLUTION.TICKET), words, most * 2);
        if (numbers.isEmpty()) {
            return List.of();
        }
        Field<String> text = DSL.field(DSL.select(
                        DSL.concat(RESOLUTION.WAS, DSL.inline(" "), RESOLUTION.DONE, DSL.inline(" "), RESOLUTION.CAUSE))
                .from(RESOLUTION)
                .where(RESOLUTION.TICKET.eq(TICKET.NUMBER)));
        return rows(TICKET.NUMBER.in(numbers), text, "how it was resolved", words, most, me);
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
            TicketNumber number,
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
        List<MessageId> ids = newest(MESSAGE, MESSAGE.ID, kept, me.sees(MESSAGE.TICKET), words, most * 3);
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

    /** The latest rows that have the words, among those that may be seen. */
    private <K> List<K> newest(
            Table<?> table, Field<K> key, Field<String> field, Condition seen, List<String> words, int most) {
        return latestFirst.keys(
                table,
                key,
                field,
                seen,
                latest -> WordConditions.typed(latest, words),
                () -> byIndex(field, words),
                most);
    }

    private Condition byIndex(Field<String> field, List<String> words) {
        Condition has = conditions.has(field, words);
        return field.equals(MESSAGE.FOLDED_WORDS) ? has.and(field.ne(DSL.inline(""))) : has;
    }
}
