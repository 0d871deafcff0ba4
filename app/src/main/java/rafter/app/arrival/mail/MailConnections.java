package rafter.app.arrival.mail;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.Folder;
import jakarta.mail.FolderNotFoundException;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Store;
import jakarta.mail.Transport;
import java.net.ConnectException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import javax.net.ssl.SSLException;
import org.springframework.stereotype.Component;

/** Opens connections to mail servers, and says in words why one could not be opened. */
@Component
public class MailConnections {

    private static final String CONNECT_MILLIS = "7000";
    private static final String READ_MILLIS = "60000";
    /** A server that takes mail answers soon, or not at all. */
    private static final String ANSWER_MILLIS = "20000";

    /** The outcome of one step of a test. */
    public record Step(String what, boolean fine, String words) {}

    /** An open store of an IMAP server; the caller closes it. */
    public Store openStore(MailServer server) throws MessagingException {
        Store store = Session.getInstance(properties("imap", server)).getStore(protocol("imap", server));
        store.connect(server.host(), server.port(), server.login(), server.password());
        return store;
    }

    /** The session with which mail to this server is made and sent. */
    public Session smtpSession(MailServer server) {
        return Session.getInstance(properties("smtp", server));
    }

    /** An open transport to an SMTP server; the caller closes it. */
    public Transport openTransport(Session session, MailServer server) throws MessagingException {
        Transport transport = session.getTransport(protocol("smtp", server));
        if (server.login().isEmpty()) {
            transport.connect(server.host(), server.port(), null, null);
        } else {
            transport.connect(server.host(), server.port(), server.login(), server.password());
        }
        return transport;
    }

    /** Tries everything that a mailbox needs and tells of each step, up to the first one of a server that fails. */
    public List<Step> test(MailServer imap, String folder, MailServer smtp) {
        var steps = new ArrayList<Step>();
        try (Store store = openStore(imap)) {
            steps.add(new Step("IMAP sign-in", true, imap.host() + " let us in"));
            try (Folder opened = store.getFolder(folder)) {
                opened.open(Folder.READ_WRITE);
                steps.add(new Step("Folder " + folder, true, opened.getMessageCount() + " messages in it"));
            }
        } catch (MessagingException e) {
            steps.add(new Step(steps.isEmpty() ? "IMAP sign-in" : "Folder " + folder, false, inWords(e, imap)));
        }
        try (Transport transport = openTransport(smtpSession(smtp), smtp)) {
            steps.add(new Step("SMTP sign-in", transport.isConnected(), smtp.host() + " takes mail from us"));
        } catch (MessagingException e) {
            steps.add(new Step("SMTP sign-in", false, inWords(e, smtp)));
        }
        return steps;
    }

    /** Why a connection failed, for a person. */
    public static String inWords(MessagingException e, MailServer server) {
        Throwable last = e;
        for (Throwable at = e; at != null; at = at.getCause()) {
            Optional<String> known = known(at, server);
            if (known.isPresent()) {
                return known.get();
            }
            last = at;
        }
        return server.host() + " said: " + last.getMessage();
    }

    private static Optional<String> known(Throwable cause, MailServer server) {
        return switch (cause) {
            case AuthenticationFailedException a ->
                Optional.of("The login or the password is wrong for " + server.host() + ".");
            case FolderNotFoundException f -> Optional.of("There is no such folder on " + server.host() + ".");
            case UnknownHostException u -> Optional.of("There is no server called " + server.host() + ".");
            case ConnectException c ->
                Optional.of("Nothing answers at " + server.host() + ", port " + server.port() + ".");
            case SocketTimeoutException t -> Optional.of(server.host() + " did not answer in time.");
            case SSLException s ->
                Optional.of("No private connection could be made with " + server.host()
                        + "; the port and the security do not fit, or its certificate is not trusted.");
            default -> Optional.empty();
        };
    }

    private static String protocol(String base, MailServer server) {
        return server.security() == MailServer.Security.TLS ? base + "s" : base;
    }

    private static Properties properties(String base, MailServer server) {
        String protocol = "mail." + protocol(base, server);
        var properties = new Properties();
        properties.put(protocol + ".connectiontimeout", CONNECT_MILLIS);
        String patience = base.equals("smtp") ? ANSWER_MILLIS : READ_MILLIS;
        properties.put(protocol + ".timeout", patience);
        properties.put(protocol + ".writetimeout", patience);
        properties.put(protocol + ".ssl.checkserveridentity", "true");
        properties.put(protocol + ".auth", Boolean.toString(!server.login().isEmpty()));
        // One message at a time is read whole; partial fetches would only add round trips.
        properties.put(protocol + ".partialfetch", "false");
        if (server.security() == MailServer.Security.STARTTLS) {
            properties.put(protocol + ".starttls.enable", "true");
            properties.put(protocol + ".starttls.required", "true");
        }
        return properties;
    }
}
