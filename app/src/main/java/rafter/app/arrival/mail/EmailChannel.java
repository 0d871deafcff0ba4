package rafter.app.arrival.mail;

import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.stereotype.Component;
import rafter.app.platform.Problem;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;

/** Email as a channel of tickets: the mailboxes are our addresses, the outbox is the way out. */
@Component
class EmailChannel implements Channel {

    private static final Abilities ABILITIES = new Abilities(
            false, true, OptionalInt.empty(), true, true, true, false, "the customer’s mail server has taken it");
    private static final String KEPT = " Nothing was sent; your text is saved.";

    private final Mailboxes mailboxes;
    private final Outbox outbox;

    EmailChannel(Mailboxes mailboxes, Outbox outbox) {
        this.mailboxes = mailboxes;
        this.outbox = outbox;
    }

    @Override
    public String key() {
        return Mailbox.CHANNEL;
    }

    @Override
    public String name() {
        return "email";
    }

    @Override
    public String settings() {
        return "/house-rules/email";
    }

    @Override
    public Abilities abilities() {
        return ABILITIES;
    }

    @Override
    public List<OurAddress> addresses() {
        return mailboxes.all().stream().map(Mailbox::asAddress).toList();
    }

    @Override
    public Optional<OurAddress> ours(long id) {
        return mailboxes.settings(id).map(Mailbox::asAddress);
    }

    @Override
    public boolean isOurs(String address) {
        return mailboxes.addresses().contains(ReplyMark.plain(address));
    }

    @Override
    public boolean writable(String address) {
        return MailAddress.of(address).filter(MailAddress::writable).isPresent();
    }

    @Override
    public List<String> typed(String list, String where) {
        var found = new LinkedHashSet<String>();
        for (String one : list.split("[,;\\s]+")) {
            if (!one.isEmpty()) {
                found.add(address(one, where).toString());
            }
        }
        return List.copyOf(found);
    }

    private static MailAddress address(String typed, String where) {
        MailAddress address = MailAddress.of(typed)
                .filter(a -> a.domain().contains("."))
                .orElseThrow(
                        () -> new Problem.Invalid("“" + typed + "” in " + where + " is not a mail address." + KEPT));
        if (!address.writable()) {
            throw new Problem.Invalid("No mail can be sent to " + address + " in " + where
                    + "; it has signs that few servers understand." + KEPT);
        }
        return address;
    }

    @Override
    public String newIdentity(TicketNumber ticket, OurAddress from) {
        return outbox.newMessageId(ticket, from.address());
    }

    @Override
    public void send(Outgoing message) {
        outbox.put(message);
    }

    @Override
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        return outbox.deliveries(entries);
    }

    @Override
    public void again(long delivery, Instant now, PersonId by) {
        outbox.retry(delivery, now, by);
    }
}
