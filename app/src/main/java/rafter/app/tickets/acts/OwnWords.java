package rafter.app.tickets.acts;

import static rafter.database.Tables.MESSAGE;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.TicketEvent;

/** Sends what Rafter writes to customers by itself, marked as written by a machine, and shows it on the ticket. */
@Component
public class OwnWords {

    /**
     * Something that Rafter writes.
     *
     * @param thread the messages before it, oldest first; the last is the one that it follows
     * @param files what goes along
     * @param kept the same as it is kept with the entry
     */
    public record Letter(
            List<String> to,
            String subject,
            String html,
            String text,
            List<String> thread,
            List<Outgoing.FilePart> files,
            List<NewMessage.FileRef> kept,
            Instant at) {

        /** A letter to one, with nothing that goes along. */
        public Letter(String to, String subject, String html, String text, List<String> thread, Instant at) {
            this(List.of(to), subject, html, text, thread, List.of(), List.of(), at);
        }
    }

    /** So many earlier messages are named by a mail that follows them. */
    private static final int LONGEST_THREAD = 10;

    private final DSLContext sql;
    private final EntryStore entries;
    private final TicketStore store;

    OwnWords(DSLContext sql, EntryStore entries, TicketStore store) {
        this.store = store;
        this.sql = sql;
        this.entries = entries;
    }

    /** The identities of the last messages between the customer and us, oldest first, for a letter that follows them. */
    public List<String> thread(TicketNumber number) {
        return sql.select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in(NewMessage.Kind.CUSTOMER.name(), NewMessage.Kind.PUBLIC.name()))
                .and(MESSAGE.MESSAGE_ID.isNotNull())
                .orderBy(MESSAGE.SEQ.desc())
                .limit(LONGEST_THREAD)
                .fetch(MESSAGE.MESSAGE_ID)
                .reversed();
    }

    /** Writes it on a ticket and sends it. It changes no turn and meets nothing. */
    @Transactional(propagation = Propagation.MANDATORY)
    public MessageId write(TicketNumber number, Channels.Sender sender, Letter letter) {
        TicketStore.Held held = store.hold(number);
        MessageId sent = send(number, held.nextSeq(), sender.channel(), sender.ours(), letter);
        if (sender.channel().abilities().letters()) {
            // Who is written to can answer.
            entries.takePart(number, letter.to());
        }
        store.append(held, List.of(new TicketEvent.WeWrote(letter.at(), Actor.system(), sent, true)), letter.at());
        return sent;
    }

    /**
     * Sends it.
     *
     * @param seq the number that the event which tells of it will have
     * @return the entry that shows it
     */
    public MessageId send(TicketNumber number, int seq, Channel channel, OurAddress ours, Letter letter) {
        String identity = channel.newIdentity(number, ours);
        List<String> to = letter.to();
        var envelope =
                new NewMessage.Envelope(ours.address(), "", to, List.of(), letter.subject(), Optional.of(identity));
        MessageId id = entries.add(
                number,
                seq,
                new NewMessage(
                        NewMessage.Kind.AUTOMATIC,
                        letter.at(),
                        ours.name(),
                        Optional.empty(),
                        Optional.empty(),
                        envelope,
                        letter.html(),
                        letter.text(),
                        Optional.empty(),
                        "",
                        letter.kept()));
        channel.send(new Outgoing(
                number,
                Optional.of(id),
                ours,
                identity,
                ours.name(),
                to,
                List.of(),
                List.of(),
                letter.subject(),
                letter.html(),
                letter.text(),
                letter.thread().isEmpty()
                        ? Optional.empty()
                        : Optional.of(letter.thread().getLast()),
                letter.thread(),
                letter.files(),
                true,
                letter.at()));
        return id;
    }
}
