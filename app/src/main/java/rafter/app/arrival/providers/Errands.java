package rafter.app.arrival.providers;

import static rafter.database.Tables.ERRAND;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.WokenThreads;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Delivery;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.database.tables.records.ErrandRecord;
import tools.jackson.databind.json.JsonMapper;

/**
 * What providers are to do, put here in the transaction that wants it, and gone from here once they have taken it. It is tried again for a day, under a
 * key of its own, so that it is done once.
 */
@Component
public class Errands extends WokenThreads {

    /**
     * Something that a provider is to do.
     *
     * @param key by which it is done once
     * @param ticket on whose behalf
     * @param entry the entry that shows it, if one does
     */
    public record Errand(
            long provider,
            String key,
            String verb,
            String path,
            Map<String, ?> body,
            Optional<TicketNumber> ticket,
            Optional<MessageId> entry) {}

    private static final List<Duration> WAITS = List.of(
            Duration.ofSeconds(2),
            Duration.ofSeconds(5),
            Duration.ofSeconds(15),
            Duration.ofMinutes(1),
            Duration.ofMinutes(5),
            Duration.ofMinutes(30));
    private static final Duration GIVE_UP = Duration.ofDays(1);
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Providers providers;
    private final ProviderClient client;
    private final LiveNews news;
    private final Notices notices;
    private final ObjectProvider<Tickets> tickets;
    private final Guard guard;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Errands(
            DSLContext sql,
            Providers providers,
            ProviderClient client,
            LiveNews news,
            Notices notices,
            ObjectProvider<Tickets> tickets,
            Guard guard,
            TransactionTemplate transaction,
            Clock clock,
            @Value("${rafter.errands.enabled:true}") boolean enabled) {
        super("errands", "errand", enabled ? 1 : 0);
        this.sql = sql;
        this.providers = providers;
        this.client = client;
        this.news = news;
        this.notices = notices;
        this.tickets = tickets;
        this.guard = guard;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Has it done as soon as the running transaction commits. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void put(Errand errand) {
        Instant now = clock.instant();
        sql.insertInto(ERRAND)
                .set(ERRAND.PROVIDER_ID, errand.provider())
                .set(ERRAND.KEY, errand.key())
                .set(ERRAND.VERB, errand.verb())
                .set(ERRAND.PATH, errand.path())
                .set(ERRAND.BODY, JSON.writeValueAsString(errand.body()))
                .set(ERRAND.TICKET, errand.ticket().orElse(null))
                .set(ERRAND.MESSAGE_ID, errand.entry().orElse(null))
                .set(ERRAND.QUEUED_AT, now)
                .set(ERRAND.NEXT_AT, now)
                .onConflictDoNothing()
                .execute();
        news.errand();
    }

    @Override
    protected boolean work() {
        return doOne();
    }

    /** Tries one that waits; the row is held meanwhile, so that no other node does the same. False: none waits. */
    public boolean doOne() {
        return Boolean.TRUE.equals(transaction.execute(status -> {
            Optional<ErrandRecord> next = sql.selectFrom(ERRAND)
                    .where(ERRAND.STATE.eq("QUEUED"))
                    .and(ERRAND.NEXT_AT.le(clock.instant()))
                    .orderBy(ERRAND.ID)
                    .limit(1)
                    .forUpdate()
                    .skipLocked()
                    .fetchOptional();
            next.ifPresent(this::tried);
            return next.isPresent();
        }));
    }

    private void tried(ErrandRecord errand) {
        ProviderClient.Answer answer = providers
                .of(errand.getProviderId())
                .map(provider -> client.tell(provider, errand.getVerb(), errand.getPath(), errand.getBody()))
                .orElseGet(() -> new ProviderClient.Answer.Refused("The provider is not there any more."));
        Instant now = clock.instant();
        errand.setAttempts(errand.getAttempts() + 1);
        switch (answer) {
            case ProviderClient.Answer.Done done -> {
                errand.setState(Delivery.State.SENT.name());
                errand.setReason("");
                errand.setSentAt(now);
            }
            case ProviderClient.Answer.Refused refused -> failed(errand, refused.words());
            case ProviderClient.Answer.Silent silent -> {
                if (now.isAfter(errand.getQueuedAt().plus(GIVE_UP))) {
                    failed(errand, "Tried for a day. " + silent.words());
                } else {
                    errand.setReason(silent.words());
                    errand.setNextAt(now.plus(WAITS.get(Math.min(errand.getAttempts(), WAITS.size()) - 1)));
                }
            }
        }
        errand.store();
        Optional.ofNullable(errand.getTicket()).ifPresent(news::ticketChanged);
    }

    private void failed(ErrandRecord errand, String words) {
        errand.setState(Delivery.State.FAILED.name());
        errand.setReason(words);
        Optional.ofNullable(errand.getTicket())
                .map(ticket -> tickets.getObject().find(List.of(ticket)).get(ticket))
                .flatMap(Ticket::owner)
                .ifPresent(owner -> notices.tell(
                        owner, errand.getTicket(), Notices.Kind.BOUNCED, errand.getTicket() + ": not sent. " + words));
    }

    /** On whose behalf something was done, and the entry that shows it. */
    public record Sent(Optional<TicketNumber> ticket, Optional<MessageId> entry) {}

    /** What was done under a key. */
    public Optional<Sent> sent(String key) {
        return sql.selectFrom(ERRAND)
                .where(ERRAND.KEY.eq(key))
                .fetchOptional(
                        r -> new Sent(Optional.ofNullable(r.getTicket()), Optional.ofNullable(r.getMessageId())));
    }

    /** How the errands behind these entries stand. */
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        return sql.selectFrom(ERRAND)
                .where(ERRAND.MESSAGE_ID.in(entries))
                .fetchMap(
                        ERRAND.MESSAGE_ID,
                        r -> new Delivery(
                                r.getId(),
                                Delivery.State.valueOf(r.getState()),
                                r.getAttempts(),
                                r.getReason(),
                                r.getNextAt(),
                                Optional.ofNullable(r.getSentAt())));
    }

    /** Tries one again at once that failed or waits. */
    @Transactional
    public void again(long id, PersonId by) {
        guard.work(by);
        sql.update(ERRAND)
                .set(ERRAND.STATE, "QUEUED")
                .set(ERRAND.NEXT_AT, clock.instant())
                .where(ERRAND.ID.eq(id))
                .and(ERRAND.STATE.ne("SENT"))
                .execute();
        news.errand();
    }

    /** Those that wait longer than they should, of a provider. */
    public int waiting(long provider) {
        return sql.fetchCount(ERRAND, ERRAND.STATE.eq("QUEUED").and(ERRAND.PROVIDER_ID.eq(provider)));
    }
}
