package rafter.browser;

import java.io.File;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** Starts the parts of Rafter as processes of their own, on this test's class path. */
final class Processes {

    private static final Path LOGS = Path.of("target", "logs");

    private Processes() {}

    /** A database of this name, made anew; its address. */
    static String freshDatabase(String name) throws SQLException {
        String build = System.getProperty("rafter.test.db.url");
        try (var connection = DriverManager.getConnection(build, "rafter", "rafter"); var statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name);
        }
        return build.replaceFirst("/[^/]*$", "/" + name);
    }

    static int freePort() throws IOException {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    static Process start(String log, String main, String... args) throws IOException {
        LOGS.toFile().mkdirs();
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC", "-Duser.timezone=UTC",
                "-cp", System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")), main));
        command.addAll(List.of(args));
        File file = LOGS.resolve(log + ".log").toFile();
        return new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(ProcessBuilder.Redirect.appendTo(file)).start();
    }

    static Process rafter(String log, String database, int port, String... more) throws IOException {
        var args = new ArrayList<>(List.of(
                "--spring.datasource.url=" + database, "--spring.datasource.username=rafter", "--spring.datasource.password=rafter", "--server.port=" + port,
                "--server.address=127.0.0.1", "--rafter.secret-key=demo-key-not-for-real-use", "--rafter.intake.poll=1s"));
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
