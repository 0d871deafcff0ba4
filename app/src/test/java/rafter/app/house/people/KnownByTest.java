package rafter.app.house.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.unique;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;

@ExtendWith(RunningApp.class)
class KnownByTest {

    private final KnownBy known = bean(KnownBy.class);
    private final TransactionTemplate transaction = bean(TransactionTemplate.class);

    private Contact made(String name, String number) {
        return transaction.execute(status -> {
            Contact contact = known.make(name, Optional.empty(), clock().instant());
            known.addNumber(contact.id(), number);
            return contact;
        });
    }

    private static String ending() {
        return Integer.toString(1_000_000 + unique());
    }

    @ParameterizedTest
    @CsvSource({
        "+47 55 , 0047 55",
        "+47 55 , 055",
        "055 , +47 55",
        "+47 (0)55 , +4755",
        "+47-55- , 55",
    })
    void a_number_is_the_same_however_it_is_written(String written, String asked) {
        String end = ending();
        Contact one = made("Somebody", written + end);
        assertThat(known.ofNumber(asked + end)).extracting(Contact::id).containsExactly(one.id());
    }

    @Test
    void numbers_that_only_end_alike_are_not_the_same() {
        String end = ending();
        made("Somebody", "+47 55 " + end);
        assertThat(known.ofNumber("+47 66 " + end)).isEmpty();
        assertThat(known.ofNumber(end.substring(1))).as("too short to tell").isEmpty();
        assertThat(known.ofNumber("ferry")).isEmpty();
    }

    @Test
    void the_same_number_is_written_down_once() {
        Contact one = made("Somebody", "+47 5 " + ending());
        String number = known.numbers(one.id()).getFirst();
        transaction.executeWithoutResult(status -> known.addNumber(one.id(), number.replace(" ", "")));
        assertThat(known.numbers(one.id())).containsExactly(number);
    }

    @Test
    void a_contact_without_a_name_is_none() {
        for (String name : List.of("", "  ", "x".repeat(201))) {
            assertThatThrownBy(
                            () -> transaction.execute(status -> known.make(name, Optional.empty(), clock().instant())))
                    .isInstanceOf(Problem.Invalid.class);
        }
    }
}
