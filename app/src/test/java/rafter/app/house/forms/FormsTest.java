package rafter.app.house.forms;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.unique;
import static rafter.core.criteria.Criteria.test;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldSetup;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.form.FieldRule;
import rafter.core.form.TicketForm;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;

/** Forms and the rules of fields: what a ticket is asked for, what it must have before it ends, and what it is offered. */
@ExtendWith(RunningApp.class)
class FormsTest extends Browsing {

    private final FormStore store = bean(FormStore.class);
    private final FieldRules rules = bean(FieldRules.class);
    private final Acts acts = bean(Acts.class);
    private final String topic = "freight " + unique();
    private final Criteria freight = test(KnownField.TOPIC, Operator.IS, topic);
    private final AddedField metres = field("Metres", OwnField.Kind.NUMBER, "", "");
    private final AddedField vehicle = field("Vehicle", OwnField.Kind.CHOICE, "Car\nLorry\nBicycle", "");
    private final AddedField insured = field("Insured", OwnField.Kind.TICK, "", "");
    private final TicketNumber number = mailed();

    private AddedField field(String name, OwnField.Kind kind, String choices, String preset) {
        var setup = new FieldSetup.Typed(name + " " + unique(), choices, "Said beside it", preset);
        return RunningApp.field(OwnField.Bearer.TICKET, kind, setup);
    }

    private static TicketNumber mailed() {
        int one = unique();
        String raw = "From: Q <q@forms" + one + ".example>\nMessage-ID: <fo" + one
                + "@post.example>\nSubject: Form\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    @AfterEach
    void nothing_is_asked_any_more() {
        store.all().forEach(one -> store.remove(one.id(), ravi().id()));
        rules.all().forEach(one -> rules.remove(one.id(), ravi().id()));
        List.of(metres, vehicle, insured).forEach(one -> bean(FieldSetup.class).hide(one, ravi().id()));
    }

    private void rule(AddedField field, FieldRule.Effect effect, Criteria when, String... choices) {
        rules.save(0, new FieldRule(field.field().id(), effect, List.of(choices), when), 0, ravi().id());
    }

    private String asked() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        return get("/tickets/" + number + "/choose/about").body();
    }

    @Test
    void a_ticket_is_asked_by_the_form_of_its_topic_in_its_sections() throws Exception {
        var form = new TicketForm(
                "Freight",
                freight,
                List.of(
                        new TicketForm.Section(
                                "Load <b>", List.of(metres.field().id())),
                        new TicketForm.Section("Trip", List.of(vehicle.field().id()))));
        store.save(0, form, 0, ravi().id());
        assertThat(asked()).contains(insured.name()).doesNotContain("Trip</h3>");
        acts.perform(number, new Act.SetTopic(topic), imani());
        assertThat(asked())
                .containsSubsequence("Load &lt;b&gt;</h3>", metres.name(), "Trip</h3>", vehicle.name())
                .contains("Said beside it")
                .doesNotContain(insured.name());
    }

    @Test
    void what_is_typed_shows_further_fields_before_it_is_saved() throws Exception {
        rule(metres, FieldRule.Effect.SHOW, test(vehicle.field(), Operator.IS, "Lorry"));
        assertThat(asked()).doesNotContain(metres.name());
        String token = token(get("/tickets/" + number));
        String page = "/tickets/" + number + "/about/fields";
        assertThat(post(page, token, vehicle.key(), "Lorry").body()).contains(metres.name());
        assertThat(post(page, token, vehicle.key(), "Car").body()).doesNotContain(metres.name());
        assertThat(bean(Tickets.class).find(number, imani()).orElseThrow().own())
                .isEmpty();
    }

    @Test
    void a_ticket_does_not_end_without_what_it_must_have() {
        rule(metres, FieldRule.Effect.REQUIRE, freight);
        rule(insured, FieldRule.Effect.REQUIRE, freight);
        acts.perform(number, new Act.SetTopic(topic), imani());
        acts.perform(number, new Act.MoveTo("in-hand"), imani());
        assertThatThrownBy(() -> acts.perform(number, new Act.MoveTo("resolved"), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("Before it ends, fill “" + metres.name() + "”, “" + insured.name() + "”, beside");
        assertThatThrownBy(() -> acts.perform(number, new Act.Answer("It is done", Turn.NOBODY), imani()))
                .as("nor by an answer that resolves it")
                .hasMessageContaining("Before it ends, fill");
        acts.perform(number, new Act.Fill(metres.key(), "0"), imani());
        acts.perform(number, new Act.Fill(insured.key(), "yes"), imani());
        acts.perform(number, new Act.MoveTo("resolved"), imani());
        // What is over already may go on to be closed, whatever a later rule wants.
        acts.perform(number, new Act.Fill(metres.key(), ""), imani());
        acts.perform(number, new Act.MoveTo("closed"), imani());
    }

    @Test
    void a_choice_that_is_not_offered_for_this_ticket_is_refused_and_what_stands_there_stays() throws Exception {
        acts.perform(number, new Act.Fill(vehicle.key(), "Bicycle"), imani());
        rule(vehicle, FieldRule.Effect.NARROW, freight, "Lorry");
        acts.perform(number, new Act.SetTopic(topic), imani());
        assertThat(asked()).contains("Bicycle (not offered any more)").doesNotContain(">Car<");
        String token = token(get("/tickets/" + number));
        String about = "/tickets/" + number + "/about";
        assertThat(post(about, token, "topic", topic, vehicle.key(), "Car", "was-" + vehicle.key(), "Bicycle")
                        .body())
                .contains("is not offered for this ticket");
        post(about, token, "topic", topic, vehicle.key(), "Bicycle", "was-" + vehicle.key(), "Bicycle");
        assertThat(bean(Tickets.class).find(number, imani()).orElseThrow().own())
                .containsEntry(vehicle.key(), "Bicycle");
    }

    @Test
    void a_new_ticket_begins_with_what_its_fields_begin_with_where_they_are_asked_for() {
        AddedField deck = field("Deck", OwnField.Kind.CHOICE, "Car deck\nHold", "Hold");
        AddedField hidden = field("Hidden", OwnField.Kind.TEXT, "", "never");
        rule(hidden, FieldRule.Effect.SHOW, freight);
        TicketNumber begun = mailed();
        assertThat(bean(Tickets.class).find(begun, imani()).orElseThrow().own()).isEqualTo(Map.of(deck.key(), "Hold"));
        bean(FieldSetup.class).hide(deck, ravi().id());
        bean(FieldSetup.class).hide(hidden, ravi().id());
    }

    @Test
    void what_was_typed_into_a_field_that_was_taken_out_of_use_meanwhile_is_named() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/tickets/" + number));
        bean(FieldSetup.class).hide(metres, ravi().id());
        String about = "/tickets/" + number + "/about";
        String answer = get(post(
                                about,
                                token,
                                "topic",
                                "lost",
                                metres.key(),
                                "12.5",
                                "was-" + metres.key(),
                                "",
                                vehicle.key(),
                                "Car")
                        .uri()
                        .getPath())
                .body();
        assertThat(answer).contains("Car");
        assertThat(bean(Tickets.class)
                        .changeAbout(
                                number,
                                new Tickets.About("lost", java.util.Set.of(), Map.of(metres.key(), "12.5")),
                                new Tickets.About("lost", java.util.Set.of(), Map.of()),
                                imani()))
                .contains(metres.name())
                .contains("“12.5” was not saved");
    }

    @Test
    void forms_are_arranged_on_their_page_and_refused_with_what_was_typed() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/forms"));
        String save = "/house-rules/forms/save";
        String added = post(
                        save,
                        token,
                        "name",
                        "My form",
                        "n.0.kind",
                        "all",
                        "act",
                        "field:" + metres.field().id())
                .body();
        assertThat(added)
                .contains("value=\"My form\"")
                .contains("f:" + metres.field().id());
        String moved = post(
                        save,
                        token,
                        "name",
                        "My form",
                        "n.0.kind",
                        "all",
                        "item",
                        "f:" + metres.field().id(),
                        "item",
                        "f:" + vehicle.field().id(),
                        "act",
                        "up:1")
                .body();
        assertThat(moved)
                .containsSubsequence(
                        "f:" + vehicle.field().id(), "f:" + metres.field().id());
        assertThat(post(save, token, "name", "My form", "n.0.kind", "all").body())
                .contains("asks for at least one field")
                .contains("value=\"My form\"");
        post(
                save,
                token,
                "name",
                "My form",
                "n.0.kind",
                "all",
                "item",
                "s:",
                "head",
                "Load",
                "item",
                "f:" + metres.field().id());
        assertThat(get("/house-rules/forms").body()).contains("Load: " + metres.name());
        FormStore.Kept kept = store.all().getFirst();
        store.save(kept.id(), kept.form(), kept.version(), ravi().id());
        assertThatThrownBy(() -> store.save(kept.id(), kept.form(), kept.version(), ravi().id()))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> store.save(0, kept.form(), 0, ravi().id()))
                .hasMessageContaining("of that name already");
        assertThatThrownBy(() -> store.save(0, kept.form(), 0, imani().id())).isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void rules_that_say_nothing_or_cannot_be_are_refused() throws Exception {
        assertThatThrownBy(() -> rule(metres, FieldRule.Effect.SHOW, Criteria.everything()))
                .hasMessageContaining("Say when it is shown");
        assertThatThrownBy(() -> rule(metres, FieldRule.Effect.NARROW, freight, "1"))
                .hasMessageContaining("no choices that could be fewer");
        assertThatThrownBy(() -> rule(vehicle, FieldRule.Effect.NARROW, freight, "Ship"))
                .hasMessageContaining("Choose what");
        assertThatThrownBy(() -> rule(metres, FieldRule.Effect.SHOW, test(KnownField.AGE, Operator.AT_LEAST, "2 d")))
                .hasMessageContaining("Forms cannot ask about");
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/forms"));
        String shown = post(
                        "/house-rules/forms/rules/save",
                        token,
                        "field",
                        "" + vehicle.field().id(),
                        "effect",
                        "NARROW",
                        "act",
                        "shape")
                .body();
        assertThat(shown).contains("It offers then").contains("Bicycle");
    }
}
