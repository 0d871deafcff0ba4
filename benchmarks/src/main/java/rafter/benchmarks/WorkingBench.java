package rafter.benchmarks;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How fast the work on a ticket goes: a long one with many files, drafts, a macro on a thousand, and contacts brought in by the ten thousand. */
final class WorkingBench {

    private static final int WARM = 200;
    private static final int DRAFTS = 200;
    private static final int IMPORTED = 50_000;
    private static final long LONG_ONE = 100_005;

    /** Fifty files on the ticket with two hundred entries, and a macro of four acts. */
    private static final String MORE = """
            insert into file (sha256, size, content, created_at)
            select sha256(convert_to('file ' || n, 'UTF8')), 40000, convert_to(repeat('x', 40000), 'UTF8'), now() from generate_series(1, 50) n;
            insert into attachment (message_id, sha256, name, media_type, size, position)
            select 900000000 + n * 3, sha256(convert_to('file ' || n, 'UTF8')), 'papers-' || n || '.pdf', 'application/pdf', 40000, 0
            from generate_series(1, 50) n;
            insert into macro (name, steps, changed_by, changed_at)
            select 'Storm', '[{"form":"tag","typed":{"tag":"storm"},"offered":false},{"form":"priority","typed":{"priority":"P2"},"offered":false},
                {"form":"note","typed":{"text":"The sailing of {ticket} is off."},"offered":false},
                {"form":"task","typed":{"task":"Tell them","person":"me"},"offered":false}]'::jsonb, max(id), now() from person;
            """;

    private final int port;

    WorkingBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_working");
        Child.migrate(database);
        long macro;
        try (Connection sql = Bench.connect(database);
                var statement = sql.createStatement()) {
            Bench.fill(sql, 20_000, 5, 3);
            statement.execute(MORE);
            statement.execute("vacuum analyze");
            macro = Bench.one(sql, "select max(id) from macro");
        }
        try (Child app =
                Child.start(database, List.of(), "--rafter.intake.workers=0").awaitPort()) {
            var visitor = new Visitor();
            visitor.signIn();
            String ticket = "/tickets/" + LONG_ONE;
            List<String> pages =
                    List.of(ticket, ticket + "/alike", ticket + "/files", "/today", "/worklist?view=my-turn");
            visitor.measure(pages, WARM);
            drafts(visitor, ticket);
            macro(visitor, macro);
            imported(visitor, "Given");
            imported(visitor, "Called");
            try (Connection sql = Bench.connect(database)) {
                System.out.println(Bench.one(sql, "select count(*) from contact") + " contacts");
            }
            visitor.measure(List.of("/people", "/people?q=family7", "/people/duplicates"), WARM / 2);
            System.out.println("alive: " + app.alive());
        }
    }

    private static void drafts(Visitor visitor, String ticket) throws IOException, InterruptedException {
        String text =
                URLEncoder.encode("<p>" + "The slot is held for you. ".repeat(40) + "</p>", StandardCharsets.UTF_8);
        String token = visitor.token();
        double[] millis = new double[DRAFTS];
        for (int i = 0; i < 2 * DRAFTS; i++) {
            long start = System.nanoTime();
            visitor.send(ticket + "/drafts/reply", "html=" + text + i + "&to=&cc=&then=CUSTOMER&version=" + i, token);
            millis[i % DRAFTS] = (System.nanoTime() - start) / 1e6;
        }
        Millis took = new Millis(millis);
        System.out.printf("a draft saved: p50 %.1f ms  p95 %.1f ms%n", took.p50(), took.p95());
    }

    private static void macro(Visitor visitor, long macro) throws IOException, InterruptedException {
        var numbers = new StringBuilder();
        for (int n = 1; n <= 1000; n++) {
            numbers.append(n > 1 ? "," : "").append(100_000 + n * 5);
        }
        String form = "act=macro&macro=" + macro + "&list=view%3Dopen&numbers="
                + URLEncoder.encode(numbers.toString(), StandardCharsets.UTF_8);
        long start = System.nanoTime();
        String address = visitor.post("/batches", form);
        await(visitor, address);
        System.out.printf("a macro of four acts on 1,000 tickets: %.1f s%n", (System.nanoTime() - start) / 1e9);
    }

    private static void await(Visitor visitor, String address) throws IOException, InterruptedException {
        for (int i = 0; i < 1_200 && !visitor.get(address).contains("Done."); i++) {
            // As a page does that shows how far it is.
            Thread.sleep(500);
        }
    }

    /** The second time all of them are there, and each is called otherwise. */
    private static void imported(Visitor visitor, String given) throws IOException, InterruptedException {
        var csv = new StringBuilder("Name,E-mail,Phone,Company,Language\n");
        for (int i = 0; i < IMPORTED; i++) {
            csv.append(given)
                    .append(i % 400)
                    .append(" Family")
                    .append(i / 40)
                    .append(",person")
                    .append(i)
                    .append("@works")
                    .append(i % 500)
                    .append(".example,+999 55 ")
                    .append(100_000 + i)
                    .append(",Company ")
                    .append(1 + i % 500)
                    .append(",de\n");
        }
        long start = System.nanoTime();
        String page = visitor.upload("/people/import", "contacts.csv", csv.toString());
        System.out.printf("50,000 rows read: %.1f s%n", (System.nanoTime() - start) / 1e9);
        long tried = System.nanoTime();
        visitor.post(
                page,
                "target=name&target=address&target=phone&target=company&target=language&charset=UTF-8&updates=true");
        System.out.printf("tried: %.1f s%n", (System.nanoTime() - tried) / 1e9);
        long begun = System.nanoTime();
        visitor.post(page + "/begin", "");
        await(visitor, page);
        System.out.printf("imported: %.1f s%n", (System.nanoTime() - begun) / 1e9);
        Matcher words = Pattern.compile("rows: ([^<]*)<").matcher(visitor.get(page));
        System.out.println(words.find() ? words.group(1) : "no words");
    }
}
