package rafter.app.tickets.page;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.clocks.FiredSteps;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.database.tables.records.AttachmentRecord;
import rafter.database.tables.records.MessageRecord;

/** What was said and done on a ticket, line by line. */
@Component
class Conversation {

    /** So many entries are shown at first. */
    private static final int ENTRIES = 60;

    private static final int MOST_ENTRIES = 5000;
    private static final Duration A_RUN = Duration.ofMinutes(1);
    /** Longer, and the line says only how many changes there were. */
    private static final int LONGEST_RUN = 120;

    /** A line of the conversation: an entry or a change. */
    sealed interface Item {
        String css();
    }

    /** A message or note. */
    public record Entry(
            MessageId id,
            String css,
            String author,
            String via,
            String at,
            String exact,
            String html,
            String remark,
            List<FileView> files,
            boolean remotePictures,
            boolean raw,
            boolean splittable,
            Optional<TicketNumber> splitInto,
            Optional<DeliveryView> delivery)
            implements Item {

        /** Whether its text is shown only when somebody unfolds it. */
        public boolean folded() {
            return css.equals("automatic") || css.equals("split");
        }

        /** Whether it can be sent on to somebody else. */
        public boolean forwards() {
            return !css.equals("note") && !css.equals("bounce") && !css.equals("automatic");
        }

        /** Whether something stands below it. */
        public boolean footed() {
            return forwards() || css.equals("bounce") || delivery.isPresent() || remotePictures || raw;
        }
    }

    /**
     * Something that was done to the ticket.
     *
     * @param who who did it, as the words begin; blank when they begin otherwise
     */
    public record Change(String words, String who, Instant when, String at, String exact) implements Item {
        @Override
        public String css() {
            return "change";
        }
    }

    /** What one person did within a minute, as one line that unfolds. */
    public record Run(String words, List<Change> changes) implements Item {
        @Override
        public String css() {
            return "run";
        }

        public String at() {
            return changes.getFirst().at();
        }

        public String exact() {
            return changes.getFirst().exact();
        }
    }

    public record FileView(long id, String name, String size) {}

    /** How a mail of ours stands. */
    public record DeliveryView(long id, String css, String words, boolean canRetry) {}

    /** What a ticket's page shows of what was said and done; {@code hidden} older entries are not among it. */
    public record Said(List<Item> items, int hidden) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final Channels channels;
    private final FiredSteps firedSteps;

    Conversation(DSLContext sql, TicketStore store, Channels channels, FiredSteps firedSteps) {
        this.sql = sql;
        this.store = store;
        this.channels = channels;
        this.firedSteps = firedSteps;
    }

    /**
     * The conversation of a ticket, with what was said on those that became parts of it.
     *
     * @param all whether the older entries of a long one are wanted too
     * @param pictures the entry whose pictures from elsewhere were asked for
     * @param words how changes are said
     */
    Said of(
            TicketNumber number,
            Ticket ticket,
            List<TicketEvent> events,
            Traces.Found there,
            boolean all,
            Optional<MessageId> pictures,
            ChangeWords words) {
        Map<TicketNumber, List<TicketEvent>> joined = there.may(OwnTrace.JOINED) ? joined(number) : Map.of();
        List<MessageRecord> messages = messages(number, joined.keySet(), all);
        int entries = ticket.messages()
                + joined.values().stream()
                        .mapToInt(one -> Ticket.replay(one).messages())
                        .sum();
        int hidden = Math.max(0, entries - messages.size());
        Instant since = hidden > 0 && !messages.isEmpty() ? messages.getFirst().getAt() : Instant.MIN;
        List<Told> told = woven(events, joined);
        return new Said(
                items(
                        told,
                        there.may(OwnTrace.STEPS) ? firedSteps.of(number) : List.of(),
                        number,
                        since,
                        telling(
                                messages,
                                told,
                                there.may(OwnTrace.FILES) || !joined.isEmpty(),
                                pictures,
                                Conduct.splits(events),
                                words)),
                hidden);
    }

    private Telling telling(
            List<MessageRecord> messages,
            List<Told> told,
            boolean withFiles,
            Optional<MessageId> pictures,
            Map<MessageId, TicketNumber> splits,
            ChangeWords words) {
        List<MessageId> ids = messages.stream().map(MessageRecord::getId).toList();
        Map<MessageId, List<AttachmentRecord>> files = withFiles ? files(ids) : Map.of();
        return new Telling(
                messages.stream().collect(Collectors.toMap(MessageRecord::getId, Function.identity())),
                files,
                channels.deliveries(
                        ids,
                        told.stream()
                                .flatMap(one -> channel(one.event()).stream())
                                .collect(Collectors.toSet())),
                pictures,
                words,
                splits);
    }

    private Map<MessageId, List<AttachmentRecord>> files(List<MessageId> entries) {
        return sql.selectFrom(ATTACHMENT)
                .where(ATTACHMENT.MESSAGE_ID.in(entries))
                .orderBy(ATTACHMENT.POSITION)
                .fetchGroups(ATTACHMENT.MESSAGE_ID, file -> file);
    }

    /** The events of the tickets that became parts of this one, and of those that had become parts of them. */
    private Map<TicketNumber, List<TicketEvent>> joined(TicketNumber number) {
        var found = new TreeSet<TicketNumber>();
        List<TicketNumber> into = List.of(number);
        while (!into.isEmpty()) {
            into = sql.select(TICKET.NUMBER)
                    .from(TICKET)
                    .where(TICKET.JOINED_INTO.in(into))
                    .fetch(TICKET.NUMBER);
            into.removeIf(one -> !found.add(one));
        }
        return found.isEmpty() ? Map.of() : store.events(found);
    }

    /** Something that happened, and on which ticket when it was one that became a part of this one. */
    private record Told(TicketEvent event, Optional<TicketNumber> joined) {}

    /** What was said on tickets that became parts of this one stands where it was said. */
    private static List<Told> woven(List<TicketEvent> own, Map<TicketNumber, List<TicketEvent>> joined) {
        var all = new ArrayList<Told>();
        own.forEach(event -> all.add(new Told(event, Optional.empty())));
        joined.forEach((number, events) -> events.stream()
                .filter(event -> event.entry().isPresent() || channel(event).isPresent())
                .forEach(event -> all.add(new Told(event, Optional.of(number)))));
        all.sort(Comparator.comparing(told -> told.event().at()));
        return all;
    }

    private List<MessageRecord> messages(TicketNumber number, Set<TicketNumber> joined, boolean all) {
        return sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET
                        .eq(number)
                        .or(joined.isEmpty() ? DSL.falseCondition() : MESSAGE.TICKET.in(joined)))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .orderBy(joined.isEmpty() ? MESSAGE.SEQ.desc() : MESSAGE.AT.desc())
                .limit(all ? MOST_ENTRIES : ENTRIES)
                .fetch()
                .reversed();
    }

    private List<Item> items(
            List<Told> told, List<FiredSteps.Fired> steps, TicketNumber number, Instant since, Telling telling) {
        var items = new ArrayList<Item>();
        var fired = new ArrayDeque<>(steps);
        Map<TicketNumber, String> ways = new HashMap<>();
        for (Told one : told) {
            TicketEvent event = one.event();
            TicketNumber on = one.joined().orElse(number);
            channel(event).ifPresent(key -> ways.put(on, channels.name(key)));
            boolean elsewhere = one.joined().isPresent() && event.entry().isEmpty();
            if (elsewhere || event.at().isBefore(since)) {
                continue;
            }
            takeFired(fired, event.at(), since, items, telling);
            event.entry()
                    .ifPresentOrElse(
                            id -> Optional.ofNullable(telling.messages().get(id))
                                    .ifPresent(
                                            m -> items.add(telling.entry(m, one.joined(), ways.getOrDefault(on, "")))),
                            () -> change(event, telling).ifPresent(items::add));
        }
        takeFired(fired, Instant.MAX, since, items, telling);
        return inRuns(items);
    }

    /** The channel by which what follows was said, where an event says it. */
    private static Optional<String> channel(TicketEvent event) {
        return switch (event) {
            case TicketEvent.Opened opened -> Optional.of(opened.way().channel());
            case TicketEvent.WayChanged changed -> Optional.of(changed.way().channel());
            default -> Optional.empty();
        };
    }

    private static Optional<Change> change(TicketEvent event, Telling telling) {
        String who = telling.words().who(event.actor());
        return telling.words()
                .of(event)
                .map(words -> change(words, words.startsWith(who + " ") ? who : "", event.at(), telling));
    }

    private static Change change(String words, String who, Instant at, Telling telling) {
        return new Change(
                words,
                who,
                at,
                telling.words().when(at),
                Say.exactly(at, telling.words().zone()));
    }

    /** Entries and changes, in which changes that one person made within a minute, and nothing between them, as one line. */
    static List<Item> inRuns(List<Item> items) {
        var all = new ArrayList<Item>();
        var run = new ArrayList<Change>();
        for (Item item : items) {
            boolean goesOn = item instanceof Change change
                    && !change.who().isEmpty()
                    && !run.isEmpty()
                    && run.getFirst().who().equals(change.who())
                    && !change.when().isAfter(run.getFirst().when().plus(A_RUN));
            if (!goesOn) {
                endRun(run, all);
            }
            if (item instanceof Change change) {
                run.add(change);
            } else {
                all.add(item);
            }
        }
        endRun(run, all);
        return all;
    }

    private static void endRun(List<Change> run, List<Item> all) {
        if (run.size() < 2) {
            all.addAll(run);
        } else {
            String who = run.getFirst().who();
            String did = run.stream()
                    .map(change -> change.words().substring(who.length() + 1))
                    .collect(Collectors.joining(", "));
            all.add(new Run(
                    did.length() > LONGEST_RUN ? who + " made " + run.size() + " changes" : who + " " + did,
                    List.copyOf(run)));
        }
        run.clear();
    }

    /** The steps that fired until an instant, in their place among what else happened. */
    private static void takeFired(
            Deque<FiredSteps.Fired> fired, Instant until, Instant since, List<Item> items, Telling telling) {
        while (!fired.isEmpty() && !fired.getFirst().at().isAfter(until)) {
            FiredSteps.Fired one = fired.removeFirst();
            if (!one.at().isBefore(since)) {
                items.add(change(one.words(), "", one.at(), telling));
            }
        }
    }
}
