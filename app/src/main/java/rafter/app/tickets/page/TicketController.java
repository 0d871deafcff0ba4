package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.LongFunction;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Done;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.RequestPages;
import rafter.app.tickets.acts.TicketFields;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.outside.Outside;
import rafter.app.tickets.outside.OutsideThread;
import rafter.app.tickets.parts.Parts;
import rafter.app.tickets.phrases.Salutations;
import rafter.app.tickets.rating.Ratings;
import rafter.app.tickets.writing.Drafts;
import rafter.app.tickets.writing.Recipients;
import rafter.app.tickets.writing.Sending;
import rafter.app.tickets.writing.Ways;
import rafter.core.criteria.OwnField;
import rafter.core.id.Id;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import tools.jackson.databind.json.JsonMapper;

/** The page of a ticket, and the acts on one that are no messages. */
@Controller
@RequestMapping("/tickets/{number}")
class TicketController {

    /** Before the name of a field of a form: what stood in it when the person opened it. */
    private static final String WAS = "was-";

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final TicketPage page;
    private final Tickets tickets;
    private final Acts acts;
    private final Drafts drafts;
    private final Recipients recipients;
    private final Persons persons;
    private final Access access;
    private final OwnFields fields;
    private final TicketFields ticketFields;
    private final RequestPages requestPages;
    private final TicketStates states;
    private final Channels channels;
    private final Ways ways;
    private final Blanks blanks;
    private final Parts parts;
    private final Outside outside;
    private final Waits waits;
    private final Salutations salutations;
    private final Sending sending;
    private final Ratings ratings;
    private final Readers readers;
    private final Targets targets;
    private final Clock clock;

    TicketController(
            TicketPage page,
            Tickets tickets,
            Acts acts,
            Drafts drafts,
            Recipients recipients,
            Persons persons,
            Access access,
            OwnFields fields,
            TicketFields ticketFields,
            RequestPages requestPages,
            TicketStates states,
            Channels channels,
            Ways ways,
            Blanks blanks,
            Parts parts,
            Outside outside,
            Waits waits,
            Salutations salutations,
            Sending sending,
            Ratings ratings,
            Readers readers,
            Targets targets,
            Clock clock) {
        this.sending = sending;
        this.ratings = ratings;
        this.readers = readers;
        this.targets = targets;
        this.clock = clock;
        this.blanks = blanks;
        this.parts = parts;
        this.outside = outside;
        this.waits = waits;
        this.salutations = salutations;
        this.channels = channels;
        this.ways = ways;
        this.states = states;
        this.acts = acts;
        this.fields = fields;
        this.ticketFields = ticketFields;
        this.requestPages = requestPages;
        this.page = page;
        this.tickets = tickets;
        this.drafts = drafts;
        this.recipients = recipients;
        this.persons = persons;
        this.access = access;
    }

    @GetMapping
    String show(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "false") boolean all,
            @RequestParam(required = false) Optional<MessageId> pictures,
            Model model) {
        Viewer me = access.require(Right.WORK);
        TicketPage.View view = fill(number, me, all, pictures, model);
        Drafts.Draft reply = drafts.find(number, Drafts.Kind.REPLY, me);
        model.addAttribute("reply", reply);
        Recipients.Proposed proposed = recipients.proposed(number, view.ticket());
        model.addAttribute("to", reply.to().isBlank() ? proposed.to() : reply.to());
        model.addAttribute("cc", reply.version() == 0 ? String.join(", ", proposed.cc()) : reply.cc());
        model.addAttribute("everybody", String.join(", ", proposed.cc()));
        model.addAttribute("alsoAt", proposed.others());
        Blanks.Known known = blanks.known(number, me.person());
        Map<String, String> values = known.values();
        Salutations.Salutation salutation = salutations.of(known.language());
        model.addAttribute("blanks", JSON.writeValueAsString(values));
        model.addAttribute("greeting", Placeholders.fillKnown(salutation.greeting(), values));
        model.addAttribute("closing", Placeholders.fillKnown(salutation.closing(), values));
        sending.waiting(number, me).ifPresent(waiting -> {
            model.addAttribute("waiting", waiting);
            model.addAttribute("waitingWords", say(waiting.due()));
        });
        model.addAttribute("trouble", sending.trouble(number, me));
        model.addAttribute("requestPage", requestPages.address(number));
        model.addAttribute("note", drafts.find(number, Drafts.Kind.NOTE, me));
        return "tickets/page/ticket";
    }

    /** An outside conversation in a line. */
    record OutsideLine(long id, List<String> addresses, boolean answered, String when, String nudge) {}

    private OutsideLine line(OutsideThread thread) {
        return new OutsideLine(
                thread.id(),
                thread.addresses(),
                thread.answered(),
                say(thread.writtenAt()),
                thread.nextNudge().map(this::say).orElse(""));
    }

    private String say(Instant at) {
        return Say.when(at, clock.instant(), targets.zone());
    }

    private TicketPage.View fill(
            TicketNumber number, Viewer me, boolean all, Optional<MessageId> pictures, Model model) {
        TicketPage.View view = page.load(number, me, all, pictures);
        model.addAttribute("view", view);
        model.addAttribute(
                "outside", outside.of(number, me).stream().map(this::line).toList());
        model.addAttribute("parts", parts.of(number, view.ticket(), me));
        model.addAttribute("place", waits.place(number, view.ticket(), me));
        model.addAttribute("rooms", waits.rooms(number, me));
        model.addAttribute("needLines", waits.needs(number, view.ticket(), me));
        readers.reads(number, me);
        model.addAttribute("readers", readers.others(number, me));
        model.addAttribute("notAsked", ratings.notAsked(number));
        model.addAttribute("can", channels.abilities(view.ticket().channel()));
        model.addAttribute("ways", ways.of(number, view.ticket()));
        model.addAttribute("desk", channels.desk(view.ticket().channel(), number));
        model.addAttribute("writing", drafts.othersWriting(number, me));
        model.addAttribute("states", states.all());
        model.addAttribute("priorities", Priority.values());
        return view;
    }

    /** What changes on the page while it is open: everything but the place where somebody may be writing. */
    @GetMapping("/live")
    String live(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "false") boolean all,
            @RequestParam(required = false) Optional<MessageId> pictures,
            Model model) {
        fill(number, access.require(Right.WORK), all, pictures, model);
        return "tickets/page/ticket :: live";
    }

    /** The choices for one fact of a ticket, as a small menu or, without scripts, as a page. */
    @GetMapping("/choose/{what}")
    String choose(
            @PathVariable TicketNumber number, @PathVariable String what, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        Ticket ticket = tickets.find(number, access.require(Right.WORK))
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
        model.addAttribute("number", number);
        model.addAttribute("ticket", ticket);
        model.addAttribute("me", me.person());
        model.addAttribute("states", states.all());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute("people", persons.active());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("owner", text(ticket.owner()));
        boolean colleagues = ticket.owner().filter(id -> !id.equals(me.id())).isPresent();
        model.addAttribute("mayHand", !colleagues || me.role().has(Right.HAND_OVER_ANY));
        if (what.equals("about")) {
            about(ticket, ticket.topic(), Map.of(), model);
        }
        model.addAttribute("what", what);
        if (!List.of("state", "priority", "owner", "about").contains(what)) {
            throw new Problem.NotFound("There is nothing to choose here.");
        }
        return request.getHeader("HX-Request") == null ? "tickets/page/choose" : "tickets/page/choose :: " + what;
    }

    /** The fields as they are asked for, with what stands in them or was typed. */
    private void about(Ticket ticket, String topic, Map<String, String> typed, Model model) {
        model.addAttribute("parts", ticketFields.of(ticket, topic, typed));
        model.addAttribute("moves", ticketFields.moves());
    }

    /** The fields anew, after something was filled in that may change what is asked for. */
    @PostMapping("/about/fields")
    String fields(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam MultiValueMap<String, String> all,
            Model model) {
        access.require(Right.WORK);
        about(current(number), topic.strip(), OwnFields.typed(all), model);
        return "house/fields/inputs :: parts";
    }

    @PostMapping("/state")
    String state(
            @PathVariable TicketNumber number,
            @RequestParam String state,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        TicketState next =
                states.current().find(state).orElseThrow(() -> new Problem.Invalid("There is no such state."));
        String before = current(number).state().key();
        acts.perform(number, new Act.MoveTo(next.key()), was, me);
        return Done.answer(
                request,
                response,
                number + " is now “" + next.name() + "”.",
                new Done.Undo("/tickets/" + number + "/state", Map.of("state", before, "was", next.key())),
                "/tickets/" + number);
    }

    @PostMapping("/priority")
    String priority(
            @PathVariable TicketNumber number,
            @RequestParam Priority priority,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        String before = current(number).priority().name();
        acts.perform(number, new Act.SetPriority(priority), was, me);
        return Done.answer(
                request,
                response,
                number + " is now " + priority + " " + priority.word().toLowerCase(Locale.ROOT) + ".",
                new Done.Undo("/tickets/" + number + "/priority", Map.of("priority", before, "was", priority.name())),
                "/tickets/" + number);
    }

    /** Hands the ticket to a person, to a team, or back to nobody; takes it when the person is oneself. */
    @PostMapping("/owner")
    String owner(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String owner,
            @RequestParam(defaultValue = "") String team,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        Ticket before = current(number);
        if (!team.isEmpty()) {
            acts.perform(number, new Act.HandOver(id(team, TeamId::new)), me);
            String name = persons.teams().stream()
                    .filter(t -> t.id().equals(id(team, TeamId::new)))
                    .findFirst()
                    .map(t -> t.name())
                    .orElse("the team");
            var undo = new Done.Undo(
                    "/tickets/" + number + "/team-back",
                    Map.of("team", team, "teamBefore", text(before.team()), "ownerBefore", text(before.owner())));
            return Done.answer(request, response, number + " was handed to " + name + ".", undo, "/tickets/" + number);
        }
        Optional<PersonId> to = optional(owner, PersonId::new);
        acts.perform(number, new Act.HandToPerson(to), was, me);
        String words = to.map(person -> person.equals(me.id())
                        ? "You took " + number + "."
                        : number + " was handed to "
                                + persons.find(person).map(Person::name).orElse("them") + ".")
                .orElse(number + " belongs to nobody now.");
        return Done.answer(
                request,
                response,
                words,
                new Done.Undo("/tickets/" + number + "/owner", Map.of("owner", text(before.owner()), "was", owner)),
                "/tickets/" + number);
    }

    /** Takes back that the ticket was handed to a team. */
    @PostMapping("/team-back")
    String teamBack(
            @PathVariable TicketNumber number,
            @RequestParam String team,
            @RequestParam(defaultValue = "") String teamBefore,
            @RequestParam(defaultValue = "") String ownerBefore,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        acts.perform(
                number,
                new Act.HandBack(
                        id(team, TeamId::new), optional(teamBefore, TeamId::new), optional(ownerBefore, PersonId::new)),
                me);
        return Done.answer(request, response, number + " is back where it was.", Done.Undo.NONE, "/tickets/" + number);
    }

    private static <T extends Id> Optional<T> optional(String text, LongFunction<T> as) {
        return text.isEmpty() ? Optional.empty() : Optional.of(id(text, as));
    }

    @PostMapping("/about")
    String about(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam(defaultValue = "") String tags,
            @RequestParam MultiValueMap<String, String> sent,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        Map<String, String> all = OwnFields.typed(sent);
        Tickets.About now = Tickets.About.of(current(number));
        var typed = new Tickets.About(topic.strip(), tags(tags), all);
        if (typed.tags().size() > 20
                || typed.tags().stream().anyMatch(tag -> tag.length() > 40)
                || topic.length() > 60) {
            throw new Problem.Invalid(
                    "At most twenty tags of forty letters each, and a topic of sixty. Nothing was changed.");
        }
        String left = tickets.changeAbout(number, typed, seen(all, now), me);
        return Done.answer(
                request,
                response,
                "What was said about " + number + " is saved." + left + ticketFields.wanted(current(number)),
                undo(number, now),
                "/tickets/" + number);
    }

    private static Set<String> tags(String typed) {
        var tags = new TreeSet<>(
                Arrays.asList(typed.toLowerCase(Locale.ROOT).strip().split("\\s*,\\s*")));
        tags.remove("");
        return tags;
    }

    /** What stood in the form when the person opened it; what it does not tell is taken as it is now. */
    private static Tickets.About seen(Map<String, String> all, Tickets.About now) {
        var own = new HashMap<>(now.fields());
        all.forEach((name, value) -> {
            if (name.startsWith(WAS)) {
                own.put(name.substring(WAS.length()), value);
            }
        });
        return new Tickets.About(
                all.getOrDefault(WAS + "topic", now.topic()),
                all.containsKey(WAS + "tags") ? tags(all.getOrDefault(WAS + "tags", "")) : now.tags(),
                own);
    }

    /** Sets everything back to what it was, provided that it still is what this made of it. */
    private Done.Undo undo(TicketNumber number, Tickets.About before) {
        Tickets.About after = Tickets.About.of(current(number));
        var form = new HashMap<String, String>();
        form.put("topic", before.topic());
        form.put(WAS + "topic", after.topic());
        form.put("tags", String.join(",", before.tags()));
        form.put(WAS + "tags", String.join(",", after.tags()));
        fields.shown(OwnField.Bearer.TICKET).forEach(field -> {
            form.put(field.key(), before.fields().getOrDefault(field.key(), ""));
            form.put(WAS + field.key(), after.fields().getOrDefault(field.key(), ""));
        });
        return new Done.Undo("/tickets/" + number + "/about", form);
    }

    /** Says what the ticket is about, and leaves its tags and fields as they are. */
    @PostMapping("/topic")
    String topic(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        if (topic.length() > 60) {
            throw new Problem.Invalid("A topic has at most sixty letters. Nothing was changed.");
        }
        Tickets.About now = Tickets.About.of(current(number));
        tickets.changeAbout(
                number,
                new Tickets.About(topic.strip(), now.tags(), Map.of()),
                new Tickets.About(was.orElse(now.topic()), now.tags(), Map.of()),
                me);
        return Done.answer(
                request,
                response,
                number + (topic.isBlank() ? " has no topic now." : " is about " + topic.strip() + " now."),
                new Done.Undo("/tickets/" + number + "/topic", Map.of("topic", now.topic(), "was", topic.strip())),
                "/tickets/" + number);
    }

    /** Takes the ticket out of the bin. */
    @PostMapping("/restore")
    String restore(@PathVariable TicketNumber number) {
        acts.perform(number, new Act.Restore(), access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    /** Makes the ticket one of its own again that was joined into another. */
    @PostMapping("/part")
    String part(@PathVariable TicketNumber number, @RequestParam TicketNumber from) {
        acts.perform(number, new Act.Part(from), access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    /** The essentials of a ticket, to be unfolded in a list. */
    @GetMapping("/glance")
    String glance(@PathVariable TicketNumber number, Model model) {
        fill(number, access.require(Right.WORK), false, Optional.empty(), model);
        return "tickets/page/glance";
    }

    private Ticket current(TicketNumber number) {
        return tickets.find(number, access.require(Right.WORK))
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
    }

    private static String text(Optional<? extends Id> value) {
        return value.map(Id::toString).orElse("");
    }

    private static <T extends Id> T id(String text, LongFunction<T> as) {
        return Id.read(text, as)
                .orElseThrow(() -> new Problem.Invalid("That choice was not understood. Nothing was changed."));
    }
}
