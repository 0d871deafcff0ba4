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
import java.nio.file.attribute.FileTime;
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
    private static final Path CLASSES = Path.of("target", "rafter.classes").toAbsolutePath();
    /** Java keeps classes together with what it learned of them from version 25 on, before that without. */
    private static final boolean AHEAD = Runtime.version().feature() >= 25;

    private static final List<String> AHEAD_MAKE = List.of("-XX:AOTCacheOutput=" + CLASSES);
    private static final List<String> AHEAD_USE = List.of("-XX:AOTCache=" + CLASSES);
    private static final List<String> ARCHIVE_MAKE = List.of("-XX:ArchiveClassesAtExit=" + CLASSES, "-Xlog:cds=off");
    private static final List<String> ARCHIVE_USE = List.of("-XX:SharedArchiveFile=" + CLASSES, "-Xshare:auto");
    private static boolean prepareTried;

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
        return start(log, prepared(), main, args);
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

    /** The class path without the tests' own folders, which classes that are kept do not allow. */
    private static String jars() {
        String all = System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
        return Arrays.stream(all.split(File.pathSeparator))
                .filter(entry -> Files.isRegularFile(Path.of(entry)))
                .collect(Collectors.joining(File.pathSeparator));
    }

    /**
     * What makes a start quicker: Rafter's classes as they stood after a start that ended by itself, made once for these class files, whichever
     * process of these tests comes first. Nothing when they cannot be kept, for the tests work without it.
     */
    private static synchronized List<String> prepared() throws IOException {
        Path lock = CLASSES.resolveSibling("classes.lock");
        try (var channel = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                var held = channel.lock()) {
            if (!prepareTried && !upToDate()) {
                prepareTried = true;
                Files.deleteIfExists(CLASSES);
                prepare();
            }
        }
        return Files.exists(CLASSES) ? (AHEAD ? AHEAD_USE : ARCHIVE_USE) : List.of();
    }

    /** Classes that were kept are of use as long as none of the files they came from was built anew. */
    private static boolean upToDate() throws IOException {
        if (!Files.exists(CLASSES)) {
            return false;
        }
        FileTime made = Files.getLastModifiedTime(CLASSES);
        for (String jar : jars().split(File.pathSeparator)) {
            if (Files.getLastModifiedTime(Path.of(jar)).compareTo(made) > 0) {
                return false;
            }
        }
        return true;
    }

    private static void prepare() throws IOException {
        var jvm = new ArrayList<>(AHEAD ? AHEAD_MAKE : ARCHIVE_MAKE);
        jvm.add("-Dspring.context.exit=onRefresh");
        try {
            Process once = start(
                    "prepare",
                    jvm,
                    "rafter.app.RafterApplication",
                    "--spring.datasource.url=" + freshDatabase("rafter_prepare_test"),
                    "--spring.datasource.username=rafter",
                    "--spring.datasource.password=rafter",
                    "--server.port=0",
                    "--rafter.secret-key=none");
            if (!once.waitFor(180, TimeUnit.SECONDS)) {
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
        return start(log, "rafter.app.RafterApplication", args.toArray(new String[0]));
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
