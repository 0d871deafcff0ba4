package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Limits;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.app.tickets.rating.Ratings;
import rafter.core.chat.Departure;
import rafter.core.text.MailAddress;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Way;
import rafter.core.ticket.Work;

/** How chats end: by one side or the other, or because the customer is gone; and what they get by mail. */
@Component
public class Endings {

    private static final Limits.Limit COPIES = new Limits.Limit("chat-copy", 3, Duration.ofMinutes(20));
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);

    private final Chats chats;
    private final ChatLines chatLines;
    private final ChatSettings settings;
    private final ChatSites sites;
    private final Helper helper;
    private final NotesBeside tickets;
    private final Acts acts;
    private final OwnWords words;
    private final Channels channels;
    private final Contacts contacts;
    private final Ratings ratings;
    private final Workspaces workspaces;
    private final Targets targets;
    private final Limits limits;
    private final LiveNews news;
    private final Clock clock;

    Endings(
            Chats chats,
            ChatLines chatLines,
            ChatSettings settings,
            ChatSites sites,
            Helper helper,
            NotesBeside tickets,
            Acts acts,
            OwnWords words,
            Channels channels,
            Contacts contacts,
            Ratings ratings,
            Workspaces workspaces,
            Targets targets,
            Limits limits,
            LiveNews news,
            Clock clock) {
        this.chats = chats;
        this.chatLines = chatLines;
        this.settings = settings;
        this.sites = sites;
        this.helper = helper;
        this.tickets = tickets;
        this.acts = acts;
        this.words = words;
        this.channels = channels;
        this.contacts = contacts;
        this.ratings = ratings;
        this.workspaces = workspaces;
        this.targets = targets;
        this.limits = limits;
        this.news = news;
        this.clock = clock;
    }

    /** Ends a chat; it can be taken up again as long as its ticket takes answers. */
    @Transactional
    public void end(Chats.Chat chat, Chats.EndedBy by, String who) {
        tickets.hold(chat.ticket());
        if (chats.end(chat.id(), by, clock.instant())) {
            helper.happened(chat.id(), "end-" + clock.instant().toEpochMilli(), who + " ended the chat.");
            news.talk(chat.ticket());
            news.ticketChanged(chat.ticket());
        }
    }

    /**
     * Takes what the customer says of how they were helped.
     *
     * @throws Problem.Stale when it was rated already
     */
    @Transactional
    public void rate(Chats.Chat chat, Work.Rating rating, String comment) {
        ratings.rate(chat.ticket(), rating, comment);
        news.talk(chat.ticket());
    }

    // ------------------------------------------------------------------ by mail

    /**
     * Sends the whole chat to an address that the customer gives.
     *
     * @throws Problem.Invalid when it is none, or they had it sent too often
     */
    @Transactional
    public void copy(Chats.Chat chat, String address) {
        MailAddress to = MailAddress.of(address)
                .filter(one -> one.writable() && one.domain().contains("."))
                .orElseThrow(
                        () -> new Problem.Invalid("“" + address.strip() + "” is not a mail address. Write it again."));
        String who = Long.toString(chat.id());
        String where = to.plain().toString();
        if (limits.wait(COPIES, who).isPositive() || limits.wait(COPIES, where).isPositive()) {
            throw new Problem.Invalid("It was sent several times just now. Try again later.");
        }
        limits.count(COPIES, who);
        limits.count(COPIES, where);
        Channels.Sender sender =
                sender(chat).orElseThrow(() -> new Problem.Invalid("No mail can be sent from here at the moment."));
        String text = "What was said in your chat with " + workspaces.current().name() + ":\n\n" + said(chat, 0);
        send(chat, sender, to.toString(), "Your chat", text);
    }

    private void send(Chats.Chat chat, Channels.Sender sender, String to, String subject, String text) {
        OurAddress ours = sender.ours();
        sender.channel()
                .send(new Outgoing(
                        chat.ticket(),
                        Optional.empty(),
                        ours,
                        sender.channel().newIdentity(chat.ticket(), ours),
                        ours.name(),
                        List.of(to),
                        List.of(),
                        List.of(),
                        subject,
                        SafeHtml.fromText(text),
                        text,
                        Optional.empty(),
                        List.of(),
                        List.of(),
                        true,
                        clock.instant()));
    }

    private Optional<Channels.Sender> sender(Chats.Chat chat) {
        return channels.letters(sites.of(chat.site()).map(ChatSite::way).orElseGet(() -> Way.by(ChatSite.CHANNEL)));
    }

    private String said(Chats.Chat chat, int after) {
        ZoneId zone = targets.zone();
        return chatLines.after(chat.id(), after).stream()
                .filter(line -> line.who() != ChatLines.Who.HAPPENED)
                .map(line -> line.at().atZone(zone).format(TIME) + " " + line.author() + ":\n" + line.text()
                        + line.files().stream()
                                .map(file -> "\n[" + file.name() + "]")
                                .collect(Collectors.joining()))
                .collect(Collectors.joining("\n\n"));
    }

    // ------------------------------------------------------------------ gone

    /** Those whose panel has been closed for as long as the workspace has patience. */
    List<Chats.Chat> left(int most) {
        return chats.unseenSince(clock.instant().minus(settings.rules().patience()), most);
    }

    /** Ends a chat whose customer is gone; who waits for an answer, or has not seen it, gets it by mail where that reaches them. */
    @Transactional
    void leave(Chats.Chat found) {
        Ticket ticket = tickets.hold(found.ticket());
        Chats.Chat chat = chats.find(found.id()).orElseThrow();
        if (chat.ended()) {
            return;
        }
        Instant now = clock.instant();
        Optional<String> address = contacts.get(ticket.contact()).addresses().stream()
                .filter(one -> MailAddress.of(one).filter(MailAddress::writable).isPresent())
                .min(String::compareTo);
        List<ChatLines.Line> unseen = chatLines.after(chat.id(), Math.max(chat.read(), chat.mailed())).stream()
                .filter(line -> line.who() == ChatLines.Who.PERSON)
                .toList();
        Optional<Channels.Sender> sender = sender(chat);
        boolean reachable = address.isPresent() && sender.isPresent();
        Departure departure = Departure.of(
                chat.seenAt(), now, settings.rules().patience(), ticket.turn(), !unseen.isEmpty(), reachable);
        if (departure == Departure.STAYS) {
            return;
        }
        end(chat, Chats.EndedBy.GONE, "You left, and that");
        if (departure == Departure.GOES_ON_BY_MAIL) {
            byMail(chat, sender.orElseThrow(), address.orElseThrow(), unseen, now);
        }
    }

    private void byMail(
            Chats.Chat chat, Channels.Sender sender, String address, List<ChatLines.Line> unseen, Instant now) {
        Way way = new Way(sender.channel().key(), OptionalLong.of(sender.ours().id()));
        acts.byItself(chat.ticket(), new Act.AnswerBy(way));
        String first = unseen.isEmpty()
                ? "You left our chat before somebody came. We answer you here, by mail; just reply to add to it.\n\n"
                : "You left our chat before you saw all of our answer. Here it is; just reply if there is more.\n\n";
        String text = first + said(chat, 0) + "\n\n" + workspaces.current().name();
        var letter = new OwnWords.Letter(address, "Your chat with us", SafeHtml.fromText(text), text, List.of(), now);
        words.write(chat.ticket(), sender, letter);
        chats.mailed(chat.id(), chat.lastSeq());
    }
}
