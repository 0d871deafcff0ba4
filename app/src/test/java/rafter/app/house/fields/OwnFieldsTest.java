package rafter.app.house.fields;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;

@ExtendWith(RunningApp.class)
class OwnFieldsTest extends Browsing {

    private final OwnFields fields = bean(OwnFields.class);
    private final FieldSetup setup = bean(FieldSetup.class);
    private final Tickets tickets = bean(Tickets.class);

    private AddedField field(OwnField.Kind kind, String choices) {
        return RunningApp.field(OwnField.Bearer.TICKET, kind, "Field " + unique(), choices);
    }

    private static TicketNumber ticket() {
        int n = unique();
        String raw = "From: f" + n + "@post.example\nMessage-ID: <f" + n + "@post.example>\nSubject: Fields " + n
                + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Map<String, String> own(TicketNumber number) {
        return tickets.find(number, odile()).orElseThrow().own();
    }

    @Test
    void what_is_typed_is_kept_in_one_way_of_writing() {
        AddedField metres = field(OwnField.Kind.NUMBER, "");
        AddedField sailing = field(OwnField.Kind.DATE, "");
        AddedField booking = field(OwnField.Kind.TEXT, "");
        TicketNumber number = ticket();
        RunningApp.fill(
                number,
                Map.of(metres.key(), " 14.50 ", sailing.key(), "2027-03-04", booking.key(), " BK 4471 "),
                imani());
        assertThat(own(number))
                .containsEntry(metres.key(), "14.5")
                .containsEntry(sailing.key(), "2027-03-04")
                .containsEntry(booking.key(), "BK 4471");
        RunningApp.fill(number, Map.of(metres.key(), ""), imani());
        assertThat(own(number)).doesNotContainKey(metres.key()).containsKey(booking.key());
    }

    @Test
    void what_does_not_fit_is_refused_and_nothing_of_the_form_is_saved() {
        AddedField metres = field(OwnField.Kind.NUMBER, "");
        AddedField deck = field(OwnField.Kind.CHOICE, "Upper\nLower");
        TicketNumber number = ticket();
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(deck.key(), "Upper", metres.key(), "long"), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("“long” cannot stand in")
                .hasMessageContaining("a number");
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(deck.key(), "Middle"), imani()))
                .hasMessageContaining("Middle");
        assertThat(own(number)).isEmpty();
    }

    @Test
    void a_choice_that_is_taken_away_stays_where_it_is() {
        AddedField deck = field(OwnField.Kind.CHOICE, "Upper\nLower");
        TicketNumber number = ticket();
        RunningApp.fill(number, Map.of(deck.key(), "Lower"), imani());
        setup.change(
                deck,
                new FieldSetup.Typed(deck.name(), "Upper\nCar deck", "", ""),
                true,
                deck.position(),
                RunningApp.ravi().id());
        RunningApp.fill(number, Map.of(deck.key(), "Lower"), imani());
        assertThat(own(number)).containsEntry(deck.key(), "Lower");
        assertThatThrownBy(() -> RunningApp.fill(ticket(), Map.of(deck.key(), "Lower"), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void a_field_that_is_hidden_keeps_what_tickets_have_in_it() {
        AddedField booking = field(OwnField.Kind.TEXT, "");
        TicketNumber number = ticket();
        RunningApp.fill(number, Map.of(booking.key(), "BK 1"), imani());
        setup.change(
                booking,
                new FieldSetup.Typed(booking.name(), "", "", ""),
                false,
                booking.position(),
                RunningApp.ravi().id());
        assertThat(fields.shown(OwnField.Bearer.TICKET)).noneMatch(f -> f.key().equals(booking.key()));
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(booking.key(), "BK 2"), imani()))
                .hasMessageContaining("a field that is gone");
        assertThat(own(number)).containsEntry(booking.key(), "BK 1");
    }

    @Test
    void names_are_needed_and_unlike_and_choices_are_several() {
        AddedField booking = field(OwnField.Kind.TEXT, "");
        assertThatThrownBy(() -> setup.add(
                        new FieldSetup.Typed(" ", "", "", ""),
                        OwnField.Bearer.TICKET,
                        OwnField.Kind.TEXT,
                        RunningApp.ravi().id()))
                .hasMessageContaining("has a name");
        assertThatThrownBy(() -> setup.add(
                        new FieldSetup.Typed(booking.name().toUpperCase(java.util.Locale.ROOT), "", "", ""),
                        OwnField.Bearer.TICKET,
                        OwnField.Kind.TEXT,
                        RunningApp.ravi().id()))
                .hasMessageContaining("already");
        assertThatThrownBy(() -> setup.add(
                        new FieldSetup.Typed("Deck " + unique(), "Upper\n\nUpper", "", ""),
                        OwnField.Bearer.TICKET,
                        OwnField.Kind.CHOICE,
                        RunningApp.ravi().id()))
                .hasMessageContaining("at least two");
        setup.change(
                booking,
                new FieldSetup.Typed("Renamed " + unique(), "", "", ""),
                true,
                3,
                RunningApp.ravi().id());
        assertThatThrownBy(() -> setup.change(
                        booking,
                        new FieldSetup.Typed("Stale " + unique(), "", "", ""),
                        true,
                        3,
                        RunningApp.ravi().id()))
                .isInstanceOf(Problem.Stale.class);
    }

    @Test
    void an_administrator_adds_one_and_agents_fill_order_and_ask_it() throws Exception {
        String name = "Lorry " + unique();
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/fields"));
        assertThat(post(
                                "/house-rules/fields/save",
                                token,
                                "id",
                                "0",
                                "name",
                                "",
                                "of",
                                "TICKET",
                                "kind",
                                "number",
                                "choices",
                                "",
                                "position",
                                "0",
                                "version",
                                "0")
                        .body())
                .contains("has a name of at most");
        assertThat(post(
                                "/house-rules/fields/save",
                                token,
                                "id",
                                "0",
                                "name",
                                name,
                                "of",
                                "TICKET",
                                "kind",
                                "number",
                                "choices",
                                "",
                                "position",
                                "0",
                                "version",
                                "0")
                        .body())
                .contains(name + " is saved", "a number");
        AddedField lorry = fields.all().getLast();
        TicketNumber number = ticket();
        assertThat(get("/tickets/" + number + "/choose/about").body()).contains(name, "name=\"" + lorry.key() + "\"");
        assertThat(post(
                                "/tickets/" + number + "/about",
                                token,
                                "topic",
                                "freight slots",
                                "tags",
                                "",
                                lorry.key(),
                                "wide")
                        .body())
                .contains("cannot stand in");
        assertThat(tickets.find(number, odile()).orElseThrow().topic())
                .as("nothing is saved by halves")
                .isEmpty();
        assertThat(post(
                                "/tickets/" + number + "/about",
                                token,
                                "topic",
                                "freight slots",
                                "tags",
                                "",
                                lorry.key(),
                                "16.5")
                        .body())
                .contains("set " + name + " to 16.5");
        String grid = get("/worklist?view=open&shape=grid&cols=number," + lorry.key() + "&sort=-" + lorry.key())
                .body();
        assertThat(grid).contains(name, ">16.5</a>").contains("aria-sort=\"descending\"");
        String asked = get("/worklist?view=open&q=%7B%22field%22%3A%22" + lorry.key()
                        + "%22%2C%22at-least%22%3A%5B%2216%22%5D%2C%22version%22%3A1%7D")
                .body();
        assertThat(asked).contains(name + " is at least 16", "/tickets/" + number);
        assertThat(get("/worklist/sentence?view=open").body()).contains("Add a part");
    }

    @Test
    void people_and_companies_are_named_and_kept_by_number() {
        AddedField person = field(OwnField.Kind.PERSON, "");
        AddedField company = field(OwnField.Kind.COMPANY, "");
        TicketNumber number = ticket();
        RunningApp.fill(number, Map.of(person.key(), "imani OKORO", company.key(), "brightwater produce"), imani());
        assertThat(own(number)).containsEntry(person.key(), imani().id().toString());
        assertThat(fields.said(own(number)))
                .containsEntry(person.key(), "Imani Okoro")
                .containsEntry(company.key(), "Brightwater Produce");
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(person.key(), "Nobody At All"), imani()))
                .hasMessageContaining("a person who works here");
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(company.key(), "999999999"), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void several_choices_and_one_of_a_tree_are_only_those_that_are_offered() {
        AddedField animals = field(OwnField.Kind.SEVERAL, "Dog\nCat\nBird");
        AddedField service = field(OwnField.Kind.TREE, "Ferries\n  Cabins\n    Upgrade\n  Meals");
        TicketNumber number = ticket();
        RunningApp.fill(number, Map.of(animals.key(), "Dog\nBird", service.key(), "upgrade"), imani());
        assertThat(own(number))
                .containsEntry(animals.key(), "Bird\nDog")
                .containsEntry(service.key(), "Ferries / Cabins / Upgrade");
        assertThat(fields.said(own(number))).containsEntry(animals.key(), "Bird, Dog");
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(animals.key(), "Dog\nHorse"), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> RunningApp.fill(number, Map.of(service.key(), "Ferries / Horses"), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> field(OwnField.Kind.TREE, "Ferries\n      Deep"))
                .hasMessageContaining("pushed in further");
    }

    @Test
    void what_a_field_begins_with_must_be_able_to_stand_in_it() {
        var typed = new FieldSetup.Typed("Begins " + unique(), "", "", "soon");
        assertThatThrownBy(() -> setup.add(
                        typed,
                        OwnField.Bearer.TICKET,
                        OwnField.Kind.DATE,
                        RunningApp.ravi().id()))
                .hasMessageContaining("“soon” cannot stand in it to begin with");
    }
}
