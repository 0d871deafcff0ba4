package rafter.app.arrival.panel;

import java.time.Instant;
import java.util.List;

/**
 * What a panel shows of its chat; as JSON it is the contract, see {@code docs/contracts/chat.md}.
 *
 * @param lines those that the panel has not got yet, in order
 * @param last the number of the last line
 * @param with who of us last spoke or has it; blank: nobody yet
 * @param typing whether one of us is writing
 * @param read up to which line we have seen it
 * @param place one: the next in line; 0: it does not wait
 * @param expected how long that may take, in words; blank where nobody can say
 * @param ended whether it is over
 * @param rated whether it was rated
 */
record PanelState(
        List<Line> lines,
        int last,
        String with,
        boolean typing,
        int read,
        int place,
        String expected,
        boolean ended,
        boolean rated) {

    /** A line; {@code who} is CUSTOMER, PERSON, HELPER or HAPPENED, {@code press} 0 where nothing is asked about it. */
    public record Line(
            int seq,
            String who,
            String author,
            String text,
            Instant at,
            List<String> choices,
            long press,
            List<File> files) {}

    public record File(long id, String name, String type, long size) {}

    /** The same without lines, for telling whether anything else changed. */
    PanelState bare() {
        return new PanelState(List.of(), last, with, typing, read, place, expected, ended, rated);
    }
}
