package rafter.app.arrival.providers;

import java.time.Duration;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Whole;
import rafter.core.id.Id;
import rafter.core.id.TeamId;
import rafter.core.time.Amount;

/** Our telephone lines and our accounts on networks, and the outside services behind them. */
@Controller
@RequestMapping("/house-rules/{kind:telephone|social}")
class ProviderRulesController {

    private static final String KEPT = " Nothing was saved; what you typed is still here.";
    private static final Set<OurLine.Wish> OF_CALLS =
            EnumSet.of(OurLine.Wish.MISSED, OurLine.Wish.ABANDONED, OurLine.Wish.RECORDED);

    /** A provider with what there is of it. */
    public record Shown(Provider provider, List<OurLine> lines, String address, int waiting) {}

    private final Providers providers;
    private final OurLines lines;
    private final ToldBook book;
    private final Errands errands;
    private final Persons persons;
    private final RafterSettings rafter;
    private final Access access;

    ProviderRulesController(
            Providers providers,
            OurLines lines,
            ToldBook book,
            Errands errands,
            Persons persons,
            RafterSettings rafter,
            Access access) {
        this.providers = providers;
        this.lines = lines;
        this.book = book;
        this.errands = errands;
        this.persons = persons;
        this.rafter = rafter;
        this.access = access;
    }

    private static Provider.Kind of(String kind) {
        return Provider.Kind.valueOf(kind.toUpperCase(Locale.ROOT));
    }

    private static List<OurLine.Wish> wishes(Provider.Kind kind) {
        boolean calls = kind == Provider.Kind.TELEPHONE;
        return Arrays.stream(OurLine.Wish.values())
                .filter(wish -> OF_CALLS.contains(wish) == calls)
                .toList();
    }

    @GetMapping
    String show(@PathVariable String kind, Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("kind", kind);
        model.addAttribute("calls", of(kind) == Provider.Kind.TELEPHONE);
        model.addAttribute(
                "providers",
                providers.all(of(kind)).stream()
                        .map(one -> new Shown(
                                one,
                                lines.at(one.id()),
                                rafter.address() + "/told/" + one.word(),
                                errands.waiting(one.id())))
                        .toList());
        model.addAttribute("failed", book.failed(of(kind)));
        return "arrival/providers/rules";
    }

    // ------------------------------------------------------------------ providers

    @GetMapping("/providers/{id}")
    String provider(@PathVariable String kind, @PathVariable long id, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        model.addAttribute("kind", kind);
        model.addAttribute("id", id);
        Optional<Provider> one = providers.of(id);
        if (id != 0 && one.isEmpty()) {
            throw new Problem.NotFound("There is no such provider.");
        }
        model.addAttribute("secret", id == 0 ? "" : providers.secret(id, me.id()));
        model.addAttribute(
                "told",
                one.map(there -> rafter.address() + "/told/" + there.word()).orElse(""));
        if (!model.containsAttribute("typed")) {
            model.addAttribute(
                    "typed",
                    one.map(there -> Map.of(
                                    "name",
                                    there.name(),
                                    "word",
                                    there.word(),
                                    "address",
                                    there.address(),
                                    "version",
                                    Integer.toString(there.version())))
                            .orElse(Map.of("name", "", "word", "", "address", "", "version", "0")));
        }
        return "arrival/providers/provider";
    }

    @PostMapping("/providers/{id}")
    String save(
            @PathVariable String kind,
            @PathVariable long id,
            @RequestParam Map<String, String> all,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        var typed = new HashMap<>(all);
        List.of("name", "word", "address", "version").forEach(name -> typed.putIfAbsent(name, ""));
        try {
            long saved = providers.save(
                    new Provider(
                            id,
                            of(kind),
                            text(typed, "name"),
                            text(typed, "word"),
                            text(typed, "address").replaceFirst("/+$", ""),
                            Whole.of(text(typed, "version"), 0),
                            "",
                            Optional.empty()),
                    Optional.of(text(typed, "secret")).filter(words -> !words.isEmpty()),
                    me.id());
            redirect.addFlashAttribute("said", "The provider is saved.");
            return "redirect:/house-rules/" + kind + "/providers/" + saved;
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", typed);
            return "redirect:/house-rules/" + kind + "/providers/" + id;
        }
    }

    private static String text(Map<String, String> typed, String name) {
        return typed.getOrDefault(name, "").strip();
    }

    @PostMapping("/providers/{id}/remove")
    String remove(@PathVariable String kind, @PathVariable long id, RedirectAttributes redirect) {
        providers.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The provider is removed: nothing that it tells is taken any more.");
        undo(redirect, "/house-rules/" + kind + "/providers/" + id + "/back");
        return "redirect:/house-rules/" + kind;
    }

    private static void undo(RedirectAttributes redirect, String action) {
        redirect.addFlashAttribute("undo", Map.of("action", action, "fields", Map.of()));
    }

    @PostMapping("/providers/{id}/back")
    String bringBack(@PathVariable String kind, @PathVariable long id, RedirectAttributes redirect) {
        providers.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The provider is there again.");
        return "redirect:/house-rules/" + kind;
    }

    @PostMapping("/told/{id}/again")
    String again(@PathVariable String kind, @PathVariable long id, RedirectAttributes redirect) {
        book.again(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is read once more.");
        return "redirect:/house-rules/" + kind;
    }

    // ------------------------------------------------------------------ lines

    @GetMapping("/lines/{id}")
    String line(
            @PathVariable String kind,
            @PathVariable long id,
            @RequestParam(defaultValue = "0") long provider,
            Model model) {
        access.require(Right.HOUSE_RULES);
        Optional<OurLine> one = id == 0 ? Optional.empty() : lines.of(id);
        if (id != 0 && one.isEmpty()) {
            throw new Problem.NotFound("There is no such line.");
        }
        model.addAttribute("kind", kind);
        model.addAttribute("calls", of(kind) == Provider.Kind.TELEPHONE);
        model.addAttribute("id", id);
        model.addAttribute("provider", one.map(OurLine::provider).orElse(provider));
        model.addAttribute("teams", persons.teams());
        model.addAttribute("wishes", wishes(of(kind)));
        if (!model.containsAttribute("typed")) {
            model.addAttribute("typed", one.map(ProviderRulesController::typed).orElseGet(Map::of));
            model.addAttribute(
                    "says",
                    one.map(line -> line.says().stream().map(OurLine.Wish::key).toList())
                            .orElseGet(List::of));
        }
        return "arrival/providers/line";
    }

    private static Map<String, String> typed(OurLine line) {
        return Map.of(
                "address",
                line.address(),
                "name",
                line.name(),
                "team",
                line.team().map(TeamId::toString).orElse(""),
                "after",
                line.after().isZero() ? "" : Amount.written(line.after()),
                "version",
                Integer.toString(line.version()));
    }

    @PostMapping("/lines/{id}")
    String saveLine(
            @PathVariable String kind,
            @PathVariable long id,
            @RequestParam(defaultValue = "0") long provider,
            @RequestParam MultiValueMap<String, String> all,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        Map<String, String> typed = new HashMap<>(all.toSingleValueMap());
        List<String> says = all.getOrDefault("says", List.of());
        try {
            lines.save(
                    new OurLine(
                            id,
                            provider,
                            text(typed, "address"),
                            text(typed, "name"),
                            Id.read(text(typed, "team"), TeamId::new),
                            wishes(of(kind)).stream()
                                    .filter(wish -> says.contains(wish.key()))
                                    .collect(Collectors.toSet()),
                            after(text(typed, "after")),
                            Whole.of(text(typed, "version"), 0)),
                    me.id());
            redirect.addFlashAttribute("said", "“" + text(typed, "name") + "” is saved.");
            return "redirect:/house-rules/" + kind;
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", typed);
            redirect.addFlashAttribute("says", says);
            return "redirect:/house-rules/" + kind + "/lines/" + id + "?provider=" + provider;
        }
    }

    private static Duration after(String typed) {
        return typed.isEmpty()
                ? Duration.ZERO
                : Amount.read(typed)
                        .orElseThrow(() -> new Problem.Invalid(
                                "“" + typed + "” is no amount of time. Write it such as 45 s." + KEPT));
    }

    @PostMapping("/lines/{id}/remove")
    String removeLine(@PathVariable String kind, @PathVariable long id, RedirectAttributes redirect) {
        lines.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is removed. What came by it stays.");
        undo(redirect, "/house-rules/" + kind + "/lines/" + id + "/back");
        return "redirect:/house-rules/" + kind;
    }

    @PostMapping("/lines/{id}/back")
    String bringLineBack(@PathVariable String kind, @PathVariable long id, RedirectAttributes redirect) {
        lines.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is there again.");
        return "redirect:/house-rules/" + kind;
    }
}
