package rafter.app.handout.consults;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.handout.people.ConsultSettings;
import rafter.app.house.notices.Notices;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.app.tickets.wording.Templates;
import rafter.core.consult.ConsultRules;
import rafter.core.consult.Who;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Ticket;
import rafter.core.wording.Purpose;

/** Asks people into rooms: on their pages, behind the bell and by mail. */
@Component
class Asking {

    /** What is asked, and by whom. */
    public record Question(long consult, TicketNumber number, Ticket ticket, String asker, String words) {}

    private final Guests guests;
    private final Notices notices;
    private final Channels channels;
    private final Templates templates;
    private final Workspaces workspaces;
    private final RoomPages pages;
    private final ConsultSettings settings;
    private final Clock clock;

    Asking(
            Guests guests,
            Notices notices,
            Channels channels,
            Templates templates,
            Workspaces workspaces,
            RoomPages pages,
            ConsultSettings settings,
            Clock clock) {
        this.guests = guests;
        this.notices = notices;
        this.channels = channels;
        this.templates = templates;
        this.workspaces = workspaces;
        this.pages = pages;
        this.settings = settings;
        this.clock = clock;
    }

    /** Asks somebody. */
    void ask(Question question, Who who, String why, boolean optional) {
        ConsultRules rules = settings.rules();
        Guests.Guest guest = guests.ask(
                question.consult(), who, why, optional, clock.instant().plus(rules.answerWithin()));
        guest.person()
                .ifPresent(person -> notices.tell(
                        person,
                        question.number(),
                        Notices.Kind.CONSULT,
                        question.asker() + " asks you into a room about " + question.number() + ": "
                                + question.words()));
        if (who instanceof Who.Outside || rules.mail()) {
            mail(question, guest);
        }
    }

    /** A ticket whose way to us is gone can still ask colleagues on their pages. */
    private void mail(Question question, Guests.Guest guest) {
        Optional<Channels.Sender> from = channels.letters(question.ticket().way());
        if (from.isEmpty() || guest.address().isBlank()) {
            return;
        }
        OurAddress ours = from.get().ours();
        Channel channel = from.get().channel();
        Templates.Filled filled = words(question, guest);
        Instant now = clock.instant();
        String identity = channel.newIdentity(question.number(), ours);
        guests.mailed(guest.id(), identity);
        channel.send(new Outgoing(
                question.number(),
                Optional.empty(),
                ours,
                identity,
                question.asker() + ", " + ours.name(),
                List.of(guest.address()),
                List.of(),
                List.of(),
                filled.subject(),
                SafeHtml.fromText(filled.body()),
                filled.body(),
                Optional.empty(),
                List.of(),
                List.of(),
                true,
                now));
    }

    private Templates.Filled words(Question question, Guests.Guest guest) {
        String room =
                guest.who() instanceof Who.Outside ? pages.ofGuest(guest.id()) : pages.ofConsult(question.consult());
        return Templates.Filled.of(
                templates.the(Purpose.CONSULT).words(""),
                Placeholder.named(Map.of(
                        Placeholder.TICKET, question.number().toString(),
                        Placeholder.SUBJECT, question.ticket().subject(),
                        Placeholder.WORKSPACE, workspaces.current().name(),
                        Placeholder.AGENT, question.asker(),
                        Placeholder.QUESTION, question.words(),
                        Placeholder.ROOM, room)));
    }
}
