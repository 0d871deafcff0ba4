package rafter.app.work.search;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Work;

@ExtendWith(RunningApp.class)
class SearchTest extends Browsing {

    private static TicketNumber subject;
    private static TicketNumber message;

    @BeforeAll
    static void two_tickets() {
        subject = ticket("Quillfeather lantern missing", "It was left on deck. Zürich naïveté.");
        message = ticket(
                "Another matter",
                "We looked for a quillfeather everywhere on the vessel, and then some more of the same went by.");
        while (bean(KnownWords.class).learn() > 0) {
            // All of them.
        }
    }

    private static TicketNumber ticket(String subject, String text) {
        int n = unique();
        String raw = "From: Ottoline Vane <vane" + n + "@brightwater.example>\nMessage-ID: <s" + n
                + "@brightwater.example>\nSubject: " + subject
                + "\nMIME-Version: 1.0\nContent-Type: text/plain; charset=utf-8\n\n" + text + "\n";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static List<TicketNumber> found(String asked) {
        return bean(Search.class).find(asked, 20, odile()).tickets().stream()
                .map(Search.Hit::number)
                .toList();
    }

    @Test
    void words_in_a_subject_come_before_words_in_a_message() {
        assertThat(found("quillfeather")).containsExactly(subject, message);
    }

    @ParameterizedTest
    @ValueSource(strings = {"quillfea", "QUILLFEATHER lantern", "lantern missing quill", "zurich naivete", "ZÜRICH"})
    void letter_case_accents_order_and_the_end_of_the_last_word_do_not_matter(String asked) {
        assertThat(found(asked)).contains(subject);
    }

    @ParameterizedTest
    @CsvSource({"quilfeather, quillfeather", "qiullfeather lantern, quillfeather lantern", "lanterm, lantern"})
    void typing_errors_are_forgiven_and_said(String asked, String meant) {
        Search.Found found = bean(Search.class).find(asked, 20, odile());
        assertThat(found.meant()).isEqualTo(meant);
        assertThat(found.tickets()).extracting(Search.Hit::number).contains(subject);
    }

    @Test
    void how_a_ticket_was_resolved_is_found_and_said_where() {
        var resolution = new Work.Resolution("The gangway was iced", "Salted it with Brinestone", "frost");
        bean(Acts.class).perform(message, new Act.Conclude(resolution), odile());
        Search.Hit hit = bean(Search.class)
                .find("brinestone gangway", 20, odile())
                .tickets()
                .getFirst();
        assertThat(hit.number()).isEqualTo(message);
        assertThat(hit.where()).isEqualTo("how it was resolved");
        bean(Acts.class).perform(message, new Act.Conclude(Work.Resolution.NONE), odile());
        assertThat(found("brinestone gangway")).doesNotContain(message);
    }

    @Test
    void what_stands_in_an_own_field_is_found_as_a_whole_and_said_where() {
        var field = RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.TEXT, "Booking ref " + unique(), "");
        RunningApp.fill(message, Map.of(field.key(), "TP-Ø 88/412"), odile());
        Search.Hit hit =
                bean(Search.class).find(" tp-ø 88/412 ", 20, odile()).tickets().getFirst();
        assertThat(hit.number()).isEqualTo(message);
        assertThat(hit.where()).isEqualTo(field.name());
        assertThat(found("tp-ø 88")).doesNotContain(message);
    }

    @ParameterizedTest
    @ValueSource(strings = {"+47 99 88 01 07", "0047 99880107", "099 88 01 07", "9988 0107"})
    void a_contact_is_found_by_a_telephone_however_it_is_written(String asked) {
        ContactCards cards = bean(ContactCards.class);
        ContactCard card = cards.get(
                bean(Tickets.class).find(subject, odile()).orElseThrow().contact());
        cards.save(
                new ContactCard(
                        card.id(),
                        card.name(),
                        card.company(),
                        card.addresses(),
                        List.of("+47 9988 0107"),
                        card.language(),
                        card.zone(),
                        Map.of(),
                        card.version()),
                odile().id());
        PeopleSearch.Who who =
                bean(Search.class).find(asked, 20, odile()).people().getFirst();
        assertThat(who.id()).isEqualTo(card.id());
        assertThat(who.detail()).startsWith("+47 9988 0107");
    }

    @Test
    void a_number_is_found_whatever_else_has_it() {
        assertThat(found(message.toString()).getFirst()).isEqualTo(message);
        assertThat(found("#" + message).getFirst()).isEqualTo(message);
    }

    @Test
    void the_matching_passage_is_shown_with_the_word_marked() {
        Search.Hit hit =
                bean(Search.class).find("quillfeather", 20, odile()).tickets().get(1);
        assertThat(hit.passage().before()).endsWith("We looked for a ");
        assertThat(hit.passage().hit()).isEqualTo("quillfeather");
        assertThat(hit.where()).isEqualTo("a message of Ottoline Vane");
    }

    @Test
    void contacts_and_companies_are_found_by_name_and_address() {
        assertThat(bean(Search.class).find("ottoline", 5, odile()).people())
                .isNotEmpty()
                .allMatch(who -> who.name().equals("Ottoline Vane"));
        assertThat(bean(Search.class).find("@brightwater.ex", 5, odile()).people())
                .isNotEmpty();
        assertThat(bean(Search.class).find("brightwatr", 5, odile()).companies())
                .extracting(PeopleSearch.Who::name)
                .contains("Brightwater Produce");
    }

    @Test
    void what_is_in_the_bin_is_not_found() {
        TicketNumber gone = ticket("Vanishingly odd wombatry", "x");
        assertThat(found("wombatry")).containsExactly(gone);
        bean(Acts.class).perform(gone, new Act.Delete(), RunningApp.ravi());
        assertThat(found("wombatry")).isEmpty();
    }

    @Test
    void the_page_shows_companies_with_the_way_to_their_tickets() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/search?q=brightwater");
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.body()).contains("Brightwater Produce", "/people/companies/", "/contacts/");
        assertThat(get("/search/quick?q=brightwater", "Accept", "application/json")
                        .body())
                .contains("/people/companies/");
    }

    @Test
    void a_tag_a_choice_and_a_number_are_found_as_well_as_words() {
        var deck = RunningApp.field(
                OwnField.Bearer.TICKET, OwnField.Kind.CHOICE, "Deck " + unique(), "Upper gallery\nLower gallery");
        var metres = RunningApp.field(OwnField.Bearer.TICKET, OwnField.Kind.NUMBER, "Metres " + unique(), "");
        TicketNumber number = ticket("Nothing of the kind", "x");
        RunningApp.fill(number, Map.of(deck.key(), "Upper gallery", metres.key(), "773.50"), odile());
        bean(Acts.class).perform(number, new Act.SetTags(Set.of("foghorn")), odile());
        assertThat(found("upper GALLERY")).contains(number);
        assertThat(found("773.5")).contains(number);
        assertThat(found("Foghorn")).containsExactly(number);
        assertThat(found("foghor")).as("a part of a tag").isEmpty();
    }

    @Test
    void contacts_and_companies_are_found_by_what_stands_in_their_fields() {
        var account = RunningApp.field(OwnField.Bearer.CONTACT, OwnField.Kind.TEXT, "Account " + unique(), "");
        ContactCards cards = bean(ContactCards.class);
        ContactCard card = cards.get(
                bean(Tickets.class).find(message, odile()).orElseThrow().contact());
        cards.save(
                new ContactCard(
                        card.id(),
                        card.name(),
                        card.company(),
                        card.addresses(),
                        card.phones(),
                        card.language(),
                        card.zone(),
                        Map.of(account.key(), "ÅC-17/B"),
                        card.version()),
                odile().id());
        assertThat(bean(Search.class).find("åc-17/b", 5, odile()).people())
                .extracting(PeopleSearch.Who::id)
                .contains(card.id());
        assertThat(bean(Search.class).find("qqq-none", 5, odile()).people()).isEmpty();
        assertThat(bean(Search.class).find("qqq-none", 5, odile()).companies()).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "   ", "'", "& | !", "a:*", "%", "\\"})
    void signs_alone_find_nothing_and_break_nothing(String asked) {
        assertThat(bean(Search.class).find(asked, 5, odile())).isNotNull();
    }
}
