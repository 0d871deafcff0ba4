package rafter.core.arrival;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.json.Unreadable;
import rafter.core.text.MailKind;

/** What becomes of mail that belongs to no ticket yet. */
class ArrivalBookTest {

    private static final MailFacts.Mail MAIL = new MailFacts.Mail(
            "help@ternpassage.example",
            "dov@brightwater.example",
            "Dov Reiss",
            List.of("help@ternpassage.example"),
            "Freight slot for Thursday",
            "Can we have the early slot?",
            "X-Campaign: spring\nList-Unsubscribe: <mailto:off@brightwater.example>",
            12_345,
            2,
            MailKind.PERSON);

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static ArrivalRule rule(String id, Criteria criteria, Admission then) {
        return new ArrivalRule(id, "Rule " + id, true, criteria, then);
    }

    private static Criteria asks(KnownField field, Operator operator, String... values) {
        return Criteria.test(field, operator, values);
    }

    private static ArrivalBook book(ArrivalRule... rules) {
        return new ArrivalBook(List.of(rules), true, 90);
    }

    private static Facts facts() {
        return MailFacts.withSender(MailFacts.of(MAIL), true, 1);
    }

    @Test
    void what_nothing_takes_opens_a_ticket() {
        ArrivalBook.Decision decision = ArrivalBook.EMPTY.decide(facts());
        assertThat(decision.then()).isEqualTo(Admission.TICKET);
        assertThat(decision.why()).isEqualTo(new ArrivalBook.Why.ByDefault());
    }

    @Test
    void the_first_rule_that_matches_decides() {
        ArrivalRule first = rule("1", asks(KnownField.SUBJECT, Operator.HAS_ANY, "freight"), Admission.NEWS);
        ArrivalRule second = rule("2", asks(KnownField.SENDER_KNOWN, Operator.IS, "known"), Admission.SAVED);
        assertThat(book(first, second).decide(facts()).why()).isEqualTo(new ArrivalBook.Why.ByRule(first));
        assertThat(book(second, first).decide(facts()).then()).isEqualTo(Admission.SAVED);
    }

    @Test
    void a_rule_that_is_off_decides_nothing() {
        var off = new ArrivalRule(
                "1", "Off", false, asks(KnownField.SUBJECT, Operator.HAS_ANY, "freight"), Admission.SAVED);
        assertThat(book(off).decide(facts()).then()).isEqualTo(Admission.TICKET);
    }

    @Test
    void everything_of_a_mail_can_be_asked() {
        for (Criteria one : List.of(
                asks(KnownField.SENDER, Operator.ENDS_WITH, "@brightwater.example"),
                asks(KnownField.SENDER_NAME, Operator.HAS_ANY, "reiss"),
                asks(KnownField.SENDER_KNOWN, Operator.IS, "known"),
                asks(KnownField.SUBJECT, Operator.BEGINS_WITH, "freight slot"),
                asks(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "early slot"),
                asks(KnownField.MAILBOX, Operator.IS, "help@ternpassage.example"),
                asks(KnownField.RECIPIENT, Operator.IS, "help@ternpassage.example"),
                asks(KnownField.WRITTEN_BY, Operator.IS, "PERSON"),
                asks(KnownField.HEADER, Operator.HAS_ANY, "X-Campaign: spring"),
                asks(KnownField.MAIL_SIZE, Operator.AT_LEAST, "12"),
                asks(KnownField.MAIL_FILES, Operator.IS, "2"),
                asks(KnownField.OPEN_TICKETS, Operator.AT_LEAST, "1"))) {
            assertThat(book(rule("1", one, Admission.SAVED)).decide(facts()).then())
                    .as("%s", one)
                    .isEqualTo(Admission.SAVED);
            assertThat(book(rule("1", one, Admission.SAVED))
                            .decide(Facts.none())
                            .then())
                    .as("%s of nothing", one)
                    .isEqualTo(Admission.TICKET);
        }
    }

    @Test
    void mail_of_a_high_score_is_set_aside_unless_a_rule_lets_it_in() {
        Facts junk = MailFacts.withScore(facts(), 90);
        assertThat(book().decide(junk).why()).isEqualTo(new ArrivalBook.Why.ByScore(90));
        assertThat(book().decide(MailFacts.withScore(facts(), 89)).then()).isEqualTo(Admission.TICKET);
        assertThat(book().withJunk(false, 90).decide(junk).then()).isEqualTo(Admission.TICKET);
        ArrivalRule known = rule("1", asks(KnownField.SENDER_KNOWN, Operator.IS, "known"), Admission.TICKET);
        assertThat(book(known).decide(junk).then()).isEqualTo(Admission.TICKET);
    }

    @Test
    void a_rule_that_would_take_all_mail_is_a_fault() {
        assertThat(new ArrivalRule("1", "All", true, Criteria.everything(), Admission.SAVED).faults())
                .hasSize(1);
        assertThat(new ArrivalRule("1", "", true, Criteria.everything(), Admission.SAVED).faults())
                .hasSize(2);
        assertThat(rule("1", asks(KnownField.OWNER, Operator.IS, "7"), Admission.SAVED)
                        .faults())
                .containsExactly("It asks something that is not known of a mail.");
        assertThat(book(rule("1", asks(KnownField.SUBJECT, Operator.HAS_ANY), Admission.SAVED))
                        .faults())
                .hasSize(1);
        assertThat(new ArrivalBook(List.of(), true, 49).faults()).hasSize(1);
    }

    @Test
    void two_rules_of_one_id_are_a_fault() {
        Criteria one = asks(KnownField.SUBJECT, Operator.HAS_ANY, "freight");
        assertThat(book(rule("1", one, Admission.SAVED), rule("1", one, Admission.ASIDE))
                        .faults())
                .hasSize(1);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void moving_keeps_all_rules_and_the_order_of_the_others(long seed) {
        var random = new Random(seed);
        var rules = new ArrayList<ArrivalRule>();
        for (int i = 0; i < 1 + random.nextInt(6); i++) {
            rules.add(rule("r" + i, asks(KnownField.SUBJECT, Operator.HAS_ANY, "w" + i), Admission.ASIDE));
        }
        ArrivalBook book = ArrivalBook.EMPTY.with(rules);
        String id = "r" + random.nextInt(rules.size());
        int by = random.nextInt(9) - 4;
        ArrivalBook moved = book.moved(id, by);
        assertThat(moved.without(id)).isEqualTo(book.without(id));
        int at = rules.indexOf(book.rule(id).orElseThrow());
        assertThat(moved.rules().indexOf(moved.rule(id).orElseThrow()))
                .isEqualTo(Math.max(0, Math.min(rules.size() - 1, at + by)));
    }

    @Test
    void a_book_reads_as_it_was_written() {
        ArrivalBook book = book(
                rule("1", asks(KnownField.HEADER, Operator.HAS_ANY, "precedence bulk"), Admission.STRANGER),
                rule("2", asks(KnownField.MAIL_SIZE, Operator.AT_LEAST, "5000"), Admission.ASIDE));
        assertThat(ArrivalBookJson.read(ArrivalBookJson.write(book))).isEqualTo(book);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{",
                "{}",
                "{\"arrival\":2,\"junk\":false,\"threshold\":95,\"rules\":[]}",
                "{\"arrival\":1,\"threshold\":95,\"rules\":[]}",
                "{\"arrival\":1,\"junk\":false,\"threshold\":\"95\",\"rules\":[]}",
                "{\"arrival\":1,\"junk\":false,\"threshold\":95}",
                "{\"arrival\":1,\"junk\":false,\"threshold\":95,\"rules\":[{\"id\":\"1\",\"name\":\"n\",\"on\":true,"
                        + "\"then\":\"burn\",\"criteria\":{\"all\":[]}}]}"
            })
    void what_is_no_book_is_refused(String json) {
        assertThatThrownBy(() -> ArrivalBookJson.read(json)).isInstanceOf(Unreadable.class);
    }
}
