package rafter.app.house.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CONTACT;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.people.IncomingContact;

/** Contacts that are added and changed by the thousand become what they would one by one. */
@ExtendWith(RunningApp.class)
class ContactBulkTest {

    private final ContactBulk bulk = bean(ContactBulk.class);
    private final ContactCards cards = bean(ContactCards.class);
    private final TransactionTemplate transaction = bean(TransactionTemplate.class);
    private final int nth = unique();

    static LongStream seeds() {
        return LongStream.range(0, 25);
    }

    private static List<String> some(Random random, String what, int most) {
        var all = new ArrayList<String>();
        for (int i = random.nextInt(most + 1); i > 0; i--) {
            all.add(what.formatted(random.nextInt(8)));
        }
        return all.stream().distinct().toList();
    }

    /** What a file could have of somebody; {@code who} keeps the addresses of two apart. */
    private IncomingContact incoming(Random random, String who, boolean first) {
        var addresses = new ArrayList<String>();
        addresses.add(who + nth + "@bulk.example");
        addresses.addAll(some(random, who + "%d-" + nth + "@bulk.example", 3));
        return new IncomingContact(
                first || random.nextBoolean() ? "Name " + random.nextInt(3) : "",
                addresses,
                some(random, "+47 55 01 02 0%d", 3),
                random.nextBoolean() ? "Firm " + random.nextInt(2) + " " + nth : "",
                random.nextBoolean() ? "de" : "",
                random.nextBoolean() ? "Europe/Oslo" : "",
                Map.of());
    }

    private ContactId added(IncomingContact contact) {
        transaction.executeWithoutResult(
                status -> bulk.add(List.of(contact), bulk.companiesMade(List.of(contact.company()), ravi().id())));
        return bean(Contacts.class)
                .find(contact.addresses().getFirst())
                .orElseThrow()
                .id();
    }

    private ContactCard card(ContactId id) {
        return bulk.cards(List.of(id)).get(id);
    }

    /** Nothing of who it is, so that two can be compared; the one contact's addresses are written with the other's beginning. */
    private static String written(ContactCard card, String who) {
        return card.toString()
                .replaceFirst("id=\\w+", "")
                .replace(who + "-", "x-")
                .replaceAll("\\b" + who + "(?=[\\d])", "x");
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void changed_together_a_contact_becomes_what_it_becomes_by_itself(long seed) {
        ContactId one = added(incoming(new Random(seed), "one", true));
        ContactId two = added(incoming(new Random(seed), "two", true));
        IncomingContact moreOfOne = incoming(new Random(seed + 1_000), "one", false);
        IncomingContact moreOfTwo = incoming(new Random(seed + 1_000), "two", false);
        transaction.executeWithoutResult(status -> {
            Map<String, CompanyId> firms = bulk.companiesMade(List.of(moreOfOne.company()), ravi().id());
            bulk.change(
                    List.of(new ContactBulk.Change(card(one), bulk.with(card(one), moreOfOne, firms))), ravi().id());
            cards.save(bulk.with(card(two), moreOfTwo, firms), ravi().id());
        });
        assertThat(card(one)).isEqualTo(cards.get(one));
        assertThat(card(two)).isEqualTo(cards.get(two));
        assertThat(written(card(one), "one")).isEqualTo(written(card(two), "two"));
        assertThat(sql().select(CONTACT.NAME_WORDS)
                        .from(CONTACT)
                        .where(CONTACT.ID.eq(one))
                        .fetchSingle(CONTACT.NAME_WORDS))
                .isEqualTo(sql().select(CONTACT.NAME_WORDS)
                        .from(CONTACT)
                        .where(CONTACT.ID.eq(two))
                        .fetchSingle(CONTACT.NAME_WORDS));
    }

    @Test
    void what_somebody_else_changed_meanwhile_is_left_and_so_are_the_others() {
        ContactId one = added(incoming(new Random(1), "early", true));
        ContactId two = added(incoming(new Random(2), "late", true));
        ContactCard was = card(one);
        ContactCard other = card(two);
        cards.save(called(was, "Somebody else’s"), ravi().id());
        var both = List.of(
                new ContactBulk.Change(other, called(other, "Ours")), new ContactBulk.Change(was, called(was, "Ours")));
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> bulk.change(both, ravi().id())))
                .isInstanceOf(Problem.Stale.class);
        assertThat(card(one).name()).isEqualTo("Somebody else’s");
        assertThat(card(two)).isEqualTo(other);
    }

    @Test
    void nothing_is_asked_and_nothing_written_when_there_is_nothing() {
        assertThat(bulk.cards(List.of())).isEmpty();
        transaction.executeWithoutResult(status -> bulk.change(List.of(), ravi().id()));
        assertThat(bulk.isNew(" ", Map.of())).isFalse();
        assertThat(bulk.isNew("Firm", Map.of("firm", new CompanyId(1)))).isFalse();
        assertThat(bulk.isNew("Firm", Map.of())).isTrue();
    }

    private static ContactCard called(ContactCard card, String name) {
        return new ContactCard(
                card.id(),
                name,
                Optional.empty(),
                card.addresses(),
                card.phones(),
                card.language(),
                card.zone(),
                card.own(),
                card.version());
    }
}
