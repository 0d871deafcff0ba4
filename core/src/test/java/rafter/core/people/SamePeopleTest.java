package rafter.core.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.people.SamePeople.Pair;
import rafter.core.people.SamePerson.Known;
import rafter.core.text.MailAddress;

/** Finding over all contacts finds what comparing each with each would. */
class SamePeopleTest {

    static LongStream seeds() {
        return Seeds.upTo(300);
    }

    private static boolean isPublic(String domain) {
        return domain.startsWith("post");
    }

    private static Known known(String name, String address, String... phones) {
        return new Known(name, List.of(MailAddress.of(address).orElseThrow()), Set.of(phones));
    }

    private static List<Pair> among(List<Known> all, int most) {
        return SamePeople.among(all, SamePeopleTest::isPublic, most);
    }

    /** A word, and now and then the same one as a hand that slips writes it. */
    private static String word(Random random, String... known) {
        var word = new StringBuilder(known[random.nextInt(known.length)]);
        int at = random.nextInt(word.length());
        char letter = "abn17.".charAt(random.nextInt(6));
        switch (random.nextInt(6)) {
            case 0 -> word.deleteCharAt(at);
            case 1 -> word.insert(at, letter);
            case 2 -> word.setCharAt(at, letter);
            default -> {}
        }
        return word.toString();
    }

    private static Known any(Random random) {
        var addresses = new ArrayList<MailAddress>();
        for (int i = random.nextInt(3); i >= 0; i--) {
            String local = word(random, "dov.reiss", "hannabaan", "annab", "desk17", "ann");
            String domain = word(random, "brightwater", "post", "harbour") + ".example";
            MailAddress.of(local + "@" + domain).ifPresent(addresses::add);
        }
        String[] names = {"Dov Reiss", "REISS, Dov", "Hanna Baan", "Ann", "Ann Ann", ""};
        String[] phones = {"4791234567", "091234567", "91234567", "1234567", "234567", "0047912345671"};
        return new Known(
                names[random.nextInt(names.length)],
                addresses,
                random.nextInt(3) > 0 ? Set.of() : Set.of(phones[random.nextInt(phones.length)]));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_same_pairs_are_found_as_by_comparing_each_with_each(long seed) {
        var random = new Random(seed);
        List<Known> all = IntStream.range(0, 2 + random.nextInt(25))
                .mapToObj(i -> any(random))
                .toList();
        var expected = new ArrayList<Pair>();
        for (int one = 0; one < all.size(); one++) {
            for (int other = one + 1; other < all.size(); other++) {
                if (!SamePerson.signs(all.get(one), all.get(other), SamePeopleTest::isPublic)
                        .isEmpty()) {
                    expected.add(new Pair(one, other));
                }
            }
        }
        assertThat(among(all, Integer.MAX_VALUE)).isEqualTo(expected);
        assertThat(among(all, 3))
                .as("so many at most, the first ones")
                .isEqualTo(expected.subList(0, Math.min(3, expected.size())));
    }

    @Test
    void one_pair_among_many_strangers_is_found_wherever_it_stands() {
        var all = new ArrayList<Known>();
        var random = new Random(7);
        for (int i = 0; i < 3_000; i++) {
            String name = Integer.toString(random.nextInt(1_000_000, 10_000_000), 36) + "q" + i;
            all.add(known("Some " + name, name + "@firm" + i + ".example", Integer.toString(70_000_000 + i)));
        }
        all.add(known("Solveig Nes", "solveig.nes@brightwater.example"));
        all.add(known("S", "solvieg.nes@elsewhere.example"));
        all.add(known("N", "solvig.nes@brightwater.example"));
        Collections.swap(all, 17, all.size() - 1);
        assertThat(among(all, 10)).containsExactly(new Pair(17, 3_000));
    }

    @Test
    void what_a_whole_office_shares_is_no_sign_and_hides_no_other() {
        var all = new ArrayList<Known>();
        for (char letter = 'a'; letter <= 'z'; letter++) {
            for (String more : List.of("quay", "tide")) {
                String name = (letter + more).repeat(2);
                all.add(known(name + " Berg", name + "@brightwater.example", "4755500000"));
            }
        }
        all.add(known("abc Berg", "aquayaquayy@brightwater.example"));
        assertThat(among(all, 10)).containsExactly(new Pair(0, all.size() - 1));
    }

    @Test
    void nobody_is_like_themselves_and_more_than_can_be_told_apart_are_refused() {
        assertThat(among(List.of(), 5)).isEmpty();
        assertThat(among(List.of(known("Dov Reiss", "dov.reiss@brightwater.example", "4791234567")), 5))
                .isEmpty();
        List<Known> far = Collections.nCopies(SamePeople.MOST + 1, known("A", "a@b.example"));
        assertThatThrownBy(() -> among(far, 5)).isInstanceOf(IllegalArgumentException.class);
        assertThat(new HashSet<>(among(Collections.nCopies(3, known("A", "annab@b.example")), 9)))
                .containsExactlyInAnyOrder(new Pair(0, 1), new Pair(0, 2), new Pair(1, 2));
    }
}
