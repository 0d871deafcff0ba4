package rafter.app.intake;

import jakarta.mail.FetchProfile;
import jakarta.mail.Flags;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Store;
import jakarta.mail.UIDFolder;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Collections;
import org.eclipse.angus.mail.imap.IMAPFolder;
import org.eclipse.angus.mail.imap.IMAPMessage;
import org.eclipse.angus.mail.imap.IMAPStore;
import org.springframework.stereotype.Component;
import rafter.app.mail.MailConnections;
import rafter.app.mail.Mailbox;
import rafter.app.mail.Mailboxes;

/** Looks into a mailbox and fetches what is new. */
@Component
public class MailboxWatch {

    private static final long LARGEST = 60_000_000;

    private final Mailboxes mailboxes;
    private final MailConnections connections;
    private final Inbox inbox;

    MailboxWatch(Mailboxes mailboxes, MailConnections connections, Inbox inbox) {
        this.mailboxes = mailboxes;
        this.connections = connections;
        this.inbox = inbox;
    }

    /** An open connection to one mailbox. */
    final class Look implements AutoCloseable {
        private final long mailbox;
        private final Store store;
        private final IMAPFolder folder;

        Look(Mailbox mailbox) throws MessagingException {
            this.mailbox = mailbox.id();
            this.store = connections.openStore(mailboxes.imap(mailbox));
            this.folder = (IMAPFolder) store.getFolder(mailbox.folder());
            folder.open(Folder.READ_WRITE);
        }

        /** Whether the server tells by itself when mail arrives. */
        boolean canIdle() throws MessagingException {
            return ((IMAPStore) store).hasCapability("IDLE");
        }

        /** Waits until the server tells of a change, or somebody pokes. */
        void idle() throws MessagingException {
            folder.idle(true);
        }

        /** Ends a wait, and finds out whether the connection still lives. */
        void poke() throws MessagingException {
            folder.getMessageCount();
        }

        /** Fetches what is new and keeps it; each message is kept before its number is noted. */
        int fetch() throws MessagingException, IOException {
            Mailbox now = mailboxes.find(mailbox).orElseThrow();
            long validity = folder.getUIDValidity();
            // When the server numbers its messages anew, all are fetched again; those known already change nothing.
            long last = now.uidValidity().filter(known -> known == validity).isPresent() ? now.lastUid() : 0;
            Message[] fresh = folder.getMessagesByUID(last + 1, UIDFolder.LASTUID);
            prefetch(fresh);
            int count = 0;
            for (Message message : fresh) {
                long uid = message == null ? 0 : folder.getUID(message);
                if (uid > last) {
                    keep((IMAPMessage) message, now);
                    last = uid;
                    mailboxes.noteFetched(mailbox, validity, uid);
                    count++;
                }
            }
            if (now.afterFetch() == Mailbox.AfterFetch.DELETE && count > 0) {
                folder.expunge();
            }
            return count;
        }

        private void prefetch(Message[] fresh) throws MessagingException {
            var profile = new FetchProfile();
            profile.add(FetchProfile.Item.SIZE);
            profile.add(UIDFolder.FetchProfileItem.UID);
            folder.fetch(Arrays.stream(fresh).filter(m -> m != null).toArray(Message[]::new), profile);
        }

        private void keep(IMAPMessage message, Mailbox now) throws MessagingException, IOException {
            if (message.getSize() > LARGEST) {
                String header = String.join("\r\n", Collections.list(message.getAllHeaderLines())) + "\r\n\r\n";
                inbox.receiveTooLarge(mailbox, header.getBytes(StandardCharsets.ISO_8859_1), message.getSize());
                return;
            }
            message.setPeek(true);
            var raw = new ByteArrayOutputStream(Math.max(1024, message.getSize()));
            message.getMimeStream().transferTo(raw);
            inbox.receive(mailbox, raw.toByteArray());
            boolean delete = now.afterFetch() == Mailbox.AfterFetch.DELETE;
            message.setFlag(delete ? Flags.Flag.DELETED : Flags.Flag.SEEN, true);
        }

        @Override
        public void close() throws MessagingException {
            if (folder.isOpen()) {
                folder.close(false);
            }
            store.close();
        }
    }

    Look open(Mailbox mailbox) throws MessagingException {
        return new Look(mailbox);
    }

    /** Opens a mailbox, fetches what is new, and closes it again. */
    public int fetchOnce(Mailbox mailbox) throws MessagingException, IOException {
        try (Look look = open(mailbox)) {
            return look.fetch();
        }
    }
}
