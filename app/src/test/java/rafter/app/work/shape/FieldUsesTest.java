package rafter.app.work.shape;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.BackgroundWork;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;

/** A field shows what it touches before it is taken out of use, and what stands in it is carried over. */
@ExtendWith(RunningApp.class)
class FieldUsesTest extends Browsing {

    private final OwnFields fields = bean(OwnFields.class);
    private final int nth = unique();
    private final AddedField vessel = field("Vessel " + nth);
    private final AddedField ship = field("Ship " + nth);
    private final TicketNumber number = mailed();

    private AddedField field(String name) {
        return RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.CHOICE, name, "Kestrel\nSaltmarsh");
    }

    private static TicketNumber mailed() {
        int one = unique();
        String raw = "From: Q <q@uses" + one + ".example>\nMessage-ID: <us" + one
                + "@post.example>\nSubject: Uses\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Map<String, String> own(TicketNumber ticket) {
        return bean(Tickets.class).find(ticket, imani()).orElseThrow().own();
    }

    private void run(String answer) {
        bean(BackgroundWork.class).run("batch", Long.parseLong(answer.replaceFirst("(?s).*/batches/(\\d+)/.*", "$1")));
    }

    @Test
    void a_choice_is_replaced_on_every_ticket_that_has_it() throws Exception {
        RunningApp.fill(number, Map.of(vessel.key(), "Saltmarsh"), imani());
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String page = "/house-rules/fields/" + vessel.field().id();
        assertThat(get(page + "/uses").body())
                .contains("One ticket has something in it")
                .contains("Saltmarsh, 1");
        String token = token(get("/house-rules/fields"));
        assertThat(post(page + "/replace", token, "was", "Saltmarsh", "becomes", "Titan")
                        .body())
                .contains("by which of its choices");
        run(post(page + "/replace", token, "was", "Saltmarsh", "becomes", "Kestrel")
                .body());
        assertThat(own(number)).containsEntry(vessel.key(), "Kestrel");
        assertThat(post(page + "/replace", token, "was", "Saltmarsh", "becomes", "Kestrel")
                        .body())
                .contains("No ticket has “Saltmarsh”");
    }

    @Test
    void out_of_use_its_values_go_over_into_another_field_that_is_empty() throws Exception {
        TicketNumber both = mailed();
        RunningApp.fill(number, Map.of(vessel.key(), "Saltmarsh"), imani());
        RunningApp.fill(both, Map.of(vessel.key(), "Saltmarsh", ship.key(), "Kestrel"), imani());
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String page = "/house-rules/fields/" + vessel.field().id();
        String token = token(get("/house-rules/fields"));
        assertThat(post(page + "/retire", token, "into", "0").body()).contains("of the same kind");
        assertThat(fields.find(vessel.field().id()).orElseThrow().shown()).isTrue();
        run(post(page + "/retire", token, "into", "" + ship.field().id()).body());
        assertThat(own(number)).containsEntry(ship.key(), "Saltmarsh").containsEntry(vessel.key(), "Saltmarsh");
        assertThat(own(both)).containsEntry(ship.key(), "Kestrel");
        assertThat(fields.find(vessel.field().id()).orElseThrow().shown()).isFalse();
        assertThat(get("/tickets/" + number + "/choose/about").body()).doesNotContain(vessel.name());
    }
}
