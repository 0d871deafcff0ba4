package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_CALL;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.notices.Notices;
import rafter.app.platform.DueThread;
import rafter.app.platform.Secrets;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Rule;
import rafter.core.ticket.Ticket;
import rafter.database.tables.records.RuleCallRecord;
import tools.jackson.databind.json.JsonMapper;

/**
 * Calls other programs for rules: a POST of JSON with a signature, of which the other side knows that it comes from here and was not
 * changed. A call is kept with what the rule did and made afterwards; each has an id by which a second delivery is known.
 */
@Component
class RuleCalls extends DueThread {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final Duration PATIENCE = Duration.ofSeconds(10);
    /** How long it waits after each try that was not accepted; after the last it is given up. */
    private static final List<Duration> AGAIN =
            List.of(Duration.ofMinutes(1), Duration.ofMinutes(5), Duration.ofMinutes(30), Duration.ofHours(4));

    private static final int AT_ONCE = 20;
    private static final int LONGEST_ANSWER = 200;

    private final DSLContext sql;
    private final TransactionTemplate transaction;
    private final Secrets secrets;
    private final Notices notices;
    private final Clock clock;
    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(PATIENCE)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    RuleCalls(
            DSLContext sql,
            TransactionTemplate transaction,
            Secrets secrets,
            Notices notices,
            Clock clock,
            @Value("${rafter.rules.enabled:true}") boolean enabled) {
        super("rule calls", clock, enabled);
        this.sql = sql;
        this.transaction = transaction;
        this.secrets = secrets;
        this.notices = notices;
        this.clock = clock;
    }

    /** What is wrong with an address that is to be called; nothing when it can be. */
    static Optional<String> fault(String address) {
        try {
            URI uri = URI.create(address.strip());
            boolean web = "https".equals(uri.getScheme()) || "http".equals(uri.getScheme());
            return web && uri.getHost() != null && uri.getUserInfo() == null
                    ? Optional.empty()
                    : Optional.of("Write the address of the other program, such as https://erp.internal/rafter.");
        } catch (IllegalArgumentException e) {
            return Optional.of("“" + address.strip() + "” is no address of the web.");
        }
    }

    /** Keeps a call, to be made once this transaction is through. */
    void keep(TicketNumber number, Ticket ticket, Rule rule, String address, Instant now) {
        UUID id = UUID.randomUUID();
        String body = JSON.createObjectNode()
                .put("call", id.toString())
                .put("rule", rule.id())
                .put("name", rule.name())
                .put("at", now.toString())
                .put("ticket", number.value())
                .put("subject", ticket.subject())
                .put("state", ticket.state().key())
                .put("priority", ticket.priority().name())
                .put("topic", ticket.topic())
                .put("team", ticket.team().map(Object::toString).orElse(""))
                .put("owner", ticket.owner().map(Object::toString).orElse(""))
                .toString();
        sql.insertInto(RULE_CALL)
                .set(RULE_CALL.ID, id)
                .set(RULE_CALL.TICKET, number)
                .set(RULE_CALL.RULE_ID, rule.id())
                .set(RULE_CALL.ADDRESS, address.strip())
                .set(RULE_CALL.BODY, body)
                .set(RULE_CALL.DUE_AT, now)
                .execute();
    }

    /** The key under which calls are signed, as text; the other side is given it by an administrator. */
    String key() {
        return secrets.sign("key of rule calls");
    }

    /** HMAC-SHA256 of a body under {@link #key}, in hexadecimal. */
    String signature(String body) {
        return Secrets.sign(key().getBytes(StandardCharsets.UTF_8), body);
    }

    @Override
    protected Optional<Instant> nextDue() {
        return sql.select(RULE_CALL.DUE_AT)
                .from(RULE_CALL)
                .where(RULE_CALL.DUE_AT.isNotNull())
                .orderBy(RULE_CALL.DUE_AT)
                .limit(1)
                .fetchOptional(RULE_CALL.DUE_AT);
    }

    @Override
    protected int doDue() {
        int made = 0;
        while (made < AT_ONCE && Boolean.TRUE.equals(transaction.execute(status -> one()))) {
            made++;
        }
        return made;
    }

    /** The row is held while the other side is waited for, so that no other node makes the same call. */
    private boolean one() {
        Instant now = clock.instant();
        Optional<RuleCallRecord> due = sql.selectFrom(RULE_CALL)
                .where(RULE_CALL.DUE_AT.le(now))
                .orderBy(RULE_CALL.DUE_AT)
                .limit(1)
                .forUpdate()
                .skipLocked()
                .fetchOptional();
        due.ifPresent(call -> {
            String problem = made(call);
            call.setTries((short) (call.getTries() + 1));
            call.setAnswer(problem);
            boolean over = call.getTries() > AGAIN.size();
            call.setDueAt(problem.isEmpty() || over ? null : now.plus(AGAIN.get(call.getTries() - 1)));
            call.store();
            if (over && !problem.isEmpty()) {
                tell(call, problem, now);
            }
        });
        return due.isPresent();
    }

    /** Makes a call; why it was not accepted, blank when it was. */
    private String made(RuleCallRecord call) {
        try {
            var request = HttpRequest.newBuilder(URI.create(call.getAddress()))
                    .timeout(PATIENCE)
                    .header("Content-Type", "application/json")
                    .header("Rafter-Call", call.getId().toString())
                    .header("Rafter-Signature", "hmac-sha256=" + signature(call.getBody()))
                    .POST(HttpRequest.BodyPublishers.ofString(call.getBody()))
                    .build();
            int status =
                    http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
            return status / 100 == 2 ? "" : "the other side answered " + status;
        } catch (IOException | IllegalArgumentException e) {
            String words = e.getClass().getSimpleName() + ": " + e.getMessage();
            return words.length() > LONGEST_ANSWER ? words.substring(0, LONGEST_ANSWER) : words;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return "it was interrupted";
        }
    }

    private void tell(RuleCallRecord call, String problem, Instant now) {
        String words =
                "A rule could not call " + call.getAddress() + " for ticket " + call.getTicket() + ": " + problem + ".";
        notices.tellAdministrators(call.getTicket(), now, Notices.Kind.RULE_FAILED, words);
    }
}
