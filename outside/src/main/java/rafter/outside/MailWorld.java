package rafter.outside;

import com.icegreen.greenmail.imap.ImapHostManager;
import com.icegreen.greenmail.mail.MailAddress;
import com.icegreen.greenmail.mail.MovingMessage;
import com.icegreen.greenmail.store.StoredMessage;
import com.icegreen.greenmail.user.GreenMailUser;
import com.icegreen.greenmail.user.UserException;
import com.icegreen.greenmail.user.UserManager;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.Address;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;

/**
 * A simulated mail world: one SMTP and one IMAP server on loopback, in which every address has a mailbox from its first mail
 * on. What is delivered is also laid down as a file, and is there again after a restart. Mail to an address that begins
 * with {@code gone} is returned as undeliverable.
 */
public final class MailWorld implements AutoCloseable {

    /** The password of every mailbox. */
    public static final String PASSWORD = "tide";

    static {
        // Otherwise the library takes every byte of a header for a part of UTF-8 and replaces those that are none.
        System.setProperty("mail.mime.allowutf8", "false");
    }

    private static final String LOOPBACK = "127.0.0.1";

    private final PromptServers servers;
    private final Path spool;
    private final AtomicLong delivered = new AtomicLong();

    /**
     * Starts the servers.
     *
     * @param smtpPort zero: any free one
     * @param imapPort zero: any free one
     * @param spool where delivered mail is laid down
     */
    public MailWorld(int smtpPort, int imapPort, Path spool) {
        this.spool = spool;
        this.servers = new PromptServers(
                new ServerSetup(smtpPort, LOOPBACK, ServerSetup.PROTOCOL_SMTP),
                new ServerSetup(imapPort, LOOPBACK, ServerSetup.PROTOCOL_IMAP));
        servers.start();
        users().setMessageDeliveryHandler(this::deliver);
        reload();
    }

    public int smtpPort() {
        return servers.port(ServerSetup.PROTOCOL_SMTP);
    }

    public int imapPort() {
        return servers.port(ServerSetup.PROTOCOL_IMAP);
    }

    private UserManager users() {
        return servers.getUserManager();
    }

    private GreenMailUser deliver(MovingMessage mail, MailAddress to) throws MessagingException, UserException {
        String address = plain(to.getEmail());
        if (SteadyCommands.NOBODY.equals(mail.getReturnPath())) {
            mail.getMessage().setHeader("Return-Path", "<>");
        }
        if (address.startsWith("gone")) {
            returnToSender(mail, address);
        } else {
            layDown(address, mail.getMessage());
        }
        return mailbox(address);
    }

    /** The mailbox of an address; it is made when there is none yet. */
    public synchronized GreenMailUser mailbox(String address) {
        String plain = plain(address);
        GreenMailUser known = users().getUserByEmail(plain);
        if (known != null) {
            return known;
        }
        try {
            return users().createUser(plain, plain, PASSWORD);
        } catch (UserException e) {
            throw new IllegalStateException("cannot make the mailbox " + plain, e);
        }
    }

    /** All addresses that have a mailbox, in order. */
    public List<String> addresses() {
        return users().listUser().stream().map(GreenMailUser::getEmail).sorted().toList();
    }

    /** The messages in a mailbox, the newest first. */
    public List<StoredMessage> messages(String address) {
        ImapHostManager imap = servers.getManagers().getImapHostManager();
        try {
            return imap.getInbox(mailbox(address)).getMessages().reversed();
        } catch (com.icegreen.greenmail.store.FolderException e) {
            throw new IllegalStateException("cannot read the mailbox " + address, e);
        }
    }

    /** Sends a mail through the SMTP server, as any mail program would. */
    public void send(MimeMessage message, Address[] recipients) throws MessagingException {
        var properties = new Properties();
        properties.put("mail.smtp.host", LOOPBACK);
        properties.put("mail.smtp.port", Integer.toString(smtpPort()));
        properties.put("mail.smtp.from", ((InternetAddress) message.getFrom()[0]).getAddress());
        try (Transport transport = Session.getInstance(properties).getTransport("smtp")) {
            transport.connect();
            transport.sendMessage(message, recipients);
        }
    }

    /** An address without what follows a plus; servers deliver both to one mailbox. */
    static String plain(String address) {
        return address.toLowerCase(Locale.ROOT).replaceFirst("\\+[^@]*@", "@");
    }

    private void returnToSender(MovingMessage mail, String address) throws MessagingException {
        if (mail.getReturnPath() == null || mail.getReturnPath().equals(SteadyCommands.NOBODY)) {
            return;
        }
        MimeMessage report =
                DeliveryReport.of(mail.getMessage(), mail.getReturnPath().getEmail(), address);
        String sender = plain(mail.getReturnPath().getEmail());
        layDown(sender, report);
        mailbox(sender).deliver(report);
    }

    private void layDown(String address, MimeMessage message) {
        try {
            Path folder = Files.createDirectories(spool.resolve(address));
            Path file =
                    folder.resolve("%013d-%06d.eml".formatted(System.nanoTime() / 1000, delivered.incrementAndGet()));
            try (var out = Files.newOutputStream(file)) {
                message.writeTo(out);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (MessagingException e) {
            throw new IllegalStateException(e);
        }
    }

    private void reload() {
        if (!Files.isDirectory(spool)) {
            return;
        }
        try (Stream<Path> folders = Files.list(spool)) {
            for (Path folder : folders.sorted().toList()) {
                reload(folder);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void reload(Path folder) throws IOException {
        GreenMailUser user = mailbox(String.valueOf(folder.getFileName()));
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.sorted(Comparator.comparing(MailWorld::age).thenComparing(Path::toString))
                    .toList()) {
                try (var in = Files.newInputStream(file)) {
                    user.deliver(new MimeMessage(Session.getInstance(new Properties()), in));
                } catch (MessagingException e) {
                    throw new IOException("cannot read " + file, e);
                }
            }
        }
    }

    private static java.nio.file.attribute.FileTime age(Path file) {
        try {
            return Files.getLastModifiedTime(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void close() {
        servers.stop();
    }
}
