package rafter.app.tickets.writing;

import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
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
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.platform.Uploaded;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** Writing on a ticket: drafts, replies, notes, and trying a mail again. */
@Controller
@RequestMapping("/tickets/{number}")
class WritingController {

    private final Drafts drafts;
    private final DraftFiles draftFiles;
    private final Pictures pictures;
    private final Answering answering;
    private final Notes notes;
    private final Sending sending;
    private final Ways ways;
    private final Channels channels;
    private final Tickets tickets;
    private final TicketTimes times;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    WritingController(
            Drafts drafts,
            DraftFiles draftFiles,
            Pictures pictures,
            Answering answering,
            Notes notes,
            Sending sending,
            Ways ways,
            Channels channels,
            Tickets tickets,
            TicketTimes times,
            Targets targets,
            Access access,
            Clock clock) {
        this.sending = sending;
        this.ways = ways;
        this.channels = channels;
        this.tickets = tickets;
        this.times = times;
        this.drafts = drafts;
        this.draftFiles = draftFiles;
        this.pictures = pictures;
        this.answering = answering;
        this.notes = notes;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    /** Keeps what is being typed; answers with the new version, or with the text that is there when it was changed elsewhere. */
    @PostMapping("/drafts/{kind}")
    ResponseEntity<Map<String, Object>> save(
            @PathVariable TicketNumber number,
            @PathVariable String kind,
            @RequestParam(defaultValue = "") String html,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String cc,
            @RequestParam(defaultValue = "") String bcc,
            @RequestParam(defaultValue = "CUSTOMER") Turn then,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "0") long thread,
            @RequestParam int version) {
        Viewer me = access.require(Right.WORK);
        var written = new Drafts.Writing(html, to, cc, bcc, then, subject, thread);
        return switch (drafts.save(number, kind(kind), written, version, me)) {
            case Drafts.Saved.Kept kept ->
                ResponseEntity.ok(Map.of(
                        "version",
                        kept.version(),
                        "at",
                        Say.when(kept.at(), clock.instant(), targets.terms().zone())));
            case Drafts.Saved.ChangedElsewhere elsewhere ->
                ResponseEntity.status(HttpStatus.CONFLICT)
                        .body(Map.of(
                                "version",
                                elsewhere.there().version(),
                                "html",
                                elsewhere.there().html(),
                                "to",
                                elsewhere.there().to(),
                                "cc",
                                elsewhere.there().cc(),
                                "bcc",
                                elsewhere.there().bcc()));
        };
    }

    @PostMapping("/drafts/{kind}/discard")
    String discard(@PathVariable TicketNumber number, @PathVariable String kind) {
        drafts.discard(number, kind(kind), access.require(Right.WORK));
        return "redirect:/tickets/" + number + (kind.equals("outside") ? "/outside" : "");
    }

    @GetMapping("/drafts/{kind}/files")
    String files(@PathVariable TicketNumber number, @PathVariable String kind, Model model) {
        model.addAttribute("number", number);
        model.addAttribute("kind", kind);
        model.addAttribute(
                "files",
                drafts.find(number, kind(kind), access.require(Right.WORK)).files().stream()
                        .filter(file -> file.contentId().isEmpty())
                        .toList());
        return "tickets/page/composer :: files(files=${files},kind=${kind},number=${number})";
    }

    /** Attaches files; those that cannot be are named, the others are there. */
    @PostMapping("/drafts/{kind}/files")
    String attach(
            @PathVariable TicketNumber number,
            @PathVariable String kind,
            @RequestParam("file") List<MultipartFile> all,
            Model model)
            throws IOException {
        Viewer me = access.require(Right.WORK);
        for (MultipartFile file : all) {
            draftFiles.attach(number, kind(kind), Uploaded.name(file), Uploaded.type(file), file.getBytes(), me);
        }
        return files(number, kind, model);
    }

    /** Adds a picture to the text; answers with where it is to be had. */
    @PostMapping("/drafts/{kind}/pictures")
    ResponseEntity<Map<String, String>> picture(
            @PathVariable TicketNumber number, @PathVariable String kind, @RequestParam MultipartFile file)
            throws IOException {
        String id = pictures.attach(
                number,
                kind(kind),
                Uploaded.name(file),
                Uploaded.type(file),
                file.getBytes(),
                access.require(Right.WORK));
        return ResponseEntity.ok(Map.of("address", Pictures.address(id)));
    }

    /** A file's name as it is on its owner's disk: browsers write some signs of it as percent and figures (the multipart rules of WHATWG HTML). */
    @PostMapping("/drafts/{kind}/files/{file}/remove")
    String detach(@PathVariable TicketNumber number, @PathVariable String kind, @PathVariable long file, Model model) {
        draftFiles.detach(number, kind(kind), file, access.require(Right.WORK));
        return files(number, kind, model);
    }

    @PostMapping("/reply")
    String reply(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String html,
            @RequestParam(defaultValue = "text") String format,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(required = false) Optional<String> cc,
            @RequestParam(defaultValue = "") String bcc,
            @RequestParam(defaultValue = "CUSTOMER") Turn then,
            @RequestParam int seen,
            @RequestParam(defaultValue = "false") boolean asItIs,
            @RequestParam(defaultValue = "") String later,
            Model model) {
        Viewer me = access.require(Right.WORK);
        var answer = new Answering.Answer(
                format.equals("html") ? html : SafeHtml.fromText(html), to, cc, bcc, then, seen, asItIs);
        try {
            if (waits(number, answer, times.read(later), me)) {
                return "redirect:/tickets/" + number + "#composer";
            }
            return switch (answering.answer(number, answer, me)) {
                case Answering.Outcome.Sent sent -> "redirect:/tickets/" + number + "#m" + sent.message();
                case Answering.Outcome.Crossed crossed ->
                    again(number, answer, crossed.words(), crossed.seq(), Optional.of(crossed.text()), model);
                case Answering.Outcome.Gaps gaps -> {
                    model.addAttribute("gaps", true);
                    yield again(number, answer.reading(gaps.html()), gaps.words(), seen, Optional.empty(), model);
                }
            };
        } catch (Problem.Invalid e) {
            return again(number, answer, e.words(), seen, Optional.empty(), model);
        }
    }

    /** Whether it goes later, or can be taken back for a while. In a talk nobody waits for what could be taken back. */
    private boolean waits(TicketNumber number, Answering.Answer answer, Optional<Instant> at, Viewer me) {
        boolean talk = tickets.find(number, me)
                .filter(ticket -> channels.abilities(ticket.channel()).live())
                .isPresent();
        return (at.isPresent() || (sending.hold().isPositive() && !talk))
                && sending.later(number, answer, at, me).isEmpty();
    }

    /** The reply once more, with what is in its way; nothing typed is lost. */
    private String again(
            TicketNumber number,
            Answering.Answer answer,
            String words,
            int seen,
            Optional<String> crossing,
            Model model) {
        model.addAttribute("number", number);
        model.addAttribute("html", SafeHtml.own(answer.html()));
        model.addAttribute("to", answer.to());
        model.addAttribute("cc", answer.cc().orElse(""));
        model.addAttribute("bcc", answer.bcc());
        model.addAttribute("then", answer.then());
        model.addAttribute("words", words);
        model.addAttribute("seen", seen);
        model.addAttribute("gaps", model.containsAttribute("gaps"));
        model.addAttribute("crossed", crossing.isPresent());
        model.addAttribute("crossing", crossing.orElse(""));
        model.addAttribute(
                "files", drafts.find(number, Drafts.Kind.REPLY, access.me()).files());
        return "tickets/writing/again";
    }

    /** Takes a reply back that waits to go out. */
    @PostMapping("/reply/back")
    String takeBack(@PathVariable TicketNumber number, RedirectAttributes redirect) {
        sending.takeBack(number, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "The reply is taken back; it is a draft again.");
        return "redirect:/tickets/" + number + "#composer";
    }

    /** Has a reply that waits go out at once. */
    @PostMapping("/reply/now")
    String sendNow(@PathVariable TicketNumber number) {
        sending.now(number, access.require(Right.WORK));
        return "redirect:/tickets/" + number + "#end";
    }

    /** Has answers go another way from now on; what was typed stays in the draft. */
    @PostMapping("/answer-by")
    String answerBy(@PathVariable TicketNumber number, @RequestParam String way) {
        ways.choose(number, way, access.require(Right.WORK));
        return "redirect:/tickets/" + number + "#composer";
    }

    @PostMapping("/note")
    String note(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String html,
            @RequestParam(defaultValue = "text") String format,
            @RequestParam(defaultValue = "false") boolean seen) {
        Viewer me = access.require(Right.WORK);
        notes.note(number, format.equals("html") ? html : SafeHtml.fromText(html), seen, me);
        return "redirect:/tickets/" + number + "#end";
    }

    @PostMapping("/deliveries/{id}/retry")
    String retry(@PathVariable TicketNumber number, @PathVariable long id) {
        answering.again(number, id, access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    private static Drafts.Kind kind(String name) {
        return switch (name) {
            case "reply" -> Drafts.Kind.REPLY;
            case "note" -> Drafts.Kind.NOTE;
            case "outside" -> Drafts.Kind.OUTSIDE;
            default -> throw new Problem.NotFound("There is no such draft.");
        };
    }
}
