package rafter.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.Recorded;
import rafter.core.Seeds;

/** Messages put together of what mail programs and people write: where they are cut stays as it is. */
class RecordedCutsTest {

    private static final List<String> OURS = List.of(
            "your trailer is on the 07:40 boat in lane 4",
            "Please be at the gate by 07:10",
            "and have the papers of the goods at hand.",
            "Kind regards",
            "Imani Okoro");
    private static final List<String> PIECES = List.of(
            "Thank you!",
            "Yes, that is fine.",
            "See you there",
            "PS: the door is blue",
            "1) yes",
            "",
            "",
            "",
            "On Mon, 1 Mar 2027 at 10:00, Help <help@ternpassage.example> wrote:",
            "Am 01.03.2027 um 10:00 schrieb Imani Okoro:",
            "On Monday your colleague wrote:",
            "On 1 March 2027,",
            "Help wrote:",
            "2027-03-01 10:00 GMT+01:00, Tern Passage <help@ternpassage.example>:",
            "-----Original Message-----",
            "--- Forwarded message ---",
            "Begin forwarded message:",
            "________________________________",
            "---",
            "-----",
            "From: Help <help@ternpassage.example>",
            "Sent: 01 March 2027",
            "To: Dov",
            "Subject: Slot",
            "From: Skelby",
            "To: Vessa",
            "Date: 3 March",
            "-- ",
            "--",
            "Dov Reiss",
            "+47 55 01 02 03",
            "dov@brightwater.example",
            "Sent from my phone",
            "Best wishes",
            "* * *",
            "Can that be changed?",
            "> Can that be changed?",
            ">> Dear all");

    private static String message(Random random) {
        var lines = new ArrayList<String>();
        int length = 1 + random.nextInt(14);
        while (lines.size() < length) {
            switch (random.nextInt(5)) {
                case 0 -> lines.add(OURS.get(random.nextInt(OURS.size())));
                case 1 -> OURS.subList(0, 1 + random.nextInt(OURS.size())).forEach(line -> lines.add("> " + line));
                case 2 -> OURS.subList(random.nextInt(OURS.size()), OURS.size()).forEach(lines::add);
                default -> lines.add(PIECES.get(random.nextInt(PIECES.size())));
            }
        }
        return String.join("\n", lines);
    }

    @Test
    void a_message_is_cut_where_it_was_cut_before() {
        Earlier earlier = Earlier.of(
                Set.of("help@ternpassage.example", "dov@brightwater.example"), () -> List.of(String.join("\n", OURS)));
        var cuts = new ArrayList<String>();
        for (int seed = 0; seed < 10 * Seeds.rounds(150); seed++) {
            String message = message(new Random(seed));
            ReplyStripper.Cut cut = ReplyStripper.cut(TextLine.of(message), earlier);
            ReplyStripper.Cut first = ReplyStripper.cut(TextLine.of(message), Earlier.NOTHING);
            cuts.add(seed + ": " + written(cut) + "; in a first mail " + written(first));
        }
        Recorded.check("cuts", cuts);
    }

    private static String written(ReplyStripper.Cut cut) {
        return "quoted " + cut.quotedFrom() + "-" + cut.quotedTo() + " closing " + cut.signatureFrom() + "-"
                + cut.signatureTo();
    }
}
