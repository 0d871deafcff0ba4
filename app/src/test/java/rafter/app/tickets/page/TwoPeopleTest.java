package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.fields.AddedField;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.app.tickets.writing.Notes;
import rafter.core.criteria.OwnField;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Two people at the same ticket, and tickets at which nobody works any more. */
@ExtendWith(RunningApp.class)
class TwoPeopleTest extends Browsing {

    private final Tickets tickets = bean(Tickets.class);
    private TicketNumber number;

    @BeforeEach
    void a_ticket() {
        clock().set(RunningApp.MONDAY);
        number = ticket("ann" + unique() + "@post.example");
    }

    private static TicketNumber ticket(String from) {
        String raw =
                "From: Ann Lee <" + from + ">\nMessage-ID: <two" + unique() + "@post.example>\nSubject: Two\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket() {
        return tickets.find(number, odile()).orElseThrow();
    }

    private static Tickets.About about(String topic, Set<String> tags, Map<String, String> fields) {
        return new Tickets.About(topic, tags, fields);
    }

    @Test
    void who_changes_different_things_of_a_ticket_both_get_what_they_want() {
        AddedField deck = RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.TEXT, "Deck " + unique(), "");
        AddedField lane = RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.TEXT, "Lane " + unique(), "");
        bean(Acts.class).perform(number, new Act.SetTags(Set.of("late", "vip")), imani());
        Tickets.About seen = about("", Set.of("late", "vip"), Map.of(deck.key(), "", lane.key(), ""));
        tickets.changeAbout(
                number,
                about("billing", Set.of("late", "vip", "storm"), Map.of(deck.key(), "Upper", lane.key(), "")),
                seen,
                imani());
        tickets.changeAbout(number, about("", Set.of("vip"), Map.of(deck.key(), "", lane.key(), "4")), seen, sefa());
        assertThat(ticket().topic()).isEqualTo("billing");
        assertThat(ticket().tags()).containsExactlyInAnyOrder("vip", "storm");
        assertThat(ticket().own()).containsEntry(deck.key(), "Upper").containsEntry(lane.key(), "4");
    }

    @Test
    void the_second_who_changes_the_same_thing_is_told_and_nothing_is_overwritten() {
        Tickets.About seen = about("", Set.of(), Map.of());
        tickets.changeAbout(number, about("billing", Set.of(), Map.of()), seen, imani());
        assertThatThrownBy(
                        () -> tickets.changeAbout(number, about("lost items", Set.of("storm"), Map.of()), seen, sefa()))
                .isInstanceOf(Problem.Stale.class)
                .hasMessageContaining("billing");
        assertThat(ticket().topic()).isEqualTo("billing");
        assertThat(ticket().tags()).as("nothing is changed by halves").isEmpty();
        tickets.changeAbout(number, about("billing", Set.of("storm"), Map.of()), seen, sefa());
        assertThat(ticket().tags()).as("the same wish is no quarrel").containsExactly("storm");
    }

    @Test
    void an_agreed_time_and_a_coming_back_overwrite_no_colleagues() {
        Instant thursday = RunningApp.MONDAY.plus(Duration.ofDays(3));
        bean(Acts.class).perform(number, new Act.AgreeTime(Optional.of(thursday), ""), Optional.of(""), imani());
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(
                                number,
                                new Act.AgreeTime(Optional.of(thursday.plusSeconds(3600)), ""),
                                Optional.of(""),
                                sefa()))
                .isInstanceOf(Problem.Stale.class);
        bean(Acts.class)
                .perform(
                        number,
                        new Act.AgreeTime(Optional.of(thursday.plusSeconds(3600)), ""),
                        Optional.of(thursday.toString()),
                        sefa());
        assertThat(ticket().agreedDue()).hasValue(thursday.plusSeconds(3600));
        bean(Acts.class).perform(number, new Act.BringBack(Optional.of(thursday)), Optional.of(""), imani());
        assertThatThrownBy(() ->
                        bean(Acts.class).perform(number, new Act.BringBack(Optional.empty()), Optional.of(""), sefa()))
                .isInstanceOf(Problem.Stale.class);
    }

    @Test
    void the_form_carries_what_stood_in_it_and_its_change_can_be_undone() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        var form = get("/tickets/" + number + "/choose/about");
        assertThat(form.body()).contains("name=\"was-topic\"", "name=\"was-tags\"");
        bean(Acts.class).perform(number, new Act.SetTopic("billing"), odile());
        String token = token(form);
        assertThat(post(
                                "/tickets/" + number + "/about",
                                token,
                                "topic",
                                "freight",
                                "was-topic",
                                "",
                                "tags",
                                "",
                                "was-tags",
                                "")
                        .body())
                .contains("billing", "what you typed");
        post("/tickets/" + number + "/about", token, "topic", "", "was-topic", "", "tags", "Storm", "was-tags", "");
        assertThat(ticket().topic()).isEqualTo("billing");
        assertThat(ticket().tags()).containsExactly("storm");
    }

    @Test
    void in_the_bin_nothing_is_answered_or_changed_and_the_page_says_how_to_go_on() throws Exception {
        bean(Acts.class).perform(number, new Act.NoRequest(false), imani());
        refusesEverything("bin");
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/tickets/" + number);
        assertThat(page.body()).contains("is in the bin", "/restore").doesNotContain("Make it mine");
        assertThat(post("/tickets/" + number + "/state", token(page), "state", "in-hand")
                        .body())
                .contains("is in the bin");
        post("/tickets/" + number + "/restore", token(page));
        assertThat(ticket().discarded()).isFalse();
        assertThat(get("/tickets/" + number).body()).contains("Make it mine");
    }

    @Test
    void a_joined_ticket_says_where_it_goes_on() throws Exception {
        TicketNumber other = ticket("ben" + unique() + "@post.example");
        bean(Acts.class).perform(number, new Act.Join(other), imani());
        refusesEverything("ticket " + other);
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body()).contains("was joined into another one", "/tickets/" + other);
    }

    @Test
    void a_joined_ticket_is_made_one_of_its_own_again_from_its_page() throws Exception {
        TicketNumber into = ticket("bea" + unique() + "@post.example");
        bean(Acts.class).perform(number, new Act.Join(into), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        HttpResponse<String> page = get("/tickets/" + number);
        assertThat(page.body()).contains("Make it a ticket of its own again");
        HttpResponse<String> after = post("/tickets/" + number + "/part", token(page), "from", into.toString());
        assertThat(after.body())
                .contains("took it out of ticket " + into + " again")
                .doesNotContain("Make it a ticket of its own again");
        assertThat(get("/tickets/" + into).body()).contains("No longer linked to ticket " + number);
        assertThat(post("/tickets/" + number + "/part", token(page), "from", into.toString())
                        .statusCode())
                .as("a second time")
                .isEqualTo(409);
    }

    @Test
    void handing_to_a_team_is_taken_back_with_the_owner_there_was() throws Exception {
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        TeamId team = bean(Persons.class)
                .addTeam("Back " + unique(), RunningApp.ravi().id());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/tickets/" + number));
        post("/tickets/" + number + "/owner", token, "team", team.toString());
        assertThat(ticket().team()).hasValue(team);
        assertThat(ticket().owner()).isEmpty();
        post(
                "/tickets/" + number + "/team-back",
                token,
                "team",
                team.toString(),
                "teamBefore",
                "",
                "ownerBefore",
                imani().id().toString());
        assertThat(ticket().team()).isEmpty();
        assertThat(ticket().owner()).hasValue(imani().id());
    }

    private void refusesEverything(String words) {
        var answer = new Answering.Answer("<p>Yes</p>", "", Turn.CUSTOMER, ticket().lastPublicSeq());
        List<Runnable> acts = List.of(
                () -> bean(Acts.class).perform(number, new Act.MoveTo(TicketState.IN_HAND.key()), imani()),
                () -> bean(Acts.class).perform(number, new Act.SetPriority(Priority.P1), imani()),
                () -> bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani()),
                () -> bean(Acts.class).perform(number, new Act.SetTopic("billing"), imani()),
                () -> bean(Acts.class).perform(number, new Act.SetTags(Set.of("storm")), imani()),
                () -> RunningApp.fill(number, Map.of("own-1-text", "x"), imani()),
                () -> bean(Acts.class)
                        .perform(
                                number, new Act.BringBack(Optional.of(RunningApp.MONDAY.plusSeconds(90_000))), imani()),
                () -> bean(Notes.class).note(number, "<p>Note</p>", imani()),
                () -> bean(Answering.class).answer(number, answer, imani()));
        assertThat(acts)
                .allSatisfy(act -> assertThatThrownBy(act::run)
                        .isInstanceOf(Problem.Invalid.class)
                        .hasMessageContaining(words));
    }

    @Test
    void what_was_no_request_after_all_frees_its_sender() {
        String from = "cleo" + unique() + "@post.example";
        number = ticket(from);
        bean(Acts.class).perform(number, new Act.NoRequest(false), imani());
        bean(Contacts.class).unwanted(ticket().contact(), imani().id(), clock().instant());
        bean(Acts.class).perform(number, new Act.Restore(), imani());
        assertThat(RunningApp.sql()
                        .fetchCount(
                                rafter.database.Tables.UNWANTED_SENDER,
                                rafter.database.Tables.UNWANTED_SENDER.ADDRESS.eq(from)))
                .isZero();
        bean(Acts.class).perform(number, new Act.Delete(), RunningApp.ravi());
        assertThatThrownBy(() -> bean(Acts.class).perform(number, new Act.Restore(), imani()))
                .isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void linked_tickets_show_each_other_however_many_others_the_customer_has() {
        String from = "dee" + unique() + "@post.example";
        TicketNumber first = ticket(from);
        TicketNumber second = ticket(from);
        for (int i = 0; i < 8; i++) {
            ticket(from);
        }
        bean(Acts.class).perform(second, new Act.Join(first), imani());
        assertThat(others(first))
                .element(0)
                .satisfies(other -> assertThat(other.number()).isEqualTo(second));
        assertThat(others(second))
                .element(0)
                .satisfies(other -> assertThat(other.number()).isEqualTo(first));
        assertThat(others(first)).hasSize(7);
    }

    private static List<TicketPage.Other> others(TicketNumber number) {
        return bean(TicketPage.class)
                .load(number, imani(), false, Optional.empty())
                .others();
    }
}
