package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** A hundred replies as mail programs make them: nothing of the writer is hidden, and quotations are rarely shown. */
class HundredRepliesTest {

    private static final List<String> OURS = List.of(
            "Hello Dov,\n\nyour trailer is on the 07:40 boat in lane 4. Please be at the gate by 07:10 and have the papers of the goods at hand.\n\nKind regards\nImani Okoro\nTern Passage Ferries",
            "Dear Noor Haddad,\n\nthe pass for your son is ready. It can be collected at the office in Skelby from Monday to Friday, 9:00 to 16:00.\n\nBest wishes\nSefa");

    /** What people write, also what looks like a quotation and is none. */
    private static final List<String> WRITTEN = List.of(
            "Thank you!",
            "Yes, that is fine. See you then.",
            "No. We had asked for lane 5:\n\nFrom: Skelby\nTo: Vessa\nDate: 3 March\nSubject: lane 5\n\nCan that be changed?",
            "On Monday your colleague wrote:\nwe would get our money back.\nWe did not.",
            "Cabin\n--\nBerths 2\n\nIs this right?",
            "Sent from my old address, please answer to the new one",
            "Takk for hjelpen!\n\nHvor finner jeg kontoret?",
            "1) yes\n2) no\n3) On 4 March, at 10:00:\nwe will be there",
            "Please be at the gate? By when?",
            "-----\nImportant\n-----\nThe gate was closed.");

    private static String marked(String text) {
        return text.lines().map(line -> line.isEmpty() ? ">" : "> " + line).collect(Collectors.joining("\n"));
    }

    private static String wrapped(String text) {
        return text.replace("Please be at the gate ", "Please be at the\ngate ")
                .replace("Skelby from ", "Skelby\nfrom ");
    }

    private static BiFunction<String, String, String> below(String head, UnaryOperator<String> quote) {
        return (written, ours) -> written + "\n\n" + head + "\n" + quote.apply(ours);
    }

    private static final List<BiFunction<String, String, String>> PROGRAMS = List.of(
            below(
                    "On Mon, 1 Mar 2027 at 10:00, Tern Passage Ferries <help@ternpassage.example> wrote:\n",
                    HundredRepliesTest::marked),
            below("Am 01.03.2027 um 10:00 schrieb Imani Okoro, Tern Passage Ferries:", HundredRepliesTest::marked),
            below(
                    "Den man. 1. mars 2027 kl. 10:00 skrev Tern Passage\n<help+t4471.0a1b2c3d4e5f@ternpassage.example>:\n",
                    text -> marked(wrapped(text))),
            below(
                    "________________________________\nFrom: Tern Passage Ferries <help@ternpassage.example>\nSent: 01 March 2027 10:00\nTo: Dov\nSubject: Slot\n",
                    UnaryOperator.identity()),
            below(
                    "-----Ursprüngliche Nachricht-----\nVon: Tern Passage\nGesendet: 1. März 2027\nAn: Dov\nBetreff: Slot\n",
                    HundredRepliesTest::wrapped),
            below("Le lun. 1 mars 2027 à 10:00, Tern Passage a écrit :\n", UnaryOperator.identity()),
            below("Dnia 1 marca 2027 10:00 Tern Passage napisał(a):", HundredRepliesTest::marked),
            (written, ours) -> written
                    + "\n\n-- \nDov Reiss\nBrightwater Produce\n+47 55 01 02 03\n\nOn 1/3/27 10:00, Help wrote:\n"
                    + marked(ours),
            (written, ours) -> "On Mon, 1 Mar 2027 at 10:00, Help <help@ternpassage.example> wrote:\n" + marked(ours)
                    + "\n\n" + written,
            below("2027-03-01 10:00 GMT+01:00, Tern Passage <help@ternpassage.example>:", HundredRepliesTest::marked));

    @Test
    void nothing_of_the_writer_is_hidden_and_quotations_are_shown_in_at_most_ten() {
        var hidden = new ArrayList<String>();
        var shown = new ArrayList<String>();
        int nth = 0;
        for (String written : WRITTEN) {
            for (BiFunction<String, String, String> program : PROGRAMS) {
                String ours = OURS.get(nth++ % OURS.size());
                String reply = program.apply(written, ours);
                ReplyParts parts = ReplyStripper.strip(
                        reply,
                        Earlier.of(Set.of("help@ternpassage.example", "dov@brightwater.example"), () -> List.of(ours)));
                if (!words(parts.own()).containsAll(words(written))
                        || !parts.own().contains(written.lines().findFirst().orElseThrow())) {
                    hidden.add(reply);
                }
                if (parts.own().contains("gate by 07:10") || parts.own().contains("son is ready")) {
                    shown.add(reply);
                }
            }
        }
        assertThat(nth).isEqualTo(100);
        assertThat(hidden).isEmpty();
        assertThat(shown).hasSizeLessThanOrEqualTo(10);
    }

    private static List<String> words(String text) {
        return Words.list(text);
    }
}
