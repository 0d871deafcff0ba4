package rafter.app.tickets;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.access.Access;
import rafter.app.access.Person;
import rafter.app.access.Persons;
import rafter.app.access.Right;
import rafter.app.mail.Mailbox;
import rafter.app.mail.Mailboxes;
import rafter.app.mail.Outbox;
import rafter.app.mail.OutboundMail;
import rafter.app.notices.Notices;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.targets.Targets;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.MessageRecord;

/** Answers customers and writes notes. */
@Component
public class Answering {

    private static final int MOST_REFERENCES = 20;

    /**
     * An answer as it was asked for.
     *
     * @param html the formatted text
     * @param cc further addresses, separated by commas
     * @param then whose move it is afterwards
     * @param seen the number of the last public entry that the sender had seen
     */
    public record Answer(String html, String cc, Turn then, int seen) {}

    /** What came of an answer. */
    public sealed interface Outcome {
        /** It is on its way. */
        record Sent(long message) implements Outcome {}

        /**
         * Somebody wrote meanwhile; nothing was sent.
         *
         * @param words who and when
         * @param seq the number of the last public entry, for sending all the same
         */
        record Crossed(String words, int seq) implements Outcome {}
    }

    private final DSLContext sql;
    private final TicketStore store;
    private final Drafts drafts;
    private final Mailboxes mailboxes;
    private final Outbox outbox;
    private final Files files;
    private final Targets targets;
    private final Persons persons;
    private final Notices notices;
    private final Clock clock;

    Answering(
            DSLContext sql,
            TicketStore store,
            Drafts drafts,
            Mailboxes mailboxes,
            Outbox outbox,
            Files files,
            Targets targets,
            Persons persons,
            Notices notices,
            Clock clock) {
        this.persons = persons;
        this.notices = notices;
        this.sql = sql;
        this.store = store;
        this.drafts = drafts;
        this.mailboxes = mailboxes;
        this.outbox = outbox;
        this.files = files;
        this.targets = targets;
        this.clock = clock;
    }

    /**
     * Sends an answer with the files of the sender's draft, which it uses up.
     *
     * @throws Problem.Invalid when it is empty or cannot be addressed
     */
    @Transactional
    public Outcome answer(long number, Answer answer, Person by) {
        Access.require(by, Right.WORK);
        String html = SafeHtml.own(answer.html());
        if (SafeHtml.isBlank(html)) {
            throw new Problem.Invalid("There are no words in the reply yet. Write it, then send.");
        }
        List<String> cc = addresses(answer.cc());
        TicketStore.Held held = store.hold(number);
        if (held.ticket().lastPublicSeq() > answer.seen()) {
            return crossed(held, answer.seen());
        }
        long message = send(held, html, cc, answer.then(), by);
        drafts.discard(number, Drafts.Kind.REPLY, by);
        return new Outcome.Sent(message);
    }

    private Outcome.Crossed crossed(TicketStore.Held held, int seen) {
        MessageRecord last = sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(held.number()))
                .and(MESSAGE.SEQ.gt(seen))
                .and(MESSAGE.KIND.in("PUBLIC", "CUSTOMER", "AUTOMATIC"))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchSingle();
        String when = rafter.app.platform.Say.when(last.getAt(), clock.instant(), targets.terms().zone());
        String did = last.getKind().equals("CUSTOMER") ? " wrote again at " : " answered at ";
        return new Outcome.Crossed(last.getAuthor() + did + when + ", while you were writing.", held.ticket().lastPublicSeq());
    }

    private long send(TicketStore.Held held, String html, List<String> cc, Turn then, Person by) {
        Instant now = clock.instant();
        Mailbox mailbox = mailbox(held.number());
        MessageRecord customers = lastOfCustomer(held.number());
        String to = customers.getReplyTo().isEmpty() ? customers.getFromAddress() : customers.getReplyTo();
        String subject = replySubject(held.ticket().subject());
        String messageId = outbox.newMessageId(held.number(), mailbox);
        List<Drafts.DraftFile> attached = drafts.find(held.number(), Drafts.Kind.REPLY, by).files();
        String text = SafeHtml.toText(html);
        var envelope = new NewMessage.Envelope(mailbox.address(), "", List.of(to), cc, subject, Optional.of(messageId));
        var entry = new NewMessage(
                NewMessage.Kind.PUBLIC, now, by.name(), Optional.empty(), Optional.of(by.id()), envelope, html, text, Optional.empty(),
                "", refs(attached));
        List<String> thread = references(held.number());
        long message = store.add(held.number(), held.nextSeq(), entry);
        store.append(held, Conduct.answered(held.ticket(), now, by.id(), message, then), now);
        store.takePart(held.number(), cc);
        outbox.put(new OutboundMail(
                held.number(), Optional.of(message), mailbox, messageId, by.name() + ", " + mailbox.name(), List.of(to), cc, subject,
                html + quotedHtml(customers), text + "\n\n" + quotedText(customers), Optional.ofNullable(customers.getMessageId()),
                thread, parts(attached), false, now));
        return message;
    }

    private Mailbox mailbox(long number) {
        Long id = sql.select(TICKET.MAILBOX_ID).from(TICKET).where(TICKET.NUMBER.eq(number)).fetchSingle(TICKET.MAILBOX_ID);
        return Optional.ofNullable(id)
                .flatMap(mailboxes::find)
                .orElseThrow(() -> new Problem.Invalid("The mailbox of this ticket is gone, so no mail can be sent from it."));
    }

    private MessageRecord lastOfCustomer(long number) {
        return sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("CUSTOMER"))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchOptional()
                .orElseThrow(() -> new Problem.Invalid("The customer has not written to this ticket, so there is no address to answer to."));
    }

    /** The Message-IDs of the thread, the first one and the latest ones (RFC 5322, 3.6.4). */
    private List<String> references(long number) {
        List<String> all = sql.select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.MESSAGE_ID.isNotNull())
                .and(MESSAGE.KIND.in("CUSTOMER", "PUBLIC", "AUTOMATIC"))
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.MESSAGE_ID);
        if (all.size() <= MOST_REFERENCES) {
            return all;
        }
        var some = new ArrayList<>(all.subList(all.size() - MOST_REFERENCES + 1, all.size()));
        some.addFirst(all.getFirst());
        return some;
    }

    private static String replySubject(String subject) {
        return subject.matches("(?is)re:.*") ? subject : "Re: " + subject;
    }

    private String said(MessageRecord message) {
        return "On " + rafter.app.platform.Say.exactly(message.getAt(), targets.terms().zone()).replaceFirst(":\\d\\d \\S+$", "")
                + ", " + message.getAuthor() + " wrote:";
    }

    private String quotedText(MessageRecord message) {
        return said(message) + "\n" + message.getText().lines().map(line -> "> " + line).reduce("", (a, b) -> a + b + "\n");
    }

    private String quotedHtml(MessageRecord message) {
        return SafeHtml.fromText(said(message)) + "<blockquote type=\"cite\">" + SafeHtml.fromText(message.getText()) + "</blockquote>";
    }

    private static List<NewMessage.FileRef> refs(List<Drafts.DraftFile> attached) {
        return attached.stream()
                .map(file -> new NewMessage.FileRef(file.sha256(), file.name(), file.mediaType(), file.size(), ""))
                .toList();
    }

    private List<OutboundMail.FilePart> parts(List<Drafts.DraftFile> attached) {
        return attached.stream()
                .map(file -> new OutboundMail.FilePart(file.name(), file.mediaType(), files.read(file.sha256())))
                .toList();
    }

    /**
     * The addresses in a list that a person typed.
     *
     * @throws Problem.Invalid when one of them is none
     */
    static List<String> addresses(String typed) {
        var found = new LinkedHashSet<String>();
        for (String one : typed.split("[,;\\s]+")) {
            if (!one.isEmpty() && !one.matches("[^@\\s]+@[^@\\s]+\\.[^@\\s]+")) {
                throw new Problem.Invalid("“" + one + "” in cc is not a mail address. Nothing was sent; your text is kept.");
            }
            if (!one.isEmpty()) {
                found.add(one.toLowerCase(Locale.ROOT));
            }
        }
        return List.copyOf(found);
    }

    /**
     * Adds a note that the customer never sees.
     *
     * @throws Problem.Invalid when it is empty
     */
    @Transactional
    public void note(long number, String written, Person by) {
        Access.require(by, Right.WORK);
        String html = SafeHtml.own(written);
        if (SafeHtml.isBlank(html)) {
            throw new Problem.Invalid("There are no words in the note yet. Write it, then add it.");
        }
        Instant now = clock.instant();
        TicketStore.Held held = store.hold(number);
        List<Drafts.DraftFile> attached = drafts.find(number, Drafts.Kind.NOTE, by).files();
        var entry = new NewMessage(
                NewMessage.Kind.NOTE, now, by.name(), Optional.empty(), Optional.of(by.id()), NewMessage.Envelope.NONE, html,
                SafeHtml.toText(html), Optional.empty(), "", refs(attached));
        long message = store.add(held.number(), held.nextSeq(), entry);
        store.append(held, List.of(new TicketEvent.NoteAdded(now, new Actor.Person(by.id()), message)), now);
        drafts.discard(number, Drafts.Kind.NOTE, by);
        notices.tell(mentioned(SafeHtml.toText(html), by).stream()
                .map(person -> new Notices.Told(
                        person.id(), number, now, Notices.Kind.MENTION, by.name() + " mentions you in a note on " + number + ": " + held.ticket().subject()))
                .toList());
    }

    /** Whom a note names with an @ and their first name, or their whole name. */
    private List<Person> mentioned(String text, Person by) {
        String lower = " " + text.toLowerCase(Locale.ROOT);
        return persons.active().stream()
                .filter(person -> person.id() != by.id())
                .filter(person -> java.util.regex.Pattern.compile("(?U)(?<![\\w@.])@" + java.util.regex.Pattern.quote(person.firstName().toLowerCase(Locale.ROOT)) + "\\b").matcher(lower).find())
                .toList();
    }
}
