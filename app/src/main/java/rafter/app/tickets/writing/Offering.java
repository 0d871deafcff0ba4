package rafter.app.tickets.writing;

import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Blanks;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;

/** Lays an answer into somebody's composer, for them to read and send. */
@Component
public class Offering {

    private final Drafts drafts;
    private final Blanks blanks;

    Offering(Drafts drafts, Blanks blanks) {
        this.drafts = drafts;
        this.blanks = blanks;
    }

    /** Puts the words of an answer into a person's draft, after what they have written already. */
    @Transactional
    public void intoComposer(TicketNumber number, Act.Answer answer, Viewer by) {
        Map<String, String> values = blanks.of(number, by.person());
        Drafts.Draft draft = drafts.find(number, Drafts.Kind.REPLY, by);
        String html = String.join(
                "", List.of(draft.html(), SafeHtml.fromText(Placeholders.fillKnown(answer.text(), values))));
        drafts.save(
                number,
                Drafts.Kind.REPLY,
                new Drafts.Writing(html, draft.to(), draft.cc(), draft.bcc(), answer.then()),
                draft.version(),
                by);
    }
}
