package rafter.app.handout.consults;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.handout.people.ConsultSettings;
import rafter.app.handout.people.Skills;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.Companies;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.consult.Candidate;
import rafter.core.consult.Cover;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Need;
import rafter.core.routing.Skill;
import rafter.core.text.Words;
import rafter.core.ticket.Ticket;

/** Asking others in: what is needed in words, the skills that the words propose, and who would be asked and why. */
@Controller
@RequestMapping("/tickets/{number}/consult")
class AskController {

    /** A skill to tick. */
    public record SkillTick(SkillId id, String name, boolean on, boolean found) {}

    /** Somebody who would be asked. */
    public record Proposed(String name, String why) {}

    /** Somebody to ask for being who they are. */
    public record GuestTick(PersonId id, String name, String what, boolean on) {}

    private final Consults consults;
    private final Candidates candidates;
    private final Rooms rooms;
    private final Skills skills;
    private final ConsultSettings settings;
    private final Tickets tickets;
    private final Companies companies;
    private final Persons persons;
    private final Access access;

    AskController(
            Consults consults,
            Candidates candidates,
            Rooms rooms,
            Skills skills,
            ConsultSettings settings,
            Tickets tickets,
            Companies companies,
            Persons persons,
            Access access) {
        this.consults = consults;
        this.candidates = candidates;
        this.rooms = rooms;
        this.skills = skills;
        this.settings = settings;
        this.tickets = tickets;
        this.companies = companies;
        this.persons = persons;
        this.access = access;
    }

    @GetMapping
    String form(@PathVariable TicketNumber number, Model model) {
        Viewer me = access.require(Right.WORK);
        Set<PersonId> usual = guests(number, me).stream()
                .filter(GuestTick::on)
                .map(GuestTick::id)
                .collect(Collectors.toSet());
        return page(number, "", Set.of(), usual, "", me, model);
    }

    private String page(
            TicketNumber number,
            String question,
            Set<SkillId> ticked,
            Set<PersonId> guests,
            String problem,
            Viewer me,
            Model model) {
        Ticket ticket = ticket(number, me);
        model.addAttribute("number", number);
        model.addAttribute("subject", ticket.subject());
        model.addAttribute("question", question);
        model.addAttribute("problem", problem.isEmpty() ? null : problem);
        model.addAttribute("longest", Consults.LONGEST_QUESTION);
        model.addAttribute(
                "guests",
                guests(number, me).stream()
                        .map(one -> new GuestTick(one.id(), one.name(), one.what(), guests.contains(one.id())))
                        .toList());
        propose(question, ticked, me, model);
        return "handout/consults/ask";
    }

    private Ticket ticket(TicketNumber number, Viewer me) {
        return tickets.get(number, me);
    }

    /**
     * Proposes anew: what the words ask for now and did not before is ticked, what they no longer ask for is not any more; what was ticked or
     * unticked by hand stays so.
     *
     * @param found what the words asked for before
     */
    @PostMapping("/propose")
    String propose(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String question,
            @RequestParam(defaultValue = "") String found,
            @RequestParam(name = "skill", required = false) Optional<List<SkillId>> ticked,
            Model model) {
        Viewer me = access.require(Right.WORK);
        ticket(number, me);
        Set<SkillId> before = Ids.list(found, SkillId::new).collect(Collectors.toSet());
        Set<SkillId> now = found(question);
        var on = new LinkedHashSet<>(ticked.orElse(List.of()));
        on.removeIf(one -> before.contains(one) && !now.contains(one));
        now.stream().filter(one -> !before.contains(one)).forEach(on::add);
        propose(question, on, me, model);
        return "handout/consults/ask :: proposal";
    }

    private Set<SkillId> found(String question) {
        return Need.of(skills.all(), "", Words.of(question), Set.of(), Set.of()).stream()
                .map(need -> need.skill().id())
                .collect(Collectors.toSet());
    }

    private void propose(String question, Set<SkillId> ticked, Viewer me, Model model) {
        List<Skill> all = skills.all();
        Set<SkillId> found = found(question);
        Set<SkillId> known =
                all.stream().map(Skill::id).filter(ticked::contains).collect(Collectors.toSet());
        Map<SkillId, String> names = candidates.names();
        model.addAttribute(
                "skills",
                all.stream()
                        .map(one ->
                                new SkillTick(one.id(), one.name(), known.contains(one.id()), found.contains(one.id())))
                        .toList());
        model.addAttribute("found", found.stream().map(SkillId::toString).collect(Collectors.joining(",")));
        boolean many = known.size() > Cover.MOST_SKILLS;
        List<Candidate> people = candidates.all(me.id());
        Cover cover = Cover.of(many ? Set.of() : known, people);
        model.addAttribute("tooMany", many);
        model.addAttribute(
                "proposed",
                cover.asked().stream()
                        .map(one -> new Proposed(one.candidate().name(), candidates.why(one, names)))
                        .toList());
        model.addAttribute("missing", rooms.words(cover.missing(), names));
        model.addAttribute(
                "others",
                people.stream()
                        .filter(one -> !one.can() && one.knowsAny(known))
                        .map(one -> new Proposed(one.name(), candidates.whyNot(one)))
                        .toList());
    }

    /** The company’s account person, and the leads of who asks; each on as the workspace says. */
    private List<GuestTick> guests(TicketNumber number, Viewer me) {
        var all = new ArrayList<GuestTick>();
        companies
                .agentOf(ticket(number, me).contact())
                .filter(id -> !id.equals(me.id()))
                .flatMap(persons::find)
                .filter(Person::active)
                .ifPresent(one -> all.add(new GuestTick(
                        one.id(),
                        one.name(),
                        "looks after the company",
                        settings.rules().accountPerson())));
        persons.teamsOf(me.id()).stream()
                .flatMap(team -> persons.membersOf(team).stream())
                .distinct()
                .sorted()
                .filter(id -> !id.equals(me.id())
                        && all.stream().noneMatch(one -> one.id().equals(id)))
                .flatMap(id -> persons.find(id).stream())
                .filter(one -> one.active() && one.role() == Role.LEAD)
                .limit(3)
                .forEach(one -> all.add(new GuestTick(
                        one.id(),
                        one.name(),
                        "leads your team",
                        settings.rules().lead())));
        return all;
    }

    @PostMapping
    String open(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String question,
            @RequestParam(name = "skill", required = false) Optional<List<SkillId>> skill,
            @RequestParam(name = "guest", required = false) Optional<List<PersonId>> guest,
            Model model) {
        Viewer me = access.require(Right.WORK);
        var ticked = new LinkedHashSet<>(skill.orElse(List.of()));
        Set<PersonId> asked = guests(number, me).stream()
                .map(GuestTick::id)
                .filter(id -> guest.orElse(List.of()).contains(id))
                .collect(Collectors.toSet());
        try {
            return "redirect:/consults/" + consults.open(number, question, ticked, asked, me);
        } catch (Problem.Invalid e) {
            return page(number, question, ticked, asked, e.words(), me, model);
        }
    }
}
