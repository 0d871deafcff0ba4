package rafter.app.tickets;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_PHONE;
import static rafter.database.Tables.MAILBOX;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.access.Person;
import rafter.app.access.Persons;
import rafter.app.access.Team;
import rafter.app.fields.OwnFields;
import rafter.app.fields.AddedField;
import rafter.app.mail.Outbox;
import rafter.app.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.targets.Targets;
import rafter.app.targets.Terms;
import rafter.core.criteria.OwnField;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.AttachmentRecord;
import rafter.database.tables.records.MessageRecord;

/** Puts together what the page of a ticket shows. */
@Component
class TicketPage {

    /** So many entries of a conversation are shown at first. */
    private static final int ENTRIES = 60;
    private static final int OTHERS_SHOWN = 6;
    private static final int LINKED_SHOWN = 30;
    private static final Duration A_RUN = Duration.ofMinutes(1);
    /** Longer, and the line says only how many changes there were. */
    private static final int LONGEST_RUN = 120;

    /** The page. */
    record View(
            long number,
            Ticket ticket,
            SpanDrawing span,
            List<Item> items,
            int hidden,
            Facts facts,
            Customer customer,
            List<Other> others,
            Optional<Person> owner,
            boolean mine) {

        private static final int GLANCED = 3;

        /** Whether it can be answered and changed: it is neither in the bin nor a part of another ticket. */
        public boolean goesOn() {
            return !ticket.discarded() && ticket.joinedInto().isEmpty();
        }

        /** The latest entries that people wrote and the latest changes, in their order; a glance has no room for more. */
        public List<Item> latest() {
            var latest = new ArrayDeque<Item>();
            int entries = 0;
            int changes = 0;
            for (Item item : items.reversed()) {
                boolean change = !(item instanceof Entry);
                boolean written = !change && !item.css().equals("automatic");
                if (change ? changes++ < GLANCED : written && entries++ < GLANCED) {
                    latest.addFirst(item);
                }
            }
            return List.copyOf(latest);
        }
    }

    /** A line of the conversation: an entry or a change. */
    sealed interface Item {
        String css();
    }

    /** A message or note. */
    record Entry(
            long id, String css, String author, String via, String at, String exact, String html, String remark, List<FileView> files,
            boolean remotePictures, boolean raw, Optional<DeliveryView> delivery)
            implements Item {}

    /**
     * Something that was done to the ticket.
     *
     * @param who who did it, as the words begin; blank when they begin otherwise
     */
    record Change(String words, String who, Instant when, String at, String exact) implements Item {
        @Override
        public String css() {
            return "change";
        }
    }

    /** What one person did within a minute, as one line that unfolds. */
    record Run(String words, List<Change> changes) implements Item {
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

    record FileView(long id, String name, String size) {}

    /** How a mail of ours stands. */
    record DeliveryView(long id, String css, String words, boolean canRetry) {}

    record Facts(String team, String owner, String topic, String mailbox, String channel, String opened, String openedExact, List<String> tags, String agreed, String comesBack,
            List<OwnValue> own) {}

    /** What a ticket has in an own field. */
    record OwnValue(String name, String value) {}

    record Customer(
            long id, String name, String initials, String company, String plan, List<String> addresses, List<String> phones, List<OwnValue> own, int year, int open) {}

    /** Another ticket of the same customer, or a linked one. */
    record Other(long number, String subject, String state, String how) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final Targets targets;
    private final Persons persons;
    private final Outbox outbox;
    private final Clock clock;
    private final ReckoningPage reckoning;
    private final OwnFields fields;

    TicketPage(
            DSLContext sql, TicketStore store, Targets targets, Persons persons, Outbox outbox, Clock clock, ReckoningPage reckoning,
            OwnFields fields) {
        this.fields = fields;
        this.reckoning = reckoning;
        this.sql = sql;
        this.store = store;
        this.targets = targets;
        this.persons = persons;
        this.outbox = outbox;
        this.clock = clock;
    }

    /**
     * Everything the page shows.
     *
     * @param all whether the older entries of a long conversation are wanted too
     * @param pictures the entry whose pictures from elsewhere were asked for
     * @throws Problem.NotFound when there is no ticket of this number
     */
    @Transactional(readOnly = true)
    View load(long number, Person me, boolean all, OptionalLong pictures) {
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound("There is no ticket " + number + ". Check the number, or look for it in the worklist.");
        }
        Instant now = clock.instant();
        Terms terms = targets.terms();
        Ticket ticket = Ticket.replay(events);
        List<TargetClock> clocks = targets.reckon(events, store.customer(number), now, terms);
        Map<Long, Person> people = persons.all().stream().collect(Collectors.toMap(Person::id, Function.identity()));
        Map<Long, List<TicketEvent>> joined = joined(number);
        List<MessageRecord> messages = messages(number, joined.keySet(), all);
        int entries = ticket.messages() + joined.values().stream().mapToInt(one -> Ticket.replay(one).messages()).sum();
        int hidden = Math.max(0, entries - messages.size());
        Optional<Person> owner = person(ticket.owner(), people);
        return new View(
                number, ticket, SpanDrawing.of(events, clocks, terms, now),
                items(number, woven(events, joined), messages, hidden > 0, people, pictures, terms, now), hidden,
                facts(number, ticket, owner, terms, now), customer(ticket, now), others(number, ticket, events), owner,
                owner.filter(person -> person.id() == me.id()).isPresent());
    }

    private static Optional<Person> person(OptionalLong id, Map<Long, Person> people) {
        return id.isPresent() ? Optional.ofNullable(people.get(id.getAsLong())) : Optional.empty();
    }

    /** The events of the tickets that became parts of this one, and of those that had become parts of them. */
    private Map<Long, List<TicketEvent>> joined(long number) {
        var found = new TreeSet<Long>();
        List<Long> into = List.of(number);
        while (!into.isEmpty()) {
            into = sql.select(TICKET.NUMBER).from(TICKET).where(TICKET.JOINED_INTO.in(into)).fetch(TICKET.NUMBER);
            into.removeIf(one -> !found.add(one));
        }
        return found.isEmpty() ? Map.of() : store.events(found);
    }

    /** Something that happened, and to which ticket when it was one that became a part of this one. */
    private record Told(TicketEvent event, OptionalLong joined) {}

    /** What was said on tickets that became parts of this one stands where it was said. */
    private static List<Told> woven(List<TicketEvent> own, Map<Long, List<TicketEvent>> joined) {
        var all = new ArrayList<Told>();
        own.forEach(event -> all.add(new Told(event, OptionalLong.empty())));
        joined.forEach((number, events) -> events.stream()
                .filter(event -> messageOf(event).isPresent())
                .forEach(event -> all.add(new Told(event, OptionalLong.of(number)))));
        all.sort(Comparator.comparing(told -> told.event().at()));
        return all;
    }

    private List<MessageRecord> messages(long number, Set<Long> joined, boolean all) {
        return sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number).or(joined.isEmpty() ? DSL.falseCondition() : MESSAGE.TICKET.in(joined)))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .orderBy(joined.isEmpty() ? MESSAGE.SEQ.desc() : MESSAGE.AT.desc())
                .limit(all ? 5000 : ENTRIES)
                .fetch()
                .reversed();
    }

    // ------------------------------------------------------------------ the conversation

    private List<Item> items(
            long number, List<Told> told, List<MessageRecord> messages, boolean cut, Map<Long, Person> people, OptionalLong pictures, Terms terms, Instant now) {
        Map<Long, MessageRecord> byId = messages.stream().collect(Collectors.toMap(MessageRecord::getId, Function.identity()));
        List<Long> ids = List.copyOf(byId.keySet());
        Map<Long, List<AttachmentRecord>> files = sql.selectFrom(ATTACHMENT)
                .where(ATTACHMENT.MESSAGE_ID.in(ids))
                .orderBy(ATTACHMENT.POSITION)
                .fetch()
                .stream()
                .collect(Collectors.groupingBy(AttachmentRecord::getMessageId));
        Map<Long, Outbox.Delivery> deliveries = outbox.deliveries(ids);
        Map<Long, String> teams = persons.teams().stream().collect(Collectors.toMap(Team::id, Team::name));
        Map<String, String> own = fields.all().stream().collect(Collectors.toMap(AddedField::key, AddedField::name));
        Instant since = cut && !messages.isEmpty() ? messages.getFirst().getAt() : Instant.MIN;
        var items = new ArrayList<Item>();
        var fired = new ArrayDeque<>(reckoning.fired(number));
        for (Told one : told) {
            TicketEvent event = one.event();
            if (event.at().isBefore(since)) {
                continue;
            }
            takeFired(fired, event.at(), since, items, terms, now);
            messageOf(event).ifPresentOrElse(
                    id -> Optional.ofNullable(byId.get(id)).ifPresent(m -> items.add(entry(
                            m, files.getOrDefault(id, List.of()), Optional.ofNullable(deliveries.get(id)),
                            pictures.isPresent() && pictures.getAsLong() == id, one.joined(), terms, now))),
                    () -> change(event, people, teams, own, terms, now).ifPresent(items::add));
        }
        takeFired(fired, Instant.MAX, since, items, terms, now);
        return inRuns(items);
    }

    /** The same with changes that one person made within a minute, and nothing between them, as one line. */
    static List<Item> inRuns(List<Item> items) {
        var all = new ArrayList<Item>();
        var run = new ArrayList<Change>();
        for (Item item : items) {
            boolean goesOn = item instanceof Change change && !change.who().isEmpty() && !run.isEmpty() && run.getFirst().who().equals(change.who())
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
            String did = run.stream().map(change -> change.words().substring(who.length() + 1)).collect(Collectors.joining(", "));
            all.add(new Run(did.length() > LONGEST_RUN ? who + " made " + run.size() + " changes" : who + " " + did, List.copyOf(run)));
        }
        run.clear();
    }

    /** The steps that fired until an instant, in their place among what else happened. */
    private static void takeFired(
            Deque<ReckoningPage.Fired> fired, Instant until, Instant since, List<Item> items, Terms terms, Instant now) {
        while (!fired.isEmpty() && !fired.getFirst().at().isAfter(until)) {
            ReckoningPage.Fired one = fired.removeFirst();
            if (!one.at().isBefore(since)) {
                items.add(new Change(one.words(), "", one.at(), Say.when(one.at(), now, terms.zone()), Say.exactly(one.at(), terms.zone())));
            }
        }
    }

    private static Optional<Long> messageOf(TicketEvent event) {
        return switch (event) {
            case TicketEvent.CustomerWrote e -> Optional.of(e.message());
            case TicketEvent.WeWrote e -> Optional.of(e.message());
            case TicketEvent.NoteAdded e -> Optional.of(e.message());
            case TicketEvent.Bounced e -> Optional.of(e.message());
            default -> Optional.empty();
        };
    }

    private Entry entry(
            MessageRecord m, List<AttachmentRecord> files, Optional<Outbox.Delivery> delivery, boolean pictures, OptionalLong joined, Terms terms, Instant now) {
        Document html = Jsoup.parseBodyFragment(m.getHtml());
        html.outputSettings().prettyPrint(false);
        var inline = new HashMap<String, Long>();
        files.stream().filter(f -> !f.getContentId().isEmpty()).forEach(f -> inline.put(f.getContentId(), f.getId()));
        html.select("img[data-cid]").forEach(img -> {
            Long file = inline.get(img.attr("data-cid"));
            if (file == null) {
                img.replaceWith(new org.jsoup.nodes.TextNode("[picture missing]"));
            } else {
                img.attr("src", "/files/" + file).removeAttr("data-cid").attr("loading", "lazy");
            }
        });
        Set<String> shownInline = html.select("img[src^=/files/]").eachAttr("src").stream().collect(Collectors.toSet());
        boolean remote = !html.select("img[data-remote]").isEmpty();
        if (pictures) {
            html.select("img[data-remote]").forEach(img -> img.attr("src", img.attr("data-remote")).attr("referrerpolicy", "no-referrer"));
        }
        List<FileView> listed = files.stream()
                .filter(f -> !shownInline.contains("/files/" + f.getId()))
                .map(f -> new FileView(f.getId(), f.getName(), Say.size(f.getSize())))
                .toList();
        return new Entry(
                m.getId(), m.getKind().toLowerCase(Locale.ROOT), m.getAuthor(), via(m) + (joined.isPresent() ? ", on " + joined.getAsLong() : ""), Say.when(m.getAt(), now, terms.zone()),
                Say.exactly(m.getAt(), terms.zone()), html.body().html(), m.getRemark(), listed, remote && !pictures,
                m.getInboundId() != null, delivery.map(d -> delivery(d, terms, now)));
    }

    private static String via(MessageRecord m) {
        return switch (m.getKind()) {
            case "NOTE" -> "note, the customer does not see this";
            case "BOUNCE" -> "delivery report";
            case "AUTOMATIC" -> "acknowledgement, sent by Rafter";
            case "PUBLIC" -> "email to " + m.getToAddresses() + (m.getCcAddresses().isEmpty() ? "" : ", cc " + m.getCcAddresses());
            default -> "email from " + m.getFromAddress() + (m.getCcAddresses().isEmpty() ? "" : ", cc " + m.getCcAddresses());
        };
    }

    private static DeliveryView delivery(Outbox.Delivery d, Terms terms, Instant now) {
        return switch (d.state()) {
            case SENT -> new DeliveryView(d.id(), "sent", "sent " + d.sentAt().map(at -> Say.when(at, now, terms.zone())).orElse(""), false);
            case FAILED -> new DeliveryView(d.id(), "failed", "not sent. " + d.reason(), true);
            case QUEUED ->
                d.attempts() == 0
                        ? new DeliveryView(d.id(), "queued", "queued", false)
                        : new DeliveryView(
                                d.id(), "delayed", "waiting, next try " + Say.when(d.nextAt(), now, terms.zone()) + ". " + d.reason(), true);
        };
    }

    private static Optional<Change> change(
            TicketEvent event, Map<Long, Person> people, Map<Long, String> teams, Map<String, String> own, Terms terms, Instant now) {
        String who = name(event.actor(), people);
        Optional<String> words =
                switch (event) {
                    case TicketEvent.StateChanged e ->
                        event.actor() instanceof Actor.System && e.state().turn() == Turn.OURS
                                ? Optional.empty()
                                : Optional.of(who + " set the state to " + e.state().name());
                    case TicketEvent.PriorityChanged e -> Optional.of(who + " set the priority to " + e.priority() + " " + e.priority().word());
                    case TicketEvent.OwnerChanged e -> Optional.of(owner(e, who, people));
                    case TicketEvent.TeamChanged e ->
                        Optional.of(who + " handed it to " + (e.team().isPresent() ? teams.getOrDefault(e.team().getAsLong(), "a team") : "no team"));
                    case TicketEvent.TopicChanged e -> Optional.of(who + (e.topic().isEmpty() ? " took the topic away" : " set the topic to " + e.topic()));
                    case TicketEvent.TagsChanged e ->
                        Optional.of(who + (e.tags().isEmpty() ? " took the tags away" : " set the tags to " + String.join(", ", e.tags().stream().sorted().toList())));
                    case TicketEvent.Linked e -> Optional.of("Linked to ticket " + e.earlier() + ": " + e.why());
                    case TicketEvent.CustomerChanged e -> Optional.of(
                            "The customer’s plan is " + (e.after().plan().isEmpty() ? "none" : e.after().plan()) + " from here on");
                    case TicketEvent.Joined e -> Optional.of(who + " joined it into ticket " + e.into());
                    case TicketEvent.Discarded e -> Optional.of(who + " put it into the bin: " + e.why());
                    case TicketEvent.Restored e -> Optional.of(who + " took it out of the bin");
                    case TicketEvent.Parted e -> Optional.of(who + " took it out of ticket " + e.from() + " again");
                    case TicketEvent.Unlinked e -> Optional.of("No longer linked to ticket " + e.other() + ": " + e.why());
                    case TicketEvent.Continued e -> Optional.of("Ticket " + e.later() + " goes on with it: " + e.why());
                    case TicketEvent.NoteTakenBack e -> Optional.of(who + " took a note back");
                    case TicketEvent.FieldSet e -> Optional.of(e.value().isEmpty()
                            ? who + " took " + own.getOrDefault(e.field(), "a field") + " away"
                            : who + " set " + own.getOrDefault(e.field(), "a field") + " to " + e.value());
                    case TicketEvent.TimeAgreed e -> Optional.of(e.due()
                            .map(due -> who + " agreed with the customer on " + Say.when(due, now, terms.zone()) + (e.why().isEmpty() ? "" : ": " + e.why()))
                            .orElse(who + " took back the time agreed with the customer"));
                    case TicketEvent.BringBackSet e -> Optional.of(e.when()
                            .map(when -> who + " has it come back " + Say.when(when, now, terms.zone()))
                            .orElse(who + " does not have it come back any more"));
                    case TicketEvent.BroughtBack e -> Optional.of("It came back, as set");
                    case TicketEvent.Opened e -> Optional.empty();
                    case TicketEvent.CustomerWrote e -> Optional.empty();
                    case TicketEvent.WeWrote e -> Optional.empty();
                    case TicketEvent.NoteAdded e -> Optional.empty();
                    case TicketEvent.Bounced e -> Optional.empty();
                };
        return words.map(w -> new Change(w, w.startsWith(who + " ") ? who : "", event.at(), Say.when(event.at(), now, terms.zone()), Say.exactly(event.at(), terms.zone())));
    }

    private static String owner(TicketEvent.OwnerChanged e, String who, Map<Long, Person> people) {
        if (e.owner().isEmpty()) {
            return who + " put it back: nobody owns it";
        }
        boolean self = e.actor() instanceof Actor.Person p && p.id() == e.owner().getAsLong();
        return self ? who + " took it" : who + " handed it to " + name(new Actor.Person(e.owner().getAsLong()), people);
    }

    private static String name(Actor actor, Map<Long, Person> people) {
        return switch (actor) {
            case Actor.Person p -> Optional.ofNullable(people.get(p.id())).map(Person::name).orElse("Somebody");
            case Actor.Contact c -> "The customer";
            case Actor.System s -> "Rafter";
        };
    }

    // ------------------------------------------------------------------ beside it

    private Facts facts(long number, Ticket ticket, Optional<Person> owner, Terms terms, Instant now) {
        var row = sql.select(TEAM.NAME, MAILBOX.ADDRESS)
                .from(TICKET)
                .leftJoin(TEAM).on(TEAM.ID.eq(TICKET.TEAM_ID))
                .leftJoin(MAILBOX).on(MAILBOX.ID.eq(TICKET.MAILBOX_ID))
                .where(TICKET.NUMBER.eq(number))
                .fetchSingle();
        return new Facts(
                Optional.ofNullable(row.get(TEAM.NAME)).orElse("none"), owner.map(Person::name).orElse("nobody"), ticket.topic(),
                Optional.ofNullable(row.get(MAILBOX.ADDRESS)).orElse(""), ticket.channel(), Say.when(ticket.openedAt(), now, terms.zone()),
                Say.exactly(ticket.openedAt(), terms.zone()), ticket.tags().stream().sorted().toList(),
                ticket.agreedDue().map(at -> Say.when(at, now, terms.zone())).orElse(""),
                ticket.bringBackAt().map(at -> Say.when(at, now, terms.zone())).orElse(""),
                fields.shown(OwnField.Bearer.TICKET).stream().filter(f -> ticket.own().containsKey(f.key())).map(f -> new OwnValue(f.name(), ticket.own().getOrDefault(f.key(), ""))).toList());
    }

    private Customer customer(Ticket ticket, Instant now) {
        Field<String[]> phones = DSL.field(DSL.select(DSL.arrayAgg(CONTACT_PHONE.WRITTEN).orderBy(CONTACT_PHONE.POSITION))
                .from(CONTACT_PHONE)
                .where(CONTACT_PHONE.CONTACT_ID.eq(CONTACT.ID)));
        var contact = sql.select(CONTACT.NAME, Contacts.addresses(), phones, COMPANY.NAME, COMPANY.PLAN, CONTACT.OWN, COMPANY.OWN)
                .from(CONTACT)
                .leftJoin(COMPANY).on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CONTACT.ID.eq(ticket.contact()))
                .fetchSingle();
        List<AddedField> shown = fields.all().stream().filter(AddedField::shown).toList();
        List<OwnValue> own = Stream.of(contact.value6(), Optional.ofNullable(contact.value7()).orElse(JSONB.valueOf("{}")))
                .map(OwnFields::read)
                .flatMap(values -> shown.stream().filter(f -> values.containsKey(f.key())).map(f -> new OwnValue(f.name(), values.getOrDefault(f.key(), ""))))
                .toList();
        var counts = sql.select(
                        DSL.count().filterWhere(TICKET.OPENED_AT.gt(now.minus(Duration.ofDays(365)))), DSL.count().filterWhere(TICKET.OPEN))
                .from(TICKET)
                .where(TICKET.CONTACT_ID.eq(ticket.contact()))
                .fetchSingle();
        return new Customer(
                ticket.contact(), contact.value1(), Say.initials(contact.value1()), Optional.ofNullable(contact.value4()).orElse(""),
                Optional.ofNullable(contact.value5()).orElse(""), list(contact.value2()), list(contact.value3()), own, counts.value1(), counts.value2());
    }

    private static List<String> list(String @Nullable [] all) {
        return all == null ? List.of() : List.of(all);
    }

    /** What this ticket has to do with, in either direction, however much that is; then the latest others of the customer. */
    private List<Other> others(long number, Ticket ticket, List<TicketEvent> events) {
        var named = new TreeSet<Long>();
        for (TicketEvent event : events) {
            switch (event) {
                case TicketEvent.Linked e -> named.add(e.earlier());
                case TicketEvent.Continued e -> named.add(e.later());
                case TicketEvent.Unlinked e -> named.remove(e.other());
                default -> {}
            }
        }
        ticket.joinedInto().ifPresent(named::add);
        List<Other> linked = others(TICKET.NUMBER.in(named).or(TICKET.LINKED_TO.eq(number)).or(TICKET.JOINED_INTO.eq(number)), number, "linked", LINKED_SHOWN);
        List<Other> theirs = others(TICKET.CONTACT_ID.eq(ticket.contact()), number, "same customer", OTHERS_SHOWN + linked.size());
        return Stream.concat(
                        linked.stream(),
                        theirs.stream().filter(one -> linked.stream().noneMatch(other -> other.number() == one.number())).limit(OTHERS_SHOWN))
                .toList();
    }

    private List<Other> others(Condition which, long number, String how, int most) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE)
                .from(TICKET)
                .where(which)
                .and(TICKET.NUMBER.ne(number))
                .orderBy(TICKET.NUMBER.desc())
                .limit(most)
                .fetch(r -> new Other(r.value1(), r.value2(), TicketState.of(r.value3()).map(TicketState::name).orElse(r.value3()), how));
    }
}
