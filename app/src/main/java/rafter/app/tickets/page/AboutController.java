package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Done;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketFields;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** What a ticket is about: its topic, tags and own fields. */
@Controller
@RequestMapping("/tickets/{number}")
class AboutController {

    /** Before the name of a field of a form: what stood in it when the person opened it. */
    private static final String WAS = "was-";

    private final Tickets tickets;
    private final TicketFields ticketFields;
    private final OwnFields fields;
    private final Access access;

    AboutController(Tickets tickets, TicketFields ticketFields, OwnFields fields, Access access) {
        this.tickets = tickets;
        this.ticketFields = ticketFields;
        this.fields = fields;
        this.access = access;
    }

    /** The form in which it is said, as a small menu or, without scripts, as a page. */
    @GetMapping("/choose/about")
    String form(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Ticket ticket = current(number);
        model.addAttribute("number", number);
        model.addAttribute("ticket", ticket);
        model.addAttribute("what", "about");
        about(ticket, ticket.topic(), Map.of(), model);
        return request.getHeader("HX-Request") == null ? "tickets/page/choose" : "tickets/page/choose :: about";
    }

    /** The fields as they are asked for, with what stands in them or was typed. */
    private void about(Ticket ticket, String topic, Map<String, String> typed, Model model) {
        model.addAttribute("parts", ticketFields.of(ticket, topic, typed));
        model.addAttribute("moves", ticketFields.moves());
    }

    /** The fields anew, after something was filled in that may change what is asked for. */
    @PostMapping("/about/fields")
    String fields(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam MultiValueMap<String, String> all,
            Model model) {
        access.require(Right.WORK);
        about(current(number), topic.strip(), OwnFields.typed(all), model);
        return "house/fields/inputs :: parts";
    }

    @PostMapping("/about")
    String about(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam(defaultValue = "") String tags,
            @RequestParam MultiValueMap<String, String> sent,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        Map<String, String> all = OwnFields.typed(sent);
        Tickets.About now = Tickets.About.of(current(number));
        var typed = new Tickets.About(topic.strip(), tags(tags), all);
        if (typed.tags().size() > 20
                || typed.tags().stream().anyMatch(tag -> tag.length() > 40)
                || topic.length() > 60) {
            throw new Problem.Invalid(
                    "At most twenty tags of forty letters each, and a topic of sixty. Nothing was changed.");
        }
        String left = tickets.changeAbout(number, typed, seen(all, now), me);
        return Done.answer(
                request,
                response,
                "What was said about " + number + " is saved." + left + ticketFields.wanted(current(number)),
                undo(number, now),
                "/tickets/" + number);
    }

    private static Set<String> tags(String typed) {
        var tags = new TreeSet<>(
                Arrays.asList(typed.toLowerCase(Locale.ROOT).strip().split("\\s*,\\s*")));
        tags.remove("");
        return tags;
    }

    /** What stood in the form when the person opened it; what it does not tell is taken as it is now. */
    private static Tickets.About seen(Map<String, String> all, Tickets.About now) {
        var own = new HashMap<>(now.fields());
        all.forEach((name, value) -> {
            if (name.startsWith(WAS)) {
                own.put(name.substring(WAS.length()), value);
            }
        });
        return new Tickets.About(
                all.getOrDefault(WAS + "topic", now.topic()),
                all.containsKey(WAS + "tags") ? tags(all.getOrDefault(WAS + "tags", "")) : now.tags(),
                own);
    }

    /** Sets everything back to what it was, provided that it still is what this made of it. */
    private Done.Undo undo(TicketNumber number, Tickets.About before) {
        Tickets.About after = Tickets.About.of(current(number));
        var form = new HashMap<String, String>();
        form.put("topic", before.topic());
        form.put(WAS + "topic", after.topic());
        form.put("tags", String.join(",", before.tags()));
        form.put(WAS + "tags", String.join(",", after.tags()));
        fields.shown(OwnField.Bearer.TICKET).forEach(field -> {
            form.put(field.key(), before.fields().getOrDefault(field.key(), ""));
            form.put(WAS + field.key(), after.fields().getOrDefault(field.key(), ""));
        });
        return new Done.Undo("/tickets/" + number + "/about", form);
    }

    /** Says what the ticket is about, and leaves its tags and fields as they are. */
    @PostMapping("/topic")
    String topic(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        if (topic.length() > 60) {
            throw new Problem.Invalid("A topic has at most sixty letters. Nothing was changed.");
        }
        Tickets.About now = Tickets.About.of(current(number));
        tickets.changeAbout(
                number,
                new Tickets.About(topic.strip(), now.tags(), Map.of()),
                new Tickets.About(was.orElse(now.topic()), now.tags(), Map.of()),
                me);
        return Done.answer(
                request,
                response,
                number + (topic.isBlank() ? " has no topic now." : " is about " + topic.strip() + " now."),
                new Done.Undo("/tickets/" + number + "/topic", Map.of("topic", now.topic(), "was", topic.strip())),
                "/tickets/" + number);
    }

    private Ticket current(TicketNumber number) {
        return tickets.get(number, access.require(Right.WORK));
    }
}
