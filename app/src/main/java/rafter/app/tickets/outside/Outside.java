package rafter.app.tickets.outside;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OUTSIDE_THREAD;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.Outgoing;
import rafter.app.tickets.writing.Drafts;
import rafter.app.tickets.writing.Quotation;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.database.tables.records.MessageRecord;

/** Writes to third parties inside a ticket. */
@Component
public class Outside {

    private static final String KEPT = " Nothing was sent; what you wrote is still here.";
    private static final int LONGEST_SUBJECT = 200;
    private static final int MOST_NUDGES = 10;
    private static final long MOST_BYTES = 25_000_000;

    /**
     * What somebody writes.
     *
     * @param thread the conversation that it belongs to; nothing: a new one
     * @param files the numbers of files of this ticket that go along
     * @param waits whether it is a partner's turn then
     * @param nudgeAfter after how much working time they are reminded; nothing: never
     */
    public record Letter(
            Optional<Long> thread,
            String to,
            String subject,
            String html,
            List<Long> files,
            boolean waits,
            Optional<Duration> nudgeAfter,
            int nudges) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final Post post;
    private final Reminders reminders;
    private final Channels channels;
    private final Blanks blanks;
    private final Viewers viewers;
    private final Targets targets;
    private final Drafts drafts;
    private final Clock clock;

    Outside(
            DSLContext sql,
            TicketStore store,
            Post post,
            Reminders reminders,
            Channels channels,
            Blanks blanks,
            Viewers viewers,
            Targets targets,
            Drafts drafts,
            Clock clock) {
        this.drafts = drafts;
        this.targets = targets;
        this.sql = sql;
        this.store = store;
        this.post = post;
        this.reminders = reminders;
        this.channels = channels;
        this.blanks = blanks;
        this.viewers = viewers;
        this.clock = clock;
    }

    /** The conversations of a ticket, the latest first. */
    public List<OutsideThread> of(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        return sql.selectFrom(OUTSIDE_THREAD)
                .where(OUTSIDE_THREAD.TICKET.eq(number))
                .orderBy(OUTSIDE_THREAD.WRITTEN_AT.desc(), OUTSIDE_THREAD.ID.desc())
                .fetch(OutsideThread::of);
    }

    /** One of them. */
    public Optional<OutsideThread> find(TicketNumber number, long id, Viewer me) {
        return of(number, me).stream().filter(one -> one.id() == id).findFirst();
    }

    // ------------------------------------------------------------------ we write

    /**
     * Sends a letter.
     *
     * @throws Problem.Invalid when something in it is missing or wrong; nothing is sent
     */
    @Transactional
    public MessageId write(TicketNumber number, Letter letter, Viewer me) {
        Access.require(me, Right.WORK);
        TicketStore.Held held = store.hold(number, me);
        Ends.mayAnswer(number, held.ticket());
        Channel channel = channels.letters(held.ticket().way())
                .map(Channels.Sender::channel)
                .orElseGet(() -> channels.of(held.ticket().channel()));
        Optional<OutsideThread> there = letter.thread()
                .map(id -> find(number, id, me)
                        .orElseThrow(
                                () -> new Problem.NotFound("There is no such conversation on ticket " + number + ".")));
        List<String> to = channel.typed(letter.to(), "To");
        check(letter, to, held.ticket());
        String html = filled(letter, number, me);
        String subject = there.map(thread -> Outgoing.re(thread.subject()))
                .orElse(letter.subject().strip());
        Instant now = clock.instant();
        long thread = there.map(OutsideThread::id).orElseGet(() -> begin(number, to, subject, now, me.id()));
        List<NewMessage.FileRef> files = files(number, letter, me);
        MessageId sent = post.send(held, thread, to, subject, html, me.name(), Optional.of(me.id()), files, now);
        drafts.discard(number, Drafts.Kind.OUTSIDE, me);
        var events = Conduct.wroteOutside(held.ticket(), now, new Actor.Person(me.id()), sent, thread, letter.waits());
        store.append(held, events, now);
        awaits(thread, letter, to, now);
        return sent;
    }

    /** An answer is awaited from here on, and reminded of as the letter says. */
    private void awaits(long thread, Letter letter, List<String> to, Instant now) {
        Optional<Duration> after = letter.nudgeAfter();
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.ADDRESSES, to.toArray(String[]::new))
                .set(OUTSIDE_THREAD.ANSWERED, false)
                .set(OUTSIDE_THREAD.WRITTEN_AT, now)
                .set(
                        OUTSIDE_THREAD.NUDGE_MINUTES,
                        after.map(time -> (int) time.toMinutes()).orElse(null))
                .set(OUTSIDE_THREAD.NUDGES_LEFT, after.isPresent() ? letter.nudges() : 0)
                .set(
                        OUTSIDE_THREAD.NEXT_NUDGE,
                        after.flatMap(time -> reminders.at(now, time)).orElse(null))
                .where(OUTSIDE_THREAD.ID.eq(thread))
                .execute();
    }

    /** The files of the ticket that were chosen, and those that were attached to the draft. */
    private List<NewMessage.FileRef> files(TicketNumber number, Letter letter, Viewer me) {
        var files = new ArrayList<>(
                Drafts.refs(drafts.find(number, Drafts.Kind.OUTSIDE, me).files()));
        files.addAll(ofTicket(number, letter));
        if (files.stream().mapToLong(NewMessage.FileRef::size).sum() > MOST_BYTES) {
            throw new Problem.Invalid("Files of a mail have at most 25 MB in all. Choose fewer." + KEPT);
        }
        return files;
    }

    private List<NewMessage.FileRef> ofTicket(TicketNumber number, Letter letter) {
        return sql.select(ATTACHMENT.fields())
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(ATTACHMENT.ID.in(letter.files()))
                .orderBy(ATTACHMENT.ID)
                .fetch(r -> new NewMessage.FileRef(
                        r.get(ATTACHMENT.SHA256),
                        r.get(ATTACHMENT.NAME),
                        r.get(ATTACHMENT.MEDIA_TYPE),
                        r.get(ATTACHMENT.SIZE),
                        ""));
    }

    /**
     * A message of a ticket as it is sent on, with its files.
     *
     * @throws Problem.NotFound when there is none of that number on the ticket
     */
    @Transactional(readOnly = true)
    public Forwarded forwarded(TicketNumber number, MessageId message, Viewer me) {
        viewers.insist(me, number);
        MessageRecord row = sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.ID.eq(message))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("There is no such message on ticket " + number + "."));
        List<Long> files = sql.select(ATTACHMENT.ID)
                .from(ATTACHMENT)
                .where(ATTACHMENT.MESSAGE_ID.eq(message))
                .fetch(ATTACHMENT.ID);
        String subject = row.getSubject().isBlank() ? "" : "Fwd: " + row.getSubject();
        return new Forwarded(
                subject.length() > LONGEST_SUBJECT ? subject.substring(0, LONGEST_SUBJECT) : subject,
                Quotation.forwarded(row, targets.zone()),
                offered(number, files));
    }

    /** These files of a ticket, to be chosen from. */
    List<Forwarded.File> offered(TicketNumber number, List<Long> files) {
        return sql.select(ATTACHMENT.ID, ATTACHMENT.NAME, ATTACHMENT.SIZE)
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(ATTACHMENT.ID.in(files))
                .orderBy(ATTACHMENT.ID)
                .fetch(r -> new Forwarded.File(r.value1(), r.value2(), Say.size(r.value3())));
    }

    /**
     * A message as it is sent on.
     *
     * @param html its words, quoted
     */
    public record Forwarded(String subject, String html, List<File> files) {
        /** A file that can go along. */
        public record File(long id, String name, String size) {}
    }

    private void check(Letter letter, List<String> to, Ticket ticket) {
        if (to.isEmpty()) {
            throw new Problem.Invalid("Write to whom it goes." + KEPT);
        }
        boolean customers = sql.fetchExists(
                CONTACT_ADDRESS, CONTACT_ADDRESS.CONTACT_ID.eq(ticket.contact()), CONTACT_ADDRESS.ADDRESS.in(to));
        if (customers) {
            throw new Problem.Invalid(
                    "That is the customer’s own address, and an outside conversation is not for them. Write a reply."
                            + KEPT);
        }
        if (letter.thread().isEmpty()
                && (letter.subject().isBlank() || letter.subject().length() > LONGEST_SUBJECT)) {
            throw new Problem.Invalid("Give it a subject of at most 200 letters." + KEPT);
        }
        if (SafeHtml.isBlank(letter.html())) {
            throw new Problem.Invalid("There are no words in it yet." + KEPT);
        }
        if (letter.nudgeAfter()
                .filter(time -> time.compareTo(Duration.ofMinutes(5)) < 0)
                .isPresent()) {
            throw new Problem.Invalid("Remind them after five minutes of working time or more." + KEPT);
        }
        if (letter.nudges() < 0 || letter.nudges() > MOST_NUDGES) {
            throw new Problem.Invalid("Remind them at most ten times." + KEPT);
        }
    }

    private String filled(Letter letter, TicketNumber number, Viewer me) {
        var values = new HashMap<>(blanks.of(number, me.person()));
        values.keySet().retainAll(Placeholder.names(Placeholder.forOutside()));
        String html = Blanks.fill(SafeHtml.own(letter.html()), values);
        Placeholders.Gaps gaps = Placeholders.gaps(SafeHtml.toText(html), values);
        if (!gaps.none()) {
            throw new Problem.Invalid(gaps.words() + KEPT);
        }
        return html;
    }

    private long begin(TicketNumber number, List<String> to, String subject, Instant now, PersonId by) {
        return sql.insertInto(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.TICKET, number)
                .set(OUTSIDE_THREAD.ADDRESSES, to.toArray(String[]::new))
                .set(OUTSIDE_THREAD.SUBJECT, subject)
                .set(OUTSIDE_THREAD.WRITTEN_AT, now)
                .set(OUTSIDE_THREAD.PERSON_ID, by)
                .returning(OUTSIDE_THREAD.ID)
                .fetchSingle(OUTSIDE_THREAD.ID);
    }
}
