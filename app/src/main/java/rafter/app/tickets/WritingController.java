package rafter.app.tickets;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Clock;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import rafter.app.access.Access;
import rafter.app.access.Person;
import rafter.app.access.Right;
import rafter.app.mail.Outbox;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.targets.Targets;
import rafter.core.ticket.Turn;

/** Writing on a ticket: drafts, replies, notes, and trying a mail again. */
@Controller
@RequestMapping("/tickets/{number}")
class WritingController {

    private final Drafts drafts;
    private final Answering answering;
    private final Outbox outbox;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    WritingController(Drafts drafts, Answering answering, Outbox outbox, Targets targets, Access access, Clock clock) {
        this.drafts = drafts;
        this.answering = answering;
        this.outbox = outbox;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    /** Keeps what is being typed; answers with the new version, or with the text that is there when it was changed elsewhere. */
    @PostMapping("/drafts/{kind}")
    ResponseEntity<Map<String, Object>> save(
            @PathVariable long number, @PathVariable String kind, @RequestParam(defaultValue = "") String html,
            @RequestParam(defaultValue = "") String cc, @RequestParam(defaultValue = "CUSTOMER") Turn then, @RequestParam int version) {
        Person me = access.require(Right.WORK);
        return switch (drafts.save(number, kind(kind), html, cc, then, version, me)) {
            case Drafts.Saved.Kept kept ->
                ResponseEntity.ok(Map.of("version", kept.version(), "at", Say.when(kept.at(), clock.instant(), targets.terms().zone())));
            case Drafts.Saved.ChangedElsewhere elsewhere ->
                ResponseEntity.status(HttpStatus.CONFLICT)
                        .body(Map.of("version", elsewhere.there().version(), "html", elsewhere.there().html(), "cc", elsewhere.there().cc()));
        };
    }

    @PostMapping("/drafts/{kind}/discard")
    String discard(@PathVariable long number, @PathVariable String kind) {
        drafts.discard(number, kind(kind), access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    @GetMapping("/drafts/{kind}/files")
    String files(@PathVariable long number, @PathVariable String kind, Model model) {
        model.addAttribute("number", number);
        model.addAttribute("kind", kind);
        model.addAttribute("files", drafts.find(number, kind(kind), access.require(Right.WORK)).files());
        return "tickets/ticket :: files(files=${files},kind=${kind},number=${number})";
    }

    @PostMapping("/drafts/{kind}/files")
    String attach(@PathVariable long number, @PathVariable String kind, @RequestParam MultipartFile file, Model model) throws IOException {
        String name = Optional.ofNullable(file.getOriginalFilename()).orElse("file").replaceAll(".*[/\\\\]", "").replaceAll("\\p{Cntrl}", "_");
        String type = Optional.ofNullable(file.getContentType()).filter(t -> t.matches("[\\w.+-]+/[\\w.+-]+")).orElse("application/octet-stream");
        drafts.attach(number, kind(kind), name.isBlank() ? "file" : name, type, file.getBytes(), access.require(Right.WORK));
        return files(number, kind, model);
    }

    @PostMapping("/drafts/{kind}/files/{file}/remove")
    String detach(@PathVariable long number, @PathVariable String kind, @PathVariable long file, Model model) {
        drafts.detach(number, kind(kind), file, access.require(Right.WORK));
        return files(number, kind, model);
    }

    @PostMapping("/reply")
    String reply(
            @PathVariable long number, @RequestParam(defaultValue = "") String html, @RequestParam(defaultValue = "text") String format,
            @RequestParam(defaultValue = "") String cc, @RequestParam(defaultValue = "CUSTOMER") Turn then, @RequestParam int seen,
            HttpServletRequest request, Model model) {
        Person me = access.require(Right.WORK);
        String written = format.equals("html") ? html : SafeHtml.fromText(html);
        try {
            return switch (answering.answer(number, new Answering.Answer(written, cc, then, seen), me)) {
                case Answering.Outcome.Sent sent -> "redirect:/tickets/" + number + "#m" + sent.message();
                case Answering.Outcome.Crossed crossed -> again(number, written, cc, then, crossed.words(), crossed.seq(), true, model);
            };
        } catch (Problem.Invalid e) {
            return again(number, written, cc, then, e.words(), seen, false, model);
        }
    }

    /** The reply once more, with what is in its way; nothing typed is lost. */
    private String again(long number, String html, String cc, Turn then, String words, int seen, boolean crossed, Model model) {
        model.addAttribute("number", number);
        model.addAttribute("html", SafeHtml.own(html));
        model.addAttribute("cc", cc);
        model.addAttribute("then", then);
        model.addAttribute("words", words);
        model.addAttribute("seen", seen);
        model.addAttribute("crossed", crossed);
        model.addAttribute("files", drafts.find(number, Drafts.Kind.REPLY, access.me()).files());
        return "tickets/again";
    }

    @PostMapping("/note")
    String note(@PathVariable long number, @RequestParam(defaultValue = "") String html, @RequestParam(defaultValue = "text") String format) {
        answering.note(number, format.equals("html") ? html : SafeHtml.fromText(html), access.require(Right.WORK));
        return "redirect:/tickets/" + number + "#end";
    }

    @PostMapping("/deliveries/{id}/retry")
    String retry(@PathVariable long number, @PathVariable long id) {
        access.require(Right.WORK);
        outbox.retry(id, clock.instant());
        return "redirect:/tickets/" + number;
    }

    private static Drafts.Kind kind(String name) {
        return switch (name) {
            case "reply" -> Drafts.Kind.REPLY;
            case "note" -> Drafts.Kind.NOTE;
            default -> throw new Problem.NotFound("There is no such draft.");
        };
    }
}
