package rafter.app.work.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.people.Companies;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.TicketNumber;

/** What is written down about a contact, and their page. */
@ExtendWith(RunningApp.class)
class ContactPageTest extends Browsing {

    private final int nth = unique();
    private final ContactCards cards = bean(ContactCards.class);
    private final Tickets tickets = bean(Tickets.class);
    private final String address = "marit" + nth + "@post.example";

    private TicketNumber ticket(String from) {
        String raw = "From: Marit Sand <" + from + ">\nMessage-ID: <c" + unique() + "@post.example>\nSubject: Contact "
                + nth + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private ContactCard card(TicketNumber ticket) {
        return cards.get(tickets.find(ticket, odile()).orElseThrow().contact());
    }

    private static ContactCard with(
            ContactCard card, List<String> addresses, List<String> phones, Map<String, String> own) {
        return new ContactCard(
                card.id(),
                card.name(),
                card.company(),
                addresses,
                phones,
                card.language(),
                card.zone(),
                own,
                card.version());
    }

    @Test
    void mail_from_any_address_of_a_contact_is_theirs() {
        TicketNumber first = ticket(address);
        ContactCard card = card(first);
        cards.save(
                with(card, List.of(address, " Marit" + nth + "@Seamail.example "), List.of(), Map.of()), imani().id());
        TicketNumber second = ticket("marit" + nth + "@seamail.example");
        assertThat(card(second).id()).isEqualTo(card.id());
        assertThat(card(second).addresses()).containsExactly(address, "marit" + nth + "@seamail.example");
    }

    @Test
    void an_address_of_somebody_else_is_refused_and_nothing_is_saved() {
        ContactCard other = card(ticket("other" + nth + "@post.example"));
        ContactCard card = card(ticket(address));
        assertThatThrownBy(() -> cards.save(
                        with(
                                card,
                                List.of(address, other.addresses().getFirst()),
                                List.of("+47 55 01 02 03"),
                                Map.of()),
                        imani().id()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("belongs to another contact");
        assertThat(cards.get(card.id())).isEqualTo(card);
    }

    @Test
    void a_contact_is_known_by_something_and_numbers_are_numbers() {
        ContactCard card = card(ticket(address));
        assertThatThrownBy(() -> cards.save(with(card, List.of(), List.of(), Map.of()), imani().id()))
                .hasMessageContaining("a mail address, a telephone or a name on a network");
        assertThatThrownBy(() -> cards.save(with(card, List.of("marit at post"), List.of(), Map.of()), imani().id()))
                .hasMessageContaining("not a mail address");
        assertThatThrownBy(() -> cards.save(with(card, List.of(address), List.of("call me"), Map.of()), imani().id()))
                .hasMessageContaining("not a telephone");
        assertThat(cards.get(card.id())).isEqualTo(card);
    }

    @Test
    void whoever_has_a_telephone_needs_no_mail_address() {
        ContactCard card = card(ticket(address));
        cards.save(with(card, List.of(), List.of("+47 55 01 02 03"), Map.of()), imani().id());
        assertThat(cards.get(card.id()).addresses()).isEmpty();
    }

    @Test
    void one_number_written_twice_is_one_number() {
        ContactCard card = card(ticket(address));
        cards.save(
                with(card, List.of(address), List.of("+47 55 01 02 03", "0047 55010203", "+47 91 00 00 01"), Map.of()),
                imani().id());
        assertThat(cards.get(card.id()).phones()).containsExactly("+47 55 01 02 03", "+47 91 00 00 01");
    }

    @Test
    void who_saves_over_somebody_elses_change_is_told() {
        ContactCard seen = card(ticket(address));
        cards.save(with(seen, List.of(address), List.of("5501 02 03"), Map.of()), imani().id());
        assertThatThrownBy(() -> cards.save(with(seen, List.of(address), List.of(), Map.of()), odile().id()))
                .isInstanceOf(Problem.Stale.class);
        assertThat(cards.get(seen.id()).phones()).containsExactly("5501 02 03");
    }

    @Test
    void a_contact_who_moves_to_another_company_takes_their_open_tickets_along() {
        TicketNumber number = ticket(address);
        ContactCard card = card(number);
        CompanyId firm = bean(Companies.class)
                .save(
                        Optional.empty(),
                        "Harbour works " + nth,
                        "Harbour",
                        "works" + nth + ".example",
                        Map.of(),
                        RunningApp.ravi().id());
        cards.save(
                new ContactCard(
                        card.id(),
                        card.name(),
                        Optional.of(firm),
                        card.addresses(),
                        List.of(),
                        card.language(),
                        card.zone(),
                        Map.of(),
                        card.version()),
                imani().id());
        var facts = tickets.facts(number, RunningApp.clock().instant());
        assertThat(facts.of(KnownField.COMPANY).plain()).containsExactly(firm.toString());
        assertThat(facts.of(KnownField.PLAN).plain()).containsExactly("Harbour");
        assertThat(tickets.events(List.of(number)).getOrDefault(number, List.of()))
                .hasAtLeastOneElementOfType(rafter.core.ticket.TicketEvent.CustomerChanged.class);
    }

    @Test
    void own_fields_of_contacts_are_kept_as_they_are_written_and_refused_when_they_cannot_be() {
        String account = RunningApp.field(OwnField.Bearer.CONTACT, OwnField.Kind.NUMBER, "Account " + nth, "")
                .key();
        ContactCard card = card(ticket(address));
        cards.save(with(card, List.of(address), List.of(), Map.of(account, " 4471.0 ")), imani().id());
        ContactCard after = cards.get(card.id());
        assertThat(after.own()).isEqualTo(Map.of(account, "4471"));
        assertThatThrownBy(() ->
                        cards.save(with(after, List.of(address), List.of(), Map.of(account, "many")), imani().id()))
                .hasMessageContaining("cannot stand in");
        cards.save(with(after, List.of(address), List.of(), Map.of(account, "")), imani().id());
        assertThat(cards.get(card.id()).own()).isEmpty();
    }

    @Test
    void the_page_saves_what_is_typed_and_gives_it_back_when_it_cannot() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        ContactCard card = card(ticket(address));
        String path = "/contacts/" + card.id();
        String token = token(get(path));
        var refused = post(
                path,
                token,
                "name",
                "Marit Sand-Lie",
                "addresses",
                address + "\nnonsense",
                "phones",
                "+47 55 01 02 09",
                "version",
                "0");
        assertThat(refused.body())
                .contains("is not a mail address")
                .contains("Marit Sand-Lie")
                .contains("nonsense")
                .contains("+47 55 01 02 09");
        var saved = post(
                path,
                token,
                "name",
                "Marit Sand-Lie",
                "addresses",
                address,
                "phones",
                "+47 55 01 02 09",
                "version",
                "0");
        assertThat(saved.body()).contains("Marit Sand-Lie is saved").contains("Contact " + nth);
        assertThat(get("/contacts/999999999").statusCode()).isEqualTo(404);
        assertThat(get("/search?q=55010209").body()).contains("Marit Sand-Lie").contains(path);
    }
}
