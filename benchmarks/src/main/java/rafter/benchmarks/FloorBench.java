package rafter.benchmarks;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.handout.queues.Queues;
import rafter.app.house.access.Persons;
import rafter.core.criteria.Criteria;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Queue;

/** Ten thousand tickets handed out by two nodes among two hundred people, the floor with them, and how soon it shows a change. */
final class FloorBench {

    private static final int TICKETS = 10_000;
    private static final int PEOPLE = 200;
    private static final int LIMIT = 60;
    private static final int WARM = 100;
    private static final int CHANGES = 40;

    private static final String CROWD = """
            insert into person (name, address, password_hash, role) select 'Person ' || n, 'p' || n || '@ternpassage.example', 'none', 'AGENT'
            from generate_series(1, %1$d) n;
            insert into team_member (team_id, person_id) select (select max(id) from team), id from person where role = 'AGENT';
            insert into working (person_id, presence, taking, units, since, seen_until)
            select id, 'HERE', true, %2$d, now(), now() + interval '1 day' from person where role = 'AGENT';
            insert into skill (name, description) select 'Skill ' || n, '' from generate_series(1, 40) n;
            insert into person_skill (person_id, skill_id, level) select p.id, s.id, 'ABLE' from person p, skill s where (p.id + s.id) %% 5 = 0;
            insert into contact (name, created_at) select 'Customer ' || n, now() from generate_series(1, 1000) n;
            insert into ticket (number, subject, channel, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, form)
            select 100000 + n, 'Request ' || n, 'email', (select min(id) from contact) + n %% 1000, 'new', 'OURS', true, 'P3', now(), now(), now(), 1, 2, 1
            from generate_series(1, %3$d) n;
            insert into ticket_event (ticket, seq, at, kind, version, actor, body)
            select number, 1, opened_at, 'opened', 1, 'contact:' || contact_id, jsonb_build_object('origin', 'CUSTOMER', 'channel', 'email', 'subject', subject, 'contact', contact_id, 'priority', priority) from ticket
            union all select number, 2, opened_at, 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number) from ticket;
            insert into queue_entry (ticket, queue_id, since, needs, whys) select number, (select max(id) from queue), opened_at, '{}', '{}' from ticket;
            update background_work set finished_at = now();
            analyze;
            """;

    private final int port;

    FloorBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_floor");
        try (ConfigurableApplicationContext context = RehearsalBench.context(database)) {
            TeamId team = context.getBean(Persons.class).addTeam("Everybody", new PersonId(1));
            context.getBean(Queues.class).save(queue(team), 0, new PersonId(1));
        }
        try (Connection sql = Bench.connect(database);
                var statement = sql.createStatement()) {
            statement.execute(CROWD.formatted(PEOPLE, LIMIT, TICKETS));
            try (Child one = Child.start(database, List.of(), "--rafter.intake.workers=0");
                    Child other = Child.beside(database, "--rafter.intake.workers=0")) {
                one.awaitPort();
                long first = await(sql, 1);
                long all = await(sql, TICKETS);
                System.out.printf(
                        "%d tickets by two nodes: %.1f s after the first one; both alive: %s%n",
                        TICKETS, (all - first) / 1e9, one.alive() && other.alive());
            }
            System.out.println(
                    "handed out more than once: "
                            + Bench.one(
                                    sql,
                                    "select count(*) from (select ticket from ticket_event where kind = 'owner' group by 1 having count(*) > 1) t"));
            System.out.println(
                    "the most that anybody had at once, of " + LIMIT + ": "
                            + Bench.one(
                                    sql,
                                    "select max(had) from (select count(*) over (partition by body ->> 'owner' order by at, ticket) as had from ticket_event where kind = 'owner') t"));
        }
        pages(database);
    }

    private static void pages(String database) throws Exception {
        try (Child app =
                Child.start(database, List.of(), "--rafter.intake.workers=0").awaitPort()) {
            var visitor = new Visitor();
            visitor.signIn();
            visitor.measure(List.of("/floor"), WARM);
            visitor.measure("/offer");
            live(visitor);
            System.out.println("alive: " + app.alive());
        }
    }

    private static Queue queue(TeamId team) {
        return new Queue(
                new QueueId(0),
                "All",
                true,
                Criteria.everything(),
                new Ordering.Oldest(),
                Set.of(team),
                Set.of(),
                Handing.LEAST,
                Duration.ofMinutes(1),
                Optional.empty(),
                List.of());
    }

    private static long await(Connection sql, int owned) throws Exception {
        while (Bench.one(sql, "select count(*) from ticket where owner_id is not null") < owned) {
            Thread.sleep(20);
        }
        return System.nanoTime();
    }

    private static void awaitFloor(LinkedBlockingQueue<String> told) throws InterruptedException {
        String line = told.poll(5, TimeUnit.SECONDS);
        while (line != null && !line.equals("event:floor")) {
            line = told.poll(5, TimeUnit.SECONDS);
        }
    }

    /** How long it takes from a change until an open page is told, and has fetched what it shows. */
    private static void live(Visitor visitor) throws Exception {
        var told = new LinkedBlockingQueue<String>();
        Thread listening = Thread.ofVirtual().start(() -> {
            try (var lines =
                    new BufferedReader(new InputStreamReader(visitor.stream("/live"), StandardCharsets.UTF_8))) {
                for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                    told.add(line);
                }
            } catch (java.io.IOException | InterruptedException over) {
                Thread.currentThread().interrupt();
            }
        });
        String token = visitor.token();
        var millis = new ArrayList<Double>();
        for (int i = 0; i < CHANGES; i++) {
            Thread.sleep(100);
            told.clear();
            long start = System.nanoTime();
            visitor.send(
                    "/presence/of/" + (5 + i), "presence=" + (i % 2 == 0 ? "AWAY" : "HERE") + "&taking=true", token);
            awaitFloor(told);
            visitor.get("/floor");
            millis.add((System.nanoTime() - start) / 1e6);
        }
        listening.interrupt();
        Millis took = Millis.of(millis);
        System.out.printf(
                "from a change to the floor that shows it: p50 %.0f ms  p95 %.0f ms%n", took.p50(), took.p95());
        System.out.println(took.most() + " ms at most");
    }
}
