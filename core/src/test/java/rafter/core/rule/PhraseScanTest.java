package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Operator;
import rafter.core.text.Words;

class PhraseScanTest {

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void one_pass_finds_what_looking_for_each_finds(long seed) {
        var random = new Random(seed);
        List<Criteria> all = IntStream.range(0, 20)
                .mapToObj(i -> RandomRules.NOBODY.resolve(RandomRules.criteria(random, 2)))
                .toList();
        PhraseScan scan = PhraseScan.of(all);
        for (int i = 0; i < 20; i++) {
            Facts facts = RandomRules.facts(random);
            Matching.Finder finder = scan.over(facts);
            all.forEach(
                    one -> assertThat(Matching.matches(one, facts, finder)).isEqualTo(Matching.matches(one, facts)));
        }
    }

    @Test
    void words_are_whole_folded_and_found_within_longer_phrases() {
        List<String> phrases = List.of("lost", "LOST bag", "bag", "café", "ag", "!!!", "bag of mine");
        Criteria any = new Criteria.Test(KnownField.SUBJECT, Operator.HAS_ANY, phrases);
        Facts facts = Facts.none().with(KnownField.SUBJECT, "The lost bag, at the CAFE");
        Matching.Finder finder = PhraseScan.of(List.of(any)).over(facts);
        Words text = Words.of("The lost bag, at the CAFE");
        for (String phrase : phrases) {
            assertThat(finder.has(KnownField.SUBJECT, text, phrase)).as(phrase).isEqualTo(text.has(phrase));
        }
    }
}
