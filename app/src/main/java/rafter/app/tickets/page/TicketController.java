package rafter.app.tickets.page;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.HandOutDesk;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.RequestPages;
import rafter.app.tickets.acts.Traces;
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
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Priority;
import tools.jackson.databind.json.JsonMapper;

/** The page of a ticket. */
@Controller
@RequestMapping("/tickets/{number}")
class TicketController {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final TicketPage page;
    private final Drafts drafts;
    private final Recipients recipients;
    private final Access access;
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
            Drafts drafts,
            Recipients recipients,
            Access access,
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
        this.requestPages = requestPages;
        this.page = page;
        this.drafts = drafts;
        this.recipients = recipients;
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
        Drafts.Mine mine = view.traces().may(OwnTrace.DRAFTS) ? drafts.mine(number, me) : Drafts.Mine.NOTHING;
        Drafts.Draft reply = mine.reply();
        model.addAttribute("reply", reply);
        Recipients.Proposed proposed =
                recipients.proposed(number, view.ticket(), view.customer().addresses());
        model.addAttribute("to", reply.to().isBlank() ? proposed.to() : reply.to());
        model.addAttribute("cc", reply.version() == 0 ? String.join(", ", proposed.cc()) : reply.cc());
        model.addAttribute("everybody", String.join(", ", proposed.cc()));
        model.addAttribute("alsoAt", proposed.others());
        Blanks.Known known = blanks.known(number, view.events(), view.customer().written(), me.person());
        Map<String, String> values = known.values();
        Salutations.Salutation salutation = salutations.of(known.language());
        model.addAttribute("blanks", JSON.writeValueAsString(values));
        model.addAttribute("greeting", Placeholders.fillKnown(salutation.greeting(), values));
        model.addAttribute("closing", Placeholders.fillKnown(salutation.closing(), values));
        boolean begun = reply.version() > 0;
        if (begun) {
            sending.waiting(number, me).ifPresent(waiting -> {
                model.addAttribute("waiting", waiting);
                model.addAttribute("waitingWords", say(waiting.due()));
            });
        }
        model.addAttribute("trouble", begun ? sending.trouble(number, me) : "");
        model.addAttribute("requestPage", requestPages.address(number));
        model.addAttribute("note", mine.note());
        return "tickets/page/ticket";
    }

    /** An outside conversation in a line. */
    public record OutsideLine(long id, List<String> addresses, boolean answered, String when, String nudge) {}

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
        Traces.Found traces = view.traces();
        model.addAttribute(
                "outside",
                traces.may(OwnTrace.OUTSIDE)
                        ? outside.of(number, me).stream().map(this::line).toList()
                        : List.of());
        model.addAttribute("parts", parts.of(number, view.ticket(), view.colleagues(), traces, me));
        HandOutDesk.Waiting waiting = waits.of(number, view.ticket(), me);
        model.addAttribute("place", waiting.place());
        model.addAttribute("needLines", waiting.needs());
        model.addAttribute("rooms", waits.rooms(number, traces, me));
        readers.reads(number, me);
        model.addAttribute("readers", readers.others(number, me));
        model.addAttribute("notAsked", traces.may(OwnTrace.NOT_ASKED) ? ratings.notAsked(number) : List.of());
        model.addAttribute("can", channels.abilities(view.ticket().channel()));
        model.addAttribute(
                "ways", ways.of(number, view.ticket(), view.customer().addresses(), traces));
        model.addAttribute("desk", channels.desk(view.ticket().channel(), number));
        model.addAttribute("writing", traces.may(OwnTrace.DRAFTS) ? drafts.othersWriting(number, me) : List.of());
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

    /** The essentials of a ticket, to be unfolded in a list. */
    @GetMapping("/glance")
    String glance(@PathVariable TicketNumber number, Model model) {
        fill(number, access.require(Right.WORK), false, Optional.empty(), model);
        return "tickets/page/glance";
    }
}
