package rafter.app.tickets.outside;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OUTSIDE_ENTRY;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Writes;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;

/** Sends what belongs to outside conversations, each message after the one before it. */
@Component
class Post {

    private static final Writes.Form BELONGS =
            Writes.insert(Writes.Stage.DEPENDENTS, OUTSIDE_ENTRY, OUTSIDE_ENTRY.MESSAGE_ID, OUTSIDE_ENTRY.THREAD_ID);

    private final DSLContext sql;
    private final Writes writes;
    private final EntryStore entries;
    private final Channels channels;
    private final Files stored;
    private final FileSafety safety;

    Post(DSLContext sql, Writes writes, EntryStore entries, Channels channels, Files stored, FileSafety safety) {
        this.safety = safety;
        this.writes = writes;
        this.stored = stored;
        this.sql = sql;
        this.entries = entries;
        this.channels = channels;
    }

    /**
     * Sends a message of a conversation, as an entry of its ticket.
     *
     * @param person who writes it; nothing: Rafter itself
     * @param files what goes along
     * @throws Problem.Invalid when something was found in one of the files
     */
    MessageId send(
            TicketStore.Held held,
            long thread,
            List<String> to,
            String subject,
            String html,
            String author,
            Optional<PersonId> person,
            List<NewMessage.FileRef> files,
            Instant now) {
        Channels.Sender sender = channels.letters(held.ticket().way())
                .orElseThrow(() -> new Problem.Invalid(
                        "The address of ours that this ticket came to is gone, so nothing can be sent from it."));
        OurAddress ours = sender.ours();
        String identity = sender.channel().newIdentity(held.number(), ours);
        String text = SafeHtml.toText(html);
        List<String> earlier = identities(thread);
        MessageId message = entries.add(
                held.number(),
                held.nextSeq(),
                new NewMessage(
                        NewMessage.Kind.OUTSIDE_OUT,
                        now,
                        author,
                        Optional.empty(),
                        person,
                        new NewMessage.Envelope(ours.address(), "", to, List.of(), subject, Optional.of(identity)),
                        html,
                        text,
                        Optional.empty(),
                        "",
                        files));
        belongs(message, thread);
        sender.channel()
                .send(new Outgoing(
                        held.number(),
                        Optional.of(message),
                        ours,
                        identity,
                        author + ", " + ours.name(),
                        to,
                        List.of(),
                        List.of(),
                        subject,
                        html,
                        text,
                        earlier.isEmpty() ? Optional.empty() : Optional.of(earlier.getLast()),
                        earlier,
                        files.stream().map(this::part).toList(),
                        person.isEmpty(),
                        now));
        return message;
    }

    private Outgoing.FilePart part(NewMessage.FileRef file) {
        byte[] content = stored.read(file.sha256());
        safety.insist(content, file.name());
        return new Outgoing.FilePart(file.name(), file.mediaType(), content, "");
    }

    /** Notes to which conversation an entry belongs. */
    void belongs(MessageId message, long thread) {
        writes.write(BELONGS, message, thread);
    }

    private List<String> identities(long thread) {
        return sql.select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .join(OUTSIDE_ENTRY)
                .on(OUTSIDE_ENTRY.MESSAGE_ID.eq(MESSAGE.ID))
                .where(OUTSIDE_ENTRY.THREAD_ID.eq(thread))
                .and(MESSAGE.MESSAGE_ID.isNotNull())
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.MESSAGE_ID);
    }
}
