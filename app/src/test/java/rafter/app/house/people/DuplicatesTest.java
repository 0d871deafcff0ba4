package rafter.app.house.people;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.core.id.ContactId;

/** Who may be the same person. */
@ExtendWith(RunningApp.class)
class DuplicatesTest extends Browsing {

    private final int nth = unique();
    private final String domain = "twin" + nth + ".example";
    private final Duplicates duplicates = bean(Duplicates.class);

    private static ContactId contact(String name, String address, String... phones) {
        Contact made = bean(TransactionTemplate.class)
                .execute(status -> bean(Contacts.class)
                        .recognise(address, name, RunningApp.clock().instant()));
        if (phones.length > 0) {
            bean(ContactCards.class)
                    .save(
                            new ContactCard(
                                    made.id(),
                                    name,
                                    made.company(),
                                    List.of(address),
                                    List.of(phones),
                                    "",
                                    "",
                                    Map.of(),
                                    0),
                            imani().id());
        }
        return made.id();
    }

    private List<ContactId> of(ContactId contact) {
        return duplicates.of(contact).stream().map(Duplicates.Suggestion::id).toList();
    }

    @Test
    void over_all_contacts_the_same_pairs_are_found_each_once() {
        int n = RunningApp.unique();
        String firm = "@twice" + n + ".example";
        ContactId one = contact("Ada Quill" + n, "ada" + firm, "+999 55 77 " + n);
        ContactId two = contact("Ada Quill" + n, "a.quill" + firm, "+999 55 77 " + n);
        contact("Ada Quill" + n, "ada@elsewhere" + n + ".example");
        assertThat(duplicates.lookedFor(10_000))
                .filteredOn(pair -> Set.of(pair.kept(), pair.other().id()).contains(one))
                .singleElement()
                .satisfies(pair -> {
                    assertThat(Set.of(pair.kept(), pair.other().id())).containsExactlyInAnyOrder(one, two);
                    assertThat(pair.other().why()).contains("telephone");
                });
    }

    @Test
    void over_all_contacts_a_slip_in_an_address_is_found_and_namesakes_at_two_firms_are_not() {
        ContactId one = contact("Mads", "mads.bergdal" + nth + "@" + domain);
        ContactId other = contact("M", "mads.begdal" + nth + "@" + domain);
        ContactId namesake = contact("Aaaa Zz" + nth, "one@aaa" + domain);
        contact("Aaaa Zz" + nth, "two@bbb" + domain);
        ContactId first = contact("Zz Aaaa" + nth, "one@" + domain);
        ContactId second = contact("Aaaa" + nth + " Zz", "two@" + domain);
        List<Duplicates.Pair> found = duplicates.lookedFor(10_000);
        assertThat(found)
                .filteredOn(pair -> pair.kept().equals(one))
                .singleElement()
                .satisfies(pair -> {
                    assertThat(pair.other().id()).isEqualTo(other);
                    assertThat(pair.other().why()).isEqualTo("almost the same address");
                });
        assertThat(found).noneMatch(pair -> pair.kept().equals(namesake));
        assertThat(found)
                .filteredOn(pair -> pair.kept().equals(first))
                .extracting(pair -> pair.other().id())
                .containsExactly(second);
    }

    @Test
    void the_same_person_under_two_addresses_is_found_from_either_side_with_what_says_so() throws Exception {
        ContactId one =
                contact("Solveig Nes" + nth, "solveig.nes" + nth + "@" + domain, "+47 91 2" + nth % 10 + " 45 67");
        ContactId other = contact("Nes" + nth + " Solveig", "s.n@" + domain, "091 2" + nth % 10 + " 45 67");
        assertThat(of(one)).contains(other);
        assertThat(of(other)).contains(one);
        assertThat(duplicates.of(one).stream()
                        .filter(twin -> twin.id().equals(other))
                        .map(Duplicates.Suggestion::why))
                .containsExactly("the same telephone, the same name at the same domain");
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/contacts/" + one).body()).contains("May be the same person", "/contacts/" + other);
    }

    @Test
    void an_address_in_which_a_letter_is_wrong_is_found() {
        ContactId one = contact("Mads", "mads.berglund" + nth + "@" + domain);
        ContactId other = contact("M", "mads.bergund" + nth + "@" + domain);
        assertThat(of(one)).containsExactly(other);
    }

    @Test
    void colleagues_are_not_suggested_nor_a_contact_for_themselves() {
        ContactId one = contact("Rolf Aas" + nth, "rolf.aas@" + domain);
        contact("Guro Aas" + nth, "guro.aas@" + domain);
        assertThat(of(one)).isEmpty();
    }

    @Test
    void whoever_is_gone_is_like_nobody() {
        assertThat(duplicates.of(new ContactId(999_999_999))).isEmpty();
    }
}
