package rafter.app.tickets.phrases;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Languages;
import rafter.app.tickets.acts.Blanks;
import rafter.core.id.TicketNumber;

/** Phrases while one writes on a ticket: found by a few letters, filled in for it. */
@RestController
@RequestMapping("/tickets/{number}/phrases")
class InsertingController {

    private static final int OFFERED = 8;

    /** A phrase as the editor offers it. */
    public record Offered(long id, String name, String detail, String html) {}

    private final Phrases phrases;
    private final Blanks blanks;
    private final Viewers viewers;
    private final Access access;

    InsertingController(Phrases phrases, Blanks blanks, Viewers viewers, Access access) {
        this.phrases = phrases;
        this.blanks = blanks;
        this.viewers = viewers;
        this.access = access;
    }

    @GetMapping
    List<Offered> offered(@PathVariable TicketNumber number, @RequestParam(defaultValue = "") String q) {
        Viewer me = access.require(Right.WORK);
        viewers.insist(me, number);
        Blanks.Known known = blanks.known(number, me.person());
        return phrases.matching(q, known.language(), OFFERED, me).stream()
                .map(phrase -> new Offered(
                        phrase.id(), phrase.name(), detail(phrase), Blanks.fill(phrase.html(), known.values())))
                .toList();
    }

    private static String detail(Phrase phrase) {
        return List.of(phrase.folder().replace("/", " / "), Languages.name(phrase.language())).stream()
                .filter(word -> !word.isEmpty())
                .reduce((one, other) -> one + ", " + other)
                .orElse("");
    }

    @PostMapping("/{id}/used")
    void used(@PathVariable TicketNumber number, @PathVariable long id) {
        Viewer me = access.require(Right.WORK);
        viewers.insist(me, number);
        phrases.used(id, me);
    }
}
