package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
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
    private static final Path ARCHIVE = Path.of("target", "rafter.jsa").toAbsolutePath();
    private static boolean archiveTried;

    private Processes() {}

    /** A database of this name, made anew; its address. */
    static String freshDatabase(String name) throws SQLException {
        String build = System.getProperty("rafter.test.db.url");
        try (var connection = DriverManager.getConnection(build, "rafter", "rafter");
                var statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name);
        }
        return build.replaceFirst("/[^/]*$", "/" + name);
    }

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

    /** Waits at most two minutes until something holds, while a node lives. */
    static void await(Process node, Check check) throws Exception {
        Instant end = Instant.now().plus(Duration.ofSeconds(120));
        while (!check.holds()) {
            assertThat(Instant.now()).isBefore(end);
            assertThat(node.isAlive()).isTrue();
            Thread.sleep(5);
        }
    }

    static int freePort() throws IOException {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    static Process start(String log, String main, String... args) throws IOException {
        return start(log, List.of(), main, args);
    }

    private static Process start(String log, List<String> jvm, String main, String... args) throws IOException {
        LOGS.toFile().mkdirs();
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-Duser.timezone=UTC"));
        command.addAll(jvm);
        command.addAll(List.of("-cp", jars(), main));
        command.addAll(List.of(args));
        File file = LOGS.resolve(log + ".log").toFile();
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(file))
                .start();
    }

    /** The class path without the tests' own folders, which an archive of classes does not allow. */
    private static String jars() {
        String all = System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
        return Arrays.stream(all.split(File.pathSeparator))
                .filter(entry -> Files.isRegularFile(Path.of(entry)))
                .collect(Collectors.joining(File.pathSeparator));
    }

    /**
     * An archive of Rafter's classes, made by a start that ends by itself, so that the many starts of these tests are quicker; nothing when it
     * cannot be made, for they work without it.
     */
    private static synchronized List<String> archived() throws IOException {
        Path lock = ARCHIVE.resolveSibling("rafter.jsa.lock");
        try (var channel = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                var held = channel.lock()) {
            if (!Files.exists(ARCHIVE) && !archiveTried) {
                makeArchive();
            }
        }
        return Files.exists(ARCHIVE) ? List.of("-XX:SharedArchiveFile=" + ARCHIVE, "-Xshare:auto") : List.of();
    }

    private static void makeArchive() throws IOException {
        archiveTried = true;
        try {
            Process once = start(
                    "archive",
                    List.of("-XX:ArchiveClassesAtExit=" + ARCHIVE, "-Xlog:cds=off", "-Dspring.context.exit=onRefresh"),
                    "rafter.app.RafterApplication",
                    "--spring.datasource.url=" + freshDatabase("rafter_archive_test"),
                    "--spring.datasource.username=rafter",
                    "--spring.datasource.password=rafter",
                    "--server.port=0",
                    "--rafter.secret-key=none");
            if (!once.waitFor(120, TimeUnit.SECONDS)) {
                once.destroyForcibly();
            }
        } catch (SQLException e) {
            throw new IOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    static Process rafter(String log, String database, int port, String... more) throws IOException {
        var args = new ArrayList<>(List.of(
                "--spring.datasource.url=" + database,
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter",
                "--server.port=" + port,
                "--server.address=127.0.0.1",
                "--rafter.secret-key=demo-key-not-for-real-use",
                "--rafter.sending.hold=0s",
                "--rafter.intake.poll=1s"));
        args.addAll(List.of(more));
        return start(log, archived(), "rafter.app.RafterApplication", args.toArray(new String[0]));
    }

    static void awaitPort(int port, Process process) throws InterruptedException {
        for (int i = 0; i < 900; i++) {
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
