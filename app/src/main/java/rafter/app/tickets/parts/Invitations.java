package rafter.app.tickets.parts;

import java.io.IOException;
import java.io.StringWriter;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.ParameterList;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Attendee;
import net.fortuna.ical4j.model.property.DtEnd;
import net.fortuna.ical4j.model.property.DtStamp;
import net.fortuna.ical4j.model.property.DtStart;
import net.fortuna.ical4j.model.property.Location;
import net.fortuna.ical4j.model.property.Method;
import net.fortuna.ical4j.model.property.Organizer;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.Sequence;
import net.fortuna.ical4j.model.property.Status;
import net.fortuna.ical4j.model.property.Summary;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.Version;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.app.tickets.wording.Templates;
import rafter.app.tickets.writing.Recipients;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.wording.Purpose;

/** Invites to meetings, and tells those who are invited of changes, each time with an iCalendar file (RFC 5545, RFC 5546). */
@Component
class Invitations {

    private static final String MEDIA_TYPE = "text/calendar; charset=utf-8; method=";

    private final Acts acts;
    private final TicketStore store;
    private final OwnWords words;
    private final Templates templates;
    private final Workspaces workspaces;
    private final Channels channels;
    private final Recipients recipients;
    private final Files files;
    private final Targets targets;
    private final Clock clock;

    Invitations(
            Acts acts,
            TicketStore store,
            OwnWords words,
            Templates templates,
            Workspaces workspaces,
            Channels channels,
            Recipients recipients,
            Files files,
            Targets targets,
            Clock clock) {
        this.acts = acts;
        this.store = store;
        this.words = words;
        this.templates = templates;
        this.workspaces = workspaces;
        this.channels = channels;
        this.recipients = recipients;
        this.files = files;
        this.targets = targets;
        this.clock = clock;
    }

    /** Whom one would invite: the customer. */
    String proposed(TicketNumber number, Ticket ticket) {
        return recipients.proposed(number, ticket).to();
    }

    /**
     * Plans, changes or calls off a meeting, and tells everybody who is or was invited.
     *
     * @return how many are told
     */
    @Transactional
    int perform(TicketNumber number, Act.OfWork act, Optional<String> seen, Viewer by) {
        List<Meeting> before = store.hold(number, by).ticket().work().meetings();
        if (!acts.perform(number, act, seen, by).changed()) {
            return 0;
        }
        TicketStore.Held held = store.hold(number);
        Meeting changed = held.ticket().work().meetings().stream()
                .filter(one -> !before.contains(one))
                .findFirst()
                .orElseThrow();
        List<String> invited = changed.plan().invited();
        List<String> noMore = before.stream()
                .filter(one -> one.id() == changed.id())
                .flatMap(one -> one.plan().invited().stream())
                .filter(address -> !invited.contains(address))
                .toList();
        send(held, changed, invited, changed.off());
        send(store.hold(number), changed, noMore, true);
        return invited.size() + noMore.size();
    }

    private void send(TicketStore.Held held, Meeting meeting, List<String> to, boolean off) {
        if (to.isEmpty()) {
            return;
        }
        Channels.Sender sender = channels.letters(held.ticket().way())
                .orElseThrow(
                        () -> new Problem.Invalid(
                                "The address of ours that this ticket came to is gone, so nobody can be invited from it. Nothing was changed."));
        OurAddress ours = sender.ours();
        Instant now = clock.instant();
        Templates.Filled filled = words(held, meeting, off);
        byte[] calendar =
                calendar(meeting, ours.address(), held.number(), to, off).getBytes(StandardCharsets.UTF_8);
        String type = MEDIA_TYPE + (off ? "CANCEL" : "REQUEST");
        var letter = new OwnWords.Letter(
                to,
                filled.subject(),
                SafeHtml.fromText(filled.body()),
                filled.body(),
                List.of(),
                List.of(new Outgoing.FilePart("meeting.ics", type, calendar, "")),
                List.of(new NewMessage.FileRef(
                        files.keepOnceMore(calendar), "meeting.ics", "text/calendar", calendar.length, "")),
                now);
        MessageId sent = words.send(held.number(), held.nextSeq(), sender.channel(), ours, letter);
        store.append(held, List.of(new TicketEvent.WeWrote(now, Actor.system(), sent, true)), now);
    }

    private Templates.Filled words(TicketStore.Held held, Meeting meeting, boolean off) {
        Meeting.Plan plan = meeting.plan();
        Purpose purpose =
                off ? Purpose.MEETING_OFF : meeting.version() == 0 ? Purpose.INVITATION : Purpose.MEETING_CHANGED;
        return Templates.Filled.of(
                templates.the(purpose).words(""),
                Placeholder.named(Map.of(
                        Placeholder.TICKET, held.number().toString(),
                        Placeholder.SUBJECT, held.ticket().subject(),
                        Placeholder.WORKSPACE, workspaces.current().name(),
                        Placeholder.MEETING, plan.title(),
                        Placeholder.MEETING_TIME, Say.exactly(plan.at(), targets.zone()),
                        Placeholder.MEETING_PLACE, plan.place())));
    }

    /** A meeting as a file for one's own calendar. */
    String calendar(TicketNumber number, Ticket ticket, Meeting meeting) {
        String ours = channels.letters(ticket.way())
                .map(sender -> sender.ours().address())
                .orElse("rafter");
        return calendar(meeting, ours, number, meeting.plan().invited(), meeting.off());
    }

    private String calendar(Meeting meeting, String organiser, TicketNumber number, List<String> invited, boolean off) {
        Meeting.Plan plan = meeting.plan();
        var event = new VEvent();
        event.add(new Uid(
                "meeting-" + number + "-" + meeting.id() + "@" + organiser.substring(organiser.indexOf('@') + 1)));
        event.add(new DtStamp(clock.instant()));
        event.add(new DtStart<>(plan.at()));
        event.add(new DtEnd<>(plan.at().plus(plan.length())));
        event.add(new Summary(plan.title()));
        if (!plan.place().isEmpty()) {
            event.add(new Location(plan.place()));
        }
        event.add(new Sequence(meeting.version()));
        event.add(new Organizer(mailto(organiser)));
        invited.forEach(address -> event.add(new Attendee(mailto(address))));
        event.add(new Status(off ? Status.VALUE_CANCELLED : Status.VALUE_CONFIRMED));
        var calendar = new Calendar();
        calendar.add(new ProdId("-//Rafter//Meetings//EN"));
        calendar.add(new Version(new ParameterList(), Version.VALUE_2_0));
        calendar.add(new Method(off ? Method.VALUE_CANCEL : Method.VALUE_REQUEST));
        calendar.add(event);
        try {
            var out = new StringWriter();
            new CalendarOutputter(false).output(calendar, out);
            return out.toString();
        } catch (IOException e) {
            throw new IllegalStateException("a string can be written", e);
        }
    }

    private static URI mailto(String address) {
        return URI.create(
                "mailto:" + URLEncoder.encode(address, StandardCharsets.UTF_8).replace("%40", "@"));
    }
}
