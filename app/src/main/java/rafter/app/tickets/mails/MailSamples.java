package rafter.app.tickets.mails;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.app.tickets.wording.Templates;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Ticket;
import rafter.core.wording.Template;

/** How a mail would read for a ticket, and a copy of it for who words it. */
@Component
public class MailSamples {

    private final DSLContext sql;
    private final Blanks blanks;
    private final TicketStore store;
    private final Channels channels;
    private final Viewers viewers;
    private final Clock clock;

    MailSamples(DSLContext sql, Blanks blanks, TicketStore store, Channels channels, Viewers viewers, Clock clock) {
        this.sql = sql;
        this.blanks = blanks;
        this.store = store;
        this.channels = channels;
        this.viewers = viewers;
        this.clock = clock;
    }

    /** The ticket that was opened last of those that somebody sees; blank when there is none. */
    String latest(Viewer me) {
        return sql.select(TICKET.NUMBER)
                .from(me.tickets())
                .orderBy(TICKET.NUMBER.desc())
                .limit(1)
                .fetchOptional(TICKET.NUMBER)
                .map(TicketNumber::toString)
                .orElse("");
    }

    /**
     * What stands for the placeholders on a ticket; what only the mail itself knows, such as a meeting, is made up.
     *
     * @param typed the ticket's number; blank: all of it is made up
     * @throws Problem.Invalid when there is no such ticket
     */
    Map<String, String> values(String typed, Viewer me) {
        var values = new HashMap<>(Placeholder.named(madeUp()));
        if (!typed.isBlank()) {
            TicketNumber number = number(typed, me);
            values.putAll(blanks.ofRafter(number, store.events(number)));
        }
        return values;
    }

    private TicketNumber number(String typed, Viewer me) {
        Optional<TicketNumber> number = Optional.of(typed)
                .filter(one -> one.matches("\\d{1,12}"))
                .map(one -> new TicketNumber(Long.parseLong(one)));
        try {
            viewers.insist(me, number.orElseThrow(() -> new Problem.NotFound("")));
            return number.get();
        } catch (Problem.NotFound gone) {
            throw new Problem.Invalid("There is no ticket “" + typed + "” to look at it with.");
        }
    }

    private static Map<Placeholder, String> madeUp() {
        var values = new EnumMap<Placeholder, String>(Placeholder.class);
        values.put(Placeholder.TICKET, "4471");
        values.put(Placeholder.SUBJECT, "Freight slot for Thursday shows as cancelled");
        values.put(Placeholder.CUSTOMER, "Dov Reiss");
        values.put(Placeholder.FIRST_NAME, "Dov");
        values.put(Placeholder.WORKSPACE, "Tern Passage Ferries");
        values.put(Placeholder.REQUEST_PAGE, "https://help.ternpassage.example/request/4471-1f9c…");
        values.put(Placeholder.OPENS, "Monday 08:00");
        values.put(Placeholder.RATING, "Good, fair or poor: three links");
        values.put(Placeholder.MEETING, "Walk along the ramp");
        values.put(Placeholder.MEETING_TIME, "Thursday 14:00");
        values.put(Placeholder.MEETING_PLACE, "Aldermouth, pier 2");
        return values;
    }

    /**
     * Sends a mail, as it would read for a ticket, to who asks for it and to nobody else; the ticket shows nothing of it.
     *
     * @return where it went
     * @throws Problem.Invalid when there is no ticket to send it with
     */
    @Transactional
    public String send(Template.Version words, String typed, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        if (typed.isBlank()) {
            throw new Problem.Invalid("Say with which ticket it is to be sent.");
        }
        Templates.Filled filled = Templates.Filled.of(words, values(typed, me));
        TicketNumber number = number(typed, me);
        Ticket ticket = Ticket.replay(store.events(number));
        Channels.Sender sender = channels.letters(ticket.way())
                .orElseThrow(() -> new Problem.Invalid(
                        "The address of ours that ticket " + number + " came to is gone. Try it with another ticket."));
        OurAddress ours = sender.ours();
        sender.channel()
                .send(new Outgoing(
                        number,
                        Optional.empty(),
                        ours,
                        sender.channel().newIdentity(number, ours),
                        ours.name(),
                        List.of(me.person().address()),
                        List.of(),
                        List.of(),
                        "Test: " + filled.subject(),
                        SafeHtml.fromText(filled.body()),
                        filled.body(),
                        Optional.empty(),
                        List.of(),
                        List.of(),
                        true,
                        clock.instant()));
        return me.person().address();
    }
}
