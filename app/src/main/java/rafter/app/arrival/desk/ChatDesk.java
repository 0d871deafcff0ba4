package rafter.app.arrival.desk;

import static rafter.database.Tables.CHAT;
import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.DatePart;
import org.jooq.Record;
import org.jooq.Record2;
import org.jooq.Result;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.arrival.chat.ChatLines;
import rafter.app.arrival.chat.ChatSite;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Doorman;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.HomeZone;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.tickets.writing.Drafts;
import rafter.core.chat.ExpectedWait;
import rafter.core.criteria.OwnField;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** What the desk shows: the chats of whoever sits at it, and who waits. */
@Component
class ChatDesk {

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final rafter.database.tables.Ticket OWN = TICKET.as("own");
    private static final int SHOWN = 80;
    private static final int MOST_WAITING = 30;

    /** Something that is known, by what it is called. */
    public record Fact(String name, String value) {}

    /**
     * Until when an answer is promised.
     *
     * @param part how much of the time has gone by, in hundredths; 100 and more: it is late
     */
    public record Due(Instant from, Instant at, int part) {}

    /**
     * A chat at the desk.
     *
     * @param since since when it is whose turn it is
     * @param draft what whoever sits here is writing, as plain text
     */
    public record Column(
            TicketNumber ticket,
            String name,
            String company,
            String plan,
            boolean ours,
            Instant since,
            String sinceWords,
            Optional<Due> due,
            List<Fact> facts,
            List<Said> lines,
            boolean more,
            int last,
            int read,
            boolean here,
            boolean typing,
            String draft,
            int draftVersion,
            List<Drafts.DraftFile> files) {}

    /** A line as it is shown. */
    public record Said(int seq, String css, String author, String text, String at, List<ChatLines.LineFile> files) {}

    /** Somebody who waits. */
    public record Waiting(TicketNumber ticket, String name, String topic, int place, String waited, boolean asked) {}

    /** How the day of whoever sits here went. */
    public record Today(int ended, String firstAnswer, int inTime, int promised) {}

    private final DSLContext sql;
    private final Chats chats;
    private final ChatLines chatLines;
    private final ChatSites sites;
    private final Doorman doorman;
    private final Drafts drafts;
    private final OwnFields fields;
    private final HomeZone home;
    private final Clock clock;

    ChatDesk(
            DSLContext sql,
            Chats chats,
            ChatLines chatLines,
            ChatSites sites,
            Doorman doorman,
            Drafts drafts,
            OwnFields fields,
            HomeZone home,
            Clock clock) {
        this.sql = sql;
        this.chats = chats;
        this.chatLines = chatLines;
        this.sites = sites;
        this.doorman = doorman;
        this.drafts = drafts;
        this.fields = fields;
        this.home = home;
        this.clock = clock;
    }

    /** The chats of somebody that go on, the oldest first. */
    List<Column> columns(Viewer me) {
        Instant now = clock.instant();
        return going(TICKET.OWNER_ID.eq(me.id()), me).map(row -> column(row, me, now));
    }

    /** One of them. */
    Optional<Column> column(TicketNumber number, Viewer me) {
        Instant now = clock.instant();
        return going(TICKET.NUMBER.eq(number).and(TICKET.OWNER_ID.eq(me.id())), me).stream()
                .map(row -> column(row, me, now))
                .findFirst();
    }

    private Result<Record> going(Condition which, Viewer me) {
        return sql.select(TICKET.fields())
                .select(CONTACT.NAME, CONTACT.STRANGER, COMPANY.NAME, COMPANY.PLAN)
                .select(CHAT.ID)
                .from(CHAT)
                .join(OWN)
                .on(OWN.NUMBER.eq(CHAT.TICKET))
                .join(TICKET)
                .on(Chats.goesOn(OWN))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(CHAT.ENDED_AT.isNull())
                .and(TICKET.DISCARDED.isFalse())
                .and(which)
                .and(me.sees(TICKET.NUMBER))
                .orderBy(CHAT.BEGAN_AT)
                .fetch();
    }

    private Column column(Record row, Viewer me, Instant now) {
        Chats.Chat chat = chats.find(row.get(CHAT.ID)).orElseThrow();
        TicketNumber number = row.get(TICKET.NUMBER);
        List<ChatLines.Line> lines = chatLines.after(chat.id(), Math.max(0, chat.lastSeq() - SHOWN));
        Drafts.Draft draft = drafts.find(number, Drafts.Kind.REPLY, me);
        return new Column(
                number,
                name(chat, row),
                Say.orBlank(row.get(COMPANY.NAME)),
                Say.orBlank(row.get(COMPANY.PLAN)),
                row.get(TICKET.TURN).equals(Turn.OURS.name()),
                row.get(TICKET.TURN_SINCE),
                Say.amount(Duration.between(row.get(TICKET.TURN_SINCE), now)),
                due(number, now),
                facts(chat, row),
                lines.stream().map(this::said).toList(),
                chat.lastSeq() > SHOWN,
                chat.lastSeq(),
                chat.read(),
                chat.here(now),
                chat.typing(now),
                draft.html().isEmpty() ? "" : SafeHtml.toText(draft.html()),
                draft.version(),
                draft.files());
    }

    private static String name(Chats.Chat chat, Record row) {
        if (!row.get(CONTACT.STRANGER)) {
            return row.get(CONTACT.NAME);
        }
        return chat.name().isBlank() ? "Guest" : chat.name();
    }

    private Said said(ChatLines.Line line) {
        return new Said(
                line.seq(),
                line.who().name().toLowerCase(Locale.ROOT),
                line.author(),
                line.text(),
                line.at().atZone(home.zone()).format(TIME),
                line.files());
    }

    private List<Fact> facts(Chats.Chat chat, Record row) {
        var all = new ArrayList<Fact>();
        String page = chat.place().title().isBlank()
                ? chat.place().page()
                : chat.place().title();
        add(all, "page", page);
        add(all, "searched", chat.place().searched());
        fields.values(OwnField.Bearer.TICKET, OwnFields.read(row.get(TICKET.OWN)))
                .forEach(value -> add(all, value.name(), value.value()));
        add(all, "topic", row.get(TICKET.TOPIC));
        if (!row.get(CONTACT.STRANGER)) {
            int earlier = earlier(row.get(TICKET.CONTACT_ID), row.get(TICKET.NUMBER));
            add(all, "before", earlier == 0 ? "" : earlier == 1 ? "1 request" : earlier + " requests");
        }
        return all;
    }

    private int earlier(ContactId contact, TicketNumber number) {
        return sql.fetchCount(
                TICKET,
                TICKET.CONTACT_ID.eq(contact).and(TICKET.NUMBER.ne(number)).and(TICKET.DISCARDED.isFalse()));
    }

    private static void add(List<Fact> all, String name, String value) {
        if (!value.isBlank()) {
            all.add(new Fact(name, value));
        }
    }

    private Optional<Due> due(TicketNumber number, Instant now) {
        return sql.select(TICKET_CLOCK.STARTED_AT, TICKET_CLOCK.DUE_AT)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(number))
                .and(TICKET_CLOCK.STATE.eq("RUNNING"))
                .and(TICKET_CLOCK.OBJECTIVE.in("FIRST_REPLY", "NEXT_REPLY"))
                .and(TICKET_CLOCK.DUE_AT.isNotNull())
                .orderBy(TICKET_CLOCK.DUE_AT)
                .limit(1)
                .fetchOptional(r -> new Due(r.value1(), r.value2(), part(r.value1(), r.value2(), now)));
    }

    private static int part(Instant from, Instant at, Instant now) {
        long whole = Math.max(1, Duration.between(from, at).toMillis());
        return (int) Math.max(0, Math.min(999, 100 * Duration.between(from, now).toMillis() / whole));
    }

    /** Those who wait for somebody, the longest first. */
    List<Waiting> waiting(Viewer me) {
        Instant now = clock.instant();
        var rows = going(TICKET.OWNER_ID.isNull().and(TICKET.OPEN).and(TICKET.TURN.eq(Turn.OURS.name())), me);
        var all = new ArrayList<Waiting>();
        for (var row : rows) {
            Chats.Chat chat = chats.find(row.get(CHAT.ID)).orElseThrow();
            all.add(new Waiting(
                    row.get(TICKET.NUMBER),
                    name(chat, row),
                    row.get(TICKET.TOPIC),
                    all.size() + 1,
                    Say.amount(Duration.between(row.get(TICKET.TURN_SINCE), now)),
                    chat.progress().asked().isPresent()));
            if (all.size() == MOST_WAITING) {
                break;
            }
        }
        return all;
    }

    /** How long somebody who came now would wait, in words, by site. */
    Map<String, String> waits() {
        var all = new TreeMap<String, String>();
        for (ChatSite site : sites.all()) {
            doorman.wait(site, 1 + chats.waiting(site.id()))
                    .map(ExpectedWait::words)
                    .ifPresent(words -> all.put(site.name(), words));
        }
        return all;
    }

    /** How today went. */
    Today today(Viewer me) {
        Instant morning = clock.instant()
                .atZone(home.zone())
                .toLocalDate()
                .atStartOfDay(home.zone())
                .toInstant();
        var seconds = DSL.extract(CHAT.ANSWERED_AT, DatePart.EPOCH).minus(DSL.extract(CHAT.BEGAN_AT, DatePart.EPOCH));
        var row = sql.select(
                        DSL.count().filterWhere(CHAT.ENDED_AT.isNotNull()),
                        DSL.percentileCont(0.5).withinGroupOrderBy(seconds))
                .from(CHAT)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(CHAT.TICKET))
                .where(TICKET.OWNER_ID.eq(me.id()))
                .and(CHAT.BEGAN_AT.ge(morning))
                .fetchSingle();
        Record2<Integer, Integer> met = firstReplies(morning, me);
        BigDecimal median = row.value2();
        return new Today(
                row.value1(),
                median == null ? "" : Say.amount(Duration.ofSeconds(median.longValue())),
                met.value2(),
                met.value1());
    }

    /** How many first replies of theirs were promised since the morning and have been given, and how many of them in time. */
    private Record2<Integer, Integer> firstReplies(Instant morning, Viewer me) {
        return sql.select(DSL.count(), DSL.count().filterWhere(TICKET_CLOCK.LATE.isFalse()))
                .from(CHAT)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(CHAT.TICKET))
                .join(TICKET_CLOCK)
                .on(TICKET_CLOCK.TICKET.eq(CHAT.TICKET))
                .where(TICKET.OWNER_ID.eq(me.id()))
                .and(CHAT.BEGAN_AT.ge(morning))
                .and(TICKET_CLOCK.OBJECTIVE.eq("FIRST_REPLY"))
                .and(TICKET_CLOCK.STATE.eq("MET"))
                .fetchSingle();
    }
}
