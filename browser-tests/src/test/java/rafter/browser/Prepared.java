package rafter.browser;

import java.io.File;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;

/**
 * What starts of Rafter are made from: its classes as they stood after a start that ended by itself, and two databases to copy. They are made once
 * for these class files, whichever process of these tests comes first.
 */
final class Prepared {

    /** As a first start leaves it behind. */
    private static final String MIGRATED = "rafter_migrated_test";
    /** With the demo's people and settings, without its history. */
    private static final String WORLD = "rafter_world_test";

    private static final String SERVER = System.getProperty("rafter.test.db.url");
    private static final Path LOCK = Path.of("target", "prepared.lock");
    private static final Path READY = Path.of("target", "prepared");
    private static final Path CLASSES = Path.of("target", "rafter.classes").toAbsolutePath();
    /** Java keeps classes together with what it learned of them from version 25 on, before that without. */
    private static final boolean AHEAD = Runtime.version().feature() >= 25;

    private static final List<String> MAKE = AHEAD
            ? List.of("-XX:AOTCacheOutput=" + CLASSES, "-Dspring.context.exit=onRefresh")
            : List.of("-XX:ArchiveClassesAtExit=" + CLASSES, "-Xlog:cds=off", "-Dspring.context.exit=onRefresh");
    private static final List<String> USE =
            AHEAD ? List.of("-XX:AOTCache=" + CLASSES) : List.of("-XX:SharedArchiveFile=" + CLASSES, "-Xshare:auto");

    private Prepared() {}

    /** What a start says to Java to use the kept classes; nothing where they could not be kept, for it works without them. */
    static List<String> classes() {
        return Files.exists(CLASSES) ? USE : List.of();
    }

    /** A database of this name as a first start leaves it behind; its address. */
    static String migrated(String name) throws Exception {
        return copy(MIGRATED, name);
    }

    /** A database of this name with the demo's people and settings, its mailboxes at these ports; its address. */
    static String world(String name, int smtp, int imap) throws Exception {
        String database = copy(WORLD, name);
        try (var connection = DriverManager.getConnection(database, "rafter", "rafter");
                var statement = connection.prepareStatement("update mailbox set smtp_port = ?, imap_port = ?")) {
            statement.setInt(1, smtp);
            statement.setInt(2, imap);
            statement.execute();
        }
        return database;
    }

    private static synchronized String copy(String from, String name) throws Exception {
        try (var channel = FileChannel.open(LOCK, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                var held = channel.lock()) {
            if (!upToDate()) {
                prepare();
            }
            return fresh(name, from);
        }
    }

    private static String fresh(String name, String from) throws SQLException {
        try (var connection = DriverManager.getConnection(SERVER, "rafter", "rafter");
                var statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name + " template " + from);
        }
        return SERVER.replaceFirst("/[^/]*$", "/" + name);
    }

    /** It is of use as long as none of the files it came from was built anew, and the databases are there. */
    private static boolean upToDate() throws IOException, SQLException {
        if (!Files.exists(READY)) {
            return false;
        }
        FileTime made = Files.getLastModifiedTime(READY);
        for (String jar : Processes.jars().split(File.pathSeparator)) {
            if (Files.getLastModifiedTime(Path.of(jar)).compareTo(made) > 0) {
                return false;
            }
        }
        try (var sql = DriverManager.getConnection(SERVER, "rafter", "rafter")) {
            String there = "select count(*) from pg_database where datname in ('" + MIGRATED + "', '" + WORLD + "')";
            return Processes.count(sql, there) == 2;
        }
    }

    private static void prepare() throws Exception {
        Files.deleteIfExists(READY);
        Files.deleteIfExists(CLASSES);
        // Side by side, for everybody waits for both; the world makes its own tables, for the other's are there only at
        // its end.
        Process migrated = Processes.start(
                "prepare",
                MAKE,
                "rafter.app.RafterApplication",
                Processes.at(fresh(MIGRATED, "template1"), "--server.port=0", "--rafter.secret-key=none"));
        // Ports that nobody listens on: whoever copies it names theirs.
        Process world = Processes.start(
                "loader",
                List.of(),
                "rafter.outside.demo.DemoLoader",
                Processes.at(
                        fresh(WORLD, "template1"), "--demo.mode=empty", "--demo.smtp-port=1", "--demo.imap-port=1"));
        Processes.awaitEnd(migrated);
        Processes.awaitEnd(world);
        Files.createFile(READY);
    }
}
