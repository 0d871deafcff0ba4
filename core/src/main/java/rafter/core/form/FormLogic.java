package rafter.core.form;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Matching;
import rafter.core.criteria.OwnField;

/**
 * Tells what a ticket asks for. What stands in a field counts for the rules whether it is shown or not, so that a rule never depends on
 * another rule and the order of rules makes no difference. Its cost is one matching of each form and each rule.
 */
public final class FormLogic {

    /**
     * A field that can be asked for.
     *
     * @param choices what it offers; empty when it takes anything
     */
    public record Field(OwnField field, List<String> choices) {

        public Field {
            choices = List.copyOf(choices);
        }
    }

    /**
     * A field that is asked for.
     *
     * @param required whether it must be filled before the ticket ends
     * @param choices what it offers here
     */
    public record Asked(OwnField field, boolean required, List<String> choices) {}

    /** Fields that stand together; the name may be blank. */
    public record Part(String name, List<Asked> fields) {}

    private final List<TicketForm> forms;
    private final Map<Long, List<FieldRule>> rules = new HashMap<>();
    private final Map<Long, Field> fields = new HashMap<>();
    private final List<Long> order;

    /**
     * The logic of a workspace.
     *
     * @param forms the first that a ticket matches is its form; a ticket that matches none is asked for every field
     * @param fields all that are in use, in order; rules and forms may name others, which count as not there
     */
    public FormLogic(List<TicketForm> forms, List<FieldRule> rules, List<Field> fields) {
        this.forms = List.copyOf(forms);
        rules.forEach(rule -> this.rules.merge(
                rule.field(),
                List.of(rule),
                (some, more) -> Stream.concat(some.stream(), more.stream()).toList()));
        fields.forEach(field -> this.fields.put(field.field().id(), field));
        this.order = fields.stream().map(field -> field.field().id()).toList();
    }

    /** The form of a ticket, if it has one. */
    public Optional<TicketForm> form(Facts facts) {
        return forms.stream()
                .filter(form -> Matching.matches(form.when(), facts))
                .findFirst();
    }

    /** What a ticket asks for, in order; sections in which nothing is asked for are left out. */
    public List<Part> parts(Facts facts) {
        List<TicketForm.Section> sections =
                form(facts).map(TicketForm::sections).orElse(List.of(new TicketForm.Section("", order)));
        return sections.stream()
                .map(section -> new Part(
                        section.name(),
                        section.fields().stream()
                                .flatMap(field -> Optional.ofNullable(fields.get(field)).stream())
                                .flatMap(field -> asked(field, facts).stream())
                                .toList()))
                .filter(part -> !part.fields().isEmpty())
                .toList();
    }

    /** A field as a ticket is asked for it; nothing when it is not. */
    private Optional<Asked> asked(Field field, Facts facts) {
        long id = field.field().id();
        if (has(id, FieldRule.Effect.SHOW) && !holds(id, FieldRule.Effect.SHOW, facts)) {
            return Optional.empty();
        }
        return Optional.of(new Asked(field.field(), holds(id, FieldRule.Effect.REQUIRE, facts), offered(field, facts)));
    }

    private Stream<FieldRule> of(long field, FieldRule.Effect effect) {
        return rules.getOrDefault(field, List.of()).stream().filter(rule -> rule.effect() == effect);
    }

    private boolean has(long field, FieldRule.Effect effect) {
        return of(field, effect).findAny().isPresent();
    }

    private boolean holds(long field, FieldRule.Effect effect, Facts facts) {
        return of(field, effect).anyMatch(rule -> Matching.matches(rule.when(), facts));
    }

    /** What any of the rules that match offers; everything when none matches. Choices that are gone are not offered. */
    private List<String> offered(Field field, Facts facts) {
        Set<String> offered = new LinkedHashSet<>();
        of(field.field().id(), FieldRule.Effect.NARROW)
                .filter(rule -> Matching.matches(rule.when(), facts))
                .forEach(rule -> offered.addAll(rule.choices()));
        return offered.isEmpty()
                ? field.choices()
                : field.choices().stream().filter(offered::contains).toList();
    }

    /** Whether any field may have to be filled at all. */
    public boolean requiresAny() {
        return rules.values().stream()
                .flatMap(List::stream)
                .anyMatch(rule -> rule.effect() == FieldRule.Effect.REQUIRE);
    }

    /** The fields that must be filled and are not, in order. */
    public List<OwnField> missing(Facts facts) {
        return parts(facts).stream()
                .flatMap(part -> part.fields().stream())
                .filter(Asked::required)
                .map(Asked::field)
                .filter(field -> facts.of(field) instanceof Fact.Nothing)
                .toList();
    }
}
