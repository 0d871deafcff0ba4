package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Foresight;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.wording.Templates;
import rafter.core.id.Id;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Deed;
import rafter.core.rule.RuleTrial;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Doer;
import rafter.core.ticket.House;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.time.Amount;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** What rules can do in this workspace: read from their forms, said in words, found fault with before it comes to it, and tried. */
@Component
class DeedForms {

    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forRules());
    /** Those of a letter to somebody outside: not the page that is the customer’s alone. */
    private static final Set<String> OUTSIDE = PLACEHOLDERS.stream()
            .filter(name -> !name.equals(Placeholder.REQUEST_PAGE.key()))
            .collect(Collectors.toUnmodifiableSet());

    private static final String UNCHANGED = "Nothing was changed";

    private final Foresight foresight;
    private final Persons persons;
    private final Macros macros;
    private final Templates templates;
    private final Targets targets;
    private final TicketTimes times;
    private final Workplace workplace;
    private final Clock clock;

    DeedForms(
            Foresight foresight,
            Persons persons,
            Macros macros,
            Templates templates,
            Targets targets,
            TicketTimes times,
            Workplace workplace,
            Clock clock) {
        this.foresight = foresight;
        this.persons = persons;
        this.macros = macros;
        this.templates = templates;
        this.targets = targets;
        this.times = times;
        this.workplace = workplace;
        this.clock = clock;
    }

    /** What is wrong with a deed in this workspace as it is, such as a team that is gone; nothing when it can be done. */
    Optional<String> fault(Deed deed) {
        Optional<Deed.Special> special = Deed.Special.of(deed.form());
        try {
            return special.isPresent()
                    ? fault(special.get(), deed)
                    : foresight.hindrance(act(deed)).map(refused -> plain(refused.words()));
        } catch (Problem.Invalid e) {
            return Optional.of(plain(e.words()));
        }
    }

    /** Nothing was about to be changed. */
    static String plain(String words) {
        return words.replace(" " + UNCHANGED + ".", "");
    }

    private Optional<String> fault(Deed.Special special, Deed deed) {
        return switch (special) {
            case HAND_BY -> {
                Deed.By by = by(deed);
                boolean lacks = by.ofTeam() && team(deed).isEmpty();
                yield lacks ? Optional.of("Choose a team that there is.") : Optional.empty();
            }
            case MAIL -> mailFault(deed, PLACEHOLDERS);
            case OUTSIDE ->
                MailAddress.of(deed.typed("address").strip())
                                .filter(MailAddress::writable)
                                .isEmpty()
                        ? Optional.of("Say to which address it goes.")
                        : mailFault(deed, OUTSIDE);
            case REMIND -> Optional.empty();
            case CLOSE -> Optional.empty();
            case CALL -> RuleCalls.fault(deed.typed("address"));
            case MACRO ->
                macro(deed).isPresent()
                        ? Optional.empty()
                        : Optional.of("Choose a macro that is shared with a team or everybody.");
        };
    }

    private Optional<String> mailFault(Deed deed, Set<String> placeholders) {
        if (!deed.typed("template").isBlank() && template(deed).isEmpty()) {
            return Optional.of("The template is gone. Choose another one.");
        }
        List<Template.Version> all = template(deed)
                .map(Template::versions)
                .orElseGet(() -> List.of(new Template.Version("", deed.typed("subject"), deed.typed("text"))));
        if (all.stream().anyMatch(one -> one.body().isBlank())) {
            return Optional.of("Write what they are to read, or choose a template.");
        }
        var unknown = new TreeSet<String>();
        all.forEach(one -> unknown.addAll(Placeholders.unknown(one.subject() + " " + one.body(), placeholders)));
        return unknown.isEmpty()
                ? Optional.empty()
                : Optional.of("Nobody knows what {" + String.join("}, {", unknown) + "} stands for.");
    }

    /** A deed as people read it. */
    String words(Deed deed) {
        Optional<Deed.Special> special = Deed.Special.of(deed.form());
        if (special.isEmpty()) {
            try {
                return foresight.words(act(deed));
            } catch (Problem.Invalid e) {
                return ActForm.of(deed.form()).map(ActForm::words).orElse(deed.form()) + ": " + plain(e.words());
            }
        }
        return switch (special.get()) {
            case HAND_BY -> {
                Deed.By by = by(deed);
                String team = team(deed).map(Team::name).orElse("a team that is gone");
                yield "Hand to " + (by.ofTeam() ? by.words().replace("a team", team) : by.words());
            }
            case MAIL -> "Write to the customer" + about(deed);
            case OUTSIDE ->
                "Write to "
                        + (deed.typed("address").isBlank()
                                ? "somebody outside"
                                : deed.typed("address").strip())
                        + about(deed);
            case REMIND -> special.get().words();
            case CLOSE -> special.get().words();
            case CALL ->
                "Call "
                        + (deed.typed("address").isBlank()
                                ? "another program"
                                : deed.typed("address").strip());
            case MACRO ->
                "Run " + macro(deed).map(one -> "“" + one.name() + "”").orElse("a macro that is gone");
        };
    }

    private String about(Deed deed) {
        if (!deed.typed("template").isBlank()) {
            return ": “" + template(deed).map(Template::name).orElse("a template that is gone") + "”";
        }
        return deed.typed("subject").isBlank()
                ? ""
                : ": “" + deed.typed("subject").strip() + "”";
    }

    static Deed.By by(Deed deed) {
        return Arrays.stream(Deed.By.values())
                .filter(by -> by.name().equals(deed.typed("by")))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Choose by what somebody is found."));
    }

    Optional<Team> team(Deed deed) {
        return Id.read(deed.typed("team"), TeamId::new)
                .flatMap(id -> persons.teams().stream()
                        .filter(team -> team.id().equals(id))
                        .findFirst());
    }

    /** The template by which a mail is written; nothing when its words stand in the rule. */
    Optional<Template> template(Deed deed) {
        String id = deed.typed("template");
        return id.matches("\\d{1,15}")
                ? templates.find(Long.parseLong(id)).filter(one -> one.purpose() == Purpose.OWN)
                : Optional.empty();
    }

    Optional<Macro> macro(Deed deed) {
        String id = deed.typed("macro");
        return id.matches("\\d{1,15}") ? macros.shared(Long.parseLong(id)) : Optional.empty();
    }

    /**
     * The act of a deed, done now.
     *
     * @throws Problem.Invalid when something is missing or no value
     */
    Act act(Deed deed) {
        ActForm form = ActForm.of(deed.form())
                .filter(Deed.ACTS::contains)
                .orElseThrow(() -> new Problem.Invalid("There is nothing “" + deed.form() + "” that a rule can do."));
        try {
            return form.read(new ActForm.Filled(deed.typed(), this::when, PLACEHOLDERS));
        } catch (ActForm.Unfilled e) {
            throw new Problem.Invalid(e.words());
        }
    }

    /** An amount of time from now, up to the next moment at which we are open; or a time itself. */
    private Optional<Instant> when(String typed) {
        Optional<Instant> ahead = Amount.read(typed.startsWith("+") ? typed.substring(1) : typed)
                .map(clock.instant()::plus)
                .map(at -> targets.terms().hours().nextOpen(at).orElse(at));
        return ahead.isPresent() ? ahead : times.read(typed);
    }

    /** What deeds would add to tickets, for trying rules; nothing is asked of the house twice. Not safe for several threads. */
    RuleTrial.Effects effects() {
        var house = new MemoHouse(workplace);
        var known = new HashMap<Deed, Optional<Act>>();
        return (ticket, deed, now) -> known.computeIfAbsent(deed, this::changing).stream()
                .flatMap(act -> events(ticket, act, house, now).stream())
                .toList();
    }

    private static List<TicketEvent> events(Ticket ticket, Act act, House house, Instant now) {
        return Conduct.decide(new TicketNumber(0), ticket, act, Doer.rafter(), house, now, Optional.empty())
                        instanceof Decision.Done(List<TicketEvent> events, var undo)
                ? events
                : List.of();
    }

    /** The act of a deed that changes the ticket itself. */
    private Optional<Act> changing(Deed deed) {
        if (deed.form().equals(Deed.Special.CLOSE.key())) {
            return Optional.of(new Act.MoveTo(TicketState.CLOSED.key()));
        }
        try {
            return Optional.of(act(deed)).filter(act -> !(act instanceof Act.Note) && !(act instanceof Act.Notify));
        } catch (Problem.Invalid e) {
            return Optional.empty();
        }
    }
}
