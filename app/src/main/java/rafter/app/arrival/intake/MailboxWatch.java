package rafter.app.arrival.intake;

import jakarta.mail.Folder;
import jakarta.mail.MessagingException;
import jakarta.mail.Store;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.IMAPFolder;
import org.eclipse.angus.mail.imap.IMAPStore;
import org.eclipse.angus.mail.imap.protocol.BODY;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.RFC822SIZE;
import org.eclipse.angus.mail.imap.protocol.UID;
import org.springframework.stereotype.Component;
import rafter.app.arrival.mail.MailConnections;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;

/** Looks into a mailbox and fetches what is new. */
@Component
public class MailboxWatch {

    private static final long LARGEST = 60_000_000;
    private static final int BATCH = 100;
    private static final byte[] NOTHING = {};
    private static final long BATCH_BYTES = 8_000_000;

    private final Mailboxes mailboxes;
    private final MailConnections connections;
    private final Inbox inbox;

    MailboxWatch(Mailboxes mailboxes, MailConnections connections, Inbox inbox) {
        this.mailboxes = mailboxes;
        this.connections = connections;
        this.inbox = inbox;
    }

    /** A message that the server has, and its bytes if the server gave them. */
    private record Answer(long uid, Optional<byte[]> raw) {}

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

        /**
         * Fetches what is new, several messages with one question, and keeps it; messages are kept before their numbers are noted.
         */
        int fetch() throws MessagingException {
            Mailbox now = mailboxes.find(mailbox).orElseThrow();
            long validity = folder.getUIDValidity();
            // When the server numbers its messages anew, all are fetched again; those known already change nothing.
            long last = now.uidValidity().filter(known -> known == validity).isPresent() ? now.lastUid() : 0;
            SortedMap<Long, Long> sizes = sizesAfter(last);
            int count = sizes.size();
            while (!sizes.isEmpty()) {
                List<Long> batch = batch(sizes);
                List<Long> kept = keep(batch, sizes, validity);
                mailboxes.noteFetched(mailbox, validity, batch.getLast());
                mark(kept, now.afterFetch());
                sizes = sizes.tailMap(batch.getLast() + 1);
            }
            return count;
        }

        /** The sizes of the messages with a number above this one, by number. */
        private SortedMap<Long, Long> sizesAfter(long last) throws MessagingException {
            var sizes = new TreeMap<Long, Long>();
            // "n:*" always gives the last message, even when its number is below n.
            for (FetchResponse one : ask("UID FETCH " + (last + 1) + ":* (UID RFC822.SIZE)")) {
                UID uid = one.getItem(UID.class);
                RFC822SIZE size = one.getItem(RFC822SIZE.class);
                if (uid != null && size != null && uid.uid > last) {
                    sizes.put(uid.uid, size.size);
                }
            }
            return sizes;
        }

        private static List<Long> batch(SortedMap<Long, Long> sizes) {
            var batch = new ArrayList<Long>();
            long bytes = 0;
            for (Map.Entry<Long, Long> one : sizes.entrySet()) {
                bytes += one.getValue();
                if (!batch.isEmpty() && (batch.size() == BATCH || bytes > BATCH_BYTES)) {
                    break;
                }
                batch.add(one.getKey());
            }
            return batch;
        }

        /**
         * Keeps these messages and answers which of them need not stay in the mailbox. One that is not answered at all has been taken
         * away meanwhile by somebody else; one whose answer comes without its text is asked for once more by itself, and is then set
         * aside rather than passed over.
         */
        private List<Long> keep(List<Long> batch, SortedMap<Long, Long> sizes, long validity)
                throws MessagingException {
            long size = sizes.getOrDefault(batch.getFirst(), 0L);
            if (batch.size() == 1 && size > LARGEST) {
                for (Answer one : bodies(batch, "BODY.PEEK[HEADER]")) {
                    inbox.receiveTooLarge(mailbox, one.raw().orElse(NOTHING), size);
                }
                return List.of();
            }
            var kept = new ArrayList<Long>();
            for (Answer one : bodies(batch, "BODY.PEEK[]")) {
                Answer answer = one.raw().isPresent()
                        ? one
                        : bodies(List.of(one.uid()), "BODY.PEEK[]").stream()
                                .findFirst()
                                .orElse(one);
                if (answer.raw().isPresent()) {
                    inbox.receive(
                            mailbox,
                            Optional.of(new Inbox.Origin(validity, one.uid())),
                            answer.raw().get());
                    kept.add(one.uid());
                } else {
                    inbox.receiveWithoutText(mailbox, validity, one.uid(), sizes.getOrDefault(one.uid(), 0L));
                }
            }
            return kept;
        }

        /** What the server answers for these numbers; an answer may lack its text. */
        private List<Answer> bodies(List<Long> numbers, String what) throws MessagingException {
            var answers = new ArrayList<Answer>();
            for (FetchResponse one : ask("UID FETCH " + numbers(numbers) + " (UID " + what + ")")) {
                UID uid = one.getItem(UID.class);
                if (uid != null && numbers.contains(uid.uid)) {
                    answers.add(new Answer(uid.uid, text(one)));
                }
            }
            return answers;
        }

        private static Optional<byte[]> text(FetchResponse one) {
            BODY body = one.getItem(BODY.class);
            return body == null || body.getByteArray() == null
                    ? Optional.empty()
                    : Optional.of(body.getByteArray().getNewBytes());
        }

        private void mark(List<Long> batch, Mailbox.AfterFetch after) throws MessagingException {
            if (batch.isEmpty()) {
                return;
            }
            boolean delete = after == Mailbox.AfterFetch.DELETE;
            ask("UID STORE " + numbers(batch) + " +FLAGS.SILENT (" + (delete ? "\\Deleted" : "\\Seen") + ")");
            if (delete) {
                folder.expunge();
            }
        }

        private static String numbers(List<Long> batch) {
            return batch.stream().map(String::valueOf).collect(Collectors.joining(","));
        }

        /** One command in IMAP's own words, for the library has no call that gives several whole messages as they are. */
        private List<FetchResponse> ask(String command) throws MessagingException {
            Response[] responses = (Response[]) folder.doCommand(protocol -> {
                Response[] all = protocol.command(command, null);
                Response end = all[all.length - 1];
                protocol.notifyResponseHandlers(all);
                protocol.handleResult(end);
                return all;
            });
            return Arrays.stream(responses)
                    .filter(FetchResponse.class::isInstance)
                    .map(FetchResponse.class::cast)
                    .toList();
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
    public int fetchOnce(Mailbox mailbox) throws MessagingException {
        try (Look look = open(mailbox)) {
            return look.fetch();
        }
    }
}
