package rafter.app.arrival.social;

import static rafter.database.Tables.CONTACT_HANDLE;
import static rafter.database.Tables.POST;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectOnConditionStep;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.social.Mood;
import rafter.core.text.Words;
import rafter.database.tables.records.PostRecord;

/** What is kept of posts. */
@Component
public class Posts {

    private static final rafter.database.tables.Ticket OWN = TICKET.as("own");

    /** What a post is to us. */
    public enum Kind {
        MENTION("names us"),
        REPLY("answers us"),
        PRIVATE("private message"),
        FOUND("found by a search"),
        OURS("ours"),
        /** It stands in a thread of another one. */
        AROUND("in the thread");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        /** As people read it. */
        public String words() {
            return words;
        }

        /** Whether somebody of ours may have to do something about it. */
        public boolean watched() {
            return this != OURS && this != AROUND;
        }
    }

    /** What was done about a post. */
    public enum State {
        /** Nobody has looked at it yet. */
        NEW("to look at"),
        TICKET("tickets"),
        ARCHIVED("archived"),
        NOISE("noise"),
        /** A mark of noise took it away by itself. */
        ASIDE("set aside"),
        /** There is nothing to do about it. */
        NONE("none");

        private final String words;

        State(String words) {
            this.words = words;
        }

        /** As people read it. */
        public String words() {
            return words;
        }
    }

    /**
     * A post.
     *
     * @param line the account of ours that it concerns
     * @param answers the post that it answers, as the network knows it; blank: none
     * @param root the first post of its thread
     * @param text blank where it was deleted and nothing is kept of it
     * @param before the text before the last edit
     * @param mood from −1 to 1
     * @param signs the words that decided it
     * @param why why it is set aside, or what found it
     */
    public record Post(
            long id,
            long provider,
            String outsideId,
            Optional<Long> line,
            Kind kind,
            String answers,
            String root,
            String handle,
            String name,
            String text,
            String before,
            Instant writtenAt,
            Optional<Instant> editedAt,
            Optional<Instant> deletedAt,
            int likes,
            double mood,
            List<String> signs,
            List<Long> searches,
            State state,
            String why,
            Optional<Instant> hiddenAt,
            Optional<TicketNumber> ticket,
            Optional<MessageId> entry) {

        /** Whether others can read it. */
        public boolean publicly() {
            return kind != Kind.PRIVATE;
        }

        /** Its mood in a word. */
        public Mood.Kind moodKind() {
            return new Mood(mood, List.of()).kind();
        }
    }

    /** Which posts are wanted. */
    public record Wanted(
            Optional<State> state, Optional<Kind> kind, Optional<Mood.Kind> mood, Optional<Long> search, String words) {

        /** All of a state. */
        public static Wanted of(State state) {
            return new Wanted(Optional.of(state), Optional.empty(), Optional.empty(), Optional.empty(), "");
        }
    }

    private final DSLContext sql;

    Posts(DSLContext sql) {
        this.sql = sql;
    }

    // ------------------------------------------------------------------ reading

    private SelectOnConditionStep<Record> posts() {
        return sql.select(POST.fields())
                .select(CONTACT_HANDLE.NAME)
                .from(POST)
                .leftJoin(CONTACT_HANDLE)
                .on(CONTACT_HANDLE.PROVIDER_ID.eq(POST.PROVIDER_ID).and(CONTACT_HANDLE.HANDLE.eq(POST.HANDLE)));
    }

    private static Post post(Record r) {
        PostRecord p = r.into(POST);
        return new Post(
                p.getId(),
                p.getProviderId(),
                p.getOutsideId(),
                Optional.ofNullable(p.getLineId()),
                Kind.valueOf(p.getKind()),
                Optional.ofNullable(p.getAnswers()).orElse(""),
                p.getRoot(),
                p.getHandle(),
                Optional.ofNullable(r.get(CONTACT_HANDLE.NAME)).orElse(p.getHandle()),
                p.getText(),
                p.getBefore(),
                p.getWrittenAt(),
                Optional.ofNullable(p.getEditedAt()),
                Optional.ofNullable(p.getDeletedAt()),
                p.getLikes(),
                p.getMood(),
                List.of(p.getSigns()),
                Arrays.asList(p.getSearches()),
                State.valueOf(p.getState()),
                p.getWhy(),
                Optional.ofNullable(p.getHiddenAt()),
                Optional.ofNullable(p.getTicket()),
                Optional.ofNullable(p.getMessageId()));
    }

    /** One of them. */
    public Optional<Post> find(long id) {
        return posts().where(POST.ID.eq(id)).fetchOptional(Posts::post);
    }

    /** One as its network knows it. */
    public Optional<Post> find(long provider, String outsideId) {
        return posts().where(POST.PROVIDER_ID.eq(provider))
                .and(POST.OUTSIDE_ID.eq(outsideId))
                .fetchOptional(Posts::post);
    }

    /** Those that are wanted, the latest first, before one of them; some. */
    public List<Post> page(Wanted wanted, Optional<Long> before, int most, Viewer me) {
        Condition earlier = before.flatMap(this::find)
                .map(one -> DSL.row(POST.WRITTEN_AT, POST.ID).lt(DSL.row(DSL.val(one.writtenAt()), DSL.val(one.id()))))
                .orElse(DSL.noCondition());
        return posts().where(condition(wanted))
                .and(within(me))
                .and(earlier)
                .orderBy(POST.WRITTEN_AT.desc(), POST.ID.desc())
                .limit(most)
                .fetch(Posts::post);
    }

    /** Those whose ticket somebody may see, and those that have none. */
    private static Condition within(Viewer me) {
        return me.seesAll() ? DSL.noCondition() : POST.TICKET.isNull().or(me.sees(POST.TICKET));
    }

    private static Condition condition(Wanted wanted) {
        Condition all =
                wanted.state().map(state -> POST.STATE.eq(state.name())).orElse(POST.STATE.ne(State.NONE.name()));
        all = all.and(wanted.kind().map(kind -> POST.KIND.eq(kind.name())).orElse(DSL.noCondition()));
        all = all.and(wanted.search()
                .map(id -> DSL.condition("{0} @> array[{1}]::bigint[]", POST.SEARCHES, DSL.val(id)))
                .orElse(DSL.noCondition()));
        all = all.and(wanted.mood().map(Posts::ofMood).orElse(DSL.noCondition()));
        String words = Words.of(wanted.words()).stored().strip();
        return words.isEmpty() ? all : all.and(POST.WORDS.contains(words));
    }

    private static Condition ofMood(Mood.Kind kind) {
        return switch (kind) {
            case GOOD -> POST.MOOD.ge(Mood.MARKED);
            case BAD -> POST.MOOD.le(-Mood.MARKED);
            case NEITHER -> POST.MOOD.gt(-Mood.MARKED).and(POST.MOOD.lt(Mood.MARKED));
        };
    }

    /** How many there are of each state. */
    public Map<State, Integer> counts(Viewer me) {
        var counts = new TreeMap<State, Integer>();
        sql.select(POST.STATE, DSL.count())
                .from(POST)
                .where(POST.STATE.ne(State.NONE.name()))
                .and(within(me))
                .groupBy(POST.STATE)
                .forEach(r -> counts.put(State.valueOf(r.value1()), r.value2()));
        return counts;
    }

    /** The thread around a post, in its order; some. */
    public List<Post> thread(Post post, int most, Viewer me) {
        return posts().where(POST.PROVIDER_ID.eq(post.provider()))
                .and(POST.ROOT.eq(post.root()))
                .and(within(me))
                .orderBy(POST.WRITTEN_AT, POST.ID)
                .limit(most)
                .fetch(Posts::post);
    }

    /** What somebody wrote that concerned us, the latest first; some. */
    public List<Post> by(long provider, String handle, int most, Viewer me) {
        return posts().where(POST.PROVIDER_ID.eq(provider))
                .and(POST.HANDLE.eq(handle))
                .and(POST.KIND.notIn(Kind.AROUND.name(), Kind.OURS.name()))
                .and(within(me))
                .orderBy(POST.WRITTEN_AT.desc())
                .limit(most)
                .fetch(Posts::post);
    }

    /** The latest post of the customer’s side on a ticket, or on one that became a part of it. */
    public Optional<Post> latest(TicketNumber ticket) {
        return posts().where(theirs(Traces.number(ticket)))
                .orderBy(POST.WRITTEN_AT.desc(), POST.ID.desc())
                .limit(1)
                .fetchOptional(Posts::post);
    }

    private static Condition theirs(Field<TicketNumber> ticket) {
        return POST.TICKET.in(Traces.withParts(ticket)).and(POST.KIND.ne(Kind.OURS.name()));
    }

    /** Whether the customer's side wrote on a network about a ticket. */
    static Condition wrote(Field<TicketNumber> ticket) {
        return DSL.exists(DSL.selectOne().from(POST).where(theirs(ticket)));
    }

    /** Whether the customer of a ticket is known on a network. */
    static Condition isKnown(Field<TicketNumber> ticket) {
        return DSL.exists(DSL.selectOne()
                .from(OWN)
                .join(CONTACT_HANDLE)
                .on(CONTACT_HANDLE.CONTACT_ID.eq(OWN.CONTACT_ID))
                .where(OWN.NUMBER.eq(ticket)));
    }

    /** Somebody on a network. */
    record Account(long provider, String handle) {}

    /** Under which name the customer of a ticket writes on a network, where they are known there; the one that was seen last. */
    Optional<Account> accountOf(TicketNumber ticket) {
        return sql.select(CONTACT_HANDLE.PROVIDER_ID, CONTACT_HANDLE.HANDLE)
                .from(TICKET)
                .join(CONTACT_HANDLE)
                .on(CONTACT_HANDLE.CONTACT_ID.eq(TICKET.CONTACT_ID))
                .where(TICKET.NUMBER.eq(ticket))
                .orderBy(CONTACT_HANDLE.SEEN_AT.desc())
                .limit(1)
                .fetchOptional(r -> new Account(r.value1(), r.value2()));
    }

    /** The ticket about which somebody writes in a thread, or privately with an account of ours; the latest. */
    Optional<TicketNumber> ticketOf(long provider, String handle, Kind kind, String root, Optional<Long> line) {
        Condition same = kind == Kind.PRIVATE
                ? POST.KIND.eq(Kind.PRIVATE.name()).and(POST.LINE_ID.isNotDistinctFrom(line.orElse(null)))
                : POST.KIND.ne(Kind.PRIVATE.name()).and(POST.ROOT.eq(root));
        return sql.select(DSL.coalesce(OWN.JOINED_INTO, OWN.NUMBER))
                .from(POST)
                .join(OWN)
                .on(OWN.NUMBER.eq(POST.TICKET))
                .where(POST.PROVIDER_ID.eq(provider))
                .and(POST.HANDLE.eq(handle))
                .and(same)
                .orderBy(POST.WRITTEN_AT.desc())
                .limit(1)
                .fetchOptional(r -> r.value1());
    }

    /** Whether something of a thread is kept. */
    boolean knowsThread(long provider, String root) {
        return sql.fetchExists(POST, POST.PROVIDER_ID.eq(provider).and(POST.ROOT.eq(root)));
    }

    /** What was written publicly about us since an instant, the latest, some: that in which waves are looked for. */
    List<Post> recent(Instant since, int most) {
        return posts().where(POST.WRITTEN_AT.ge(since))
                .and(POST.KIND.in(Kind.MENTION.name(), Kind.REPLY.name(), Kind.FOUND.name()))
                .and(POST.STATE.notIn(State.NOISE.name(), State.ASIDE.name()))
                .and(POST.DELETED_AT.isNull())
                .orderBy(POST.WRITTEN_AT.desc())
                .limit(most)
                .fetch(Posts::post);
    }

    /** Several of them. */
    List<Post> all(Collection<Long> ids) {
        return posts().where(POST.ID.in(ids)).orderBy(POST.WRITTEN_AT, POST.ID).fetch(Posts::post);
    }

    // ------------------------------------------------------------------ writing

    /** A post to be kept. */
    record Fresh(
            long provider,
            String outsideId,
            Optional<Long> line,
            Kind kind,
            String answers,
            String root,
            String handle,
            String text,
            Instant writtenAt,
            Mood mood,
            Set<Long> searches,
            State state,
            String why,
            Optional<TicketNumber> ticket,
            Optional<MessageId> entry) {}

    @Transactional(propagation = Propagation.MANDATORY)
    void add(Fresh post) {
        sql.insertInto(POST)
                .set(POST.PROVIDER_ID, post.provider())
                .set(POST.OUTSIDE_ID, post.outsideId())
                .set(POST.LINE_ID, post.line().orElse(null))
                .set(POST.KIND, post.kind().name())
                .set(POST.ANSWERS, post.answers().isEmpty() ? null : post.answers())
                .set(POST.ROOT, post.root())
                .set(POST.HANDLE, post.handle())
                .set(POST.TEXT, post.text())
                .set(POST.WORDS, Words.of(post.text()).stored())
                .set(POST.WRITTEN_AT, post.writtenAt())
                .set(POST.MOOD, post.mood().score())
                .set(POST.SIGNS, signs(post.mood()))
                .set(POST.SEARCHES, post.searches().toArray(Long[]::new))
                .set(POST.STATE, post.state().name())
                .set(POST.WHY, post.why())
                .set(POST.TICKET, post.ticket().orElse(null))
                .set(POST.MESSAGE_ID, post.entry().orElse(null))
                .execute();
    }

    private static String[] signs(Mood mood) {
        return mood.signs().stream().map(Mood.Sign::words).distinct().toArray(String[]::new);
    }

    /** How it reads now. */
    @Transactional(propagation = Propagation.MANDATORY)
    void reads(Post post, rafter.core.social.Post now, String text, Mood mood) {
        var versions = now.versions();
        boolean edited = now.edited() && !text.isEmpty();
        sql.update(POST)
                .set(POST.TEXT, text)
                .set(POST.WORDS, Words.of(text).stored())
                .set(POST.VERSIONS, versions.size())
                .set(POST.BEFORE, edited ? versions.get(versions.size() - 2).text() : "")
                .set(POST.EDITED_AT, now.edited() ? versions.getLast().at() : null)
                .set(POST.DELETED_AT, now.deletedAt().orElse(null))
                .set(POST.LIKES, now.likes())
                .set(POST.MOOD, mood.score())
                .set(POST.SIGNS, signs(mood))
                .where(POST.ID.eq(post.id()))
                .execute();
    }

    /** What was done about it; false: it stood otherwise meanwhile. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean move(long id, Set<State> from, State to, String why, PersonId by, Instant now) {
        return sql.update(POST)
                        .set(POST.STATE, to.name())
                        .set(POST.WHY, why)
                        .set(POST.PERSON_ID, by)
                        .set(POST.LOOKED_AT, now)
                        .where(POST.ID.eq(id))
                        .and(POST.STATE.in(from.stream().map(Enum::name).collect(Collectors.toSet())))
                        .execute()
                > 0;
    }

    /** It is shown on a ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    void shownOn(long id, TicketNumber ticket, MessageId entry) {
        sql.update(POST)
                .set(POST.STATE, State.TICKET.name())
                .set(POST.TICKET, ticket)
                .set(POST.MESSAGE_ID, entry)
                .where(POST.ID.eq(id))
                .execute();
    }

    /** Keeps others from making a ticket of it until the transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    Optional<Post> hold(long id) {
        sql.select(POST.ID).from(POST).where(POST.ID.eq(id)).forUpdate().fetch();
        return find(id);
    }

    /** It is hidden beneath our post, or is not any more. */
    @Transactional(propagation = Propagation.MANDATORY)
    void hidden(long id, Optional<Instant> at) {
        sql.update(POST)
                .set(POST.HIDDEN_AT, at.orElse(null))
                .where(POST.ID.eq(id))
                .execute();
    }
}
