package rafter.app.house.fields;

import java.util.Arrays;
import java.util.Objects;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;

/** The fields that administrators add to tickets, contacts and companies. */
@Controller
@RequestMapping("/house-rules/fields")
class FieldsController {

    /** What is typed into the form. */
    public record Form(
            long id,
            String name,
            String of,
            String kind,
            String choices,
            String help,
            String preset,
            @org.jspecify.annotations.Nullable Boolean shown,
            int position,
            int version) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            of = Objects.requireNonNullElse(of, "");
            kind = Objects.requireNonNullElse(kind, "");
            choices = Objects.requireNonNullElse(choices, "");
            help = Objects.requireNonNullElse(help, "");
            preset = Objects.requireNonNullElse(preset, "");
        }

        static Form of(AddedField f, String said) {
            return new Form(
                    f.field().id(),
                    f.name(),
                    f.bearer().name(),
                    f.kind(),
                    f.field().kind() == OwnField.Kind.TREE ? f.tree().indented() : String.join("\n", f.choices()),
                    f.help(),
                    said,
                    f.shown(),
                    f.position(),
                    f.version());
        }

        /** Whether it is asked for; an empty box is not sent. */
        public boolean on() {
            return Boolean.TRUE.equals(shown);
        }

        /** Whether it has choices to write down; of a new one its kind is not known yet. */
        public boolean choosing() {
            return id == 0
                    || OwnField.Kind.of(kind).filter(OwnField.Kind::hasChoices).isPresent();
        }

        FieldSetup.Typed typed() {
            return new FieldSetup.Typed(name, choices, help, preset);
        }
    }

    private final OwnFields fields;
    private final FieldSetup setup;
    private final Access access;

    FieldsController(OwnFields fields, FieldSetup setup, Access access) {
        this.fields = fields;
        this.setup = setup;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("fields", fields.all());
        return "house/fields/fields";
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        return form(
                id == 0
                        ? new Form(0, "", OwnField.Bearer.TICKET.name(), "text", "", "", "", true, 0, 0)
                        : Form.of(get(id), fields.said(get(id).field(), get(id).preset())),
                model);
    }

    private AddedField get(long id) {
        return fields.find(id).orElseThrow(() -> new Problem.NotFound("There is no such field."));
    }

    private static String form(Form form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("kinds", OwnField.Kind.values());
        model.addAttribute("bearers", OwnField.Bearer.values());
        return "house/fields/field";
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            if (form.id() == 0) {
                add(form, me);
            } else {
                AddedField was = get(form.id());
                var seen = new AddedField(
                        was.field(),
                        was.name(),
                        was.choices(),
                        was.help(),
                        was.preset(),
                        was.shown(),
                        was.position(),
                        form.version());
                setup.change(seen, form.typed(), form.on(), form.position(), me);
            }
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(form, model);
        }
        redirect.addFlashAttribute("said", form.name().strip() + " is saved.");
        return "redirect:/house-rules/fields";
    }

    private void add(Form form, PersonId me) {
        OwnField.Kind kind = OwnField.Kind.of(form.kind())
                .orElseThrow(() -> new Problem.Invalid("Choose what the field holds. Nothing was saved yet."));
        OwnField.Bearer bearer = Arrays.stream(OwnField.Bearer.values())
                .filter(one -> one.name().equals(form.of()))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Choose what has the field. Nothing was saved yet."));
        setup.add(form.typed(), bearer, kind, me);
    }
}
