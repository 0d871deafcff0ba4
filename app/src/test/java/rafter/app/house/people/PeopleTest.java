package rafter.app.house.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.unique;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Role;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;

/** Contacts, companies, and those who work here. */
@ExtendWith(RunningApp.class)
class PeopleTest {

    private final int nth = unique();
    private final String domain = "firm" + nth + ".example";

    private static Contact recognise(String address, String name) {
        return bean(TransactionTemplate.class)
                .execute(status -> bean(Contacts.class).recognise(address, name, RunningApp.MONDAY));
    }

    @Test
    void many_at_once_make_one_contact_of_one_address() throws Exception {
        try (var pool = Executors.newFixedThreadPool(8)) {
            Callable<ContactId> ask =
                    () -> recognise("crowd" + nth + "@post.example", "Crowd").id();
            var ids = pool.invokeAll(java.util.Collections.nCopies(16, ask)).stream()
                    .map(f -> {
                        try {
                            return f.get();
                        } catch (Exception e) {
                            throw new IllegalStateException(e);
                        }
                    })
                    .toList();
            assertThat(Set.copyOf(ids)).hasSize(1);
        }
    }

    @Test
    void a_company_is_told_by_its_domain_and_those_below_it_and_old_contacts_are_taken_in() {
        Contact before = recognise("early@" + domain, "Early");
        assertThat(before.company()).isEmpty();
        CompanyId company = bean(Companies.class)
                .save(
                        Optional.empty(),
                        "Firm " + nth,
                        "Harbour",
                        domain,
                        Map.of(),
                        RunningApp.ravi().id());
        assertThat(bean(Contacts.class).get(before.id()).company()).hasValue(company);
        assertThat(recognise("late@mail." + domain, "Late").company()).hasValue(company);
        assertThat(recognise("late@not" + domain, "Other").company()).isEmpty();
    }

    @Test
    void a_domain_belongs_to_one_company_and_never_to_one_when_it_is_public() {
        Companies companies = bean(Companies.class);
        companies.save(Optional.empty(), "Firm " + nth, "", domain, Map.of(), Guard.ITSELF);
        assertThatThrownBy(() -> companies.save(Optional.empty(), "Second", "", domain, Map.of(), Guard.ITSELF))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() ->
                        companies.savePublicDomains(domain, RunningApp.ravi().id()))
                .hasMessageContaining("belongs to a company");
        assertThatThrownBy(() -> companies.save(Optional.empty(), "Third", "", "post.example", Map.of(), Guard.ITSELF))
                .hasMessageContaining("Anybody");
        assertThatThrownBy(() -> companies.save(Optional.empty(), "", "", "", Map.of(), Guard.ITSELF))
                .hasMessageContaining("name");
        List<String> known = companies.publicDomains();
        companies.savePublicDomains(
                String.join(" ", known) + " open" + nth + ".example",
                RunningApp.ravi().id());
        assertThat(companies.publicDomains())
                .contains("open" + nth + ".example")
                .containsAll(known);
    }

    @Test
    void an_address_belongs_to_one_contact() {
        Contact one = recognise("one" + nth + "@post.example", "");
        assertThat(one.name()).isNotNull();
        bean(Contacts.class).addAddress(one.id(), "Two" + nth + "@Post.example ");
        assertThat(bean(Contacts.class)
                        .find("two" + nth + "@post.example")
                        .orElseThrow()
                        .id())
                .isEqualTo(one.id());
        assertThatThrownBy(() -> bean(Contacts.class).addAddress(one.id(), "two" + nth + "@post.example"))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> bean(Contacts.class).addAddress(one.id(), "nothing"))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void people_are_checked_before_they_are_kept() {
        Persons persons = bean(Persons.class);
        String address = "new" + nth + "@ternpassage.example";
        assertThatThrownBy(() -> persons.save(
                        Optional.empty(), "New", address, Role.AGENT, true, "short", Set.of(), Guard.ITSELF))
                .hasMessageContaining("too short");
        assertThatThrownBy(() ->
                        persons.save(Optional.empty(), "New", address, Role.AGENT, true, "", Set.of(), Guard.ITSELF))
                .hasMessageContaining("first password");
        assertThatThrownBy(() -> persons.save(
                        Optional.empty(), "New", "none", Role.AGENT, true, "long-enough-now", Set.of(), Guard.ITSELF))
                .hasMessageContaining("not a mail address");
        PersonId id = persons.save(
                Optional.empty(), "New", address, Role.AGENT, true, "long-enough-now", Set.of(), Guard.ITSELF);
        assertThatThrownBy(() -> persons.save(
                        Optional.empty(),
                        "Twin",
                        address.toUpperCase(),
                        Role.AGENT,
                        true,
                        "long-enough-now",
                        Set.of(),
                        Guard.ITSELF))
                .hasMessageContaining("already");
        assertThatThrownBy(() -> persons.save(Optional.of(id), "New", address, Role.AGENT, false, "", Set.of(), id))
                .hasMessageContaining("your own administration");
        assertThatThrownBy(() -> persons.addTeam(" ", Guard.ITSELF)).isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void a_mailbox_is_checked_and_the_loser_of_a_race_is_told() {
        Mailboxes mailboxes = bean(Mailboxes.class);
        var wanted = RunningApp.mailbox("box" + nth + "@ternpassage.example");
        long id = mailboxes.save(wanted, RunningApp.ravi().id());
        assertThatThrownBy(() -> mailboxes.save(wanted, RunningApp.ravi().id())).hasMessageContaining("set up already");
        var kept = mailboxes.find(id).orElseThrow();
        mailboxes.save(kept, RunningApp.ravi().id());
        assertThatThrownBy(() -> mailboxes.save(kept, RunningApp.ravi().id())).isInstanceOf(Problem.Stale.class);
        assertThat(mailboxes.imap(kept).password()).isEqualTo("tide");
        mailboxes.remove(id, RunningApp.ravi().id());
        assertThat(mailboxes.find(id)).isEmpty();
    }
}
