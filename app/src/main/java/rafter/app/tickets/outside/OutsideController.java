package rafter.app.tickets.outside;

import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Drafts;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Ticket;
import rafter.core.time.Amount;

/** The page on which one writes to a third party. */
@Controller
@RequestMapping("/tickets/{number}/outside")
class OutsideController {

    /** What is typed into the form. */
    public record Form(
            String thread,
            String to,
            String subject,
            String html,
            List<Long> files,
            String format,
            String after,
            String times,
            @Nullable Boolean waits) {
        public Form {
            thread = Objects.requireNonNullElse(thread, "");
            to = Objects.requireNonNullElse(to, "");
            subject = Objects.requireNonNullElse(subject, "");
            html = Objects.requireNonNullElse(html, "");
            files = Objects.requireNonNullElse(files, List.of());
            format = Objects.requireNonNullElse(format, "text");
            after = Objects.requireNonNullElse(after, "");
            times = Objects.requireNonNullElse(times, "2");
        }

        /** Whether it is a partner's turn then; an empty box is not sent. */
        public boolean partners() {
            return Boolean.TRUE.equals(waits);
        }

        /** Its text, formatted. */
        public String written() {
            return format.equals("html") ? SafeHtml.own(html) : SafeHtml.fromText(html);
        }

        Outside.Letter letter() {
            Optional<Duration> time = after.isBlank()
                    ? Optional.empty()
                    : Optional.of(
                            Amount.read(after)
                                    .orElseThrow(
                                            () -> new Problem.Invalid(
                                                    "“" + after
                                                            + "” is no amount of time. Write it such as 8 h. Nothing was sent; what you wrote is still here.")));
            int most = times.matches("\\d{1,3}") ? Integer.parseInt(times) : -1;
            return new Outside.Letter(Ids.number(thread), to, subject, written(), files, partners(), time, most);
        }
    }

    private final Outside outside;
    private final Reminders reminders;
    private final Tickets tickets;
    private final Drafts drafts;
    private final Access access;

    OutsideController(Outside outside, Reminders reminders, Tickets tickets, Drafts drafts, Access access) {
        this.drafts = drafts;
        this.reminders = reminders;
        this.outside = outside;
        this.tickets = tickets;
        this.access = access;
    }

    @GetMapping
    String begin(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") long thread,
            @RequestParam(required = false) Optional<MessageId> forward,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Ticket ticket = ticket(number, me);
        Drafts.Draft draft = drafts.find(number, Drafts.Kind.OUTSIDE, me);
        if (draft.version() > 0) {
            return begun(number, ticket, draft, draft.thread() != thread || forward.isPresent(), model);
        }
        Form form = outside.find(number, thread, me)
                .map(one -> new Form(
                        "" + one.id(),
                        String.join(", ", one.addresses()),
                        one.subject(),
                        "",
                        List.of(),
                        "html",
                        "",
                        "2",
                        true))
                .orElseGet(() -> new Form("", "", ticket.subject(), "", List.of(), "html", "", "2", true));
        if (forward.isEmpty()) {
            return page(number, ticket, form, model);
        }
        Outside.Forwarded forwarded = outside.forwarded(number, forward.get(), me);
        model.addAttribute("offered", forwarded.files());
        String subject = forwarded.subject().isEmpty() ? "Fwd: " + ticket.subject() : forwarded.subject();
        List<Long> all =
                forwarded.files().stream().map(Outside.Forwarded.File::id).toList();
        return page(number, ticket, new Form("", "", subject, forwarded.html(), all, "html", "", "2", false), model);
    }

    /** A letter that was begun comes first; another one is begun when it is sent or thrown away. */
    private String begun(TicketNumber number, Ticket ticket, Drafts.Draft draft, boolean another, Model model) {
        if (another) {
            model.addAttribute(
                    "problem",
                    "You had begun this letter. Send it or throw it away first; then you can begin another one.");
        }
        var form = new Form(
                draft.thread() == 0 ? "" : "" + draft.thread(),
                draft.to(),
                draft.subject().isBlank() ? ticket.subject() : draft.subject(),
                draft.html(),
                List.of(),
                "html",
                "",
                "2",
                true);
        return page(number, ticket, form, model);
    }

    private Ticket ticket(TicketNumber number, Viewer me) {
        return tickets.get(number, me);
    }

    private String page(TicketNumber number, Ticket ticket, Form form, Model model) {
        model.addAttribute("number", number);
        model.addAttribute("subject", ticket.subject());
        model.addAttribute("form", form);
        Drafts.Draft draft = drafts.find(number, Drafts.Kind.OUTSIDE, access.me());
        model.addAttribute("version", draft.version());
        model.addAttribute("attached", draft.files());
        model.addAttribute("placeholders", Placeholder.forOutside());
        return "tickets/outside/write";
    }

    @PostMapping
    String send(@PathVariable TicketNumber number, Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            MessageId message = outside.write(number, form.letter(), me);
            redirect.addFlashAttribute("said", "It is on its way. The customer does not see it.");
            return "redirect:/tickets/" + number + "#m" + message;
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
            model.addAttribute("offered", outside.offered(number, form.files()));
            return page(number, ticket(number, me), form, model);
        }
    }

    @PostMapping("/{thread}/remind-no-more")
    String remindNoMore(@PathVariable TicketNumber number, @PathVariable long thread, RedirectAttributes redirect) {
        reminders.remindNoMore(number, thread, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "They are not reminded any more.");
        return "redirect:/tickets/" + number;
    }
}
