package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;
import static rafter.core.rule.RandomRules.NOW;
import static rafter.core.rule.RandomRules.book;
import static rafter.core.rule.RandomRules.rule;
import static rafter.core.rule.RandomRules.tag;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Way;

/** Books that are tried on a ticket as it stood: what rules would do is carried along, and nothing is done. */
class RuleTrialTest {

    private static final Reading.Trigger CAME = new Reading.Trigger.Came();
    private static final Actor DOV = new Actor.Contact(new ContactId(7));

    private static final TicketEvent.Opened OPENED = new TicketEvent.Opened(
            NOW.minusSeconds(7_200),
            DOV,
            TicketEvent.Origin.CUSTOMER,
            Way.by("email"),
            "A lost bag",
            new ContactId(7),
            Priority.P3,
            Optional.empty());

    private static List<TicketEvent> tagged(Ticket ticket, Deed deed) {
        var tags = new TreeSet<>(ticket.tags());
        return tags.add(deed.typed().get("tag"))
                ? List.of(new TicketEvent.TagsChanged(NOW, Actor.system(), tags))
                : List.of();
    }

    private static RuleTrial.Outcome tried(RuleBook book, TicketEvent... more) {
        var events = new ArrayList<TicketEvent>(List.of(OPENED));
        events.addAll(List.of(more));
        return RuleTrial.read(
                RuleTrial.Tried.of(book),
                CAME,
                new RuleTrial.Stood(Facts.none().with(KnownField.SUBJECT, "A lost bag"), events, all -> List.of()),
                (ticket, deed, now) -> tagged(ticket, deed),
                NOW);
    }

    private static Criteria hasTag(String tag) {
        return test(KnownField.TAGS, Operator.HAS_ANY, tag);
    }

    @Test
    void a_rule_is_asked_about_the_ticket_that_those_above_would_have_made() {
        RuleTrial.Outcome outcome = tried(book(
                rule("early", hasTag("lost"), true),
                rule("words", test(KnownField.SUBJECT, Operator.HAS_ANY, "lost"), true, tag("lost")),
                rule("late", hasTag("lost"), true)));
        assertThat(outcome.matched()).containsExactlyInAnyOrder("words", "late");
        assertThat(outcome.facts().keySet()).containsExactlyInAnyOrder("early", "words", "late");
        assertThat(RandomRules.matches(hasTag("lost"), outcome.facts().get("words")))
                .isFalse();
        assertThat(RandomRules.matches(hasTag("lost"), outcome.facts().get("late")))
                .isTrue();
    }

    @Test
    void a_rule_that_is_off_is_neither_asked_nor_does_it_anything() {
        RuleTrial.Outcome outcome = tried(book(
                rule("off", Criteria.everything(), true, tag("lost")).on(false), rule("late", hasTag("lost"), true)));
        assertThat(outcome.matched()).isEmpty();
        assertThat(outcome.facts()).containsOnlyKeys("late");
    }

    @Test
    void who_took_the_ticket_before_a_rule_that_would_have_matched_is_told() {
        RuleBook book = book(
                rule("takes", Criteria.everything(), false),
                rule("would", Criteria.everything(), false),
                rule("never", hasTag("vip"), false),
                rule("off", Criteria.everything(), false).on(false));
        RuleTrial.Outcome outcome = tried(book);
        assertThat(RuleTrial.taken(book, outcome, outcome.facts().get("takes"), NOW))
                .isEqualTo(Map.of("would", "takes"));
    }

    @Test
    void messages_and_reopenings_are_counted_and_what_machines_wrote_is_not() {
        var resolved = new TicketEvent.StateChanged(NOW, Actor.system(), TicketState.RESOLVED);
        var again = new TicketEvent.StateChanged(NOW, Actor.system(), TicketState.IN_HAND);
        Criteria counted = new Criteria.All(List.of(
                test(KnownField.CUSTOMER_MESSAGES, Operator.IS, "2"),
                test(KnownField.OUR_MESSAGES, Operator.IS, "1"),
                test(KnownField.REOPENINGS, Operator.IS, "1")));
        RuleTrial.Outcome outcome = tried(
                book(rule("counts", counted, true)),
                new TicketEvent.CustomerWrote(NOW, DOV, new MessageId(1), false),
                new TicketEvent.CustomerWrote(NOW, DOV, new MessageId(2), true),
                new TicketEvent.WeWrote(NOW, Actor.system(), new MessageId(3), true),
                new TicketEvent.WeWrote(NOW, Actor.system(), new MessageId(4), false),
                resolved,
                again,
                new TicketEvent.CustomerWrote(NOW, DOV, new MessageId(5), false),
                resolved);
        assertThat(outcome.matched()).isEqualTo(Set.of("counts"));
    }
}
