package rafter.benchmarks;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;

/** Runs the benchmarks that are named, or all: {@code core}, {@code intake}, {@code pages}, {@code start}, {@code timers}, {@code working}, {@code rehearsal}, {@code rules}, {@code worklist}, {@code floor}, {@code chat}, {@code voices}; {@code rulebook} is the part of the rules that needs a database. */
public final class Bench {

    private Bench() {}

    /**
     * Runs them.
     *
     * @param args the port of the database server, then the names
     */
    public static void main(String[] args) throws Exception {
        int port = Integer.parseInt(args[0]);
        List<String> names = args.length > 1
                ? List.of(args).subList(1, args.length)
                : List.of(
                        "core",
                        "intake",
                        "pages",
                        "people",
                        "working",
                        "start",
                        "timers",
                        "rehearsal",
                        "rules",
                        "worklist",
                        "floor",
                        "chat",
                        "voices");
        for (String name : names) {
            System.out.println("== " + name + "; " + MachineSpeed.now());
            run(name, port);
            System.out.println("== " + name + " is done; " + MachineSpeed.now());
        }
    }

    private static void run(String name, int port) throws Exception {
        switch (name) {
            case "core" ->
                jmh(WorkingTimeBenchmark.class, ClockBenchmark.class, RulesBenchmark.class, RoutingBenchmark.class);
            case "intake" -> new IntakeBench(port).run();
            case "pages" -> new PagesBench(port).run();
            case "working" -> new WorkingBench(port).run();
            case "people" -> new PeopleBench(port).run();
            case "start" -> new StartBench(port).run();
            case "timers" -> new TimersBench(port).run();
            case "worklist" -> new WorklistBench(port).run();
            case "rules" -> {
                jmh(RulesBenchmark.class);
                new RulesBench(port).run();
            }
            case "routing" -> jmh(RoutingBenchmark.class);
            case "floor" -> new FloorBench(port).run();
            case "chat" -> new ChatBench(port).run();
            case "voices" -> new VoicesBench(port).run();
            case "rulebook" -> new RulesBench(port).run();
            case "rehearsal" -> new RehearsalBench(port).run();
            default -> System.out.println("There is no benchmark called " + name + ".");
        }
    }

    private static void jmh(Class<?>... benchmarks) throws RunnerException {
        var options = new OptionsBuilder();
        for (Class<?> one : benchmarks) {
            options.include(one.getSimpleName());
        }
        new Runner(options.build()).run();
    }

    /** A database of this name, made anew; its address. */
    static String fresh(int port, String name) throws SQLException {
        String base = "jdbc:postgresql://127.0.0.1:" + port + "/";
        try (Connection connection = connect(base + "postgres");
                var statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name);
        }
        return base + name;
    }

    /** Fills a database with tickets. */
    static void fill(Connection sql, int tickets, int openOneIn, int messages)
            throws SQLException, java.io.IOException {
        try (var script = Bench.class.getResourceAsStream("/pages.sql");
                var statement = sql.createStatement()) {
            String written = new String(
                    script == null ? new byte[0] : script.readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
            statement.execute(written.replace("{tickets}", Integer.toString(tickets))
                    .replace("{open}", Integer.toString(openOneIn))
                    .replace("{messages}", Integer.toString(messages)));
            // As the server would do it by and by; while pages are measured it would disturb them.
            statement.execute("vacuum analyze");
            statement.execute("checkpoint");
        }
    }

    static Connection connect(String url) throws SQLException {
        return DriverManager.getConnection(url, "rafter", "rafter");
    }

    static long one(Connection sql, String query) throws SQLException {
        try (var statement = sql.createStatement();
                var result = statement.executeQuery(query)) {
            result.next();
            return result.getLong(1);
        }
    }
}
