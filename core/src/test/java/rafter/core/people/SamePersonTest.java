package rafter.core.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import rafter.core.Seeds;
import rafter.core.people.SamePerson.Known;
import rafter.core.people.SamePerson.Sign;
import rafter.core.text.MailAddress;

class SamePersonTest {

    private static boolean isPublic(String domain) {
        return domain.equals("post.example");
    }

    private static MailAddress address(String written) {
        return MailAddress.of(written).orElseThrow();
    }

    private static Known known(String name, String address, String... phones) {
        return new Known(name, List.of(address(address)), Set.of(phones));
    }

    private static Set<Sign> signs(Known one, Known other) {
        return SamePerson.signs(one, other, SamePersonTest::isPublic);
    }

    @Test
    void the_same_name_at_the_same_domain_says_so_in_whatever_order_and_writing() {
        Known dov = known("Dov Reiss", "dov@brightwater.example");
        assertThat(signs(dov, known("REISS, Dov", "d.reiss@brightwater.example")))
                .containsExactly(Sign.NAME_AND_DOMAIN);
        assertThat(signs(dov, known("Dov Reiss", "dreiss@cold-harbour.example")))
                .isEmpty();
        assertThat(signs(dov, known("Dov Reis", "office@brightwater.example"))).isEmpty();
    }

    @Test
    void at_a_public_domain_a_name_says_nothing() {
        assertThat(signs(known("Ann Lee", "ann1@post.example"), known("Ann Lee", "lee.a@post.example")))
                .isEmpty();
    }

    @Test
    void one_word_is_no_name() {
        assertThat(signs(known("Office", "office@brightwater.example"), known("Office", "front@brightwater.example")))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "4791234567, 91234567, true",
        "091234567, 4791234567, true",
        "4791234567, 4791234568, false",
        "1234, 4791231234, false",
        "4791234567, 4791234567, true"
    })
    void a_telephone_is_the_same_with_and_without_its_country(String one, String other, boolean same) {
        assertThat(SamePerson.sameNumber(one, other)).isEqualTo(same);
        assertThat(signs(known("A B", "ab@x.example", one), known("C D", "cd@y.example", other))
                        .contains(Sign.PHONE))
                .isEqualTo(same);
    }

    @ParameterizedTest
    @CsvSource({
        "dov.reiss@brightwater.example, dovreiss@brightwater.example, true",
        "dov.reiss@brightwater.example, dov.reis@brightwater.example, true",
        "dov.reiss+freight@brightwater.example, dov_reiss@brightwater.example, true",
        "dov.reiss@brightwater.example, dov.reiss@brightwatr.example, true",
        "dov.reiss@brightwater.example, dov.reiss@cold-harbour.example, false",
        "desk-one1@brightwater.example, desk-one2@brightwater.example, false",
        "ann@brightwater.example, anna@brightwater.example, false",
        "hanna@brightwater.example, wanda@brightwater.example, false"
    })
    void an_address_is_near_when_a_hand_may_have_slipped(String one, String other, boolean near) {
        assertThat(SamePerson.near(address(one), address(other))).isEqualTo(near);
    }

    @Test
    void it_is_the_same_whoever_is_asked_about_and_everybody_is_like_themselves() {
        for (long seed : Seeds.upTo(2_000).toArray()) {
            var random = new Random(seed);
            Known one = any(random);
            Known other = any(random);
            assertThat(signs(one, other)).isEqualTo(signs(other, one));
            assertThat(signs(one, one).contains(Sign.PHONE))
                    .isEqualTo(one.phones().stream().anyMatch(p -> p.length() > 6));
        }
    }

    private static Known any(Random random) {
        String[] names = {"Dov Reiss", "Reiss Dov", "Ann", "Ann Lee", ""};
        String[] locals = {"dov.reiss", "dovreiss", "dov.reis", "desk1", "desk2", "ann"};
        String[] domains = {"brightwater.example", "brightwatr.example", "post.example"};
        var addresses = new ArrayList<MailAddress>();
        for (int i = random.nextInt(3); i >= 0; i--) {
            addresses.add(address(locals[random.nextInt(6)] + "@" + domains[random.nextInt(3)]));
        }
        return new Known(
                names[random.nextInt(5)],
                addresses,
                random.nextBoolean() ? Set.of() : Set.of(random.nextBoolean() ? "4791234567" : "91234567"));
    }
}
