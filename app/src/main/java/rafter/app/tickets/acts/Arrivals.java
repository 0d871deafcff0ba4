package rafter.app.tickets.acts;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Contact;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Workspace;
import rafter.app.platform.Writes;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Threading;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;

/** What comes in from customers and finds its ticket. Each method is a part of the caller's transaction. */
@Component
public class Arrivals {

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final EntryStore entries;
    private final Acknowledgements acknowledgements;
    private final Notices notices;
    private final TicketStates states;

    private final TicketFields ticketFields;
    private final Channels channels;

    Arrivals(
            DSLContext sql,
            Writes writes,
            TicketStore store,
            EntryStore entries,
            Acknowledgements acknowledgements,
            Notices notices,
            TicketStates states,
            TicketFields ticketFields,
            Channels channels) {
        this.channels = channels;
        this.ticketFields = ticketFields;
        this.states = states;
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.entries = entries;
        this.acknowledgements = acknowledgements;
        this.notices = notices;
    }

    /**
     * A message of a customer's that opens a ticket.
     *
     * @param way how it came
     * @param ours the address of ours that it came to
     * @param automatic whether a machine wrote it
     * @param unanswered whether no automatic answer may go to it
     * @param linkedTo an earlier ticket that it has to do with
     * @param why why it does not belong to that one
     */
    public record Request(
            Way way,
            OurAddress ours,
            Contact contact,
            String subject,
            NewMessage message,
            boolean automatic,
            boolean unanswered,
            Optional<TicketNumber> linkedTo,
            String why) {}

    /**
     * Opens a ticket; the customer is told once that their request arrived, unless that may not be.
     *
     * @return the new ticket's number
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public TicketNumber open(Request request, Workspace workspace) {
        return writes.gather(() -> gatheredOpen(request, workspace));
    }

    private TicketNumber gatheredOpen(Request request, Workspace workspace) {
        Contact contact = request.contact();
        Instant now = request.message().at();
        var who = new Actor.Contact(contact.id());
        TicketStore.Held held = store.begin(new TicketEvent.Opened(
                now,
                who,
                TicketEvent.Origin.CUSTOMER,
                request.way(),
                request.subject(),
                contact.id(),
                Priority.P3,
                request.ours().team()));
        writes.pendingFor(contact.id());
        Optional<String> hindrance = hindrance(held.number(), request, workspace, now);
        NewMessage message = request.message().remarked(hindrance.orElse(""));
        MessageId id = entries.add(held.number(), held.nextSeq(), message);
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.CustomerWrote(now, who, id, request.automatic()));
        events.addAll(ticketFields.presets(held.ticket(), now));
        request.linkedTo()
                .ifPresent(earlier -> events.add(new TicketEvent.Linked(now, Actor.system(), earlier, request.why())));
        if (hindrance.isEmpty()) {
            acknowledgements
                    .send(held.number(), held.nextSeq() + events.size(), request, workspace)
                    .ifPresent(told -> events.add(new TicketEvent.WeWrote(now, Actor.system(), told, true)));
        }
        store.append(held, events, now);
        takePart(held.number(), message, true);
        request.linkedTo().ifPresent(earlier -> continues(earlier, held.number(), request.why(), now));
        return held.number();
    }

    /** Why it is not acknowledged; blank when nobody wants that. */
    private Optional<String> hindrance(TicketNumber number, Request request, Workspace workspace, Instant now) {
        boolean wanted = !request.unanswered() && workspace.acknowledge();
        return wanted
                ? acknowledgements.hindrance(
                        number, request.message().envelope().from(), now)
                : Optional.of("");
    }

    /** The entry with which a ticket began. */
    @Transactional(propagation = Propagation.MANDATORY)
    public MessageId first(TicketNumber number) {
        writes.settle(List.of(number));
        return sql.select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .orderBy(MESSAGE.SEQ)
                .limit(1)
                .fetchSingle(MESSAGE.ID);
    }

    /** Tells the earlier ticket, too, where it goes on. */
    private void continues(TicketNumber earlier, TicketNumber later, String why, Instant now) {
        store.append(store.hold(earlier), List.of(new TicketEvent.Continued(now, Actor.system(), later, why)), now);
    }

    /**
     * A message of the customer's side that joins a ticket; answers go back the way it came, unless a machine wrote it.
     *
     * @return the entry
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public MessageId join(TicketNumber number, Contact contact, NewMessage message, boolean automatic, Way way) {
        TicketStore.Held held = store.hold(number);
        int seq = held.nextSeq() + (Conduct.turnsTo(held.ticket(), automatic, way) ? 1 : 0);
        MessageId id = entries.add(held.number(), seq, message);
        store.append(
                held,
                Conduct.customerWrote(held.ticket(), message.at(), new Actor.Contact(contact.id()), id, automatic, way),
                message.at());
        if (!automatic) {
            takePart(number, message, false);
            // Who is in a talk sees what is said in it.
            held.ticket()
                    .owner()
                    .filter(owner -> !channels.abilities(way.channel()).live())
                    .ifPresent(owner -> notices.tell(
                            owner,
                            number,
                            Notices.Kind.ANSWERED,
                            contact.name() + " wrote to " + number + ": "
                                    + held.ticket().subject()));
        }
        return id;
    }

    /**
     * A report that a mail of this ticket was not delivered; its owner is told.
     *
     * @param words what it reports
     * @param delayed whether delivery is still being tried; then nobody need be told
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void bounced(TicketNumber number, NewMessage message, String words, boolean delayed) {
        TicketStore.Held held = store.hold(number);
        MessageId id = entries.add(held.number(), held.nextSeq(), message);
        store.append(held, List.of(new TicketEvent.Bounced(message.at(), Actor.system(), id)), message.at());
        if (!delayed) {
            held.ticket()
                    .owner()
                    .ifPresent(owner -> notices.tell(owner, number, Notices.Kind.BOUNCED, number + ": " + words));
        }
    }

    /** What was written in a ticket, its quotations included, the latest first; of a long one the latest. */
    public List<String> texts(TicketNumber number) {
        return entries.texts(number);
    }

    /** What was written in a ticket before an entry, the latest first. */
    public List<String> textsBefore(TicketNumber number, int seq) {
        return entries.textsBefore(number, seq);
    }

    /** Shows an entry otherwise, for it was read once more. */
    @Transactional
    public void rewrite(MessageId message, String html, String text, String folded, String remark) {
        entries.rewrite(message, html, text, folded, remark);
    }

    /** An address to which answers are wanted takes part from the beginning, never by itself later. */
    private void takePart(TicketNumber number, NewMessage message, boolean opening) {
        var addresses = new ArrayList<String>();
        addresses.add(message.envelope().from());
        if (opening && !message.envelope().replyTo().isEmpty()) {
            addresses.add(message.envelope().replyTo());
        }
        addresses.addAll(message.envelope().cc());
        addresses.removeIf(String::isEmpty);
        entries.takePart(number, addresses);
    }

    /** The tickets that a mail points to, the best evidence first. */
    public List<Threading.Candidate> candidates(List<TicketNumber> marked, List<String> references) {
        var found = new LinkedHashMap<TicketNumber, Threading.Evidence>();
        marked.forEach(ticket -> found.put(ticket, Threading.Evidence.REPLY_MARK));
        if (!references.isEmpty()) {
            writes.settle(references);
            Map<String, TicketNumber> byMessage = sql.select(MESSAGE.MESSAGE_ID, MESSAGE.TICKET)
                    .from(MESSAGE)
                    .where(MESSAGE.MESSAGE_ID.in(references))
                    .fetchMap(MESSAGE.MESSAGE_ID, MESSAGE.TICKET);
            references.stream()
                    .filter(byMessage::containsKey)
                    .forEach(id -> found.putIfAbsent(byMessage.get(id), Threading.Evidence.REFERENCE));
        }
        writes.settle(found.keySet());
        return found.isEmpty() ? List.of() : candidates(found);
    }

    private List<Threading.Candidate> candidates(Map<TicketNumber, Threading.Evidence> found) {
        Map<TicketNumber, ? extends Record> rows = sql.select(
                        TICKET.NUMBER, TICKET.STATE, TICKET.TURN, TICKET.OPEN, TICKET.RESOLVED_AT, TICKET.JOINED_INTO)
                .from(TICKET)
                .where(TICKET.NUMBER.in(found.keySet()))
                .fetchMap(TICKET.NUMBER);
        // What was joined into another ticket goes on there. A chain has an end, for what is joined takes nothing in.
        Map<TicketNumber, TicketNumber> into = new HashMap<>();
        rows.forEach((number, row) ->
                Optional.ofNullable(row.get(TICKET.JOINED_INTO)).ifPresent(there -> into.put(number, there)));
        if (!into.isEmpty()) {
            var there = new LinkedHashMap<TicketNumber, Threading.Evidence>();
            found.forEach((number, evidence) -> there.putIfAbsent(into.getOrDefault(number, number), evidence));
            return candidates(there);
        }
        Map<TicketNumber, List<String>> participants = sql.selectFrom(PARTICIPANT)
                .where(PARTICIPANT.TICKET.in(found.keySet()))
                .fetchGroups(PARTICIPANT.TICKET, PARTICIPANT.ADDRESS);
        return found.entrySet().stream()
                .filter(entry -> rows.containsKey(entry.getKey()))
                .map(entry -> candidate(entry.getKey(), entry.getValue(), rows, participants))
                .toList();
    }

    private Threading.Candidate candidate(
            TicketNumber number,
            Threading.Evidence evidence,
            Map<TicketNumber, ? extends Record> rows,
            Map<TicketNumber, List<String>> participants) {
        Record row = rows.get(number);
        if (row == null) {
            throw new IllegalStateException("no row of ticket " + number);
        }
        return new Threading.Candidate(
                number,
                evidence,
                states.current().of(row.get(TICKET.STATE), Turn.valueOf(row.get(TICKET.TURN)), row.get(TICKET.OPEN)),
                Optional.ofNullable(row.get(TICKET.RESOLVED_AT)),
                Set.copyOf(participants.getOrDefault(number, List.of())));
    }

    /** The open tickets of a contact, the one that was opened last first; a few. */
    public List<TicketNumber> openOf(ContactId contact) {
        writes.settle(List.of(contact));
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CONTACT_ID.eq(contact))
                .and(TICKET.OPEN)
                .and(TICKET.DISCARDED.isFalse())
                .and(TICKET.JOINED_INTO.isNull())
                .orderBy(TICKET.NUMBER.desc())
                .limit(100)
                .fetch(TICKET.NUMBER);
    }

    /** Whether the customer of a ticket is nobody in particular. */
    public boolean ofStranger(TicketNumber number) {
        return sql.fetchExists(
                TICKET.join(CONTACT).on(CONTACT.ID.eq(TICKET.CONTACT_ID)),
                TICKET.NUMBER.eq(number).and(CONTACT.STRANGER));
    }

    /**
     * Looks up at once what is going to be asked about several messages one by one.
     *
     * @param earliest when the first of them was received
     */
    public void foresee(Collection<String> messageIds, Collection<String> senders, Instant earliest) {
        entries.foresee(messageIds);
        acknowledgements.foresee(senders, earliest);
    }

    /** Whether an entry with this Message-ID exists. */
    public boolean knows(String messageId) {
        return entries.knows(messageId);
    }
}
