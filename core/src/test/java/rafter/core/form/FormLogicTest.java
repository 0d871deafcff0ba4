package rafter.core.form;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;

class FormLogicTest {

    private static final OwnField BOOKING = new OwnField(1, OwnField.Kind.TEXT);
    private static final OwnField VEHICLE = new OwnField(2, OwnField.Kind.CHOICE);
    private static final OwnField METRES = new OwnField(3, OwnField.Kind.NUMBER);

    private static final List<FormLogic.Field> FIELDS = List.of(
            new FormLogic.Field(BOOKING, List.of()),
            new FormLogic.Field(VEHICLE, List.of("Car", "Lorry", "Bicycle")),
            new FormLogic.Field(METRES, List.of()));

    private static final Facts FREIGHT = Facts.none().with(KnownField.TOPIC, "freight");

    private static FieldRule rule(OwnField field, FieldRule.Effect effect, Criteria when, String... choices) {
        return new FieldRule(field.id(), effect, List.of(choices), when);
    }

    private static Criteria topic(String topic) {
        return test(KnownField.TOPIC, Operator.IS, topic);
    }

    private static List<Long> asked(FormLogic logic, Facts facts) {
        return logic.parts(facts).stream()
                .flatMap(part -> part.fields().stream())
                .map(asked -> asked.field().id())
                .toList();
    }

    @Test
    void a_ticket_without_a_form_is_asked_for_every_field_in_order() {
        var logic = new FormLogic(List.of(), List.of(), FIELDS);
        assertThat(asked(logic, FREIGHT)).containsExactly(1L, 2L, 3L);
        assertThat(logic.missing(FREIGHT)).isEmpty();
    }

    @Test
    void the_first_form_that_a_ticket_matches_is_its_form() {
        var freight = new TicketForm(
                "Freight",
                topic("freight"),
                List.of(new TicketForm.Section("Load", List.of(3L, 2L)), new TicketForm.Section("Trip", List.of(1L))));
        var all = new TicketForm("All", Criteria.everything(), List.of(new TicketForm.Section("", List.of(1L))));
        var logic = new FormLogic(List.of(freight, all), List.of(), FIELDS);
        assertThat(logic.parts(FREIGHT)).extracting(FormLogic.Part::name).containsExactly("Load", "Trip");
        assertThat(asked(logic, FREIGHT)).containsExactly(3L, 2L, 1L);
        assertThat(asked(logic, Facts.none())).containsExactly(1L);
    }

    @Test
    void a_field_of_a_form_that_is_gone_is_left_out_and_so_is_a_section_without_fields() {
        var form = new TicketForm(
                "F",
                Criteria.everything(),
                List.of(new TicketForm.Section("Gone", List.of(9L)), new TicketForm.Section("Trip", List.of(9L, 1L))));
        assertThat(new FormLogic(List.of(form), List.of(), FIELDS).parts(FREIGHT))
                .extracting(FormLogic.Part::name)
                .containsExactly("Trip");
    }

    @Test
    void a_field_with_a_rule_to_be_shown_is_shown_only_where_one_matches() {
        var rules = List.of(
                rule(METRES, FieldRule.Effect.SHOW, test(VEHICLE, Operator.IS, "Lorry")),
                rule(METRES, FieldRule.Effect.SHOW, topic("freight")));
        var logic = new FormLogic(List.of(), rules, FIELDS);
        assertThat(asked(logic, Facts.none())).containsExactly(1L, 2L);
        assertThat(asked(logic, Facts.none().with(VEHICLE, "Lorry"))).contains(3L);
        assertThat(asked(logic, FREIGHT)).contains(3L);
    }

    @Test
    void what_must_be_filled_is_missing_until_it_is_and_only_where_it_is_shown() {
        var rules = List.of(
                rule(METRES, FieldRule.Effect.REQUIRE, Criteria.everything()),
                rule(METRES, FieldRule.Effect.SHOW, topic("freight")));
        var logic = new FormLogic(List.of(), rules, FIELDS);
        assertThat(logic.requiresAny()).isTrue();
        assertThat(logic.missing(FREIGHT)).containsExactly(METRES);
        assertThat(logic.missing(FREIGHT.with(METRES, "0"))).isEmpty();
        assertThat(logic.missing(Facts.none())).isEmpty();
    }

    @Test
    void choices_are_narrowed_to_what_any_matching_rule_offers_in_the_order_of_the_field() {
        var rules = List.of(
                rule(VEHICLE, FieldRule.Effect.NARROW, topic("freight"), "Lorry", "Gone"),
                rule(VEHICLE, FieldRule.Effect.NARROW, Criteria.everything(), "Car"),
                rule(VEHICLE, FieldRule.Effect.NARROW, topic("walkers"), "Bicycle"));
        var logic = new FormLogic(List.of(), rules, FIELDS);
        assertThat(vehicles(logic, FREIGHT)).containsExactly("Car", "Lorry");
        assertThat(vehicles(logic, Facts.none())).containsExactly("Car");
        assertThat(vehicles(new FormLogic(List.of(), List.of(), FIELDS), FREIGHT))
                .containsExactly("Car", "Lorry", "Bicycle");
    }

    private static List<String> vehicles(FormLogic logic, Facts facts) {
        return logic.parts(facts).stream()
                .flatMap(part -> part.fields().stream())
                .filter(asked -> asked.field().equals(VEHICLE))
                .findFirst()
                .orElseThrow()
                .choices();
    }

    /** The law: in which order rules were written down makes no difference to anything that is asked. */
    @RepeatedTest(50)
    void the_order_of_rules_makes_no_difference(RepetitionInfo repetition) {
        var random = new Random(repetition.getCurrentRepetition());
        List<OwnField> fields = List.of(BOOKING, VEHICLE, METRES);
        List<Criteria> whens = List.of(
                Criteria.everything(),
                topic("freight"),
                test(VEHICLE, Operator.IS, "Lorry"),
                test(BOOKING, Operator.IS_EMPTY));
        List<FieldRule> rules = IntStream.range(0, 6)
                .mapToObj(i -> rule(
                        fields.get(random.nextInt(3)),
                        FieldRule.Effect.values()[random.nextInt(3)],
                        whens.get(random.nextInt(4)),
                        random.nextBoolean() ? "Car" : "Lorry"))
                .toList();
        Facts facts =
                random.nextBoolean() ? FREIGHT : FREIGHT.with(VEHICLE, "Lorry").with(BOOKING, "KP-1");
        var one = new FormLogic(List.of(), rules, FIELDS);
        var other = new FormLogic(List.of(), rules.reversed(), FIELDS);
        assertThat(one.parts(facts)).isEqualTo(other.parts(facts));
        assertThat(one.missing(facts)).isEqualTo(other.missing(facts));
    }
}
