package rafter.app.tickets.phrases;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
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
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.core.id.PersonId;
import rafter.core.text.PhraseMatch;
import rafter.core.text.Placeholder;

/** The pages of the phrasebook. */
@Controller
@RequestMapping("/phrases")
class PhrasesController {

    /** A phrase as the list shows it. */
    public record Row(
            long id, String name, String whose, String language, String beginning, int used, boolean mayChange) {}

    private static final int SHOWN_OF_A_TEXT = 160;

    private final Phrases phrases;
    private final Holders holders;
    private final Access access;

    PhrasesController(Phrases phrases, Holders holders, Access access) {
        this.phrases = phrases;
        this.holders = holders;
        this.access = access;
    }

    @GetMapping
    String list(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "") String whose,
            @RequestParam(defaultValue = "") String language,
            Model model) {
        Viewer me = access.require(Right.WORK);
        List<Phrase> all = phrases.of(me);
        Holders.Whose wanted = Holders.Whose.of(whose);
        List<Phrase> found = found(all, wanted, language, q);
        model.addAttribute(
                "folders",
                found.stream()
                        .collect(Collectors.groupingBy(
                                Phrase::folder,
                                TreeMap::new,
                                Collectors.mapping(phrase -> row(phrase, me), Collectors.toList()))));
        model.addAttribute("any", !all.isEmpty());
        model.addAttribute("q", q);
        model.addAttribute("whose", wanted);
        model.addAttribute("choices", Holders.Whose.values());
        model.addAttribute("language", language);
        model.addAttribute(
                "languages",
                Languages.all().stream()
                        .filter(one -> all.stream()
                                .anyMatch(phrase -> phrase.language().equals(one.code())))
                        .toList());
        return "tickets/phrases/phrases";
    }

    private static List<Phrase> found(List<Phrase> all, Holders.Whose wanted, String language, String q) {
        return PhraseMatch.of(
                all.stream()
                        .filter(phrase -> wanted.takes(phrase.holder()))
                        .filter(phrase ->
                                language.isEmpty() || phrase.language().equals(language))
                        .toList(),
                q,
                phrase -> phrase.name() + " " + phrase.folder() + " " + SafeHtml.toText(phrase.html()),
                Comparator.comparing(Phrase::name));
    }

    private Row row(Phrase phrase, Viewer me) {
        String text = SafeHtml.toText(phrase.html()).replaceAll("\\s+", " ");
        return new Row(
                phrase.id(),
                phrase.name(),
                holders.words(phrase.holder()),
                Languages.name(phrase.language()),
                text.length() > SHOWN_OF_A_TEXT ? text.substring(0, SHOWN_OF_A_TEXT) + " …" : text,
                phrase.used(),
                holders.changes(phrase.holder(), me));
    }

    /**
     * The form of a new phrase.
     *
     * @param html what it begins with, such as what was just written
     */
    @PostMapping("/new")
    String begin(@RequestParam(defaultValue = "") String html, Model model) {
        Viewer me = access.require(Right.WORK);
        return form(new Phrase(0, "", "", "", new Holder.One(me.id()), SafeHtml.own(html), 0, 0), me, model);
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        return id == 0 ? begin("", model) : form(phrases.get(id, me), me, model);
    }

    private String form(Phrase phrase, Viewer me, Model model) {
        model.addAttribute("phrase", phrase);
        model.addAttribute("holder", phrase.holder().typed());
        model.addAttribute("leads", me.role().has(Right.HAND_OVER_ANY));
        model.addAttribute("mayChange", phrase.id() == 0 || holders.changes(phrase.holder(), me));
        model.addAttribute("teams", holders.teams(me));
        model.addAttribute(
                "folders",
                phrases.of(me).stream()
                        .map(Phrase::folder)
                        .filter(folder -> !folder.isEmpty())
                        .distinct()
                        .toList());
        model.addAttribute("languages", Languages.with(phrase.language()));
        model.addAttribute("placeholders", Placeholder.forWriting());
        return "tickets/phrases/phrase";
    }

    private static Holder holder(String typed, PersonId me) {
        return Holder.read(typed, me)
                .orElseThrow(() -> new Problem.Invalid(
                        "Choose whose the phrase is. Nothing was saved yet; what you typed is still here."));
    }

    /** What is typed into the form. */
    public record Form(
            long id,
            String name,
            String folder,
            String language,
            String whose,
            String html,
            String format,
            int version) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            folder = Objects.requireNonNullElse(folder, "");
            language = Objects.requireNonNullElse(language, "");
            whose = Objects.requireNonNullElse(whose, "me");
            html = Objects.requireNonNullElse(html, "");
            format = Objects.requireNonNullElse(format, "text");
        }

        Phrase phrase(Holder holder) {
            String written = format.equals("html") ? html : SafeHtml.fromText(html);
            return new Phrase(id, name, folder, language, holder, written, 0, version);
        }
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<Holder> holder = Optional.empty();
        try {
            holder = Optional.of(holder(form.whose(), me.id()));
            phrases.save(form.phrase(holder.get()), me);
        } catch (Problem.Invalid | Problem.Stale | Problem.NoRight e) {
            model.addAttribute("problem", e.words());
            return form(form.phrase(holder.orElseGet(() -> new Holder.One(me.id()))), me, model);
        }
        redirect.addFlashAttribute("said", "“" + form.name().strip() + "” is in the phrasebook.");
        return "redirect:/phrases";
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, HttpServletRequest request, HttpServletResponse response) {
        Phrase gone = phrases.remove(id, access.require(Right.WORK));
        return Done.answer(
                request,
                response,
                "“" + gone.name() + "” is out of the phrasebook.",
                new Done.Undo("/phrases/" + id + "/restore", Map.of()),
                "/phrases");
    }

    @PostMapping("/{id}/restore")
    String restore(@PathVariable long id, HttpServletRequest request, HttpServletResponse response) {
        Phrase back = phrases.restore(id, access.require(Right.WORK));
        return Done.answer(
                request, response, "“" + back.name() + "” is back in the phrasebook.", Done.Undo.NONE, "/phrases");
    }
}
