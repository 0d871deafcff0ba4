package rafter.benchmarks;

import static rafter.database.Tables.OFFER;
import static rafter.database.Tables.POST;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TOLD;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.DriverManager;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.Providers;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.handout.queues.Queues;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Secrets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import tools.jackson.databind.json.JsonMapper;

/** Two thousand posts in a minute, all of them told twice, and how soon a call that rings is offered to somebody. */
final class VoicesBench {

    private static final int POSTS = 2000;
    private static final int AT_ONCE = 20;
    private static final int CALLS = 60;
    private static final String SECRET = "bench-secret-not-for-real-use";
    private static final Clock CLOCK = Clock.systemUTC();
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final List<String> SAID = List.of(
            "@bench the crossing is late again, and that is terrible",
            "@bench lovely crew on the morning boat, thank you",
            "A fine day on the pier with a kestrel and a cup of tea",
            "@bench may I bring a kayak on Saturday, and does it cost more?");

    private final int port;
    private final HttpClient client = HttpClient.newHttpClient();
    private int count;

    VoicesBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_voices");
        try (ConfigurableApplicationContext context = RehearsalBench.context(database)) {
            settle(context);
        }
        try (Child app = Child.start(database, List.of()).awaitPort();
                var connection = DriverManager.getConnection(database, "rafter", "rafter")) {
            DSLContext sql = DSL.using(connection, SQLDialect.POSTGRES);
            posts(sql, "cold");
            posts(sql, "warm");
            calls(sql);
            System.out.println("memory: " + app.residentMegabytes() + " MB");
        }
    }

    private static void settle(ConfigurableApplicationContext context) {
        var by = new PersonId(1);
        var providers = context.getBean(Providers.class);
        for (Provider.Kind kind : Provider.Kind.values()) {
            long id = providers.save(
                    new Provider(
                            0, kind, kind.name(), kind.name().toLowerCase(Locale.ROOT), "", 0, "", Optional.empty()),
                    Optional.of(SECRET),
                    by);
            context.getBean(OurLines.class).save(line(kind, id), by);
        }
        TeamId team = context.getBean(Persons.class).addTeam("Everybody", by);
        context.getBean(DSLContext.class).execute("insert into team_member select " + team + ", " + by);
        context.getBean(Queues.class).save(calls(team), 0, by);
        var person = context.getBean(Persons.class).find(by).orElseThrow();
        context.getBean(Whereabouts.class)
                .say(Presence.HERE, "", true, context.getBean(Viewers.class).of(person));
        context.getBean(Workforce.class).limit(by, 20, by);
        context.getBean(DSLContext.class).execute("update working set seen_until = now() + interval '1 day'");
    }

    private static OurLine line(Provider.Kind kind, long provider) {
        boolean social = kind == Provider.Kind.SOCIAL;
        return new OurLine(
                0,
                provider,
                social ? "@bench" : "+999 32 100",
                "Bench",
                Optional.empty(),
                social ? Set.of(OurLine.Wish.MENTION, OurLine.Wish.ANNOYED) : Set.of(),
                Duration.ZERO,
                0);
    }

    private static Queue calls(TeamId team) {
        return new Queue(
                new QueueId(0),
                "Calls",
                true,
                Criteria.test(KnownField.CHANNEL, Operator.IS, "telephone"),
                new Ordering.Oldest(),
                Set.of(team),
                Set.of(),
                Handing.OFFERS,
                Duration.ofMinutes(2),
                Optional.of(Duration.ZERO),
                List.of());
    }

    // ------------------------------------------------------------------ posts

    private void posts(DSLContext sql, String how) throws Exception {
        int before = sql.fetchCount(POST);
        var random = new Random(7);
        long began = System.nanoTime();
        long each = Duration.ofMinutes(1).toNanos() / (POSTS / AT_ONCE);
        var sent = new ArrayList<Double>();
        for (int i = 0; i < POSTS / AT_ONCE; i++) {
            var some = new ArrayList<Map<String, Object>>();
            for (int k = 0; k < AT_ONCE; k++) {
                some.add(post(random));
            }
            long start = System.nanoTime();
            tell("social", some);
            sent.add((System.nanoTime() - start) / 1e6);
            tell("social", some);
            long due = began + (i + 1) * each;
            Thread.sleep(Duration.ofNanos(Math.max(0, due - System.nanoTime())));
        }
        double told = (System.nanoTime() - began) / 1e9;
        double read = (awaitRead(sql) - began) / 1e9;
        System.out.printf(
                "%s: %d posts told twice in %.1f s, all read after %.1f s; kept %d, tickets %d; storing %d took p95 %.0f ms%n",
                how,
                POSTS,
                told,
                read,
                sql.fetchCount(POST) - before,
                sql.fetchCount(TICKET),
                AT_ONCE,
                Millis.of(sent).p95());
    }

    private static long awaitRead(DSLContext sql) throws InterruptedException {
        while (sql.fetchExists(TOLD, TOLD.STATE.eq("NEW"))) {
            Thread.sleep(20);
        }
        return System.nanoTime();
    }

    private Map<String, Object> post(Random random) {
        String said = SAID.get(random.nextInt(SAID.size())) + " " + random.nextInt(10_000);
        String handle = "@p" + random.nextInt(1500);
        return event(
                "post-" + ++count,
                "written",
                Map.of("handle", handle, "name", "P", "followers", 10, "text", "@bench " + said));
    }

    // ------------------------------------------------------------------ calls

    private void calls(DSLContext sql) throws Exception {
        var millis = new ArrayList<Double>();
        for (int i = 0; i < CALLS; i++) {
            String call = "call-" + i;
            int before = sql.fetchCount(OFFER);
            long start = System.nanoTime();
            tell(
                    "telephone",
                    List.of(event(call, "began", Map.of("number", "+999 32 " + (100_000 + i), "line", "+999 32 100"))));
            while (sql.fetchCount(OFFER) == before && System.nanoTime() - start < 10_000_000_000L) {
                Thread.sleep(3);
            }
            millis.add((System.nanoTime() - start) / 1e6);
            tell("telephone", List.of(event(call, "ended", Map.of())));
            while (sql.fetchExists(OFFER, OFFER.STATE.eq("OPEN"))) {
                Thread.sleep(20);
            }
        }
        Millis took = Millis.of(millis);
        System.out.printf(
                "a call is offered after it began to ring: %d, p50 %.0f ms  p95 %.0f ms  at most %.0f ms%n",
                took.times(), took.p50(), took.p95(), took.most());
    }

    // ------------------------------------------------------------------ telling

    private static Map<String, Object> event(String subject, String what, Map<String, Object> more) {
        var event = new LinkedHashMap<String, Object>();
        event.put("id", subject + "-" + what);
        event.put("subject", subject);
        event.put("at", CLOCK.instant().toString());
        event.put("what", what);
        event.putAll(more);
        return event;
    }

    private void tell(String word, List<Map<String, Object>> events) throws IOException, InterruptedException {
        String body = JSON.writeValueAsString(Map.of("told", events));
        String time = Long.toString(CLOCK.instant().getEpochSecond());
        String signature = Secrets.sign(SECRET.getBytes(StandardCharsets.UTF_8), time + "." + body);
        int status = client.send(
                        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + Child.PORT + "/told/" + word))
                                .header("Content-Type", "application/json")
                                .header("Rafter-Time", time)
                                .header("Rafter-Signature", "hmac-sha256=" + signature)
                                .POST(HttpRequest.BodyPublishers.ofString(body))
                                .build(),
                        HttpResponse.BodyHandlers.discarding())
                .statusCode();
        if (status != 202) {
            throw new IllegalStateException("it was answered with " + status);
        }
    }
}
