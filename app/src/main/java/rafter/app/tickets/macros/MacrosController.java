package rafter.app.tickets.macros;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Holders;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Done;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.ActFields;
import rafter.core.text.PhraseMatch;
import rafter.core.ticket.ActForm;

/** The pages on which macros are made. */
@Controller
@RequestMapping("/macros")
class MacrosController {

    /** A macro as the list shows it. */
    public record Row(long id, String name, String description, String whose, int acts, int used, boolean mayChange) {}

    /** A step as the page shows it. */
    public record StepLine(int place, String words, boolean offered) {}

    private final Macros macros;
    private final Holders holders;
    private final ActFields fields;
    private final Access access;

    MacrosController(Macros macros, Holders holders, ActFields fields, Access access) {
        this.macros = macros;
        this.holders = holders;
        this.fields = fields;
        this.access = access;
    }

    @GetMapping
    String list(@RequestParam(defaultValue = "") String q, @RequestParam(defaultValue = "") String whose, Model model) {
        Viewer me = access.require(Right.WORK);
        List<Macro> all = macros.of(me);
        Holders.Whose wanted = Holders.Whose.of(whose);
        List<Macro> found = PhraseMatch.of(
                all.stream().filter(macro -> wanted.takes(macro.holder())).toList(),
                q,
                macro -> macro.name() + " " + macro.folder() + " " + macro.description(),
                Comparator.comparing(Macro::name));
        model.addAttribute(
                "folders",
                found.stream()
                        .collect(Collectors.groupingBy(
                                Macro::folder,
                                TreeMap::new,
                                Collectors.mapping(macro -> row(macro, me), Collectors.toList()))));
        model.addAttribute("any", !all.isEmpty());
        model.addAttribute("q", q);
        model.addAttribute("whose", wanted);
        model.addAttribute("choices", Holders.Whose.values());
        return "tickets/macros/macros";
    }

    private Row row(Macro macro, Viewer me) {
        return new Row(
                macro.id(),
                macro.name(),
                macro.description(),
                holders.words(macro.holder()),
                macro.steps().size(),
                macro.used(),
                holders.changes(macro.holder(), me));
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        Macro macro = id == 0
                ? new Macro(0, "", "", "", new Holder.One(me.id()), List.of(), Optional.empty(), 0, 0)
                : macros.get(id, me);
        return page(macro, Map.of(), me, model);
    }

    private String page(Macro macro, Map<String, String> typed, Viewer me, Model model) {
        var lines = new ArrayList<StepLine>();
        for (Macro.Step step : macro.steps()) {
            lines.add(new StepLine(lines.size(), macros.words(step, me), step.offered()));
        }
        model.addAttribute("macro", macro);
        model.addAttribute("steps", lines);
        model.addAttribute("holder", macro.holder().typed());
        model.addAttribute("mayChange", macro.id() == 0 || holders.changes(macro.holder(), me));
        model.addAttribute("leads", me.role().has(Right.HAND_OVER_ANY));
        model.addAttribute("holding", holders.teams(me));
        model.addAttribute(
                "others",
                macros.of(me).stream().filter(one -> one.id() != macro.id()).toList());
        model.addAttribute("kinds", Steps.OFFERED);
        model.addAttribute("typed", new TreeMap<>(typed));
        model.addAttribute("chosenAct", typed.getOrDefault("act", "answer"));
        fields.offer(typed, model);
        return "tickets/macros/macro";
    }

    /** What is typed into the form of a macro itself. */
    public record Form(
            long id, String name, String description, String folder, String whose, String linked, int version) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            description = Objects.requireNonNullElse(description, "");
            folder = Objects.requireNonNullElse(folder, "");
            whose = Objects.requireNonNullElse(whose, "me");
            linked = Objects.requireNonNullElse(linked, "");
        }

        Macro macro(List<Macro.Step> steps, Viewer me) {
            Holder holder = Holder.read(whose, me.id()).orElseGet(() -> new Holder.One(me.id()));
            return new Macro(id, name, description, folder, holder, steps, Ids.number(linked), 0, version);
        }
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        List<Macro.Step> steps =
                form.id() == 0 ? List.of() : macros.get(form.id(), me).steps();
        Macro macro = form.macro(steps, me);
        long id;
        try {
            id = macros.save(macro, me);
        } catch (Problem.Invalid | Problem.Stale | Problem.NoRight e) {
            model.addAttribute("problem", e.words());
            return page(macro, Map.of(), me, model);
        }
        redirect.addFlashAttribute(
                "said", "“" + macro.name().strip() + "” is saved." + (steps.isEmpty() ? " Now add what it does." : ""));
        return "redirect:/macros/" + id;
    }

    /** Adds an act at the end. */
    @PostMapping("/{id}/steps")
    String add(
            @PathVariable long id,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam(defaultValue = "") String act,
            @RequestParam(defaultValue = "false") boolean offered,
            @RequestParam MultiValueMap<String, String> sent,
            Model model,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Macro macro = seen(macros.get(id, me), version);
        Map<String, String> typed = fields.typed(sent);
        try {
            ActForm form = ActForm.of(act).orElseThrow(() -> new Problem.Invalid("Choose what is to be done."));
            var steps = new ArrayList<>(macro.steps());
            steps.add(new Macro.Step(act, Steps.kept(form, typed), offered));
            macros.save(macro.with(steps), me);
        } catch (Problem.Invalid | Problem.Stale | Problem.NoRight e) {
            model.addAttribute("problem", e.words());
            return page(macro, typed, me, model);
        }
        redirect.addFlashAttribute("said", "The act is added.");
        return "redirect:/macros/" + id + "#add";
    }

    private static Macro seen(Macro macro, int version) {
        return new Macro(
                macro.id(),
                macro.name(),
                macro.description(),
                macro.folder(),
                macro.holder(),
                macro.steps(),
                macro.linked(),
                macro.used(),
                version);
    }

    @PostMapping("/{id}/steps/{place}/{change}")
    String change(
            @PathVariable long id,
            @PathVariable int place,
            @PathVariable String change,
            @RequestParam(defaultValue = "0") int version,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Macro macro = seen(macros.get(id, me), version);
        var steps = new ArrayList<>(macro.steps());
        try {
            if (place < 0 || place >= steps.size()) {
                throw new Problem.Stale("That act is not there any more. Nothing was saved.");
            }
            changed(change, place).accept(steps);
            macros.save(macro.with(steps), me);
        } catch (Problem.Invalid | Problem.Stale | Problem.NoRight e) {
            model.addAttribute("problem", e.words());
            return page(macros.get(id, me), Map.of(), me, model);
        }
        return "redirect:/macros/" + id;
    }

    private static Consumer<List<Macro.Step>> changed(String change, int place) {
        return switch (change) {
            case "up" -> steps -> Collections.swap(steps, place, Math.max(0, place - 1));
            case "down" -> steps -> Collections.swap(steps, place, Math.min(steps.size() - 1, place + 1));
            case "away" -> steps -> steps.remove(place);
            case "offered" ->
                steps -> steps.set(
                        place,
                        new Macro.Step(
                                steps.get(place).form(),
                                steps.get(place).typed(),
                                !steps.get(place).offered()));
            default -> throw new Problem.NotFound("There is no such change.");
        };
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, HttpServletRequest request, HttpServletResponse response) {
        Macro gone = macros.remove(id, access.require(Right.WORK));
        return Done.answer(
                request,
                response,
                "“" + gone.name() + "” is taken away.",
                new Done.Undo("/macros/" + id + "/restore", Map.of()),
                "/macros");
    }

    @PostMapping("/{id}/restore")
    String restore(@PathVariable long id, HttpServletRequest request, HttpServletResponse response) {
        Macro back = macros.restore(id, access.require(Right.WORK));
        return Done.answer(request, response, "“" + back.name() + "” is back.", Done.Undo.NONE, "/macros");
    }
}
