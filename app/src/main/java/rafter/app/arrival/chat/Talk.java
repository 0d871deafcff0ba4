package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Secrets;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.rules.MacrosByItself;
import rafter.core.chat.Opener;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/**
 * What a customer does in the panel. Whatever is sent comes under a key that the panel made, and is done once however often it comes; it is
 * kept as an entry of the ticket before it is answered.
 */
@Component
public class Talk {

    private static final String WHAT = "chat";
    private static final int SUBJECT = 80;
    private static final String GUEST = "Guest";
    private static final String DID_NOT_HELP = "No, that did not help.";

    /** What somebody says first. */
    public sealed interface First {
        /** Words of their own. */
        record Words(String text) implements First {}

        /** A ready question that they press. */
        record Pressed(long opener) implements First {}
    }

    /** A chat with the token that its panel has. */
    public record Begun(String token, Chats.Chat chat) {}

    private final Chats chats;
    private final ChatLines chatLines;
    private final ChatSites sites;
    private final Openers openers;
    private final Invites invites;
    private final Helper helper;
    private final Macros macros;
    private final MacrosByItself running;
    private final Arrivals arrivals;
    private final NotesBeside tickets;
    private final Acts acts;
    private final Contacts contacts;
    private final Workspaces workspaces;
    private final Secrets secrets;
    private final LiveNews news;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Talk(
            Chats chats,
            ChatLines chatLines,
            ChatSites sites,
            Openers openers,
            Invites invites,
            Helper helper,
            Macros macros,
            MacrosByItself running,
            Arrivals arrivals,
            NotesBeside tickets,
            Acts acts,
            Contacts contacts,
            Workspaces workspaces,
            Secrets secrets,
            LiveNews news,
            TransactionTemplate transaction,
            Clock clock) {
        this.chats = chats;
        this.chatLines = chatLines;
        this.sites = sites;
        this.openers = openers;
        this.invites = invites;
        this.helper = helper;
        this.macros = macros;
        this.running = running;
        this.arrivals = arrivals;
        this.tickets = tickets;
        this.acts = acts;
        this.contacts = contacts;
        this.workspaces = workspaces;
        this.secrets = secrets;
        this.news = news;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** By what a panel has its chat. */
    public String token(long chat) {
        return secrets.signed(WHAT, chat);
    }

    /**
     * The chat of a panel.
     *
     * @throws Problem.NotFound when it has none
     */
    public Chats.Chat of(String token) {
        OptionalLong id = secrets.unsigned(WHAT, token);
        return (id.isPresent() ? chats.find(id.getAsLong()) : Optional.<Chats.Chat>empty())
                .orElseThrow(() -> new Problem.NotFound("There is no such chat."));
    }

    // ------------------------------------------------------------------ begin

    /**
     * Begins a chat with what is said first.
     *
     * @param key made by the panel; the same begins nothing twice
     * @param invite the invitation that they followed; 0: none
     * @throws Problem.Invalid when nothing is said, or too much
     */
    public Begun begin(ChatSite site, String key, First first, Chats.Place place, long invite) {
        checkKey(key);
        Optional<Chats.Chat> there = chats.begun(key);
        if (there.isPresent()) {
            return new Begun(token(there.get().id()), there.get());
        }
        try {
            Begun begun = transaction.execute(status -> begun(site, key, first, place));
            invites.taken(invite);
            return begun;
        } catch (DuplicateKeyException twice) {
            // The same came a second time while the first was being done.
            Chats.Chat chat = chats.begun(key).orElseThrow(() -> twice);
            return new Begun(token(chat.id()), chat);
        }
    }

    private Begun begun(ChatSite site, String key, First first, Chats.Place place) {
        Instant now = clock.instant();
        Optional<Opener> opener = first instanceof First.Pressed(long id) ? Optional.of(opener(id)) : Optional.empty();
        String text = opener.map(Opener::wording)
                .orElseGet(() -> first instanceof First.Words(String words) ? checked(words) : "");
        Contact guest = contacts.strangers(now);
        NewMessage entry = entry(guest, GUEST, text, List.of(), now);
        var request = new Arrivals.Request(
                site.way(), site.asAddress(), guest, subject(text), entry, false, true, Optional.empty(), "");
        TicketNumber number = arrivals.open(request, workspaces.current());
        long id = chats.begin(key, site.id(), number, place, now);
        chatLines.add(id, new ChatLines.Said(key, ChatLines.Who.CUSTOMER, GUEST, text, now, Optional.empty()));
        Chats.Chat chat = chats.find(id).orElseThrow();
        opener.ifPresentOrElse(
                pressed -> answer(chat, pressed, now), () -> helper.gather(chat, tickets.hold(number), text));
        news.talk(number);
        return new Begun(token(id), chats.find(id).orElseThrow());
    }

    private Opener opener(long id) {
        return openers.find(id).orElseThrow(Talk::questionGone);
    }

    private static Problem questionGone() {
        return new Problem.Stale("That question is gone. Write what you want to know instead.");
    }

    /** What a ticket is called by the first line of what was written. */
    static String subject(String text) {
        String line = text.lines()
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .findFirst()
                .orElse("Chat");
        if (line.codePointCount(0, line.length()) <= SUBJECT) {
            return line;
        }
        return line.substring(0, line.offsetByCodePoints(0, SUBJECT)).strip() + " …";
    }

    private static NewMessage entry(
            Contact contact, String author, String text, List<NewMessage.FileRef> files, Instant now) {
        return new NewMessage(
                NewMessage.Kind.CUSTOMER,
                now,
                author,
                Optional.of(contact.id()),
                Optional.empty(),
                NewMessage.Envelope.NONE,
                SafeHtml.fromText(text),
                text,
                Optional.empty(),
                "",
                files);
    }

    private static void checkKey(String key) {
        if (!key.matches("[A-Za-z0-9-]{16,64}")) {
            throw new Problem.Invalid("The panel sent no key with it. Load the page again; nothing was sent.");
        }
    }

    private static String checked(String text) {
        String said = text.strip();
        if (said.isEmpty()) {
            throw new Problem.Invalid("There are no words in it yet.");
        }
        if (said.codePointCount(0, said.length()) > ChatChannel.LONGEST) {
            throw new Problem.Invalid("A message has at most 4,000 letters. Nothing was sent; it is still here.");
        }
        return said;
    }

    // ------------------------------------------------------------------ say

    /**
     * Says something.
     *
     * @param key made by the panel; the same is said once
     * @throws Problem.Invalid when nothing is said, or too much
     * @throws Problem.Stale when the ticket is closed for good, so that a new chat is to be begun
     */
    @Transactional
    public void say(Chats.Chat chat, String key, String text, List<NewMessage.FileRef> files) {
        checkKey(key);
        String said = files.isEmpty() ? checked(text) : text.strip();
        hold(chat, key).ifPresent(on -> {
            customerSays(on, key, said, files);
            boolean waits =
                    on.chat().answeredAt().isEmpty() && on.ticket().owner().isEmpty();
            if (waits && !said.isEmpty()) {
                helper.gather(on.chat(), tickets.hold(on.number()), said);
            }
        });
    }

    /**
     * Presses a ready question.
     *
     * @throws Problem.Stale when it is gone, or the ticket is closed for good
     */
    @Transactional
    public void press(Chats.Chat chat, String key, long opener) {
        checkKey(key);
        hold(chat, key).ifPresent(on -> {
            Opener pressed = opener(opener);
            customerSays(on, key, pressed.wording(), List.of());
            answer(on.chat(), pressed, clock.instant());
        });
    }

    /** Says whether a ready answer helped: then the ticket is resolved, else it waits for one of us. */
    @Transactional
    public void helped(Chats.Chat chat, long press, boolean helped) {
        String key = "press-" + press;
        hold(chat, key).filter(on -> openers.helped(press, chat.id(), helped)).ifPresent(on -> {
            chatLines.answeredPress(chat.id(), press);
            if (helped) {
                acts.byItself(on.number(), new Act.MoveTo(TicketState.RESOLVED.key()));
                helper.happened(chat.id(), key, "Glad that helped. Write here if there is more.");
                news.talk(chat.ticket());
                return;
            }
            customerSays(on, key, DID_NOT_HELP, List.of());
            helper.gather(on.chat(), tickets.hold(on.number()), DID_NOT_HELP);
        });
    }

    /** A chat while its ticket is held, or the ticket that this became a part of. */
    private record On(Chats.Chat chat, TicketNumber number, Ticket ticket) {}

    /** Holds the ticket of a chat; nothing when what comes under this key was done. */
    private Optional<On> hold(Chats.Chat chat, String key) {
        Ticket own = tickets.hold(chat.ticket());
        if (chatLines.said(chat.id(), key)) {
            return Optional.empty();
        }
        TicketNumber number = own.joinedInto().orElse(chat.ticket());
        Ticket ticket = number.equals(chat.ticket()) ? own : tickets.hold(number);
        boolean binned = ticket.discarded();
        if (binned
                || !Conduct.takesAnswers(
                        ticket, clock.instant(), workspaces.current().reopenFor())) {
            throw new Problem.Stale("This chat is over. Begin a new one; nothing was sent.");
        }
        return Optional.of(new On(chats.find(chat.id()).orElseThrow(), number, ticket));
    }

    private void customerSays(On on, String key, String text, List<NewMessage.FileRef> files) {
        Instant now = clock.instant();
        Chats.Chat chat = on.chat();
        if (chat.ended()) {
            chats.goOn(chat.id());
        }
        Contact contact = contacts.get(on.ticket().contact());
        String author = chat.name().isBlank() ? named(contact) : chat.name();
        MessageId entry = arrivals.join(
                on.number(),
                contact,
                entry(contact, author, text, files, now),
                false,
                sites.of(chat.site()).orElseThrow().way());
        chatLines.add(
                chat.id(), new ChatLines.Said(key, ChatLines.Who.CUSTOMER, author, text, now, Optional.of(entry)));
        news.talk(chat.ticket());
        news.talk(on.number());
    }

    private static String named(Contact contact) {
        return contact.addresses().isEmpty() || contact.name().isBlank() ? GUEST : contact.name();
    }

    /** The ready answer, at once; it is the customer's turn then, until they say that it did not help. */
    private void answer(Chats.Chat chat, Opener opener, Instant now) {
        long press = openers.pressed(opener, chat.id(), now);
        Macro macro = macros.shared(opener.macro()).orElseThrow(Talk::questionGone);
        int before = lastLine(chat);
        running.run(chat.ticket(), macro);
        if (lastLine(chat) == before) {
            // The answer could not be filled in for this customer, so somebody of us answers.
            helper.gather(chat, tickets.hold(chat.ticket()), opener.wording());
            news.talk(chat.ticket());
            return;
        }
        chatLines.offer(chat.id(), List.of(), Optional.of(press));
        if (tickets.hold(chat.ticket()).turn() == Turn.OURS) {
            acts.byItself(
                    chat.ticket(),
                    new Act.MoveTo(TicketState.waitingFor(Turn.CUSTOMER).key()));
        }
        news.talk(chat.ticket());
    }

    private int lastLine(Chats.Chat chat) {
        return chats.find(chat.id()).orElseThrow().lastSeq();
    }

    // ------------------------------------------------------------------ signs

    /** The customer types. */
    public void typing(Chats.Chat chat) {
        chats.typing(chat.id(), clock.instant());
        news.talk(chat.ticket());
    }

    /** The customer has seen what was said up to a line. */
    public void read(Chats.Chat chat, int seq) {
        if (chats.read(chat.id(), seq)) {
            news.talk(chat.ticket());
        }
    }
}
