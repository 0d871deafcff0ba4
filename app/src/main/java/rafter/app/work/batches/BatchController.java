package rafter.app.work.batches;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
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
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.ActFields;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.macros.Macros;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;

/** The pages of a batch: what is to be done, and how far it is. */
@Controller
@RequestMapping("/batches")
class BatchController {

    /** What an answer to many may hold, filled in for each. */
    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forWriting());

    private static final int PREVIEWED = 50;
    private static final String MACRO = "macro";

    private final Batches batches;
    private final ChosenTickets chosen;
    private final Access access;
    private final ActFields fields;
    private final TicketTimes times;
    private final Macros macros;

    BatchController(
            Batches batches, ChosenTickets chosen, Access access, ActFields fields, TicketTimes times, Macros macros) {
        this.macros = macros;
        this.times = times;
        this.fields = fields;
        this.batches = batches;
        this.chosen = chosen;
        this.access = access;
    }

    /** Asks what is to be done to the tickets that were chosen in a list. */
    @PostMapping("/new")
    String choose(
            @RequestParam String list,
            @RequestParam(defaultValue = "") String numbers,
            @RequestParam(defaultValue = "false") boolean all,
            @RequestParam Map<String, String> parameters,
            Model model) {
        Viewer me = access.require(Right.WORK);
        return form(list, numbers, all, parameters, "", me, model);
    }

    private String form(
            String list,
            String numbers,
            boolean all,
            Map<String, String> typed,
            String trouble,
            Viewer me,
            Model model) {
        List<TicketNumber> tickets = tickets(list, numbers, all, typed.getOrDefault("except", ""), me);
        var kept = new TreeMap<>(typed);
        model.addAttribute("list", list);
        // From here on it is these tickets, whatever comes into the list meanwhile.
        model.addAttribute("numbers", tickets.stream().map(String::valueOf).collect(Collectors.joining(",")));
        model.addAttribute("count", tickets.size());
        model.addAttribute(
                "trouble",
                tickets.isEmpty() && trouble.isEmpty()
                        ? "No ticket is chosen. Choose some in the list first."
                        : trouble);
        model.addAttribute("typed", kept);
        model.addAttribute("previews", batches.previews(tickets, kept.getOrDefault("text", ""), PREVIEWED, me));
        model.addAttribute("previewed", kept.containsKey("preview"));
        model.addAttribute("kinds", Offer.where(form -> switch (form) {
            case FIELD -> fields.any();
            case DELETE, RESTORE -> me.role().has(Right.DELETE);
            default -> true;
        }));
        model.addAttribute("chosenAct", kept.getOrDefault("act", "person"));
        fields.offer(kept, model);
        model.addAttribute("macros", macros.of(me));
        return "work/batches/new";
    }

    private List<TicketNumber> tickets(String list, String numbers, boolean all, String except, Viewer me) {
        if (!all) {
            return numbers(numbers);
        }
        var without = Set.copyOf(numbers(except));
        return chosen.allOf(list, me, Batches.MOST + 1 + without.size()).stream()
                .filter(number -> !without.contains(number))
                .toList();
    }

    private static List<TicketNumber> numbers(String written) {
        return Ids.list(written, TicketNumber::new).limit(Batches.MOST + 1).toList();
    }

    /** Begins it, or shows once more how an answer reads. */
    @PostMapping
    String start(
            @RequestParam String list,
            @RequestParam(defaultValue = "") String numbers,
            @RequestParam String act,
            @RequestParam MultiValueMap<String, String> sent,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Map<String, String> typed = fields.typed(sent);
        if (typed.containsKey("preview")) {
            return form(list, numbers, false, typed, "", me, model);
        }
        try {
            List<TicketNumber> tickets = numbers(numbers);
            Act wanted = act.equals(MACRO) ? macro(typed, me) : read(form(act), typed, times);
            if (wanted instanceof Act.Join(TicketNumber into) && !typed.containsKey("sure")) {
                batches.requireOneCustomer(tickets, into, me);
            }
            long id = batches.start(wanted, tickets, me);
            return back(id, list);
        } catch (Problem e) {
            return form(list, numbers, false, typed, e.words(), me, model);
        }
    }

    private static ActForm form(String act) {
        return ActForm.of(act).orElseThrow(() -> new Problem.Invalid("Choose what is to be done."));
    }

    private Act macro(Map<String, String> typed, Viewer me) {
        return Ids.number(typed.getOrDefault(MACRO, ""))
                .map(id -> macros.always(macros.get(id, me), me))
                .orElseThrow(() -> new Problem.Invalid("Choose a macro. Nothing was done yet."));
    }

    /**
     * The act that somebody filled in.
     *
     * @throws Problem.Invalid when something is missing or no value
     */
    static Act read(ActForm kind, Map<String, String> typed, TicketTimes times) {
        try {
            return kind.read(new ActForm.Filled(typed, times::read, PLACEHOLDERS));
        } catch (ActForm.Unfilled e) {
            throw new Problem.Invalid(e.words() + " Nothing was done yet.");
        }
    }

    /** The batches that one began in the last days. */
    @GetMapping
    String mine(Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("runs", batches.latest(me));
        return "work/batches/mine";
    }

    @GetMapping("/{id}")
    String show(@PathVariable long id, @RequestParam(defaultValue = "") String list, Model model) {
        Viewer me = access.require(Right.WORK);
        fill(id, list, me, model);
        return "work/batches/batch";
    }

    private void fill(long id, String list, Viewer me, Model model) {
        model.addAttribute("run", batches.find(id, me));
        model.addAttribute("failures", batches.failures(id, me));
        model.addAttribute("list", list);
    }

    /** How far it is. */
    @GetMapping("/{id}/progress")
    String progress(@PathVariable long id, @RequestParam(defaultValue = "") String list, Model model) {
        fill(id, list, access.require(Right.WORK), model);
        return "work/batches/batch :: progress";
    }

    /** Ends it before all is done. */
    @PostMapping("/{id}/cancel")
    String cancel(@PathVariable long id, @RequestParam(defaultValue = "") String list) {
        batches.cancel(id, access.require(Right.WORK));
        return back(id, list);
    }

    private static String back(long id, String list) {
        return "redirect:/batches/" + id + "?list="
                + java.net.URLEncoder.encode(list, java.nio.charset.StandardCharsets.UTF_8);
    }

    @PostMapping("/{id}/undo")
    String undo(@PathVariable long id, @RequestParam(defaultValue = "") String list) {
        Viewer me = access.require(Right.WORK);
        return back(batches.undo(id, me), list);
    }
}
