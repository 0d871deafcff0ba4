package rafter.app.work.customers;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.KnownBy;
import rafter.core.id.ContactId;

/** Joining two contacts: what it would come to, doing it, and taking it back. */
@Controller
class JoiningController {

    private final Joining joining;
    private final KnownBy known;
    private final OwnFields fields;
    private final Access access;

    JoiningController(Joining joining, KnownBy known, OwnFields fields, Access access) {
        this.known = known;
        this.joining = joining;
        this.fields = fields;
        this.access = access;
    }

    /** Looks for the other one by a mail address, a telephone or a name on a network of theirs. */
    @GetMapping("/contacts/{id}/join")
    String find(@PathVariable ContactId id, @RequestParam(defaultValue = "") String with, RedirectAttributes redirect) {
        access.require(Right.WORK);
        List<ContactId> found = known.said(with).stream()
                .filter(one -> !one.equals(id))
                .distinct()
                .toList();
        if (found.size() == 1) {
            return "redirect:/contacts/" + id + "/join/" + found.getFirst();
        }
        redirect.addFlashAttribute("with", with);
        redirect.addFlashAttribute(
                "problem",
                found.isEmpty()
                        ? "Nobody else is known by “" + with.strip()
                                + "”. Write a mail address, a telephone or a name on a network."
                        : "Several are known by “" + with.strip()
                                + "”. Write a mail address, which is one person’s alone.");
        return "redirect:/contacts/" + id;
    }

    @GetMapping("/contacts/{id}/join/{other}")
    String preview(@PathVariable ContactId id, @PathVariable ContactId other, Model model) {
        Joining.Preview preview = joining.preview(id, other, access.require(Right.WORK));
        Map<String, String> names = fields.all().stream().collect(Collectors.toMap(AddedField::key, AddedField::name));
        model.addAttribute("preview", preview);
        model.addAttribute(
                "filled",
                preview.filled().entrySet().stream()
                        .map(one -> Map.entry(names.getOrDefault(one.getKey(), "A field"), one.getValue()))
                        .toList());
        return "work/customers/join";
    }

    @PostMapping("/contacts/{id}/join/{other}")
    String join(@PathVariable ContactId id, @PathVariable ContactId other, RedirectAttributes redirect) {
        long join = joining.join(id, other, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "They are one contact now.");
        redirect.addFlashAttribute("undo", Map.of("action", "/contacts/joins/" + join + "/undo"));
        return "redirect:/contacts/" + id;
    }

    @PostMapping("/contacts/joins/{join}/undo")
    String undo(@PathVariable long join, RedirectAttributes redirect) {
        ContactId back = joining.takeBack(join, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "They are two contacts again.");
        return "redirect:/contacts/" + back;
    }
}
