package rafter.app.arrival.intake;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Say;
import rafter.app.platform.Whens;

/** Mail that was set aside. */
@Controller
@RequestMapping("/house-rules/set-aside")
class SetAsideController {

    private static final int PAGE = 25;
    private static final int SHOWN_OF_RAW = 60_000;

    private final Inbox inbox;
    private final Mailboxes mailboxes;
    private final Access access;
    private final FileSafety safety;
    private final Whens whens;

    SetAsideController(Inbox inbox, Mailboxes mailboxes, Access access, FileSafety safety, Whens whens) {
        this.safety = safety;
        this.inbox = inbox;
        this.mailboxes = mailboxes;
        this.access = access;
        this.whens = whens;
    }

    @GetMapping
    String list(@RequestParam(defaultValue = "0") int from, Model model) {
        access.require(Right.HOUSE_RULES);
        List<Inbox.Aside> some = inbox.aside(Math.max(0, from), PAGE + 1);
        model.addAttribute("messages", some.size() > PAGE ? some.subList(0, PAGE) : some);
        model.addAttribute("next", some.size() > PAGE ? from + PAGE : -1);
        model.addAttribute("count", inbox.asideCount());
        model.addAttribute(
                "mailboxes",
                mailboxes.all().stream().collect(java.util.stream.Collectors.toMap(Mailbox::id, Mailbox::address)));
        model.addAttribute("whens", whens);
        return "arrival/intake/set-aside";
    }

    @GetMapping("/{id}")
    String raw(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        byte[] raw = inbox.raw(id);
        int length = Math.min(raw.length, SHOWN_OF_RAW);
        model.addAttribute("id", id);
        model.addAttribute("raw", new String(raw, 0, length, StandardCharsets.ISO_8859_1).replace("\0", "␀"));
        model.addAttribute("cut", raw.length > length ? Say.size(raw.length) : "");
        return "arrival/intake/raw";
    }

    @GetMapping("/{id}/file")
    ResponseEntity<byte[]> file(@PathVariable long id) {
        access.require(Right.HOUSE_RULES);
        byte[] raw = inbox.raw(id);
        String name = "message-" + id + ".eml";
        safety.insist(raw, name);
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment().filename(name).build().toString())
                .body(raw);
    }

    @PostMapping("/{id}/again")
    String again(
            @PathVariable long id, @RequestParam(defaultValue = "false") boolean person, RedirectAttributes redirect) {
        inbox.tryAgain(id, person, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is being tried again. If it cannot be processed, it comes back here.");
        return "redirect:/house-rules/set-aside";
    }

    @PostMapping("/{id}/dismiss")
    String dismiss(@PathVariable long id, RedirectAttributes redirect) {
        inbox.dismiss(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is off the list; the message stays saved.");
        redirect.addFlashAttribute("undo", Map.of("action", "/house-rules/set-aside/" + id + "/bring-back"));
        return "redirect:/house-rules/set-aside";
    }

    @PostMapping("/{id}/bring-back")
    String bringBack(@PathVariable long id) {
        inbox.bringBack(id, access.require(Right.HOUSE_RULES).id());
        return "redirect:/house-rules/set-aside";
    }
}
