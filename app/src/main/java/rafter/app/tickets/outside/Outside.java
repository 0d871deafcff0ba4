package rafter.app.tickets.outside;

import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OUTSIDE_ENTRY;
import static rafter.database.Tables.OUTSIDE_THREAD;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.database.tables.records.OutsideThreadRecord;

/** Writes to third parties inside a ticket, takes in what they answer, and reminds them. */
@Component
public class Outside {

    private static final String KEPT = " Nothing was sent; what you wrote is still here.";
    private static final int LONGEST_SUBJECT = 200;
    private static final int MOST_NUDGES = 10;

    /**
     * A conversation with third parties.
     *
     * @param answered whether they wrote last
     * @param nextNudge when they are reminded next
     */
    public record Thread(
            long id,
            TicketNumber ticket,
            List<String> addresses,
            String subject,
            boolean answered,
            Instant writtenAt,
            Optional<Instant> nextNudge,
            int nudgesLeft) {
        public Thread {
            addresses = List.copyOf(addresses);
        }
    }

    /**
     * What somebody writes.
     *
     * @param thread the conversation that it belongs to; nothing: a new one
     * @param waits whether it is a partner's turn then
     * @param nudgeAfter after how much working time they are reminded; nothing: never
     */
    public record Letter(
            Optional<Long> thread,
            String to,
            String subject,
            String html,
            boolean waits,
            Optional<Duration> nudgeAfter,
            int nudges) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;
    private final Channels channels;
    private final Blanks blanks;
    private final Targets targets;
    private final Notices notices;
    private final Viewers viewers;
    private final Clock clock;

    Outside(
            DSLContext sql,
            TicketStore store,
            EntryStore entries,
            Channels channels,
            Blanks blanks,
            Targets targets,
            Notices notices,
            Viewers viewers,
            Clock clock) {
        this.sql = sql;
        this.store = store;
        this.entries = entries;
        this.channels = channels;
        this.blanks = blanks;
        this.targets = targets;
        this.notices = notices;
        this.viewers = viewers;
        this.clock = clock;
    }

    /** The conversations of a ticket, the latest first. */
    public List<Thread> of(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        return sql.selectFrom(OUTSIDE_THREAD)
                .where(OUTSIDE_THREAD.TICKET.eq(number))
                .orderBy(OUTSIDE_THREAD.WRITTEN_AT.desc(), OUTSIDE_THREAD.ID.desc())
                .fetch(Outside::thread);
    }

    /** One of them. */
    public Optional<Thread> find(TicketNumber number, long id, Viewer me) {
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
        Channel channel = channels.of(held.ticket().channel());
        Optional<Thread> there = letter.thread()
                .map(id -> find(number, id, me)
                        .orElseThrow(
                                () -> new Problem.NotFound("There is no such conversation on ticket " + number + ".")));
        List<String> to = channel.typed(letter.to(), "To");
        check(letter, to, held.ticket());
        String html = filled(letter, number, me);
        String subject = there.map(thread -> re(thread.subject()))
                .orElse(letter.subject().strip());
        Instant now = clock.instant();
        long thread = there.map(Thread::id).orElseGet(() -> begin(number, to, subject, now, me.id()));
        Sent sent = send(held, thread, to, subject, html, me.name(), Optional.of(me.id()), channel, now);
        var events = Conduct.wroteOutside(
                held.ticket(), now, new Actor.Person(me.id()), sent.message(), thread, letter.waits());
        store.append(held, events, now);
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.ADDRESSES, to.toArray(String[]::new))
                .set(OUTSIDE_THREAD.ANSWERED, false)
                .set(OUTSIDE_THREAD.WRITTEN_AT, now)
                .set(
                        OUTSIDE_THREAD.NUDGE_MINUTES,
                        letter.nudgeAfter().map(time -> (int) time.toMinutes()).orElse(null))
                .set(OUTSIDE_THREAD.NUDGES_LEFT, letter.nudgeAfter().isPresent() ? letter.nudges() : 0)
                .set(
                        OUTSIDE_THREAD.NEXT_NUDGE,
                        letter.nudgeAfter().flatMap(time -> nudgeAt(now, time)).orElse(null))
                .where(OUTSIDE_THREAD.ID.eq(thread))
                .execute();
        return sent.message();
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
        Map<String, String> values = blanks.of(number, me.person());
        String html = Blanks.fill(SafeHtml.own(letter.html()), values);
        Placeholders.Gaps gaps = Placeholders.gaps(SafeHtml.toText(html), values);
        if (!gaps.none()) {
            throw new Problem.Invalid(gaps.words() + KEPT);
        }
        return html;
    }

    private static String re(String subject) {
        return subject.matches("(?is)re:.*") ? subject : "Re: " + subject;
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

    private record Sent(MessageId message) {}

    private Sent send(
            TicketStore.Held held,
            long thread,
            List<String> to,
            String subject,
            String html,
            String author,
            Optional<PersonId> person,
            Channel channel,
            Instant now) {
        OurAddress ours = channels.ours(held.ticket().way())
                .orElseThrow(() -> new Problem.Invalid(
                        "The address of ours that this ticket came to is gone, so nothing can be sent from it."));
        String identity = channel.newIdentity(held.number(), ours);
        String text = SafeHtml.toText(html);
        List<String> earlier = identities(thread);
        MessageId message = entries.add(
                held.number(),
                held.nextSeq(),
                new NewMessage(
                        NewMessage.Kind.OUTSIDE_OUT,
                        now,
                        author,
                        Optional.empty(),
                        person,
                        new NewMessage.Envelope(ours.address(), "", to, List.of(), subject, Optional.of(identity)),
                        html,
                        text,
                        Optional.empty(),
                        "",
                        List.of()));
        belongs(message, thread);
        channel.send(new Outgoing(
                held.number(),
                Optional.of(message),
                ours,
                identity,
                author + ", " + ours.name(),
                to,
                List.of(),
                subject,
                html,
                text,
                earlier.isEmpty() ? Optional.empty() : Optional.of(earlier.getLast()),
                earlier,
                List.of(),
                person.isEmpty(),
                now));
        return new Sent(message);
    }

    private void belongs(MessageId message, long thread) {
        sql.insertInto(OUTSIDE_ENTRY)
                .set(OUTSIDE_ENTRY.MESSAGE_ID, message)
                .set(OUTSIDE_ENTRY.THREAD_ID, thread)
                .execute();
    }

    private List<String> identities(long thread) {
        return sql.select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .join(OUTSIDE_ENTRY)
                .on(OUTSIDE_ENTRY.MESSAGE_ID.eq(MESSAGE.ID))
                .where(OUTSIDE_ENTRY.THREAD_ID.eq(thread))
                .and(MESSAGE.MESSAGE_ID.isNotNull())
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.MESSAGE_ID);
    }

    // ------------------------------------------------------------------ they answer

    /**
     * The conversation that a mail belongs to: that of a message it refers to, whoever sent it; or the latest one with its sender on a ticket
     * whose mark its address carries.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Optional<Thread> belonging(Collection<String> references, Collection<TicketNumber> marked, String from) {
        Optional<Thread> referred = references.isEmpty()
                ? Optional.empty()
                : sql.select(OUTSIDE_THREAD.fields())
                        .from(OUTSIDE_THREAD)
                        .join(OUTSIDE_ENTRY)
                        .on(OUTSIDE_ENTRY.THREAD_ID.eq(OUTSIDE_THREAD.ID))
                        .join(MESSAGE)
                        .on(MESSAGE.ID.eq(OUTSIDE_ENTRY.MESSAGE_ID))
                        .where(MESSAGE.MESSAGE_ID.in(references))
                        .orderBy(OUTSIDE_THREAD.ID.desc())
                        .limit(1)
                        .fetchOptionalInto(OUTSIDE_THREAD)
                        .map(Outside::thread);
        return referred.isPresent() || marked.isEmpty()
                ? referred
                : sql.selectFrom(OUTSIDE_THREAD)
                        .where(OUTSIDE_THREAD.TICKET.in(marked))
                        .and(OUTSIDE_THREAD.ADDRESSES.contains(new String[] {from}))
                        .orderBy(OUTSIDE_THREAD.WRITTEN_AT.desc())
                        .limit(1)
                        .fetchOptional(Outside::thread);
    }

    /**
     * Takes in what a third party answered; its owner is told, and nobody is reminded any more.
     *
     * @param automatic written by a machine: it changes no turn and ends no reminding
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void answered(Thread thread, NewMessage message, boolean automatic) {
        TicketStore.Held held = store.hold(thread.ticket());
        String from = message.envelope().from();
        NewMessage shown = message.remarked(
                thread.addresses().contains(from)
                        ? ""
                        : "It comes from " + from + ", another address than it was written to.");
        MessageId entry = entries.add(held.number(), held.nextSeq(), shown);
        belongs(entry, thread.id());
        store.append(
                held,
                Conduct.outsideAnswered(held.ticket(), message.at(), entry, thread.id(), automatic),
                message.at());
        if (automatic) {
            return;
        }
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.ANSWERED, true)
                .set(OUTSIDE_THREAD.WRITTEN_AT, message.at())
                .setNull(OUTSIDE_THREAD.NEXT_NUDGE)
                .where(OUTSIDE_THREAD.ID.eq(thread.id()))
                .execute();
        held.ticket()
                .owner()
                .ifPresent(owner -> notices.tell(
                        owner,
                        held.number(),
                        Notices.Kind.OUTSIDE,
                        message.author() + " answered outside on " + held.number() + ": "
                                + held.ticket().subject()));
    }

    // ------------------------------------------------------------------ reminding

    private Optional<Instant> nudgeAt(Instant from, Duration working) {
        return targets.terms().hours().add(from, working);
    }

    /**
     * Reminds those of whom an answer is wanted and whose time has come.
     *
     * @param most so many at once
     * @return how many were looked at
     */
    @Transactional
    public int nudge(Instant now, int most) {
        List<OutsideThreadRecord> due = sql.selectFrom(OUTSIDE_THREAD)
                .where(OUTSIDE_THREAD.NEXT_NUDGE.le(now))
                .orderBy(OUTSIDE_THREAD.NEXT_NUDGE)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch();
        due.forEach(row -> nudge(row, now));
        return due.size();
    }

    private void nudge(OutsideThreadRecord row, Instant now) {
        TicketStore.Held held = store.hold(row.getTicket());
        boolean wanted = held.ticket().open() && row.getNudgesLeft() > 0 && !row.getAnswered();
        if (wanted) {
            Channel channel = channels.of(held.ticket().channel());
            String html = SafeHtml.fromText("Hello,\n\nthis is a reminder of our message below, “" + row.getSubject()
                    + "”. We still need your answer.\n\nThank you");
            Sent sent = send(
                    held,
                    row.getId(),
                    Arrays.asList(row.getAddresses()),
                    re(row.getSubject()),
                    html,
                    channels.ours(held.ticket().way()).map(OurAddress::name).orElse("Rafter"),
                    Optional.empty(),
                    channel,
                    now);
            store.append(
                    held,
                    new ArrayList<>(Conduct.wroteOutside(
                            held.ticket(), now, Actor.system(), sent.message(), row.getId(), false)),
                    now);
        }
        int left = wanted ? row.getNudgesLeft() - 1 : 0;
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.NUDGES_LEFT, left)
                .set(
                        OUTSIDE_THREAD.NEXT_NUDGE,
                        left > 0 && row.getNudgeMinutes() != null
                                ? nudgeAt(now, Duration.ofMinutes(row.getNudgeMinutes()))
                                        .orElse(null)
                                : null)
                .where(OUTSIDE_THREAD.ID.eq(row.getId()))
                .execute();
    }

    /** Reminds nobody of a conversation any more. */
    @Transactional
    public void remindNoMore(TicketNumber number, long thread, Viewer me) {
        Access.require(me, Right.WORK);
        viewers.insist(me, number);
        sql.update(OUTSIDE_THREAD)
                .setNull(OUTSIDE_THREAD.NEXT_NUDGE)
                .where(OUTSIDE_THREAD.ID.eq(thread))
                .and(OUTSIDE_THREAD.TICKET.eq(number))
                .execute();
    }

    private static Thread thread(OutsideThreadRecord r) {
        return new Thread(
                r.getId(),
                r.getTicket(),
                Arrays.asList(r.getAddresses()),
                r.getSubject(),
                r.getAnswered(),
                r.getWrittenAt(),
                Optional.ofNullable(r.getNextNudge()),
                r.getNudgesLeft());
    }
}
