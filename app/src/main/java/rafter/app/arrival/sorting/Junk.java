package rafter.app.arrival.sorting;

import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.JUNK_LEARNING;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Say;
import rafter.core.arrival.JunkLearning;
import rafter.core.arrival.JunkModel;
import rafter.core.arrival.JunkSigns;
import rafter.core.arrival.MailFacts;
import rafter.core.id.PersonId;
import rafter.core.text.MailKind;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.EventKind;
import tools.jackson.databind.json.JsonMapper;

/** Learns what junk looks like from what the workspace itself said to be no request, and keeps what was learned. */
@Component
public class Junk implements BackgroundWork.AtOnce {

    /** By this an inbound message says that its score decided. */
    public static final String DECIDED = "junk";

    private static final String KIND = "junk-learning";
    /** So many of each sort are learned from, the latest. */
    private static final int MOST = 4_000;

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** How learning went; without a result from too few examples, or while it goes on. */
    public record Learning(
            long id, Instant at, int junk, int requests, Optional<JunkLearning.Learned> learned, boolean running) {}

    private final DSLContext sql;
    private final ObjectProvider<MailSource> mails;
    private final BackgroundWork work;
    private final Guard guard;
    private final Clock clock;
    private final BrieflyCached<Optional<JunkModel>> model =
            new BrieflyCached<>(Duration.ofSeconds(10), this::newestModel);

    Junk(DSLContext sql, ObjectProvider<MailSource> mails, BackgroundWork work, Guard guard, Clock clock) {
        this.sql = sql;
        this.mails = mails;
        this.work = work;
        this.guard = guard;
        this.clock = clock;
    }

    /** What is known of junk; nothing before anything was learned. */
    Optional<JunkModel> model() {
        return model.get();
    }

    private Optional<JunkModel> newestModel() {
        return sql.select(JUNK_LEARNING.DOCUMENT)
                .from(JUNK_LEARNING)
                .where(JUNK_LEARNING.DOCUMENT.isNotNull())
                .orderBy(JUNK_LEARNING.ID.desc())
                .limit(1)
                .fetchOptional(r -> read(r.value1()).model());
    }

    private static JunkLearning.Learned read(JSONB document) {
        return JSON.readValue(document.data(), JunkLearning.Learned.class);
    }

    /** How learning went last. */
    Optional<Learning> last() {
        return sql.selectFrom(JUNK_LEARNING)
                .orderBy(JUNK_LEARNING.ID.desc())
                .limit(1)
                .fetchOptional(r -> new Learning(
                        r.getId(),
                        r.getAt(),
                        r.getJunk(),
                        r.getRequests(),
                        Optional.ofNullable(r.getDocument()).map(Junk::read),
                        work.find(KIND, r.getId())
                                .filter(one -> !one.finished())
                                .isPresent()));
    }

    /** Begins to learn, in the background, because somebody asks for it. */
    @Transactional
    public long learn(PersonId by) {
        guard.houseRules(by);
        return begin(Optional.of(by));
    }

    /** Begins to learn, in the background. */
    @Transactional
    public long begin(Optional<PersonId> by) {
        long id = sql.insertInto(JUNK_LEARNING)
                .set(JUNK_LEARNING.AT, clock.instant())
                .returning(JUNK_LEARNING.ID)
                .fetchSingle(JUNK_LEARNING.ID);
        work.begin(KIND, id, 2L * MOST, by);
        return id;
    }

    /** Learns all that was begun and is left. */
    public void run(long id) {
        work.run(KIND, id);
    }

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public void whole(BackgroundWork.Work going, BackgroundWork.Progress progress) {
        var examples = new ArrayList<JunkLearning.Example>();
        // What was said to be no request, and what was set aside for its score and dismissed.
        add(ofTickets(TICKET.DISCARDED.isTrue().and(noRequest())), true, examples, progress);
        ofDismissed().forEach(mail -> examples.add(new JunkLearning.Example(JunkSigns.of(mail), true)));
        int junk = examples.size();
        // What somebody answered, or dealt with to its end, was a request.
        add(ofTickets(TICKET.DISCARDED.isFalse().and(TICKET.OPEN.isFalse().or(answered()))), false, examples, progress);
        Optional<JunkLearning.Learned> learned = JunkLearning.learn(examples);
        sql.update(JUNK_LEARNING)
                .set(JUNK_LEARNING.JUNK, junk)
                .set(JUNK_LEARNING.REQUESTS, examples.size() - junk)
                .set(
                        JUNK_LEARNING.DOCUMENT,
                        learned.map(one -> JSONB.valueOf(JSON.writeValueAsString(one)))
                                .orElse(null))
                .where(JUNK_LEARNING.ID.eq(going.about()))
                .execute();
        model.forget();
    }

    /** Others lie in the bin for other reasons. */
    private static Condition noRequest() {
        return DSL.exists(DSL.selectOne()
                .from(TICKET_EVENT)
                .where(TICKET_EVENT.TICKET.eq(TICKET.NUMBER))
                .and(TICKET_EVENT.KIND.eq(DSL.inline(EventKind.DISCARDED.word())))
                .and(DSL.jsonbGetAttributeAsText(TICKET_EVENT.BODY, "why").eq(Conduct.NO_REQUEST)));
    }

    private static Condition answered() {
        return DSL.exists(DSL.selectOne()
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .and(MESSAGE.KIND.eq(DSL.inline("PUBLIC"))));
    }

    private static void add(
            List<MailFacts.Mail> mails,
            boolean junk,
            List<JunkLearning.Example> examples,
            BackgroundWork.Progress progress) {
        for (MailFacts.Mail mail : mails) {
            examples.add(new JunkLearning.Example(JunkSigns.of(mail), junk));
        }
        progress.done(examples.size());
    }

    /** The first messages of tickets that came from customers by a channel, the latest. */
    private List<MailFacts.Mail> ofTickets(Condition which) {
        return sql.select(MESSAGE.INBOUND_ID, MESSAGE.FROM_ADDRESS, MESSAGE.AUTHOR, MESSAGE.SUBJECT, MESSAGE.TEXT)
                .from(TICKET)
                .join(MESSAGE)
                .on(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .where(which)
                .and(TICKET.JOINED_INTO.isNull())
                .and(MESSAGE.KIND.eq(DSL.inline("CUSTOMER")))
                .and(MESSAGE.SEQ.le(3))
                .orderBy(TICKET.NUMBER.desc())
                .limit(MOST)
                .fetch(r -> Optional.ofNullable(r.value1())
                        .flatMap(inbound -> mails.getObject().mail(inbound))
                        .orElseGet(() -> new MailFacts.Mail(
                                "",
                                Say.orBlank(r.value2()),
                                Say.orBlank(r.value3()),
                                List.of(),
                                Say.orBlank(r.value4()),
                                Say.orBlank(r.value5()),
                                "",
                                0,
                                0,
                                MailKind.PERSON)));
    }

    private List<MailFacts.Mail> ofDismissed() {
        return sql
                .select(INBOUND.ID)
                .from(INBOUND)
                .where(INBOUND.DECIDED_BY.eq(DECIDED))
                .and(INBOUND.STATE.eq("IGNORED"))
                .orderBy(INBOUND.ID.desc())
                .limit(MOST)
                .fetch(INBOUND.ID)
                .stream()
                .flatMap(id -> mails.getObject().mail(id).stream())
                .toList();
    }
}
