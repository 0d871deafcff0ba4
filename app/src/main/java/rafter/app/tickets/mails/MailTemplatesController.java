package rafter.app.tickets.mails;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.beans.factory.ObjectProvider;
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
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Problem;
import rafter.app.tickets.wording.TemplateUse;
import rafter.app.tickets.wording.Templates;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Sentence;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** The pages of the mails that Rafter writes by itself. */
@Controller
@RequestMapping(MailTemplatesController.HERE)
class MailTemplatesController {

    static final String HERE = "/house-rules/mails";

    /** A template as the list shows it. */
    public record Line(long id, String name, boolean on, String forWhom, String languages, String subject) {}

    /** All templates for one purpose. */
    public record Group(Purpose purpose, List<Line> lines) {}

    private final Templates templates;
    private final MailSamples samples;
    private final CriteriaNames names;
    private final ObjectProvider<TemplateUse> uses;
    private final Access access;

    MailTemplatesController(
            Templates templates,
            MailSamples samples,
            CriteriaNames names,
            ObjectProvider<TemplateUse> uses,
            Access access) {
        this.templates = templates;
        this.samples = samples;
        this.names = names;
        this.uses = uses;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        Sentence sentence = names.sentence();
        model.addAttribute(
                "groups",
                Arrays.stream(Purpose.values())
                        .map(purpose -> new Group(
                                purpose,
                                templates.of(purpose).stream()
                                        .map(one -> line(one, sentence))
                                        .toList()))
                        .toList());
        return "tickets/mails/mails";
    }

    private static Line line(Template one, Sentence sentence) {
        String where = one.forAll()
                ? one.purpose().chosen() ? "for all that none above is for" : ""
                : sentence.of(one.criteria())
                        + (one.open() == Template.Open.ANY
                                ? ""
                                : ", " + one.open().words());
        List<String> languages = one.versions().stream()
                .map(Template.Version::language)
                .filter(language -> !language.isEmpty())
                .toList();
        return new Line(
                one.id(),
                one.name(),
                one.on(),
                where,
                languages.isEmpty() ? "" : "also in " + String.join(", ", languages),
                one.words("").subject());
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        return page(new MailForm(templates.get(id), samples.latest(me), 0), me, model);
    }

    @GetMapping("/new")
    String add(@RequestParam(defaultValue = "own") String purpose, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        Purpose chosen = Purpose.of(purpose)
                .filter(Purpose::several)
                .orElseThrow(() -> new Problem.NotFound("There is no such mail."));
        return page(MailForm.empty(chosen, samples.latest(me)), me, model);
    }

    private String page(MailForm form, Viewer me, Model model) {
        Template template = form.template();
        model.addAttribute("form", form);
        model.addAttribute("template", template);
        model.addAttribute("title", template.name().isEmpty() ? "A new mail" : template.name());
        model.addAttribute("node", CriteriaForm.draw(template.criteria(), names, askable()));
        model.addAttribute("opens", Template.Open.values());
        model.addAttribute("placeholders", template.purpose().placeholders());
        preview(form, me, model);
        return "tickets/mails/mail";
    }

    /** What is known once the rules have been read. */
    private List<Field> askable() {
        return Stream.concat(
                        KnownField.ofPromises().stream().sorted().map(Field.class::cast),
                        names.ofRules().stream().filter(field -> !(field instanceof KnownField)))
                .toList();
    }

    private void preview(MailForm form, Viewer me, Model model) {
        Map<String, String> values;
        try {
            values = samples.values(form.ticket(), me);
        } catch (Problem.Invalid e) {
            values = samples.values("", me);
            model.addAttribute("noTicket", e.words());
        }
        model.addAttribute("sample", values);
        model.addAttribute("preview", Templates.Filled.of(form.looked(), values));
        model.addAttribute("unknown", form.template().unknown(form.looked()));
    }

    /** Saves; or, for a button that changes the form's shape or sends a test, shows the form with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            Model model,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        MailForm form = MailForm.read(typed);
        try {
            if (act.equals("send")) {
                model.addAttribute(
                        "said", "A test is on its way to " + samples.send(form.looked(), form.ticket(), me) + ".");
                return page(form, me, model);
            }
            if (!act.equals("save")) {
                return page(form.after(act), me, model);
            }
            templates.save(form.template(), me.id());
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words() + " What you typed is still here.");
            return page(form, me, model);
        }
        redirect.addFlashAttribute("said", "“" + form.template().name() + "” is saved and used from now on.");
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/move")
    String move(@PathVariable long id, @RequestParam int by, RedirectAttributes redirect) {
        templates.move(id, Integer.signum(by), access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is moved. The first that fits is sent.");
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        try {
            Template gone = templates.remove(
                    id,
                    one -> uses.stream().anyMatch(use -> use.uses(one.id())),
                    access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "“" + gone.name() + "” is removed.");
            redirect.addFlashAttribute("undo", Map.of("action", HERE + "/" + id + "/bring-back"));
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }

    /** Brings one back that was removed. */
    @PostMapping("/{id}/bring-back")
    String bringBack(@PathVariable long id, RedirectAttributes redirect) {
        templates.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is there again.");
        return "redirect:" + HERE;
    }
}
