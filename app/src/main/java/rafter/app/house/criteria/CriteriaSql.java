package rafter.app.house.criteria;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_WATCHER;

import java.math.BigDecimal;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.LongFunction;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;

/**
 * Criteria as a condition on the ticket table. It says of each ticket what {@link rafter.core.criteria.Matching} says of its facts. Words
 * are looked for in the folded form that {@link Words} makes and the store keeps, so that there is one definition of a word.
 */
public final class CriteriaSql {

    private CriteriaSql() {}

    /**
     * The condition.
     *
     * @param criteria resolved ones: nothing in them is relative to who asks, or when
     */
    public static Condition condition(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) when parts.isEmpty() -> DSL.trueCondition();
            case Criteria.All(List<Criteria> parts) ->
                DSL.and(parts.stream().map(CriteriaSql::condition).toList());
            case Criteria.Any(List<Criteria> parts) when parts.isEmpty() -> DSL.falseCondition();
            case Criteria.Any(List<Criteria> parts) ->
                DSL.or(parts.stream().map(CriteriaSql::condition).toList());
            // What is not known does not match, so its opposite does; SQL alone would answer neither.
            case Criteria.Not(Criteria part) ->
                DSL.not(DSL.coalesce(DSL.field(condition(part)), DSL.inline(false))
                        .isTrue());
            case Criteria.Test test -> test(test);
            // No list asks a formula; whoever does matches nothing here.
            case Criteria.Expert expert -> DSL.falseCondition();
        };
    }

    private static Condition test(Criteria.Test test) {
        return switch (test.field()) {
            case KnownField field -> known(field, test);
            case OwnField field -> own(field, test);
        };
    }

    /** What a ticket or its customer has in an own field; blank when nothing. */
    public static Field<String> own(OwnField field) {
        return own(field, TICKET.OWN, CONTACT.OWN, COMPANY.OWN);
    }

    private static Field<String> own(
            OwnField field, Field<JSONB> ofTicket, Field<JSONB> ofContact, Field<JSONB> ofCompany) {
        Field<String> value = switch (field.bearer()) {
            case TICKET -> within(ofTicket, field);
            case CONTACT ->
                DSL.field(DSL.select(within(ofContact, field)).from(CONTACT).where(CONTACT.ID.eq(TICKET.CONTACT_ID)));
            case COMPANY -> company(within(ofCompany, field));
        };
        return DSL.coalesce(value, DSL.inline(""));
    }

    /** What a ticket or its customer has in an own field as it is compared, see {@link OwnField#compared}; blank when nothing. */
    private static Field<String> compared(OwnField field) {
        return own(field, TICKET.OWN_FOLDED, CONTACT.OWN_FOLDED, COMPANY.OWN_FOLDED);
    }

    /** The lines of a text; none of a blank one. */
    private static Field<String[]> lines(Field<String> text) {
        return DSL.field("string_to_array({0}, E'\\n')", String[].class, text);
    }

    private static Field<String> within(Field<JSONB> values, OwnField field) {
        return DSL.field("{0} ->> {1}", String.class, values, DSL.inline(field.key()));
    }

    private static Condition own(OwnField field, Criteria.Test test) {
        Field<String> value = own(field);
        return switch (field.kind()) {
            case CHOICE, TICK, PERSON, COMPANY -> text(test, value);
            case TEXT, LONG, LINK -> folded(test, compared(field));
            case SEVERAL, TREE -> tags(test, lines(compared(field)));
            case NUMBER ->
                ordered(
                        test,
                        DSL.nullif(value, DSL.inline("")).cast(SQLDataType.NUMERIC),
                        compared(test, field).map(BigDecimal::new).toList());
            case DATE ->
                ordered(
                        test,
                        DSL.nullif(value, DSL.inline("")),
                        compared(test, field).toList());
        };
    }

    /** What cannot be a value of the field is nothing to compare with. */
    private static Stream<String> compared(Criteria.Test test, OwnField field) {
        return test.values().stream().flatMap(v -> field.normalised(v).stream()).filter(v -> !v.isEmpty());
    }

    private static <T extends Comparable<T>> Condition ordered(Criteria.Test test, Field<T> field, List<T> wanted) {
        return switch (test.operator()) {
            case IS -> wanted.isEmpty() ? DSL.falseCondition() : field.in(wanted);
            case IS_NOT ->
                wanted.isEmpty() ? DSL.trueCondition() : field.isNull().or(field.notIn(wanted));
            case AT_LEAST, FROM ->
                wanted.isEmpty()
                        ? DSL.falseCondition()
                        : field.ge(
                                wanted.stream().min(Comparator.naturalOrder()).orElseThrow());
            case AT_MOST, UNTIL ->
                wanted.isEmpty()
                        ? DSL.falseCondition()
                        : field.le(
                                wanted.stream().max(Comparator.naturalOrder()).orElseThrow());
            case IS_SET -> field.isNotNull();
            case IS_EMPTY -> field.isNull();
            default -> DSL.falseCondition();
        };
    }

    private static Condition known(KnownField known, Criteria.Test test) {
        return switch (known) {
            // What is counted for rules, and what is asked of mail that is no ticket yet, no list asks.
            case CUSTOMER_MESSAGES,
                    OUR_MESSAGES,
                    REOPENINGS,
                    EARLIER_TICKETS,
                    SENDER,
                    SENDER_NAME,
                    SENDER_KNOWN,
                    RECIPIENT,
                    MAILBOX,
                    WRITTEN_BY,
                    HEADER,
                    MAIL_SIZE,
                    MAIL_FILES,
                    JUNK_SCORE,
                    OPEN_TICKETS -> DSL.falseCondition();
            case PLAN -> text(test, DSL.coalesce(company(COMPANY.PLAN), DSL.inline("")));
            case COMPANY ->
                id(
                        test,
                        CompanyId::new,
                        DSL.field(
                                DSL.select(CONTACT.COMPANY_ID).from(CONTACT).where(CONTACT.ID.eq(TICKET.CONTACT_ID))));
            case TEAM -> id(test, TeamId::new, TICKET.TEAM_ID);
            case OWNER -> id(test, PersonId::new, TICKET.OWNER_ID);
            case CHANNEL -> text(test, TICKET.CHANNEL);
            case TOPIC -> text(test, TICKET.TOPIC);
            case STATE -> text(test, TICKET.STATE);
            case TURN -> text(test, TICKET.TURN);
            case PRIORITY -> ranked(test, TICKET.PRIORITY);
            case TAGS -> tags(test, TICKET.TAGS);
            case WATCHERS -> tags(test, watchers());
            case HELPERS -> among(test, TICKET.HELPERS);
            case HELPING_TEAMS -> among(test, TICKET.HELPING_TEAMS);
            case OPEN_TASKS -> ordered(test, TICKET.TASKS_OPEN.cast(SQLDataType.NUMERIC), numbers(test));
            case TIME_SPENT -> ordered(test, TICKET.MINUTES.cast(SQLDataType.NUMERIC), numbers(test));
            case CAUSE -> text(test, TICKET.CAUSE);
            case RATING -> text(test, DSL.coalesce(TICKET.RATING, DSL.inline("")));
            case CONTACT_ADDRESS -> address(test);
            case CONTACT_NAME ->
                WordSql.words(
                        test,
                        found -> DSL.exists(DSL.selectOne()
                                .from(CONTACT)
                                .where(CONTACT.ID.eq(TICKET.CONTACT_ID))
                                .and(found.apply(CONTACT.NAME_WORDS))));
            case SUBJECT -> WordSql.words(test, found -> found.apply(TICKET.SUBJECT_WORDS));
            case FIRST_MESSAGE -> WordSql.words(test, CriteriaSql::inFirst);
            case ANY_MESSAGE ->
                WordSql.words(
                        test,
                        found -> DSL.exists(DSL.selectOne()
                                .from(MESSAGE)
                                .where(MESSAGE.TICKET.eq(TICKET.NUMBER))
                                .and(MESSAGE.KIND.ne(DSL.inline("AUTOMATIC")))
                                .and(found.apply(MESSAGE.WORDS))));
            case AGE -> TimeSql.elapsed(test, TICKET.OPENED_AT);
            case IN_TURN -> TimeSql.elapsed(test, TICKET.TURN_SINCE);
            case SINCE_CUSTOMER -> TimeSql.elapsed(test, TICKET.LAST_CUSTOMER_AT);
            case SINCE_BACK -> TimeSql.elapsed(test, TICKET.BROUGHT_BACK_AT);
            case COMES_BACK -> TimeSql.due(test, TICKET.BRING_BACK_AT);
            case NEXT_TARGET -> TimeSql.due(test, TICKET.NEXT_DUE);
            case FIRST_REPLY, NEXT_REPLY, RESOLUTION, PICK_UP, REGULAR_UPDATE -> TimeSql.clock(known, test);
        };
    }

    private static Field<String> company(Field<String> field) {
        return DSL.field(DSL.select(field)
                .from(CONTACT)
                .join(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(TICKET.CONTACT_ID)));
    }

    /** A field that is blank and never null when nothing is known. */
    private static Condition text(Criteria.Test test, Field<String> field) {
        List<Field<String>> wanted = values(test)
                .<Field<String>>map(v -> test.field() == KnownField.TURN ? DSL.inline(v) : DSL.val(v))
                .toList();
        return switch (test.operator()) {
            case IS -> wanted.isEmpty() ? DSL.falseCondition() : field.in(wanted);
            case IS_NOT -> wanted.isEmpty() ? DSL.trueCondition() : field.notIn(wanted);
            case IS_SET -> field.ne(DSL.inline(""));
            case IS_EMPTY -> field.eq(DSL.inline(""));
            default -> DSL.falseCondition();
        };
    }

    private static Stream<String> values(Criteria.Test test) {
        return test.values().stream().filter(v -> !v.isBlank());
    }

    private static <T extends Id> Condition id(Criteria.Test test, LongFunction<T> as, Field<T> field) {
        List<T> wanted = values(test).flatMap(v -> Id.read(v, as).stream()).toList();
        return switch (test.operator()) {
            case IS -> wanted.isEmpty() ? DSL.falseCondition() : field.in(wanted);
            case IS_NOT ->
                wanted.isEmpty() ? DSL.trueCondition() : field.isNull().or(field.notIn(wanted));
            case IS_SET -> field.isNotNull();
            case IS_EMPTY -> field.isNull();
            default -> DSL.falseCondition();
        };
    }

    private static Condition ranked(Criteria.Test test, Field<String> field) {
        List<String> wanted =
                values(test).filter(value -> Priority.of(value).isPresent()).toList();
        if (wanted.isEmpty()) {
            return test.operator() == Operator.IS_NOT ? DSL.trueCondition() : DSL.falseCondition();
        }
        return switch (test.operator()) {
            case IS -> field.in(wanted);
            case IS_NOT -> field.notIn(wanted);
            case AT_LEAST ->
                field.le(wanted.stream().max(Comparator.naturalOrder()).orElseThrow());
            case AT_MOST ->
                field.ge(wanted.stream().min(Comparator.naturalOrder()).orElseThrow());
            default -> DSL.falseCondition();
        };
    }

    /** The ids of those who watch a ticket. */
    private static Field<String[]> watchers() {
        return DSL.array(DSL.select(TICKET_WATCHER.PERSON_ID.cast(SQLDataType.CLOB))
                .from(TICKET_WATCHER)
                .where(TICKET_WATCHER.TICKET.eq(TICKET.NUMBER)));
    }

    private static List<BigDecimal> numbers(Criteria.Test test) {
        return test.values().stream().flatMap(v -> OwnField.number(v).stream()).toList();
    }

    /** As for tags; what has none is left out by its index. */
    private static Condition among(Criteria.Test test, Field<String[]> has) {
        return test.operator() == Operator.HAS_ANY
                ? DSL.condition("{0} <> '{}'", has).and(tags(test, has))
                : tags(test, has);
    }

    private static Condition tags(Criteria.Test test, Field<String[]> has) {
        Field<String[]> wanted = DSL.val(
                values(test)
                        .map(value -> value.strip().toLowerCase(Locale.ROOT))
                        .toArray(String[]::new),
                TICKET.TAGS.getDataType());
        return switch (test.operator()) {
            case HAS_ANY -> DSL.condition("{0} && {1}", has, wanted);
            case HAS_ALL -> DSL.condition("{0} @> {1}", has, wanted);
            case HAS_NONE -> DSL.not(DSL.condition("{0} && {1}", has, wanted));
            case IS_SET -> DSL.cardinality(has).gt(0);
            case IS_EMPTY -> DSL.cardinality(has).eq(0);
            default -> DSL.falseCondition();
        };
    }

    /** Any of the contact's addresses. */
    private static Condition address(Criteria.Test test) {
        return switch (test.operator()) {
            case IS -> anyAddress(test, CONTACT_ADDRESS.FOLDED::eq);
            case IS_NOT -> DSL.not(anyAddress(test, CONTACT_ADDRESS.FOLDED::eq));
            case BEGINS_WITH -> anyAddress(test, CONTACT_ADDRESS.FOLDED::startsWith);
            case ENDS_WITH -> anyAddress(test, CONTACT_ADDRESS.FOLDED::endsWith);
            case IS_SET -> addresses(DSL.trueCondition());
            case IS_EMPTY -> DSL.not(addresses(DSL.trueCondition()));
            default -> DSL.falseCondition();
        };
    }

    private static Condition anyAddress(Criteria.Test test, Function<String, Condition> like) {
        return addresses(DSL.or(WordSql.each(values(test).map(Words::fold).toList(), like)));
    }

    private static Condition addresses(Condition which) {
        return DSL.exists(DSL.selectOne()
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(TICKET.CONTACT_ID))
                .and(which));
    }

    /** A field whose letter case and accents are folded, blank when nothing is known. */
    private static Condition folded(Criteria.Test test, Field<String> first) {
        List<String> wanted = values(test).map(Words::fold).toList();
        return switch (test.operator()) {
            case IS -> wanted.isEmpty() ? DSL.falseCondition() : first.in(wanted);
            case IS_NOT -> wanted.isEmpty() ? DSL.trueCondition() : first.notIn(wanted);
            case BEGINS_WITH -> DSL.or(WordSql.each(wanted, first::startsWith));
            case ENDS_WITH -> DSL.or(WordSql.each(wanted, first::endsWith));
            case IS_SET -> first.ne(DSL.inline(""));
            case IS_EMPTY -> first.eq(DSL.inline(""));
            default -> DSL.falseCondition();
        };
    }

    private static Condition inFirst(Function<Field<String>, Condition> found) {
        var earlier = MESSAGE.as("earlier");
        return DSL.exists(DSL.selectOne()
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .and(MESSAGE.SEQ.eq(
                        DSL.select(DSL.min(earlier.SEQ)).from(earlier).where(earlier.TICKET.eq(TICKET.NUMBER))))
                .and(found.apply(MESSAGE.WORDS)));
    }
}
