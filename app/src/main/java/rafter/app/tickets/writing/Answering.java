package rafter.app.tickets.writing;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.Correspondence;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;
import rafter.database.tables.records.MessageRecord;

/** Answers customers. */
@Component
public class Answering implements Correspondence {

    private static final int MOST_REFERENCES = 20;
    private static final int READ_OF_A_CROSSING = 1_500;

    /**
     * An answer as it was asked for.
     *
     * @param html the formatted text
     * @param to addresses, separated by commas; blank: the customer's
     * @param cc further addresses, separated by commas; nothing: the others who take part
     * @param bcc further addresses that the others do not see, separated by commas
     * @param then whose move it is afterwards
     * @param seen the number of the last public entry that the sender had seen
     * @param asItIs whether it goes out even though something in braces stands in it
     */
    public record Answer(String html, String to, Optional<String> cc, String bcc, Turn then, int seen, boolean asItIs) {

        /** An answer in which nothing stands in braces. */
        public Answer(String html, String to, Optional<String> cc, Turn then, int seen) {
            this(html, to, cc, "", then, seen, false);
        }

        /** An answer to the customer, with these copies. */
        public Answer(String html, String cc, Turn then, int seen) {
            this(html, "", Optional.of(cc), "", then, seen, false);
        }

        /** The same with another text. */
        Answer reading(String other) {
            return new Answer(other, to, cc, bcc, then, seen, asItIs);
        }
    }

    /** What came of an answer. */
    public sealed interface Outcome {
        /** It is on its way. */
        record Sent(MessageId message) implements Outcome {}

        /**
         * Somebody wrote meanwhile; nothing was sent.
         *
         * @param words who and when
         * @param seq the number of the last public entry, for sending all the same
         * @param text how what they wrote begins
         */
        record Crossed(String words, int seq, String text) implements Outcome {}

        /**
         * Something in braces has no value, or nobody knows it; nothing was sent.
         *
         * @param html the text with everything else filled in
         */
        record Gaps(String words, String html) implements Outcome {}
    }

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;
    private final Drafts drafts;
    private final Pictures pictures;
    private final Blanks blanks;
    private final Recipients recipients;
    private final Channels channels;
    private final Files files;
    private final Workplace workplace;
    private final Targets targets;
    private final Clock clock;

    Answering(
            DSLContext sql,
            TicketStore store,
            EntryStore entries,
            Drafts drafts,
            Pictures pictures,
            Blanks blanks,
            Recipients recipients,
            Channels channels,
            Files files,
            Workplace workplace,
            Targets targets,
            Clock clock) {
        this.sql = sql;
        this.store = store;
        this.entries = entries;
        this.drafts = drafts;
        this.pictures = pictures;
        this.blanks = blanks;
        this.recipients = recipients;
        this.channels = channels;
        this.files = files;
        this.workplace = workplace;
        this.targets = targets;
        this.clock = clock;
    }

    /**
     * Sends an answer with the files of the sender's draft, which it uses up.
     *
     * @throws Problem.Invalid when it is empty or cannot be addressed
     */
    @Transactional
    public Outcome answer(TicketNumber number, Answer answer, Viewer by) {
        Access.require(by, Right.WORK);
        Ready ready = ready(number, answer, by);
        if (ready.inTheWay().isPresent()) {
            return ready.inTheWay().get();
        }
        List<Drafts.DraftFile> attached = drafts.find(number, Drafts.Kind.REPLY, by).files().stream()
                .filter(file -> Pictures.keeps(file, ready.html()))
                .toList();
        MessageId message = send(ready.held(), ready.html(), ready.addressed(), attached, answer.then(), by);
        drafts.discard(number, Drafts.Kind.REPLY, by);
        return new Outcome.Sent(message);
    }

    /**
     * What would be in the way of an answer if it were sent now; nothing when it would go out.
     *
     * @throws Problem.Invalid when it is empty or cannot be addressed
     */
    @Transactional
    Optional<Outcome> inTheWay(TicketNumber number, Answer answer, Viewer by) {
        return ready(number, answer, by).inTheWay();
    }

    /** The copies of an answer as addresses with commas between: those that its writer gave, or of the others who take part. */
    String copies(TicketNumber number, Answer answer, Viewer by) {
        return answer.cc()
                .orElseGet(() -> String.join(
                        ", ", addressed(store.hold(number, by), answer).cc()));
    }

    /** The text of an answer with its pictures as files of the draft. */
    String settled(TicketNumber number, Answer answer, Viewer by) {
        return pictures.settle(number, Drafts.Kind.REPLY, answer.html(), by);
    }

    /**
     * An answer that was looked over.
     *
     * @param html its text, safe and filled in
     */
    private record Ready(TicketStore.Held held, String html, Addressed addressed, Optional<Outcome> inTheWay) {}

    private Ready ready(TicketNumber number, Answer answer, Viewer by) {
        String settled = settled(number, answer, by);
        if (SafeHtml.isBlank(settled) && !Pictures.any(settled)) {
            throw new Problem.Invalid("There are no words in the reply yet. Write it, then send.");
        }
        TicketStore.Held held = store.hold(number, by);
        Ends.mayAnswer(number, held.ticket());
        Map<String, String> values = settled.contains("{") ? blanks.of(number, by.person()) : Map.of();
        String html = values.isEmpty() ? settled : Blanks.fill(settled, values);
        Placeholders.Gaps gaps = Placeholders.gaps(SafeHtml.toText(html), values);
        Addressed addressed = addressed(held, answer);
        if (!gaps.none() && !answer.asItIs()) {
            return new Ready(held, html, addressed, Optional.of(new Outcome.Gaps(gaps.words(), html)));
        }
        if (Conduct.lacks(held.ticket(), TicketState.waitingFor(answer.then()), workplace)
                        .orElse(null)
                instanceof Decision.Refused(Decision.Why why, String words)) {
            throw new Problem.Invalid(words.replace("Nothing was changed", "Nothing was sent; your text is saved"));
        }
        // In a talk words cross, and both see it.
        boolean talk = channels.abilities(held.ticket().channel()).live();
        return !talk && held.ticket().lastPublicSeq() > answer.seen()
                ? new Ready(held, html, addressed, Optional.of(crossed(held, answer.seen())))
                : new Ready(held, html, addressed, Optional.empty());
    }

    @Override
    public void answer(TicketNumber number, String html, Turn then, int seen, Viewer by) {
        // What stands in braces was filled in, or refused, by who gave the words.
        var answer = new Answer(html, "", Optional.empty(), "", then, seen, true);
        Ready ready = ready(number, answer, by);
        if (ready.inTheWay().orElse(null) instanceof Outcome.Crossed crossed) {
            throw new Problem.Stale(crossed.words() + " Nothing was sent to them.");
        }
        // What this person is writing themselves stays as it is.
        send(ready.held(), ready.html(), ready.addressed(), List.of(), then, by);
    }

    /** To whom an answer goes. */
    private record Addressed(List<String> to, List<String> cc, List<String> bcc) {}

    private Addressed addressed(TicketStore.Held held, Answer answer) {
        Channel channel = channels.of(held.ticket().channel());
        Recipients.Proposed proposed = recipients.proposed(held.number(), held.ticket());
        List<String> to = answer.to().isBlank()
                ? List.of(proposed.to()).stream().filter(a -> !a.isEmpty()).toList()
                : channel.typed(answer.to(), "To");
        if (to.isEmpty()) {
            throw new Problem.Invalid(
                    "There is no address of the customer’s that can be written to. Write one into To, or choose another way; your text is saved.");
        }
        List<String> cc = answer.cc()
                .map(typed -> channel.typed(typed, "cc"))
                .orElse(channel.abilities().copies() ? proposed.cc() : List.of());
        List<String> copies =
                cc.stream().filter(address -> !to.contains(address)).toList();
        return new Addressed(
                to,
                copies,
                channel.typed(answer.bcc(), "bcc").stream()
                        .filter(address -> !to.contains(address) && !copies.contains(address))
                        .toList());
    }

    private Outcome.Crossed crossed(TicketStore.Held held, int seen) {
        MessageRecord last = sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(held.number()))
                .and(MESSAGE.SEQ.gt(seen))
                .and(MESSAGE.KIND.in("PUBLIC", "CUSTOMER", "AUTOMATIC"))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchSingle();
        String when = Say.when(last.getAt(), clock.instant(), targets.terms().zone());
        String did = last.getKind().equals("CUSTOMER") ? " wrote again at " : " answered at ";
        return new Outcome.Crossed(
                last.getAuthor() + did + when + ", while you were writing.",
                held.ticket().lastPublicSeq(),
                beginning(last.getText()));
    }

    private static String beginning(String text) {
        return text.length() > READ_OF_A_CROSSING ? text.substring(0, READ_OF_A_CROSSING) + " …" : text;
    }

    private MessageId send(
            TicketStore.Held held,
            String html,
            Addressed addressed,
            List<Drafts.DraftFile> attached,
            Turn then,
            Viewer by) {
        Instant now = clock.instant();
        TicketNumber number = held.number();
        Way way = held.ticket().way();
        Channel channel = channels.of(way.channel());
        OurAddress ours = ours(way);
        Abilities can = channel.abilities();
        String subject = Outgoing.re(held.ticket().subject());
        String messageId = channel.newIdentity(number, ours);
        String text = SafeHtml.toText(html);
        Fitting.insist(channel, text, attached, addressed.cc());
        var envelope = new NewMessage.Envelope(
                ours.address(), "", addressed.to(), addressed.cc(), addressed.bcc(), subject, Optional.of(messageId));
        // Before the answer is an entry itself.
        Sent body = body(number, can, html, text);
        List<String> thread = references(number);
        MessageId message = entries.add(number, held.nextSeq(), entry(envelope, html, text, attached, by, now));
        store.append(held, Conduct.answered(held.ticket(), now, by.id(), message, then), now);
        if (can.letters()) {
            entries.takePart(number, addressed.cc());
            entries.takePart(number, addressed.to());
        }
        channel.send(new Outgoing(
                number,
                Optional.of(message),
                ours,
                messageId,
                by.name() + ", " + ours.name(),
                addressed.to(),
                addressed.cc(),
                addressed.bcc(),
                subject,
                body.html(),
                body.text(),
                body.answers(),
                thread,
                parts(attached),
                false,
                now));
        return message;
    }

    private OurAddress ours(Way way) {
        return channels.ours(way)
                .orElseThrow(() -> new Problem.Invalid(
                        "The address of ours that this ticket came to is gone, so nothing can be sent from it."));
    }

    private static NewMessage entry(
            NewMessage.Envelope envelope,
            String html,
            String text,
            List<Drafts.DraftFile> attached,
            Viewer by,
            Instant now) {
        return new NewMessage(
                NewMessage.Kind.PUBLIC,
                now,
                by.name(),
                Optional.empty(),
                Optional.of(by.id()),
                envelope,
                Pictures.forEntry(html),
                text,
                Optional.empty(),
                "",
                Drafts.refs(attached));
    }

    /** What goes out: the words with what they answer below, where the channel has room for it. */
    private record Sent(String html, String text, Optional<String> answers) {}

    private Sent body(TicketNumber number, Abilities can, String html, String text) {
        Optional<MessageRecord> answered =
                lastOfOthers(number).filter(quoted -> can.longest().isEmpty());
        ZoneId zone = targets.zone();
        String formatted = can.formatted()
                ? Pictures.sent(html)
                        + answered.map(m -> Quotation.html(m, zone)).orElse("")
                : SafeHtml.fromText(text);
        String plain =
                text + answered.map(m -> "\n\n" + Quotation.text(m, zone)).orElse("");
        return new Sent(formatted, plain, answered.map(MessageRecord::getMessageId));
    }

    /** What is answered: the latest message of somebody who takes part; what a stranger's machine wrote is not quoted to anybody. */
    private Optional<MessageRecord> lastOfOthers(TicketNumber number) {
        return sql.select(MESSAGE.fields())
                .from(MESSAGE)
                .join(PARTICIPANT)
                .on(PARTICIPANT.TICKET.eq(MESSAGE.TICKET).and(PARTICIPANT.ADDRESS.eq(MESSAGE.FROM_ADDRESS)))
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("CUSTOMER"))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchOptionalInto(MESSAGE);
    }

    /** The Message-IDs of the thread, the first one and the latest ones (RFC 5322, 3.6.4). */
    private List<String> references(TicketNumber number) {
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

    private List<Outgoing.FilePart> parts(List<Drafts.DraftFile> attached) {
        return attached.stream()
                .map(file -> new Outgoing.FilePart(
                        file.name(), file.mediaType(), files.read(file.sha256()), file.contentId()))
                .toList();
    }

    /** Tries to deliver a message of a ticket again at once that failed or waits. */
    @Transactional
    public void again(TicketNumber number, long delivery, Viewer by) {
        Access.require(by, Right.WORK);
        channels.of(store.hold(number, by).ticket().channel()).again(delivery, clock.instant(), by.id());
    }
}
