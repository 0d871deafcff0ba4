package rafter.benchmarks;

import java.sql.Connection;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.RafterApplication;
import rafter.app.promises.policies.Rehearsals;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.id.PersonId;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;

/** How long a rehearsal over a hundred thousand tickets takes, and how much memory. */
final class RehearsalBench {

    private final int port;

    RehearsalBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_rehearsal");
        try (ConfigurableApplicationContext context = context(database)) {
            try (Connection sql = Bench.connect(database)) {
                Bench.fill(sql, 100_000, 5, 3);
            }
            TargetDrafts drafts = context.getBean(TargetDrafts.class);
            drafts.save(stricter(drafts.current().book()), drafts.current().version(), new PersonId(1), "benchmark");
            Rehearsals rehearsals = context.getBean(Rehearsals.class);
            for (int i = 0; i < 3; i++) {
                long id = rehearsals.start(
                        Instant.parse("2000-01-01T00:00:00Z"),
                        context.getBean(Clock.class).instant(),
                        new PersonId(1));
                long start = System.nanoTime();
                rehearsals.run(id);
                double seconds = (System.nanoTime() - start) / 1e9;
                Rehearsals.Run run = rehearsals.find(id);
                Runtime jvm = Runtime.getRuntime();
                System.out.printf(
                        "%d tickets rehearsed in %.1f s, %d clocks would have ended otherwise, heap at most %d MB%s%n",
                        run.work().done(),
                        seconds,
                        run.result().map(r -> r.changedTotal()).orElse(-1L),
                        jvm.totalMemory() >> 20,
                        run.work().failure());
            }
        }
    }

    static ConfigurableApplicationContext context(String database) {
        return SpringApplication.run(
                RafterApplication.class,
                "--server.port=0",
                "--spring.datasource.url=" + database,
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter",
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--rafter.steps.enabled=false",
                "--rafter.rules.enabled=false",
                "--db-scheduler.enabled=false",
                "--rafter.secret-key=bench",
                "--rafter.first-administrator=bench@ternpassage.example",
                "--rafter.first-password=high-water-mark",
                "--logging.level.root=warn");
    }

    private static PromiseBook stricter(PromiseBook book) {
        Policy all = book.policies().getFirst();
        var goals = new EnumMap<Objective, Goal>(all.goals());
        goals.replaceAll((objective, goal) -> {
            var within = new EnumMap<>(goal.within());
            within.replaceAll((priority, duration) -> duration.dividedBy(2).plus(Duration.ofMinutes(10)));
            return new Goal(within, goal.held(), goal.share(), goal.automaticMeets());
        });
        return book.withPolicies(List.of(new Policy(
                all.id(), all.name(), all.description(), true, all.criteria(), all.calendar(), goals, List.of())));
    }
}
