package rafter.benchmarks;

import java.io.File;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The built application as a process of its own. */
final class Child implements AutoCloseable {

    static final int PORT = 8477;

    private final Process process;

    private Child(Process process) {
        this.process = process;
    }

    static Child start(String database, List<String> jvm, String... more) throws IOException {
        return start(PORT, database, jvm, more);
    }

    /** Starts it once and ends it, so that a database has its tables. */
    static void migrate(String database) throws Exception {
        try (Child first =
                start(database, List.of(), "--rafter.intake.workers=0").awaitPort()) {
            System.out.println("the schema is there; alive: " + first.alive());
        }
    }

    /** A second node on the same database. */
    static Child beside(String database, String... more) throws IOException {
        return start(PORT + 1, database, List.of(), more);
    }

    private static Child start(int port, String database, List<String> jvm, String... more) throws IOException {
        var command = new ArrayList<String>();
        command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
        command.addAll(List.of("-XX:+UseSerialGC", "-Duser.timezone=UTC"));
        // As `./rafter serve` starts it.
        Path cache = Path.of("app/target/run/rafter.aot");
        if (Files.exists(cache)) {
            command.add("-XX:AOTCache=" + cache);
        }
        command.addAll(jvm);
        command.addAll(List.of(
                "-jar",
                "app/target/run/rafter-app-exec.jar",
                "--spring.datasource.url=" + database,
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter",
                "--server.port=" + port,
                "--server.address=127.0.0.1",
                "--rafter.secret-key=bench",
                "--rafter.first-administrator=bench@ternpassage.example",
                "--rafter.first-password=high-water-mark",
                "--logging.level.root=warn"));
        command.addAll(List.of(more));
        return new Child(new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.to(new File("/tmp/rafter-bench.log")))
                .start());
    }

    Child awaitPort() throws InterruptedException {
        for (int i = 0; i < 6000; i++) {
            try (var socket = new Socket(InetAddress.getLoopbackAddress(), PORT)) {
                return this;
            } catch (IOException notYet) {
                Thread.sleep(10);
            }
        }
        throw new IllegalStateException("the application did not start; see /tmp/rafter-bench.log");
    }

    boolean alive() {
        return process.isAlive();
    }

    /** The memory that the process holds, in megabytes. */
    long residentMegabytes() throws IOException {
        return Files.readAllLines(Path.of("/proc/" + process.pid() + "/status")).stream()
                .filter(line -> line.startsWith("VmRSS"))
                .mapToLong(line -> Long.parseLong(line.replaceAll("\\D+", "")) / 1024)
                .findFirst()
                .orElse(0);
    }

    @Override
    public void close() throws InterruptedException {
        process.destroy();
        process.waitFor();
    }
}
