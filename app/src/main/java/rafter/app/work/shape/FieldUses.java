package rafter.app.work.shape;

import static rafter.database.Tables.TICKET;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.AddedField;
import rafter.app.house.forms.FieldRules;
import rafter.app.house.forms.FormStore;
import rafter.core.criteria.Criteria;
import rafter.core.id.TicketNumber;

/** Where own fields are used. */
@Component
class FieldUses {

    /**
     * What a field is used by.
     *
     * @param tickets how many tickets have something in it
     * @param values how many have each of its choices, for a field of one or several choices; gone ones among them
     * @param views the titles of lists that ask about it
     * @param macros the names of macros that fill it
     * @param forms the names of forms that ask for it or about it
     * @param rules how many rules of fields are about it or ask about it
     */
    public record Uses(
            int tickets,
            Map<String, Integer> values,
            List<String> views,
            List<String> macros,
            List<String> forms,
            int rules) {}

    private final DSLContext sql;
    private final Naming naming;
    private final FormStore forms;
    private final FieldRules rules;

    FieldUses(DSLContext sql, Naming naming, FormStore forms, FieldRules rules) {
        this.sql = sql;
        this.naming = naming;
        this.forms = forms;
        this.rules = rules;
    }

    Uses of(AddedField field, Viewer me) {
        return new Uses(
                sql.fetchCount(DSL.selectOne().from(me.tickets()).where(filled(field))),
                field.field().kind().hasChoices() ? values(field, me) : Map.of(),
                naming.views(field.key()),
                naming.macros(field.key()),
                forms.all().stream()
                        .map(FormStore.Kept::form)
                        .filter(form -> asks(form.when(), field)
                                || form.sections().stream()
                                        .anyMatch(section -> section.fields()
                                                .contains(field.field().id())))
                        .map(form -> form.name())
                        .toList(),
                (int) rules.all().stream()
                        .map(FieldRules.Kept::rule)
                        .filter(rule -> rule.field() == field.field().id() || asks(rule.when(), field))
                        .count());
    }

    private static boolean asks(Criteria criteria, AddedField field) {
        return Criteria.asked(criteria).contains(field.field());
    }

    private static Field<String> value(AddedField field) {
        return DSL.field("{0} ->> {1}", String.class, TICKET.OWN, DSL.inline(field.key()));
    }

    /** Those with something in it; the first part is what an index answers. */
    private static Condition filled(AddedField field) {
        return DSL.condition("{0} <> '{}'", TICKET.OWN).and(value(field).isNotNull());
    }

    private Map<String, Integer> values(AddedField field, Viewer me) {
        var count = DSL.count();
        var counts = new TreeMap<String, Integer>();
        sql.select(value(field), count)
                .from(me.tickets())
                .where(filled(field))
                .groupBy(value(field))
                .forEach(row ->
                        field.values(row.value1()).forEach(one -> counts.merge(one, row.value2(), Integer::sum)));
        return counts;
    }

    /** The tickets with something in it, as far as a batch takes them. */
    List<TicketNumber> tickets(AddedField field, int most, Viewer me) {
        return numbers(filled(field), most, me);
    }

    /** The tickets with exactly this in it, as far as a batch takes them. */
    List<TicketNumber> tickets(AddedField field, String value, int most, Viewer me) {
        return numbers(filled(field).and(value(field).eq(value)), most, me);
    }

    private List<TicketNumber> numbers(Condition which, int most, Viewer me) {
        return Arrays.asList(sql.select(TICKET.NUMBER)
                .from(me.tickets())
                .where(which)
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetchArray(TICKET.NUMBER));
    }
}
