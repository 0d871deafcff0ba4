package rafter.benchmarks;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.util.List;
import java.util.Random;
import org.springframework.boot.SpringApplication;
import rafter.app.RafterApplication;
import rafter.app.arrival.intake.Inbox;
import rafter.app.arrival.mail.MailServer;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.core.id.PersonId;

/** How fast stored raw messages become entries on tickets, with four workers and a heap of 512 MB. */
final class IntakeBench {

    private static final int MESSAGES = Integer.getInteger("messages", 20_000);

    private final int port;

    IntakeBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_intake");
        stage(database);
        try (Connection sql = Bench.connect(database);
                Child app = Child.start(
                                database,
                                List.of("-Xmx512m", System.getProperty("child", "-XX:+UseSerialGC")),
                                "--rafter.intake.watch=false",
                                "--db-scheduler.enabled=false",
                                "--rafter.intake.workers=" + System.getProperty("workers", "4"))
                        .awaitPort()) {
            long started = System.nanoTime();
            long before = waiting(sql);
            long nextReport = 0;
            long half = 0;
            while (waiting(sql) > 0 && app.alive()) {
                Thread.sleep(200);
                long done = before - waiting(sql);
                if (done >= nextReport) {
                    System.out.printf(
                            "%6d done after %.1f s, %d MB resident%n",
                            done, (System.nanoTime() - started) / 1e9, app.residentMegabytes());
                    nextReport += 4000;
                }
                half = half == 0 && done >= before / 2 ? System.nanoTime() : half;
            }
            tell(sql, before, started, half, app.residentMegabytes());
        }
    }

    private static void tell(Connection sql, long messages, long started, long half, long megabytes) throws Exception {
        long now = System.nanoTime();
        double seconds = (now - started) / 1e9;
        System.out.printf(
                "the second half, when the code is warm: %.0f a second%n", messages / 2.0 / ((now - half) / 1e9));
        System.out.printf(
                "%d messages in %.1f s: %.0f a second; %d tickets, %d set aside, %d MB resident%n",
                messages,
                seconds,
                messages / seconds,
                Bench.one(sql, "select count(*) from ticket"),
                Bench.one(sql, "select count(*) from inbound where state = 'ASIDE'"),
                megabytes);
    }

    private static long waiting(Connection sql) throws Exception {
        return Bench.one(sql, "select count(*) from inbound where state = 'WAITING'");
    }

    /** A third are plain, a third formatted with a quoted rest, a third carry a file; one in five answers an earlier one. */
    private static void stage(String database) {
        var random = new Random(7);
        try (var context = SpringApplication.run(
                RafterApplication.class,
                "--server.port=0",
                "--spring.datasource.url=" + database,
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter",
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--db-scheduler.enabled=false",
                "--rafter.secret-key=bench",
                "--logging.level.root=warn")) {
            long mailbox = context.getBean(Mailboxes.class).save(help(), new PersonId(0));
            Inbox inbox = context.getBean(Inbox.class);
            for (int i = 0; i < MESSAGES; i++) {
                inbox.receive(
                        mailbox, java.util.Optional.empty(), message(i, random).getBytes(StandardCharsets.UTF_8));
            }
        }
    }

    private static Mailbox help() {
        var server = new MailServer("127.0.0.1", 1, MailServer.Security.NONE, "", "");
        return new Mailbox(
                0,
                "Help",
                "help@ternpassage.example",
                java.util.Optional.empty(),
                false,
                true,
                Mailbox.AfterFetch.MARK_READ,
                server,
                "INBOX",
                server,
                java.util.Optional.empty(),
                0,
                new Mailbox.Status(Mailbox.Health.NEW, "", java.util.Optional.empty()),
                0);
    }

    private static String message(int i, Random random) {
        boolean answers = i > 100 && i % 5 == 0;
        int to = answers ? random.nextInt(i) : i;
        int sender = answers ? to % 3000 : i % 3000;
        String head = "From: Somebody <s" + sender + "@post.example>\nTo: help@ternpassage.example\nSubject: Request "
                + i + "\nMessage-ID: <" + i + "@post.example>\n"
                + (answers ? "In-Reply-To: <" + to + "@post.example>\n" : "") + "MIME-Version: 1.0\n";
        String words = "Is the sailing at 07:40 still on? I have a trailer of 14 m. ".repeat(1 + random.nextInt(20));
        return switch (i % 3) {
            case 0 ->
                head + "Content-Type: text/plain; charset=utf-8\n\n" + words + "\n\nOn Monday Help wrote:\n> " + words;
            case 1 ->
                head + "Content-Type: text/html; charset=utf-8\n\n<div>" + words
                        + "</div><div>On Monday Help wrote:</div><blockquote>" + words + "</blockquote>";
            default ->
                head + "Content-Type: multipart/mixed; boundary=b\n\n--b\nContent-Type: text/plain; charset=utf-8\n\n"
                        + words
                        + "\n--b\nContent-Type: application/pdf; name=slot.pdf\nContent-Transfer-Encoding: base64\n\n"
                        + java.util.Base64.getMimeEncoder().encodeToString(bytes(random)) + "\n--b--\n";
        };
    }

    private static byte[] bytes(Random random) {
        byte[] bytes = new byte[20_000];
        random.nextBytes(bytes);
        return bytes;
    }
}
