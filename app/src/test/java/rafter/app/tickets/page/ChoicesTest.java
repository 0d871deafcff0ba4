package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** The small menus of a ticket, unowned and owned, as a menu and, without scripts, as a page. */
@ExtendWith(RunningApp.class)
class ChoicesTest extends Browsing {

    private TicketNumber number;

    @BeforeEach
    void a_ticket() throws Exception {
        String raw = "From: Ann Lee <ann@c" + unique() + ".example>\nMessage-ID: <c" + unique()
                + "@c.example>\nSubject: Choices\n\nHello";
        number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
    }

    @ParameterizedTest
    @ValueSource(strings = {"state", "priority", "owner", "about", "times"})
    void every_menu_opens(String what) throws Exception {
        String path = "/tickets/" + number + "/choose/" + what;
        assertThat(get(path).statusCode()).isEqualTo(200);
        assertThat(get(path, "HX-Request", "true").statusCode()).isEqualTo(200);
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(odile().id())), odile());
        assertThat(get(path, "HX-Request", "true").statusCode()).isEqualTo(200);
        assertThat(get("/tickets/" + number + "/glance").statusCode()).isEqualTo(200);
        assertThat(get("/tickets/" + number + "/clocks").statusCode()).isEqualTo(200);
    }
}
