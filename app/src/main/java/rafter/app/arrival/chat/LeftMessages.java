package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.channel.Channels;
import rafter.core.text.MailAddress;
import rafter.core.ticket.Way;

/** Messages that are left in the panel while it is closed; they are answered by mail. */
@Component
public class LeftMessages {

    private static final String KEPT = " Nothing was sent; what you typed is still here.";
    private static final int LONGEST_NAME = 80;
    private static final int LONGEST = 20_000;

    private final Arrivals arrivals;
    private final Channels channels;
    private final Contacts contacts;
    private final Workspaces workspaces;
    private final TransactionTemplate transaction;
    private final Clock clock;

    LeftMessages(
            Arrivals arrivals,
            Channels channels,
            Contacts contacts,
            Workspaces workspaces,
            TransactionTemplate transaction,
            Clock clock) {
        this.arrivals = arrivals;
        this.channels = channels;
        this.contacts = contacts;
        this.workspaces = workspaces;
        this.transaction = transaction;
        this.clock = clock;
    }

    /**
     * Opens the ticket of a message.
     *
     * @param key made by the panel; the same opens nothing twice
     * @throws Problem.Invalid when something is missing or wrong
     */
    public void leave(ChatSite site, String key, String name, String address, String text) {
        if (!key.matches("[A-Za-z0-9-]{16,64}")) {
            throw new Problem.Invalid("The panel sent no key with it. Load the page again." + KEPT);
        }
        MailAddress from = MailAddress.of(address)
                .filter(one -> one.writable() && one.domain().contains("."))
                .orElseThrow(() -> new Problem.Invalid("Write the mail address at which we reach you." + KEPT));
        if (name.length() > LONGEST_NAME) {
            throw new Problem.Invalid("A name has at most " + LONGEST_NAME + " letters." + KEPT);
        }
        if (text.isBlank() || text.length() > LONGEST) {
            throw new Problem.Invalid("Write what we can do for you, in at most 20,000 letters." + KEPT);
        }
        String identity = key + "@panel";
        if (arrivals.knows(identity)) {
            return;
        }
        try {
            transaction.executeWithoutResult(status -> open(site, identity, name.strip(), from, text.strip()));
        } catch (DuplicateKeyException twice) {
            // The same came a second time while the first was being done.
            if (!arrivals.knows(identity)) {
                throw twice;
            }
        }
    }

    private void open(ChatSite site, String identity, String name, MailAddress from, String text) {
        Channels.Sender sender = channels.letters(site.way())
                .orElseThrow(() -> new Problem.Invalid("No message can be left here at the moment." + KEPT));
        Instant now = clock.instant();
        Contact contact = contacts.recognise(from.toString(), name, now);
        String subject = Talk.subject(text);
        var message = new NewMessage(
                NewMessage.Kind.CUSTOMER,
                now,
                contact.name(),
                Optional.of(contact.id()),
                Optional.empty(),
                new NewMessage.Envelope(
                        from.toString(),
                        "",
                        List.of(sender.ours().address()),
                        List.of(),
                        subject,
                        Optional.of(identity)),
                SafeHtml.fromText(text),
                text,
                Optional.empty(),
                "Left in the chat panel of “" + site.name() + "”, while it was closed.",
                List.of());
        var way = new Way(sender.channel().key(), OptionalLong.of(sender.ours().id()));
        arrivals.open(
                new Arrivals.Request(way, sender.ours(), contact, subject, message, false, false, Optional.empty(), ""),
                workspaces.current());
    }
}
