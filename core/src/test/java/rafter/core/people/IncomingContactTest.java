package rafter.core.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import rafter.core.Seeds;

/** Rows of other people's tables become contacts, or say why they cannot. */
class IncomingContactTest {

    private static final List<String> TARGETS =
            List.of("first", "last", "address", "phone", "phone", "company", "language", "zone", "own-3", "");

    private static IncomingContact fine(String... cells) {
        return ((IncomingContact.Read.Fine) IncomingContact.of(TARGETS, List.of(cells))).contact();
    }

    private static String wrong(String... cells) {
        return ((IncomingContact.Read.Wrong) IncomingContact.of(TARGETS, List.of(cells))).why();
    }

    @Test
    void a_row_is_put_together_from_its_cells_and_what_is_left_out_is_left_out() {
        IncomingContact dov = fine(
                " Dov ",
                "Reiss",
                "Dov@Brightwater.example; d.reiss@x.example",
                "+47 55 01 02 03",
                "'+47 91 23 45 67",
                "Brightwater Produce",
                "German",
                "Europe/Oslo",
                "TPA-117",
                "secret");
        assertThat(dov.name()).isEqualTo("Dov Reiss");
        assertThat(dov.addresses()).containsExactly("dov@brightwater.example", "d.reiss@x.example");
        assertThat(dov.phones()).containsExactly("+47 55 01 02 03", "+47 91 23 45 67");
        assertThat(dov.language()).isEqualTo("de");
        assertThat(dov.own()).containsOnlyKeys("own-3");
    }

    @Test
    void cells_that_are_missing_are_as_though_they_were_empty() {
        assertThat(fine("Dov", "Reiss", "dov@x.example")).satisfies(dov -> {
            assertThat(dov.company()).isEmpty();
            assertThat(dov.phones()).isEmpty();
        });
    }

    @Test
    void a_telephone_number_that_is_written_in_two_ways_is_one() {
        assertThat(fine("Dov", "Reiss", "dov@x.example", "+47 55 01 02 03", "+47-55-010-203")
                        .phones())
                .containsExactly("+47 55 01 02 03");
    }

    @Test
    void what_cannot_be_says_why() {
        assertThat(wrong("Dov", "Reiss")).contains("no mail address in it");
        assertThat(wrong("Dov", "Reiss", "dov")).contains("“dov” is not a mail address");
        assertThat(wrong("Dov", "Reiss", "dov@x.example", "call me")).contains("“call me” is not a telephone number");
        assertThat(wrong("Dov", "Reiss", "dov@x.example", "", "", "", "Elvish")).contains("“Elvish” is no language");
        assertThat(wrong("Dov", "Reiss", "dov@x.example", "", "", "", "", "Mars/Base"))
                .contains("no time zone");
        assertThat(wrong("x".repeat(201), "", "dov@x.example")).contains("at most 200 letters");
    }

    @ParameterizedTest
    @CsvSource({
        "E-Mail, ADDRESS",
        "email address, ADDRESS",
        "Phone 2, PHONE",
        "Full name, NAME",
        "Given Name, FIRST_NAME",
        "Company, COMPANY",
        "TIME ZONE, ZONE"
    })
    void headings_are_understood_however_they_are_written(String heading, ContactColumn meant) {
        assertThat(ContactColumn.meant(heading)).contains(meant);
    }

    @Test
    void a_heading_that_says_nothing_is_left_out() {
        assertThat(ContactColumn.meant("Shoe size")).isEqualTo(Optional.empty());
    }

    @Test
    void whatever_stands_in_a_table_it_is_read_or_refused_with_words() {
        String signs = "ab@.;,\u0000\u00e5'\"=+-\n 0123";
        Seeds.upTo(500).forEach(seed -> {
            var random = new Random(seed);
            List<String> cells = Stream.generate(() -> random.ints(random.nextInt(12), 0, signs.length())
                            .mapToObj(i -> "" + signs.charAt(i))
                            .reduce("", String::concat))
                    .limit(random.nextInt(14))
                    .toList();
            switch (IncomingContact.of(TARGETS, cells)) {
                case IncomingContact.Read.Fine fine -> {
                    assertThat(fine.contact().addresses()).isNotEmpty().allMatch(one -> one.contains("@"));
                    assertThat(fine.contact().toString()).doesNotContain("\u0000");
                }
                case IncomingContact.Read.Wrong no -> assertThat(no.why()).endsWith(".");
            }
        });
    }
}
