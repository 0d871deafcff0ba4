package rafter.app.arrival.intake;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.arrival.mail.Outbox;
import rafter.app.arrival.mail.ReplyMark;
import rafter.app.arrival.sorting.Sorting;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Files;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.OtherMail;
import rafter.app.tickets.outside.OutsideAnswers;
import rafter.app.tickets.outside.OutsideThread;
import rafter.core.id.TicketNumber;
import rafter.core.text.Bounce;
import rafter.core.text.Earlier;
import rafter.core.text.MailKind;
import rafter.core.ticket.Threading;
import rafter.database.tables.records.InboundRecord;

/** Decides what becomes of one message: which ticket it belongs to, whether it opens one, or whether it is set aside. */
@Component
class Filing {

    /** A report that names no mail of ours is about one of the last days. */
    private static final Duration BOUNCE_WITHIN = Duration.ofDays(5);

    /** What holds while one message is processed, read once. */
    private record Scene(InboundRecord row, ReadMail mail, Mailbox mailbox, List<String> ours, Workspace workspace) {}

    private final Files files;
    private final Mailboxes mailboxes;
    private final Outbox outbox;
    private final Contacts contacts;
    private final OutsideAnswers outside;
    private final List<OtherMail> others;
    private final Arrivals arrivals;
    private final Workspaces workspaces;
    private final Likenesses likenesses;
    private final Sorting sorting;
    private final Clock clock;

    Filing(
            Files files,
            Mailboxes mailboxes,
            Outbox outbox,
            Contacts contacts,
            Arrivals arrivals,
            OutsideAnswers outside,
            List<OtherMail> others,
            Workspaces workspaces,
            Likenesses likenesses,
            Sorting sorting,
            Clock clock) {
        this.files = files;
        this.mailboxes = mailboxes;
        this.outbox = outbox;
        this.contacts = contacts;
        this.arrivals = arrivals;
        this.outside = outside;
        this.others = others;
        this.workspaces = workspaces;
        this.likenesses = likenesses;
        this.sorting = sorting;
        this.clock = clock;
    }

    /** Files a message: on the ticket it belongs to, on one of its own, or aside. */
    Inbox.Outcome deliver(InboundRecord row, ReadMail mail) {
        var scene = new Scene(
                row,
                mail,
                mailboxes.settings(row.getMailboxId()).orElseThrow(),
                mailboxes.addresses(),
                workspaces.current());
        boolean asPerson = row.getDetail().equals(Processor.AS_PERSON);
        if (mail.kind() == MailKind.BOUNCE && !asPerson) {
            return bounce(scene, marked(scene));
        }
        Optional<Inbox.Outcome> nobodys = nobodys(scene, asPerson);
        if (nobodys.isPresent()) {
            return nobodys.get();
        }
        String sender = mail.from().orElseThrow().address();
        MailKind kind = asPerson ? MailKind.PERSON : mail.kind();
        Optional<Inbox.Outcome> taken = others.stream()
                .flatMap(other -> toOther(scene, other, sender, kind).stream())
                .findFirst();
        if (taken.isPresent()) {
            return taken.get();
        }
        List<Threading.Candidate> candidates = arrivals.candidates(marked(scene), mail.references());
        Optional<OutsideThread> thread = outside(scene, sender, candidates);
        if (thread.isPresent()) {
            return fromOutside(scene, thread.get(), kind);
        }
        return kind.automatic() ? automatic(scene, kind, candidates) : person(scene, candidates);
    }

    /** The conversation with somebody outside that it belongs to, unless its sender takes part in that ticket's own. */
    private Optional<OutsideThread> outside(Scene scene, String sender, List<Threading.Candidate> candidates) {
        return outside.belonging(scene.mail().references(), marked(scene), sender)
                .filter(one -> candidates.stream()
                        .noneMatch(candidate -> candidate.ticket().equals(one.ticket())
                                && candidate.participants().contains(sender)));
    }

    /** What comes from nobody whom an answer would reach, or from somebody who is to get none. */
    private Optional<Inbox.Outcome> nobodys(Scene scene, boolean asPerson) {
        ReadMail mail = scene.mail();
        if (mail.from().isEmpty()) {
            return Optional.of(
                    new Inbox.Outcome.Aside("It does not say who wrote it, so nobody could be answered.", ""));
        }
        String sender = mail.from().get().address();
        if (scene.ours().contains(ReplyMark.plain(sender))) {
            boolean copy = mail.messageId().filter(arrivals::knows).isPresent();
            return Optional.of(
                    copy
                            ? new Inbox.Outcome.Ignored("A copy of a mail of our own.")
                            : new Inbox.Outcome.Aside("It claims to come from one of our own mailboxes.", ""));
        }
        return !asPerson && contacts.isUnwanted(sender)
                ? Optional.of(new Inbox.Outcome.Aside("Its sender’s mail was said to be no request.", ""))
                : Optional.empty();
    }

    /** What belongs to something beside the conversation of a ticket; nothing when it does not. */
    private Optional<Inbox.Outcome> toOther(Scene scene, OtherMail other, String sender, MailKind kind) {
        Earlier earlier = Earlier.of(new HashSet<>(scene.ours()), List::of);
        return other.belonging(scene.mail().references(), marked(scene), sender).stream()
                .mapToObj(belonging -> {
                    NewMessage mail = entry(scene, NewMessage.Kind.OUTSIDE_IN, Optional.empty(), "", earlier);
                    String once = "mail-" + scene.row().getId();
                    return (Inbox.Outcome)
                            new Inbox.Outcome.Ignored(other.take(belonging, mail, once, kind.automatic()));
                })
                .findFirst();
    }

    /** What a third party answered; of whoever takes part in the ticket it is no outside mail, whatever it refers to. */
    private Inbox.Outcome fromOutside(Scene scene, OutsideThread thread, MailKind kind) {
        Earlier earlier = Earlier.of(new HashSet<>(thread.addresses()), () -> arrivals.texts(thread.ticket()));
        NewMessage entry = entry(scene, NewMessage.Kind.OUTSIDE_IN, Optional.empty(), says(kind), earlier);
        outside.answered(thread, entry, kind.automatic());
        return new Inbox.Outcome.Entry(thread.ticket());
    }

    /** The tickets whose mark a recipient's address carries. */
    private static List<TicketNumber> marked(Scene scene) {
        return scene.mail().received().stream()
                .map(address -> ReplyMark.ticket(address, scene.workspace().secret()))
                .flatMap(Optional::stream)
                .toList();
    }

    private Inbox.Outcome bounce(Scene scene, List<TicketNumber> marked) {
        Bounce bounce = scene.mail().bounce().orElseThrow();
        var ids = new ArrayList<>(bounce.messageIds());
        ids.addAll(scene.mail().references());
        List<Threading.Candidate> candidates = arrivals.candidates(marked, ids);
        Optional<TicketNumber> ticket = Threading.decideAutomatic(candidates);
        String guess = "";
        if (ticket.isEmpty()) {
            List<String> failed = bounce.failures().stream()
                    .map(Bounce.Failure::address)
                    .filter(address -> !address.isEmpty())
                    .toList();
            ticket = outbox.ticketSentTo(failed, scene.row().getReceivedAt().minus(BOUNCE_WITHIN));
            guess = ticket.isPresent()
                    ? "The report does not say which mail it is about; this ticket’s was the only one sent there in the last days."
                    : "";
        }
        if (ticket.isEmpty()) {
            return new Inbox.Outcome.Aside(
                    "It reports that a mail was not delivered, but that mail is none of ours.", bounce.words());
        }
        NewMessage entry = entry(scene, NewMessage.Kind.BOUNCE, Optional.empty(), bounce.words(), Earlier.NOTHING);
        arrivals.bounced(ticket.orElseThrow(), entry.remarked(guess), bounce.words(), bounce.delayed());
        return new Inbox.Outcome.Entry(ticket.orElseThrow());
    }

    private Inbox.Outcome automatic(Scene scene, MailKind kind, List<Threading.Candidate> candidates) {
        Optional<TicketNumber> ticket = Threading.decideAutomatic(candidates);
        if (ticket.isEmpty() && kind == MailKind.AUTO_REPLY) {
            return new Inbox.Outcome.Aside("It is an automatic reply, but to no mail of ours.", "");
        }
        if (ticket.isPresent()) {
            Contact contact = contacts.find(scene.mail().from().orElseThrow().address())
                    .orElseGet(() -> newcomer(scene, ticket.get()));
            Threading.Candidate candidate = candidates.getFirst();
            boolean takesPart = contact.addresses().stream().anyMatch(candidate.participants()::contains);
            NewMessage entry =
                    entry(scene, NewMessage.Kind.CUSTOMER, Optional.of(contact), says(kind), earlier(scene, candidate));
            String stranger =
                    "It comes from " + scene.mail().from().orElseThrow().address()
                            + ", who takes no part in this ticket; answers do not go there.";
            arrivals.join(
                    ticket.orElseThrow(),
                    contact,
                    entry.remarked(takesPart ? "" : stranger),
                    true,
                    scene.mailbox().way());
            return new Inbox.Outcome.Entry(ticket.orElseThrow());
        }
        return open(scene, true, Optional.empty(), says(kind), "", Earlier.NOTHING);
    }

    /** What was said in a ticket before this message. */
    private Earlier earlier(Scene scene, Threading.Candidate candidate) {
        var addresses = new HashSet<>(candidate.participants());
        addresses.addAll(scene.ours());
        return Earlier.of(addresses, () -> arrivals.texts(candidate.ticket()));
    }

    private static String says(MailKind kind) {
        return switch (kind) {
            case AUTO_REPLY -> "An automatic reply; it changes no turn and gets no answer by itself.";
            case LIST -> "Sent to a list; it gets no answer by itself.";
            case AUTO_GENERATED -> "Written by a machine; it gets no answer by itself.";
            case PERSON, BOUNCE -> "";
        };
    }

    private Inbox.Outcome person(Scene scene, List<Threading.Candidate> candidates) {
        Optional<Contact> known =
                contacts.find(scene.mail().from().orElseThrow().address());
        Set<String> sender = new HashSet<>(known.map(Contact::addresses).orElse(Set.of()));
        sender.add(scene.mail().from().map(ReadMail.Address::address).orElse(""));
        return switch (Threading.decide(
                candidates,
                sender,
                scene.row().getReceivedAt(),
                scene.workspace().reopenFor())) {
            case Threading.Verdict.Joins joins -> {
                Contact contact = known.orElseGet(() -> newcomer(scene, joins.ticket()));
                Threading.Candidate candidate = candidates.stream()
                        .filter(one -> one.ticket().equals(joins.ticket()))
                        .findFirst()
                        .orElseThrow();
                NewMessage entry =
                        entry(scene, NewMessage.Kind.CUSTOMER, Optional.of(contact), "", earlier(scene, candidate));
                arrivals.join(
                        joins.ticket(), contact, entry, false, scene.mailbox().way());
                yield new Inbox.Outcome.Entry(joins.ticket());
            }
            case Threading.Verdict.Opens opens ->
                open(
                        scene,
                        false,
                        opens.linkedTo(),
                        remark(opens),
                        opens.why(),
                        opens.linkedTo().isPresent() ? earlier(scene, candidates.getFirst()) : Earlier.NOTHING);
        };
    }

    private static String remark(Threading.Verdict.Opens opens) {
        return opens.linkedTo().isPresent()
                ? "This refers to ticket " + opens.linkedTo().orElseThrow() + ", but " + opens.why()
                        + "; so it opened a ticket of its own."
                : "";
    }

    private Inbox.Outcome open(
            Scene scene,
            boolean automatic,
            Optional<TicketNumber> linkedTo,
            String remark,
            String why,
            Earlier earlier) {
        ReadMail mail = scene.mail();
        String sender = mail.from().orElseThrow().address();
        Likenesses.Request request = likenesses.request(scene.row().getId(), mail, earlier);
        IncomingHtml.Shown shown = request.shown();
        byte[] likeness = request.likeness();
        boolean asPerson = scene.row().getDetail().equals(Processor.AS_PERSON);
        if (!asPerson && likenesses.tooMany(likeness, sender, scene.row().getReceivedAt())) {
            return new Inbox.Outcome.Aside(
                    "Its sender has sent " + Likenesses.MOST_AN_HOUR
                            + " alike requests within an hour; it looks like a machine that answers our mail.",
                    "");
        }
        Sorting.Decided decided = asPerson || !sorting.asks()
                ? Sorting.LET_IN
                : sorting.decide(SortedMail.of(mail, scene.mailbox().id(), shown.own()));
        Inbox.Outcome outcome = switch (decided.then()) {
            case ASIDE -> new Inbox.Outcome.Aside(decided.why(), "");
            case SAVED -> new Inbox.Outcome.Ignored(decided.why());
            case NEWS ->
                added(scene, automatic, decided.why(), shown)
                        .orElseGet(
                                () -> opened(scene, contact(mail), automatic, linkedTo, remark, why, shown, likeness));
            case STRANGER -> opened(scene, strangerOr(sender), automatic, linkedTo, remark, why, shown, likeness);
            case TICKET -> opened(scene, contact(mail), automatic, linkedTo, remark, why, shown, likeness);
        };
        return decided.by().isEmpty() ? outcome : new Inbox.Outcome.Decided(outcome, decided.by());
    }

    private Contact strangerOr(String sender) {
        return contacts.find(sender).orElseGet(() -> contacts.strangers(clock.instant()));
    }

    /** As an entry on the ticket of its sender that was opened last, if one of theirs is open. */
    private Optional<Inbox.Outcome> added(Scene scene, boolean automatic, String why, IncomingHtml.Shown shown) {
        Optional<Contact> known =
                contacts.find(scene.mail().from().orElseThrow().address());
        Optional<TicketNumber> ticket =
                known.flatMap(contact -> arrivals.openOf(contact.id()).stream().findFirst());
        return ticket.map(number -> {
            NewMessage entry = entry(
                    scene,
                    NewMessage.Kind.CUSTOMER,
                    known,
                    "It refers to no ticket and was added to this one. " + why,
                    shown);
            arrivals.join(
                    number,
                    known.orElseThrow(),
                    entry,
                    automatic,
                    scene.mailbox().way());
            return new Inbox.Outcome.Entry(number);
        });
    }

    private Inbox.Outcome opened(
            Scene scene,
            Contact contact,
            boolean automatic,
            Optional<TicketNumber> linkedTo,
            String remark,
            String why,
            IncomingHtml.Shown shown,
            byte[] likeness) {
        ReadMail mail = scene.mail();
        NewMessage entry = entry(scene, NewMessage.Kind.CUSTOMER, Optional.of(contact), remark, shown);
        String subject = mail.subject().isBlank() ? firstWords(entry.text()) : mail.subject();
        Arrivals.Request request = new Arrivals.Request(
                scene.mailbox().way(),
                scene.mailbox().asAddress(),
                contact,
                subject,
                entry,
                automatic,
                automatic || mail.unanswered(),
                linkedTo,
                why);
        TicketNumber number = arrivals.open(request, scene.workspace());
        likenesses.note(likeness, number, scene.row().getReceivedAt());
        return new Inbox.Outcome.Entry(number);
    }

    private static String firstWords(String text) {
        String line = text.lines()
                .filter(l -> !l.isBlank())
                .findFirst()
                .orElse("(no subject)")
                .strip();
        return line.length() > 80 ? line.substring(0, 80) + "…" : line;
    }

    private Contact contact(ReadMail mail) {
        ReadMail.Address from = mail.from().orElseThrow();
        return contacts.recognise(from.address(), from.name(), clock.instant());
    }

    /** Somebody whom nobody knows writes to a ticket: of one whose customer was to become no contact, they become none either. */
    private Contact newcomer(Scene scene, TicketNumber ticket) {
        return arrivals.ofStranger(ticket) ? contacts.strangers(clock.instant()) : contact(scene.mail());
    }

    private NewMessage entry(
            Scene scene, NewMessage.Kind kind, Optional<Contact> contact, String remark, Earlier earlier) {
        return entry(scene, kind, contact, remark, IncomingHtml.of(scene.mail(), earlier));
    }

    private NewMessage entry(
            Scene scene, NewMessage.Kind kind, Optional<Contact> contact, String remark, IncomingHtml.Shown shown) {
        ReadMail mail = scene.mail();
        ReadMail.Address from = mail.from().orElse(new ReadMail.Address("", ""));
        var remarks = new ArrayList<String>();
        if (!remark.isEmpty()) {
            remarks.add(remark);
        }
        remarks.addAll(mail.remarks());
        String sender = from.address().isEmpty() ? "A mail server" : from.address();
        String author = from.name().isBlank()
                ? contact.filter(one -> !one.addresses().isEmpty())
                        .map(Contact::name)
                        .orElse(sender)
                : from.name();
        return new NewMessage(
                kind,
                scene.row().getReceivedAt(),
                author,
                contact.map(Contact::id),
                Optional.empty(),
                envelope(scene, mail, from),
                shown.html(),
                shown.own(),
                shown.folded(),
                Optional.of(scene.row().getId()),
                String.join(" ", remarks),
                storedFiles(mail));
    }

    private NewMessage.Envelope envelope(Scene scene, ReadMail mail, ReadMail.Address from) {
        return new NewMessage.Envelope(
                from.address(),
                mail.replyTo()
                        .map(ReadMail.Address::address)
                        .filter(a -> !a.equals(from.address()))
                        .orElse(""),
                mail.to().stream().map(ReadMail.Address::address).toList(),
                mail.cc().stream()
                        .map(ReadMail.Address::address)
                        .filter(a -> !scene.ours().contains(ReplyMark.plain(a)))
                        .toList(),
                mail.subject(),
                mail.messageId().filter(id -> !arrivals.knows(id)));
    }

    private List<NewMessage.FileRef> storedFiles(ReadMail mail) {
        return mail.files().stream()
                .map(part -> new NewMessage.FileRef(
                        files.keep(part.content()),
                        part.name(),
                        part.mediaType(),
                        part.content().length,
                        part.contentId()))
                .toList();
    }
}
