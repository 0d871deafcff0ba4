package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;

/** Starts the parts of Rafter as processes of their own, on this test's class path. */
final class Processes {

    /** Which of the processes that run tests this is. */
    static final String FORK = System.getProperty("rafter.test.fork", "1");

    private static final Path LOGS = Path.of("target", "logs", FORK);

    private Processes() {}

    /** The one number that a query answers. */
    static int count(Connection sql, String query) throws SQLException {
        try (var statement = sql.createStatement();
                var result = statement.executeQuery(query)) {
            result.next();
            return result.getInt(1);
        }
    }

    /** What is waited for. */
    interface Check {
        boolean holds() throws SQLException;
    }

    /**
     * Waits until something holds, while a node lives; at most ten minutes, for what does not come by then never does. It does not ask so often
     * that the database has less time for the node.
     */
    static void await(Process node, Check check) throws Exception {
        Instant end = Instant.now().plus(Duration.ofMinutes(10));
        while (!check.holds()) {
            assertThat(Instant.now()).isBefore(end);
            assertThat(node.isAlive()).isTrue();
            Thread.sleep(20);
        }
    }

    /** Waits until a process has ended well by itself. */
    static void awaitEnd(Process process) throws InterruptedException {
        if (!process.waitFor(10, TimeUnit.MINUTES)) {
            process.destroyForcibly();
            throw new IllegalStateException("a process did not end; see target/logs");
        }
        if (process.exitValue() != 0) {
            throw new IllegalStateException("a process failed; see target/logs");
        }
    }

    static int freePort() throws IOException {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    /**
     * Starts a part of Rafter.
     *
     * @param log the name of its log, without the ending
     * @param jvm what Java is told beside what it is always told
     */
    static Process start(String log, List<String> jvm, String main, List<String> args) throws IOException {
        LOGS.toFile().mkdirs();
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-Duser.timezone=UTC"));
        command.addAll(jvm);
        command.addAll(List.of("-cp", jars(), main));
        command.addAll(args);
        File file = LOGS.resolve(log + ".log").toFile();
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(file))
                .start();
    }

    /** The class path without the tests' own folders, which classes that are kept do not allow. */
    static String jars() {
        String all = System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
        return Arrays.stream(all.split(File.pathSeparator))
                .filter(entry -> Files.isRegularFile(Path.of(entry)))
                .collect(Collectors.joining(File.pathSeparator));
    }

    /** What Rafter is told of its database, and more. */
    static List<String> at(String database, String... more) {
        var args = new ArrayList<>(List.of(
                "--spring.datasource.url=" + database,
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter"));
        args.addAll(List.of(more));
        return args;
    }

    static Process rafter(String log, String database, int port, String... more) throws IOException {
        List<String> args = at(
                database,
                "--server.port=" + port,
                "--server.address=127.0.0.1",
                "--rafter.secret-key=demo-key-not-for-real-use",
                "--rafter.sending.hold=0s",
                // Nodes that live for seconds need no ten connections at once.
                "--spring.datasource.hikari.minimum-idle=2",
                "--rafter.intake.poll=1s");
        args.addAll(List.of(more));
        return start(log, Prepared.classes(), "rafter.app.RafterApplication", args);
    }

    static void awaitPort(int port, Process process) throws InterruptedException {
        for (int i = 0; i < 6000; i++) {
            try (var socket = new Socket("127.0.0.1", port)) {
                return;
            } catch (IOException notYet) {
                if (!process.isAlive()) {
                    throw new IllegalStateException("the process ended; see target/logs");
                }
                Thread.sleep(100);
            }
        }
        throw new IllegalStateException("nothing answers on " + port);
    }
}
