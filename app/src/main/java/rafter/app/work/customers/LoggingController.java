package rafter.app.work.customers;

import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.Id;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Priority;

/** The page on which a request is written down for a customer. */
@Controller
@RequestMapping("/requests")
class LoggingController {

    /** What is typed into the form. */
    public record Form(
            String contact,
            String company,
            String q,
            String name,
            String address,
            String ours,
            String subject,
            String text,
            String priority,
            String topic,
            @org.jspecify.annotations.Nullable Boolean mine,
            @org.jspecify.annotations.Nullable Boolean told) {
        public Form {
            contact = Objects.requireNonNullElse(contact, "");
            company = Objects.requireNonNullElse(company, "");
            q = Objects.requireNonNullElse(q, "");
            name = Objects.requireNonNullElse(name, "");
            address = Objects.requireNonNullElse(address, "");
            ours = Objects.requireNonNullElse(ours, "");
            subject = Objects.requireNonNullElse(subject, "");
            text = Objects.requireNonNullElse(text, "");
            priority = Objects.requireNonNullElse(priority, Priority.P3.name());
            topic = Objects.requireNonNullElse(topic, "");
        }

        /** Whether it becomes the writer's own; an empty box is not sent. */
        public boolean own() {
            return Boolean.TRUE.equals(mine);
        }

        /** Whether the customer is told. */
        public boolean tell() {
            return Boolean.TRUE.equals(told);
        }

        Logging.Request request(Map<String, String> fields) {
            return new Logging.Request(
                    Id.read(contact, ContactId::new),
                    name,
                    address,
                    Ids.number(ours).orElse(0L),
                    subject,
                    text,
                    Priority.of(priority).orElse(Priority.P3),
                    topic,
                    own(),
                    tell(),
                    fields);
        }
    }

    private final Logging logging;
    private final Contacts contacts;
    private final Companies companies;
    private final CriteriaNames names;
    private final OwnFields own;
    private final Access access;

    LoggingController(
            Logging logging,
            Contacts contacts,
            Companies companies,
            CriteriaNames names,
            OwnFields own,
            Access access) {
        this.own = own;
        this.logging = logging;
        this.contacts = contacts;
        this.companies = companies;
        this.names = names;
        this.access = access;
    }

    @GetMapping("/new")
    String begin(@RequestParam(defaultValue = "") String contact, Model model) {
        Viewer me = access.require(Right.WORK);
        return page(
                new Form(contact, "", "", "", "", "", "", "", Priority.P3.name(), "", true, true), Map.of(), me, model);
    }

    private String page(Form form, Map<String, String> fields, Viewer me, Model model) {
        model.addAttribute("parts", logging.parts(form.request(fields)));
        model.addAttribute("moves", logging.moves());
        model.addAttribute("form", form);
        model.addAttribute(
                "chosen",
                Id.read(form.contact(), ContactId::new)
                        .map(id -> contacts.get(id).name())
                        .orElse(""));
        model.addAttribute("companies", companies.all());
        model.addAttribute("ours", logging.addresses());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute("topics", names.options(KnownField.TOPIC));
        model.addAttribute("found", logging.known(form.q(), Id.read(form.company(), CompanyId::new), me));
        return "work/customers/request";
    }

    /** The contacts that may be meant. */
    @GetMapping("/contacts")
    String known(
            @RequestParam(defaultValue = "") String q, @RequestParam(defaultValue = "") String company, Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("found", logging.known(q, Id.read(company, CompanyId::new), me));
        model.addAttribute("chosenId", "");
        return "work/customers/request :: found";
    }

    /** The fields anew, after something was filled in that may change what is asked for. */
    @PostMapping("/fields")
    String fields(Form form, @RequestParam MultiValueMap<String, String> sent, Model model) {
        access.require(Right.WORK);
        model.addAttribute("parts", logging.parts(form.request(own(sent))));
        return "house/fields/inputs :: parts";
    }

    private static Map<String, String> own(MultiValueMap<String, String> sent) {
        Map<String, String> typed = OwnFields.typed(sent);
        typed.keySet().removeIf(name -> OwnField.of(name).isEmpty());
        return typed;
    }

    @PostMapping
    String log(Form form, @RequestParam MultiValueMap<String, String> sent, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Map<String, String> fields = own(sent);
        try {
            TicketNumber number = logging.log(form.request(fields), me);
            redirect.addFlashAttribute(
                    "said", "This is ticket " + number + "." + own.notAsked(OwnField.Bearer.TICKET, fields, Map.of()));
            return "redirect:/tickets/" + number;
        } catch (Problem.Invalid | Problem.NotFound e) {
            model.addAttribute("problem", e.words());
            return page(form, fields, me, model);
        }
    }
}
