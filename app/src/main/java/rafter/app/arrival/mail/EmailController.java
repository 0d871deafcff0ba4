package rafter.app.arrival.mail;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Whens;
import rafter.core.id.TeamId;

/** The mailboxes that customers write to. */
@Controller
@RequestMapping("/house-rules/email")
class EmailController {

    private static final int IMAPS = 993;
    private static final int SUBMISSION = 587;

    /** What is typed into the form, as it was typed; a box that is not ticked is not sent at all. */
    public record Form(
            long id,
            int version,
            String name,
            String address,
            String team,
            @Nullable Boolean watched,
            @Nullable Boolean plusAddressing,
            Mailbox.AfterFetch afterFetch,
            String imapHost,
            String imapPort,
            MailServer.Security imapSecurity,
            String imapLogin,
            String imapPassword,
            String folder,
            String smtpHost,
            String smtpPort,
            MailServer.Security smtpSecurity,
            String smtpLogin,
            String smtpPassword) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            address = Objects.requireNonNullElse(address, "");
            team = Objects.requireNonNullElse(team, "");
            imapHost = Objects.requireNonNullElse(imapHost, "");
            imapPort = Objects.requireNonNullElse(imapPort, "");
            imapLogin = Objects.requireNonNullElse(imapLogin, "");
            imapPassword = Objects.requireNonNullElse(imapPassword, "");
            folder = Objects.requireNonNullElse(folder, "");
            smtpHost = Objects.requireNonNullElse(smtpHost, "");
            smtpPort = Objects.requireNonNullElse(smtpPort, "");
            smtpLogin = Objects.requireNonNullElse(smtpLogin, "");
            smtpPassword = Objects.requireNonNullElse(smtpPassword, "");
        }

        static Form of(Mailbox m) {
            return new Form(
                    m.id(),
                    m.version(),
                    m.name(),
                    m.address(),
                    m.team().map(String::valueOf).orElse(""),
                    m.watched(),
                    m.plusAddressing(),
                    m.afterFetch(),
                    m.imap().host(),
                    Integer.toString(m.imap().port()),
                    m.imap().security(),
                    m.imap().login(),
                    "",
                    m.folder(),
                    m.smtp().host(),
                    Integer.toString(m.smtp().port()),
                    m.smtp().security(),
                    m.smtp().login(),
                    "");
        }

        static Form empty() {
            return new Form(
                    0,
                    0,
                    "",
                    "",
                    "",
                    true,
                    true,
                    Mailbox.AfterFetch.MARK_READ,
                    "",
                    Integer.toString(IMAPS),
                    MailServer.Security.TLS,
                    "",
                    "",
                    "INBOX",
                    "",
                    Integer.toString(SUBMISSION),
                    MailServer.Security.STARTTLS,
                    "",
                    "");
        }

        Mailbox mailbox() {
            return new Mailbox(
                    id,
                    name,
                    address.strip(),
                    team.isEmpty() ? Optional.empty() : Optional.of(new TeamId(Long.valueOf(team))),
                    Boolean.TRUE.equals(watched),
                    Boolean.TRUE.equals(plusAddressing),
                    afterFetch,
                    new MailServer(imapHost.strip(), port(imapPort), imapSecurity, imapLogin, imapPassword),
                    folder,
                    new MailServer(smtpHost.strip(), port(smtpPort), smtpSecurity, smtpLogin, smtpPassword),
                    Optional.empty(),
                    0,
                    new Mailbox.Status(Mailbox.Health.NEW, "", Optional.empty()),
                    version);
        }

        private static int port(String typed) {
            return typed.strip().matches("\\d{1,5}") ? Integer.parseInt(typed.strip()) : 0;
        }
    }

    private final Mailboxes mailboxes;
    private final MailConnections connections;
    private final Persons persons;
    private final Access access;
    private final Whens whens;

    EmailController(Mailboxes mailboxes, MailConnections connections, Persons persons, Access access, Whens whens) {
        this.mailboxes = mailboxes;
        this.connections = connections;
        this.persons = persons;
        this.access = access;
        this.whens = whens;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("mailboxes", mailboxes.all());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("whens", whens);
        return "arrival/mail/email";
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        Form form = id == 0
                ? Form.empty()
                : Form.of(mailboxes.find(id).orElseThrow(() -> new Problem.NotFound("There is no such mailbox.")));
        return form(form, model);
    }

    private String form(Form form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("teams", persons.teams());
        model.addAttribute("securities", MailServer.Security.values());
        model.addAttribute("afters", Mailbox.AfterFetch.values());
        return "arrival/mail/mailbox";
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            mailboxes.save(form.mailbox(), me.id());
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(form, model);
        }
        redirect.addFlashAttribute(
                "said", form.address() + " is saved" + (Boolean.TRUE.equals(form.watched()) ? " and watched." : "."));
        return "redirect:/house-rules/email";
    }

    /** Tries the settings in the form as they are typed; nothing is saved. A password left empty is the saved one. */
    @PostMapping("/test")
    String test(Form form, Model model, HttpServletRequest request) {
        access.require(Right.HOUSE_RULES);
        List<MailConnections.Step> steps;
        try {
            Mailbox typed = form.mailbox();
            Optional<Mailbox> kept = form.id() == 0 ? Optional.empty() : mailboxes.find(form.id());
            steps = connections.test(
                    withKept(typed.imap(), kept.map(mailboxes::imap)),
                    typed.folder(),
                    withKept(typed.smtp(), kept.map(mailboxes::smtp)));
        } catch (Problem e) {
            steps = List.of(new MailConnections.Step("Passwords", false, e.words()));
        } catch (IllegalArgumentException e) {
            steps = List.of(new MailConnections.Step("Settings", false, "A host or port is not one."));
        }
        model.addAttribute("steps", steps);
        if (request.getHeader("HX-Request") != null) {
            return "arrival/mail/mailbox :: steps";
        }
        return form(form, model);
    }

    /** A saved password goes only to the server and login it was saved for, and over no less private a connection. */
    private static MailServer withKept(MailServer typed, Optional<MailServer> kept) {
        if (!typed.password().isEmpty()
                || kept.isEmpty()
                || kept.get().password().isEmpty()) {
            return typed;
        }
        MailServer saved = kept.get();
        boolean same = typed.host().strip().equalsIgnoreCase(saved.host())
                && typed.port() == saved.port()
                && typed.login().strip().equals(saved.login())
                && typed.security() == saved.security();
        if (!same) {
            throw new Problem.Invalid("The saved password belongs to " + saved.login() + " at " + saved.host()
                    + ", port " + saved.port() + ". Enter a password for " + typed.host() + " to test it.");
        }
        return new MailServer(typed.host(), typed.port(), typed.security(), typed.login(), saved.password());
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        try {
            mailboxes.remove(id, access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "The mailbox is gone.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/house-rules/email";
    }
}
