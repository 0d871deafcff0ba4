package rafter.app.arrival.chat;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Trace;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Chat as a channel of tickets: the sites are our addresses, and what is sent is a line that the panel fetches. */
@Component
class ChatChannel implements Channel, Trace {

    /** So long a line may be. */
    static final int LONGEST = 4000;

    private static final String PREFIX = "chat-";
    private static final Abilities ABILITIES =
            new Abilities(false, false, OptionalInt.of(LONGEST), true, false, false, true, "the customer has seen it");

    private final ChatSites sites;
    private final Chats chats;
    private final ChatLines chatLines;
    private final LiveNews news;

    ChatChannel(ChatSites sites, Chats chats, ChatLines chatLines, LiveNews news) {
        this.sites = sites;
        this.chats = chats;
        this.chatLines = chatLines;
        this.news = news;
    }

    /** By what the customer of a chat is reached. */
    static String address(long chat) {
        return PREFIX + chat;
    }

    private static OptionalLong chat(String address) {
        return address.matches(PREFIX + "\\d{1,18}")
                ? OptionalLong.of(Long.parseLong(address.substring(PREFIX.length())))
                : OptionalLong.empty();
    }

    @Override
    public String key() {
        return ChatSite.CHANNEL;
    }

    @Override
    public String name() {
        return "chat";
    }

    @Override
    public String settings() {
        return "/house-rules/chat";
    }

    @Override
    public Abilities abilities() {
        return ABILITIES;
    }

    @Override
    public List<OurAddress> addresses() {
        return sites.all().stream().map(ChatSite::asAddress).toList();
    }

    @Override
    public Optional<OurAddress> ours(long id) {
        return sites.of(id).map(ChatSite::asAddress);
    }

    @Override
    public boolean isOurs(String address) {
        return false;
    }

    @Override
    public boolean writable(String address) {
        return chat(address).isPresent();
    }

    @Override
    public Condition there(Field<TicketNumber> ticket) {
        return Chats.any(ticket);
    }

    @Override
    public Optional<String> reaches(TicketNumber ticket) {
        return chats.of(ticket).map(chat -> address(chat.id()));
    }

    @Override
    public Optional<OurAddress> ours(TicketNumber ticket) {
        return chats.of(ticket).flatMap(chat -> ours(chat.site()));
    }

    @Override
    public String desk(TicketNumber ticket) {
        return "/chats?at=" + ticket;
    }

    @Override
    public List<String> typed(String list, String where) {
        String address = list.strip();
        if (address.isEmpty()) {
            return List.of();
        }
        if (!writable(address)) {
            throw new Problem.Invalid(
                    "“" + address + "” in " + where + " is nobody in a chat. Nothing was sent; your text is saved.");
        }
        return List.of(address);
    }

    @Override
    public String newIdentity(TicketNumber ticket, OurAddress from) {
        return "chat." + ticket + "." + UUID.randomUUID();
    }

    @Override
    public void send(Outgoing message) {
        for (String to : message.to()) {
            chats.find(chat(to).orElseThrow()).ifPresent(chat -> {
                chatLines.add(
                        chat.id(),
                        new ChatLines.Said(
                                message.identity(),
                                message.automatic() ? ChatLines.Who.HELPER : ChatLines.Who.PERSON,
                                author(message),
                                message.text(),
                                message.at(),
                                message.entry()));
                // The panel listens for its own ticket, the desk for the one that this became a part of.
                news.talk(chat.ticket());
                news.talk(message.ticket());
            });
        }
    }

    /** Without the site’s name behind it: who reads it is on that site. */
    private static String author(Outgoing message) {
        String behind = ", " + message.from().name();
        String name = message.senderName();
        return message.automatic()
                ? Helper.NAME
                : name.endsWith(behind) ? name.substring(0, name.length() - behind.length()) : name;
    }

    @Override
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        var found = new HashMap<MessageId, Delivery>();
        chatLines
                .seen(entries)
                .forEach((entry, seen) -> found.put(
                        entry,
                        new Delivery(
                                0,
                                seen ? Delivery.State.SEEN : Delivery.State.WAITING,
                                0,
                                "",
                                Instant.EPOCH,
                                Optional.empty())));
        return found;
    }

    @Override
    public void again(long delivery, Instant now, PersonId by) {
        throw new Problem.Invalid(
                "What was said in a chat waits for the customer by itself; there is nothing to try again.");
    }
}
