package rafter.app.work.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Reach;
import rafter.app.house.people.Companies;
import rafter.app.platform.Guard;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Words;
import rafter.core.ticket.Act;
import rafter.database.Tables;

/** Contacts and companies as lists, and a company's page. */
@ExtendWith(RunningApp.class)
class DirectoryTest extends Browsing {

    private static final ByName.From<ContactId> TOP = new ByName.From.Top<>();

    private final Directory directory = bean(Directory.class);
    private final CompanyDirectory firms = bean(CompanyDirectory.class);
    private final int nth = unique();
    private final String domain = "ferrying" + nth + ".example";
    private final CompanyId company =
            bean(Companies.class).save(Optional.empty(), "Ferrying " + nth, "Anchor", domain, Map.of(), Guard.ITSELF);

    @AfterEach
    void everythingIsReachedAgain() {
        RunningApp.reach(imani(), new Reach.Everything());
    }

    private TicketNumber mail(String name, String address) {
        String raw = "From: " + name + " <" + address + ">\nMessage-ID: <d" + unique()
                + "@post.example>\nSubject: Listed " + nth + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static Directory.Asked asked(String words) {
        return new Directory.Asked(words, Optional.empty(), false);
    }

    private List<String> named(Directory.Asked asked) {
        return directory.contacts(asked, TOP, imani()).rows().stream()
                .map(Directory.Person::name)
                .toList();
    }

    @Test
    void contacts_are_found_by_a_part_of_their_name_address_or_company_whatever_accents_and_case() {
        mail("Åse Holm" + nth, "ase@" + domain);
        mail("Zoë Vik" + nth, "zoe" + nth + "@post.example");
        assertThat(named(asked("ASE HOLM" + nth))).containsExactly("Åse Holm" + nth);
        assertThat(named(asked("zoe" + nth + "@post"))).containsExactly("Zoë Vik" + nth);
        assertThat(named(asked("ferrying " + nth))).containsExactly("Åse Holm" + nth);
        assertThat(named(asked("nobody-of-that-name-" + nth))).isEmpty();
    }

    @Test
    void a_contact_tells_company_plan_and_how_much_is_open() {
        TicketNumber first = mail("Aud Berg" + nth, "aud@" + domain);
        mail("Aud Berg" + nth, "aud@" + domain);
        Directory.Person aud =
                directory.contacts(asked("aud@" + domain), TOP, imani()).rows().getFirst();
        assertThat(aud.company()).isEqualTo("Ferrying " + nth);
        assertThat(aud.plan()).isEqualTo("Anchor");
        assertThat(aud.open()).isEqualTo(2);
        bean(Acts.class).perform(first, new Act.MoveTo("resolved"), imani());
        assertThat(directory
                        .contacts(asked("aud@" + domain), TOP, imani())
                        .rows()
                        .getFirst()
                        .open())
                .isEqualTo(1);
    }

    @Test
    void those_with_open_tickets_and_those_of_a_company_can_be_asked_for() {
        TicketNumber done = mail("Bo Dahl" + nth, "bo@" + domain);
        mail("Ida Dahl" + nth, "ida@" + domain);
        bean(Acts.class).perform(done, new Act.MoveTo("resolved"), imani());
        assertThat(named(new Directory.Asked("", Optional.of(company), false)))
                .containsExactly("Bo Dahl" + nth, "Ida Dahl" + nth);
        assertThat(named(new Directory.Asked("", Optional.of(company), true))).containsExactly("Ida Dahl" + nth);
        assertThat(directory.count(new Directory.Asked("", Optional.of(company), true), imani()))
                .isEqualTo(1);
    }

    @Test
    void walking_on_and_back_shows_each_contact_once_in_the_order_of_names() {
        for (int i = 0; i < 2 * ByName.PAGE + 7; i++) {
            String name = "Walker " + (i % 3 == 0 ? "same" : "w" + (i * 37 % 100));
            sql().insertInto(Tables.CONTACT)
                    .set(Tables.CONTACT.NAME, name)
                    .set(Tables.CONTACT.NAME_WORDS, Words.of(name).stored())
                    .set(Tables.CONTACT.COMPANY_ID, company)
                    .set(Tables.CONTACT.CREATED_AT, RunningApp.clock().instant())
                    .execute();
        }
        var asked = new Directory.Asked("", Optional.of(company), false);
        var seen = new ArrayList<Directory.Person>();
        ByName.Part<Directory.Person> part = directory.contacts(asked, TOP, imani());
        assertThat(part.earlier()).isFalse();
        seen.addAll(part.rows());
        while (part.later()) {
            part = directory.contacts(
                    asked, new ByName.From.After<>(part.rows().getLast().id()), imani());
            assertThat(part.earlier()).isTrue();
            seen.addAll(part.rows());
        }
        assertThat(seen).hasSize(2 * ByName.PAGE + 7).doesNotHaveDuplicates();
        assertThat(seen.stream().map(Directory.Person::name)).isSorted();
        var back = new ArrayList<>(part.rows());
        while (part.earlier()) {
            part = directory.contacts(
                    asked, new ByName.From.Before<>(part.rows().getFirst().id()), imani());
            back.addAll(0, part.rows());
        }
        assertThat(back).isEqualTo(seen);
    }

    @Test
    void what_very_many_have_is_found_all_the_same_and_counted_no_further() {
        String name = "crowd" + nth;
        sql().execute(
                        "insert into contact (name, name_words, company_id, created_at)"
                                + " select ? || ' ' || n, ' ' || ? || ' ' || n || ' ', ?, now() from generate_series(1, 4100) n",
                        name,
                        name,
                        company.value());
        ByName.Part<Directory.Person> part = directory.contacts(asked(name), TOP, imani());
        assertThat(part.rows()).hasSize(ByName.PAGE).allMatch(one -> one.name().startsWith(name));
        assertThat(part.later()).isTrue();
        assertThat(directory.contacts(asked("ferrying " + nth), TOP, imani()).rows())
                .isEqualTo(part.rows());
        assertThat(directory.count(asked(name), imani())).isEqualTo(Directory.COUNTED);
    }

    @Test
    void one_that_is_gone_leads_to_the_top() {
        mail("Tor Lie" + nth, "tor@" + domain);
        var asked = new Directory.Asked("", Optional.of(company), false);
        assertThat(directory.contacts(asked, new ByName.From.Before<>(new ContactId(999_999_999)), imani()))
                .isEqualTo(directory.contacts(asked, TOP, imani()));
    }

    @Test
    void tickets_that_somebody_may_not_see_are_not_counted() {
        mail("Una Moe" + nth, "una@" + domain);
        RunningApp.reach(imani(), new Reach.Teams(Set.of()));
        assertThat(directory
                        .contacts(asked("una@" + domain), TOP, imani())
                        .rows()
                        .getFirst()
                        .open())
                .isZero();
        assertThat(firms.figures(company, imani(), RunningApp.clock().instant()).open())
                .isZero();
        assertThat(firms.tickets(company, true, 5, imani())).isEmpty();
        assertThat(firms.figures(company, odile(), RunningApp.clock().instant()).open())
                .isEqualTo(1);
    }

    @Test
    void a_company_tells_its_people_its_tickets_and_how_it_stands() throws Exception {
        TicketNumber done = mail("Siv Ask" + nth, "siv@" + domain);
        TicketNumber open = mail("Per Ask" + nth, "per@" + domain);
        bean(Acts.class).perform(done, new Act.MoveTo("resolved"), imani());
        CompanyDirectory.Figures now =
                firms.figures(company, imani(), RunningApp.clock().instant());
        assertThat(now).isEqualTo(new CompanyDirectory.Figures(2, 1, 0, 2));
        CompanyDirectory.Figures later =
                firms.figures(company, imani(), RunningApp.clock().instant().plus(Duration.ofDays(30)));
        assertThat(later.late()).isEqualTo(1);
        assertThat(firms.companies("ferrying " + nth, new ByName.From.Top<>(), imani())
                        .rows())
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.people()).isEqualTo(2);
                    assertThat(one.open()).isEqualTo(1);
                    assertThat(one.domains()).isEqualTo(domain);
                });
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/people/companies/" + company).body())
                .contains("Ferrying " + nth, "Siv Ask" + nth, "Per Ask" + nth)
                .contains("/tickets/" + done, "/tickets/" + open);
        assertThat(get("/people?q=per%40" + domain).body()).contains("Per Ask" + nth, "1 contact");
        assertThat(get("/people/companies?q=" + domain).body()).contains("Ferrying " + nth);
        assertThat(get("/people/companies/99999999").statusCode()).isEqualTo(404);
        assertThat(get("/people?q=" + "x".repeat(300)).statusCode()).isEqualTo(422);
    }
}
