package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.CustomerMoves;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.channel.Channels;
import rafter.core.chat.Gathering;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;

/** The helper, who asks while somebody waits and says so of itself; what it says meets no target. */
@Component
class Helper {

    /** What it is called in the panel. */
    static final String NAME = "Rafter, automatic";

    private static final String UNCLEAR = "I did not understand that, for I only read what fits. ";
    private static final String ENOUGH = "Thank you. That is all I ask; somebody comes as soon as they can.";

    private final Chats chats;
    private final ChatLines chatLines;
    private final ChatChannel channel;
    private final ChatSettings settings;
    private final ChatSites sites;
    private final OwnWords words;
    private final Acts acts;
    private final Arrivals arrivals;
    private final Contacts contacts;
    private final CustomerMoves moves;
    private final Workplace workplace;
    private final Clock clock;

    Helper(
            Chats chats,
            ChatLines chatLines,
            ChatChannel channel,
            ChatSettings settings,
            ChatSites sites,
            OwnWords words,
            Acts acts,
            Arrivals arrivals,
            Contacts contacts,
            CustomerMoves moves,
            Workplace workplace,
            Clock clock) {
        this.chats = chats;
        this.chatLines = chatLines;
        this.channel = channel;
        this.settings = settings;
        this.sites = sites;
        this.words = words;
        this.acts = acts;
        this.arrivals = arrivals;
        this.contacts = contacts;
        this.moves = moves;
        this.workplace = workplace;
        this.clock = clock;
    }

    /** Says something by itself, as an entry of the ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    void say(Chats.Chat chat, String text) {
        sites.of(chat.site()).ifPresent(site -> {
            var letter = new OwnWords.Letter(
                    ChatChannel.address(chat.id()), "", SafeHtml.fromText(text), text, List.of(), clock.instant());
            words.write(chat.ticket(), new Channels.Sender(channel, site.asAddress()), letter);
        });
    }

    /** Reads what the customer wrote while nobody has answered yet, puts it where it belongs, and asks on. */
    @Transactional(propagation = Propagation.MANDATORY)
    void gather(Chats.Chat chat, Ticket ticket, String text) {
        Gathering gathering = settings.rules().gathering();
        Gathering.Step step = gathering.after(
                chat.progress(), text, known(gathering, ticket), (key, typed) -> workplace.normalised(key, typed, ""));
        step.value().ifPresent(value -> keep(chat, ticket, value));
        chats.progress(chat.id(), step.progress());
        if (step.next().isPresent()) {
            Gathering.Question next = step.next().get();
            say(chat, (step.unclear() ? UNCLEAR : "") + next.ask());
            chatLines.offer(chat.id(), next.choices(), Optional.empty());
        } else if (step.value().isPresent()) {
            say(chat, ENOUGH);
        }
    }

    /** What need not be asked. */
    private Set<String> known(Gathering gathering, Ticket ticket) {
        boolean reachable = !contacts.get(ticket.contact()).addresses().isEmpty();
        var known = new HashSet<String>();
        for (Gathering.Question one : gathering.questions()) {
            boolean there = switch (one.into()) {
                case Gathering.Into.Name name -> reachable;
                case Gathering.Into.Address address -> reachable;
                case Gathering.Into.Topic topic -> !ticket.topic().isEmpty();
                case Gathering.Into.Field field ->
                    !ticket.own().getOrDefault(field.key(), "").isBlank();
            };
            if (there) {
                known.add(one.key());
            }
        }
        return known;
    }

    private void keep(Chats.Chat chat, Ticket ticket, Gathering.Value value) {
        switch (value.question().into()) {
            case Gathering.Into.Name name -> chats.named(chat.id(), value.text());
            case Gathering.Into.Topic topic -> acts.byItself(chat.ticket(), new Act.SetTopic(value.text()));
            case Gathering.Into.Field field -> acts.byItself(chat.ticket(), new Act.Fill(field.key(), value.text()));
            case Gathering.Into.Address address -> reached(chat, ticket, value.text());
        }
    }

    /**
     * The ticket is that of whoever has the address. It was typed and not proven, as the sender of a mail is; nothing of the contact is ever
     * shown in the panel.
     */
    private void reached(Chats.Chat chat, Ticket ticket, String address) {
        if (!arrivals.ofStranger(chat.ticket())) {
            return;
        }
        Instant now = clock.instant();
        Contact contact = contacts.recognise(address, chat.name(), now);
        moves.move(chat.ticket(), ticket.contact(), contact.id(), now, new Actor.Contact(contact.id()));
    }

    /** Something happened in the chat that is no entry of the ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    void happened(long chat, String once, String text) {
        chatLines.add(
                chat, new ChatLines.Said(once, ChatLines.Who.HAPPENED, "", text, clock.instant(), Optional.empty()));
    }
}
