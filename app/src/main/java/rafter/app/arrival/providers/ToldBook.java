package rafter.app.arrival.providers;

import static rafter.database.Tables.PROVIDER;
import static rafter.database.Tables.TOLD;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Secrets;
import rafter.core.id.PersonId;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * What providers told: kept as it came in one transaction, each thing once, and made something of afterwards, so that nothing is lost or doubled
 * whenever this is stopped. Everything about one call or post is read together, in the order of the provider's clock.
 */
@Component
public class ToldBook {

    /** How keeping something went. */
    public enum Kept {
        /** It is kept; what had been there before stays as it was. */
        KEPT,
        /** It was not signed as we sign, or too long ago. */
        FORGED,
        /** It cannot be read at all. */
        UNREADABLE
    }

    /** Something that could not be read, as an administrator sees it. */
    public record Failed(long id, String provider, String subject, Instant receivedAt, String reason, String body) {}

    /** So old a signature may be, and so far ahead. */
    static final Duration LATE = Duration.ofMinutes(5);

    private static final String SIGNED = "hmac-sha256=";
    private static final int MOST_AT_ONCE = 1000;
    private static final int LONGEST_ID = 200;
    private static final int LOOKED_THROUGH = 20;
    private static final int MOST_TRIES = 6;
    private static final int SHOWN = 100;
    private static final int LONGEST_REASON = 300;
    private static final Duration FORGOTTEN = Duration.ofDays(3);
    private static final Logger LOG = LoggerFactory.getLogger(ToldBook.class);
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Providers providers;
    private final Map<Provider.Kind, Listener> listeners;
    private final LiveNews news;
    private final Guard guard;
    private final TransactionTemplate transaction;
    private final Clock clock;

    ToldBook(
            DSLContext sql,
            Providers providers,
            List<Listener> listeners,
            LiveNews news,
            Guard guard,
            TransactionTemplate transaction,
            Clock clock) {
        this.sql = sql;
        this.providers = providers;
        this.listeners = listeners.stream().collect(Collectors.toMap(Listener::kind, Function.identity()));
        this.news = news;
        this.guard = guard;
        this.transaction = transaction;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ keeping

    /**
     * Keeps what a provider sent.
     *
     * @param time seconds since 1970, as its header has them
     * @param signature as its header has it
     * @param body as it came, {@code {"told": [...]}}
     */
    @Transactional
    public Kept keep(Provider provider, String time, String signature, String body) {
        Instant now = clock.instant();
        if (!signed(provider, time, signature, body, now)) {
            return Kept.FORGED;
        }
        Optional<List<Told>> read = read(body);
        if (read.isEmpty()) {
            return Kept.UNREADABLE;
        }
        keep(provider, read.get());
        return Kept.KEPT;
    }

    private boolean signed(Provider provider, String time, String signature, String body, Instant now) {
        if (!time.matches("\\d{1,12}")) {
            return false;
        }
        Duration away = Duration.between(Instant.ofEpochSecond(Long.parseLong(time)), now);
        String right = SIGNED + signature(providers.secret(provider.id()), time, body);
        boolean same = MessageDigest.isEqual(
                right.getBytes(StandardCharsets.UTF_8), signature.getBytes(StandardCharsets.UTF_8));
        return same && away.abs().compareTo(LATE) <= 0;
    }

    /** HMAC-SHA256 of a time, a full stop and a body, in hexadecimal. */
    static String signature(String secret, String time, String body) {
        return Secrets.sign(secret.getBytes(StandardCharsets.UTF_8), time + "." + body);
    }

    private static Optional<List<Told>> read(String body) {
        try {
            JsonNode all = JSON.readTree(body).get("told");
            if (all == null || !all.isArray() || all.size() > MOST_AT_ONCE) {
                return Optional.empty();
            }
            var read = new ArrayList<Told>();
            for (JsonNode one : all) {
                if (!one.isObject()) {
                    return Optional.empty();
                }
                Told bare = new Told("", "", Instant.EPOCH, one);
                String id = bare.text("id");
                String subject = bare.text("subject");
                bare.text("answers", "");
                if (id.isBlank() || subject.isBlank() || Math.max(id.length(), subject.length()) > LONGEST_ID) {
                    return Optional.empty();
                }
                read.add(new Told(id, subject, Instant.parse(bare.text("at")), one));
            }
            return Optional.of(read);
        } catch (JacksonException | DateTimeParseException | Told.Unreadable e) {
            return Optional.empty();
        }
    }

    /** Keeps what was told by whoever is trusted. */
    @Transactional
    public void keep(Provider provider, List<Told> all) {
        Instant now = clock.instant();
        boolean any = false;
        for (Told one : all) {
            any |= sql.insertInto(TOLD)
                            .set(TOLD.PROVIDER_ID, provider.id())
                            .set(TOLD.OUTSIDE_ID, one.id())
                            .set(TOLD.SUBJECT, one.subject())
                            .set(TOLD.REGARDS, one.text("answers", ""))
                            .set(TOLD.AT, one.at())
                            .set(TOLD.BODY, one.body().toString().replace("\\u0000", ""))
                            .set(TOLD.RECEIVED_AT, now)
                            .set(TOLD.NEXT_AT, now)
                            .onConflictDoNothing()
                            .execute()
                    > 0;
        }
        if (any) {
            news.told();
        }
    }

    // ------------------------------------------------------------------ making something of it

    /** Makes something of all that waits. */
    public void takeAll() {
        while (takeOne()) {
            // There may be more.
        }
    }

    /**
     * Makes something of what was told about one call or post that waits.
     *
     * @return whether there was any
     */
    boolean takeOne() {
        try {
            return Boolean.TRUE.equals(transaction.execute(status -> {
                List<? extends Record> waiting = waiting();
                for (Record next : waiting) {
                    if (mine(next)) {
                        take(next);
                        return true;
                    }
                }
                // All that waits is being taken by others.
                return false;
            }));
        } catch (Failure e) {
            note(e);
            return true;
        }
    }

    /** What waits, some, the longest first; others may be making something of it. */
    private List<? extends Record> waiting() {
        return sql.select(TOLD.ID, TOLD.PROVIDER_ID, TOLD.SUBJECT)
                .from(TOLD)
                .where(TOLD.STATE.eq("NEW"))
                .and(TOLD.NEXT_AT.le(clock.instant()))
                .orderBy(TOLD.NEXT_AT, TOLD.ID)
                .limit(LOOKED_THROUGH)
                .fetch();
    }

    /** Whether this is the one who makes something of what was told about a call or post; it still waits then. */
    private boolean mine(Record next) {
        String about = next.get(TOLD.PROVIDER_ID) + " " + next.get(TOLD.SUBJECT);
        boolean alone =
                Boolean.TRUE.equals(sql.fetchSingle("select pg_try_advisory_xact_lock(7430, hashtext(?))", about)
                        .get(0, Boolean.class));
        return alone && sql.fetchExists(TOLD, TOLD.ID.eq(next.get(TOLD.ID)).and(TOLD.STATE.eq("NEW")));
    }

    private void take(Record next) {
        long providerId = next.get(TOLD.PROVIDER_ID);
        String subject = next.get(TOLD.SUBJECT);
        var rows = sql.select(TOLD.ID, TOLD.OUTSIDE_ID, TOLD.AT, TOLD.BODY, TOLD.STATE)
                .from(TOLD)
                .where(TOLD.PROVIDER_ID.eq(providerId))
                .and(TOLD.SUBJECT.eq(subject))
                .and(TOLD.STATE.ne("FAILED"))
                .fetch();
        List<Told> all = rows.stream()
                .map(r -> new Told(r.get(TOLD.OUTSIDE_ID), subject, r.get(TOLD.AT), JSON.readTree(r.get(TOLD.BODY))))
                .sorted(Comparator.comparing(Told::at).thenComparing(Told::id))
                .toList();
        boolean used;
        try {
            used = taken(providerId, subject, all);
        } catch (RuntimeException e) {
            throw new Failure(unreadable(e, rows).orElse(next.get(TOLD.ID)), e);
        }
        List<Long> waited = rows.stream()
                .filter(r -> r.get(TOLD.STATE).equals("NEW"))
                .map(r -> r.get(TOLD.ID))
                .toList();
        sql.update(TOLD)
                .set(TOLD.STATE, used ? "DONE" : "IDLE")
                .where(TOLD.ID.in(waited))
                .execute();
    }

    /** Which of several things told it is that could not be read, when a listener knows. */
    private static Optional<Long> unreadable(RuntimeException e, List<? extends Record> rows) {
        return e instanceof Told.Unreadable unreadable
                ? rows.stream()
                        .filter(r -> r.get(TOLD.OUTSIDE_ID).equals(unreadable.told()))
                        .findFirst()
                        .map(r -> r.get(TOLD.ID))
                : Optional.empty();
    }

    /** Lets whoever listens to such a provider take all that was told about a subject; false: nobody has a use for it. */
    private boolean taken(long providerId, String subject, List<Told> all) {
        return providers
                .of(providerId)
                .filter(provider -> listeners.containsKey(provider.kind()))
                .filter(provider ->
                        Objects.requireNonNull(listeners.get(provider.kind())).take(provider, subject, all))
                .isPresent();
    }

    /** That one thing that was told brought nothing but this. */
    private static final class Failure extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final long told;

        Failure(long told, RuntimeException cause) {
            super(cause);
            this.told = told;
        }
    }

    private void note(Failure failure) {
        Throwable cause = Optional.ofNullable(failure.getCause()).orElse(failure);
        boolean forGood = cause instanceof Told.Unreadable;
        String words = String.valueOf(cause.getMessage());
        LOG.warn("What a provider told ({}) could not be taken: {}", failure.told, cause.toString());
        sql.update(TOLD)
                .set(TOLD.ATTEMPTS, TOLD.ATTEMPTS.plus(1))
                .set(TOLD.REASON, words.length() > LONGEST_REASON ? words.substring(0, LONGEST_REASON) : words)
                .set(
                        TOLD.STATE,
                        DSL.when(DSL.condition(forGood).or(TOLD.ATTEMPTS.ge(MOST_TRIES - 1)), "FAILED")
                                .otherwise("NEW"))
                // A second, then three, nine, … between the tries.
                .set(TOLD.NEXT_AT, later())
                .where(TOLD.ID.eq(failure.told))
                .execute();
    }

    private Field<Instant> later() {
        return DSL.field(
                "{0} + interval '1 second' * power(3, {1})",
                TOLD.NEXT_AT.getDataType(), DSL.val(clock.instant()), TOLD.ATTEMPTS);
    }

    /** What answers something that came to nothing before may come to something now. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void answersTo(long provider, String subject) {
        int woken = sql.update(TOLD)
                .set(TOLD.STATE, "NEW")
                .set(TOLD.NEXT_AT, clock.instant())
                .where(TOLD.PROVIDER_ID.eq(provider))
                .and(TOLD.REGARDS.eq(subject))
                .and(TOLD.STATE.eq("IDLE"))
                .execute();
        if (woken > 0) {
            news.told();
        }
    }

    /** Takes the words out of everything that was told of something, for good; that it was told stays. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void forgetWords(long provider, String subject) {
        sql.select(TOLD.ID, TOLD.BODY)
                .from(TOLD)
                .where(TOLD.PROVIDER_ID.eq(provider))
                .and(TOLD.SUBJECT.eq(subject))
                .forEach(row -> {
                    JsonNode body = JSON.readTree(row.value2());
                    if (body instanceof ObjectNode object && object.has("text")) {
                        sql.update(TOLD)
                                .set(TOLD.BODY, object.put("text", "").toString())
                                .where(TOLD.ID.eq(row.value1()))
                                .execute();
                    }
                });
    }

    // ------------------------------------------------------------------ what could not be read

    /** What could not be read, of providers of a kind, the latest first. */
    public List<Failed> failed(Provider.Kind kind) {
        return sql.select(TOLD.ID, PROVIDER.NAME, TOLD.SUBJECT, TOLD.RECEIVED_AT, TOLD.REASON, TOLD.BODY)
                .from(TOLD)
                .join(PROVIDER)
                .on(PROVIDER.ID.eq(TOLD.PROVIDER_ID))
                .where(TOLD.STATE.eq("FAILED"))
                .and(PROVIDER.KIND.eq(kind.name()))
                .orderBy(TOLD.ID.desc())
                .limit(SHOWN)
                .fetch(r -> new Failed(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
    }

    /** Tries once more what could not be read. */
    @Transactional
    public void again(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(TOLD)
                .set(TOLD.STATE, "NEW")
                .set(TOLD.ATTEMPTS, 0)
                .set(TOLD.NEXT_AT, clock.instant())
                .where(TOLD.ID.eq(id))
                .and(TOLD.STATE.eq("FAILED"))
                .execute();
        news.told();
    }

    /** Forgets what nothing came of a while ago, some; how much it was. */
    int forget(int most) {
        return sql.deleteFrom(TOLD)
                .where(TOLD.ID.in(DSL.select(TOLD.ID)
                        .from(TOLD)
                        .where(TOLD.STATE.eq("IDLE"))
                        .and(TOLD.RECEIVED_AT.lt(clock.instant().minus(FORGOTTEN)))
                        .limit(most)))
                .execute();
    }
}
