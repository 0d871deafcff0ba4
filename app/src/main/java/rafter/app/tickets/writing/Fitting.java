package rafter.app.tickets.writing;

import java.util.List;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;

/** Whether a channel can carry what somebody wrote. */
final class Fitting {

    private static final String KEPT = " Nothing was sent; your text is saved.";

    private Fitting() {}

    /**
     * Insists that it can.
     *
     * @param copies to whom a copy is to go
     * @throws Problem.Invalid when it cannot; the words say what is too much
     */
    static void insist(Channel channel, String text, List<Drafts.DraftFile> files, List<String> copies) {
        Abilities can = channel.abilities();
        if (!can.written()) {
            throw new Problem.Invalid(
                    "Nothing can be written by " + channel.name() + ". Call, or choose another way." + KEPT);
        }
        int letters = text.codePointCount(0, text.length());
        if (can.longest().isPresent() && letters > can.longest().getAsInt()) {
            throw new Problem.Invalid("A message by " + channel.name() + " has at most "
                    + Say.number(can.longest().getAsInt()) + " letters; this one has " + Say.number(letters) + "."
                    + KEPT);
        }
        if (!files.isEmpty() && !can.files()) {
            throw new Problem.Invalid("No files can be sent by " + channel.name() + ". Take them off first." + KEPT);
        }
        if (!copies.isEmpty() && !can.copies()) {
            throw new Problem.Invalid("No copies can be sent by " + channel.name() + "." + KEPT);
        }
    }
}
