package rafter.app.work.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.unique;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.forms.FieldRules;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.form.FieldRule;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Requests that somebody of ours writes down, and the history of what happened to them. */
@ExtendWith(RunningApp.class)
class LoggingTest extends Browsing {

    private final Logging logging = bean(Logging.class);
    private final int nth = unique();
    private final String address = "caller" + nth + "@logged" + nth + ".example";

    private Logging.Request request(Optional<ContactId> contact, String address, String subject, String text) {
        long ours = logging.addresses().getFirst().id();
        return new Logging.Request(
                contact, "Caller " + nth, address, ours, subject, text, Priority.P2, "billing", true, false, Map.of());
    }

    private Ticket ticket(TicketNumber number) {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    @Test
    void a_new_customers_call_becomes_a_ticket_of_theirs_with_their_words_and_what_was_chosen() {
        TicketNumber number =
                logging.log(request(Optional.empty(), address, "Wrong invoice", "They say <b>so</b>"), imani());
        Ticket ticket = ticket(number);
        assertThat(ticket.contact())
                .isEqualTo(bean(Contacts.class).find(address).orElseThrow().id());
        assertThat(ticket.priority()).isEqualTo(Priority.P2);
        assertThat(ticket.topic()).isEqualTo("billing");
        assertThat(ticket.owner()).contains(imani().id());
        assertThat(ticket.turn()).isEqualTo(Turn.OURS);
        assertThat(ticket.messages()).isEqualTo(1);
    }

    @Test
    void a_known_contact_is_chosen_and_no_second_one_is_made() {
        TicketNumber first = logging.log(request(Optional.empty(), address, "One", "Words"), imani());
        ContactId known = ticket(first).contact();
        assertThat(logging.known("caller " + nth, Optional.empty(), imani()))
                .extracting(Logging.Known::id)
                .containsExactly(known);
        TicketNumber second = logging.log(request(Optional.of(known), "", "Two", "Words"), imani());
        assertThat(ticket(second).contact()).isEqualTo(known);
        assertThat(logging.known("", Optional.empty(), imani())).isEmpty();
    }

    @Test
    void what_is_missing_is_said_and_nothing_is_opened() {
        assertThatThrownBy(() -> logging.log(request(Optional.empty(), "nowhere", "One", "Words"), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("mail address");
        assertThatThrownBy(() -> logging.log(request(Optional.empty(), address, " ", "Words"), imani()))
                .hasMessageContaining("what it is about");
        assertThatThrownBy(() -> logging.log(request(Optional.empty(), address, "One", " "), imani()))
                .hasMessageContaining("what they asked");
        assertThat(bean(Contacts.class).find(address)).isEmpty();
    }

    @Test
    void by_a_plain_form_it_ends_with_its_number_and_its_history_tells_who_did_what() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        assertThat(post("/requests", token, "subject", "Kept " + nth, "text", "", "address", address)
                        .body())
                .contains("Write down what they asked")
                .contains("Kept " + nth);
        String ours = "" + logging.addresses().getFirst().id();
        String opened = post(
                        "/requests",
                        token,
                        "subject",
                        "Called " + nth,
                        "text",
                        "It rang",
                        "name",
                        "Caller",
                        "address",
                        address,
                        "ours",
                        ours,
                        "priority",
                        "P1",
                        "mine",
                        "true",
                        "told",
                        "true")
                .body();
        assertThat(opened).contains("This is ticket").contains("Written down by Imani Okoro");
        String number = opened.replaceAll("(?s).*This is ticket (\\d+)\\..*", "$1");
        post("/tickets/" + number + "/priority", token, "priority", "P3");
        String history = get("/tickets/" + number + "/history").body();
        assertThat(history).contains("opened it").contains("acknowledged it").contains("priority");
        String some = get("/tickets/" + number + "/history/csv?about=facts").body();
        assertThat(some).startsWith("at,who,what,before,after").contains("Imani Okoro,priority,P1,P3");
        assertThat(some).doesNotContain("opened it");
        assertThat(get("/tickets/" + number + "/history?about=links").body()).contains("Nothing of that kind");
    }

    @Test
    void the_fields_of_the_form_are_filled_with_the_request_and_refused_where_they_are_not_offered() throws Exception {
        var fields = bean(OwnFields.class);
        AddedField vehicle = RunningApp.field(
                OwnField.Bearer.TICKET,
                OwnField.Kind.CHOICE,
                new FieldSetup.Typed("Vehicle " + nth, "Car\nLorry", "", "Car"));
        var rules = bean(FieldRules.class);
        rules.save(
                0,
                new FieldRule(
                        vehicle.field().id(),
                        FieldRule.Effect.NARROW,
                        List.of("Lorry"),
                        Criteria.test(KnownField.TOPIC, Operator.IS, "freight " + nth)),
                0,
                ravi().id());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/requests/new").body()).contains("Vehicle " + nth);
        String token = token(get("/requests/new"));
        assertThat(byLorry(token, vehicle.key(), "Car"))
                .contains("is not offered for this ticket")
                .contains("By lorry");
        assertThat(post("/requests/fields", token, "topic", "freight " + nth).body())
                .contains("Lorry")
                .doesNotContain(">Car<");
        assertThat(byLorry(token, vehicle.key(), "Lorry"))
                .contains("This is ticket")
                .contains("Lorry");
        rules.all().forEach(one -> rules.remove(one.id(), ravi().id()));
        bean(FieldSetup.class).hide(vehicle, ravi().id());
    }

    private String byLorry(String token, String field, String value) throws Exception {
        String ours = "" + logging.addresses().getFirst().id();
        return post(
                        "/requests",
                        token,
                        "subject",
                        "By lorry",
                        "text",
                        "Words",
                        "address",
                        address,
                        "ours",
                        ours,
                        "topic",
                        "freight " + nth,
                        field,
                        value,
                        "own-99999-text",
                        "lost words")
                .body();
    }
}
