package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.text.Earlier;

/** No mail of any shape takes more than about twice the time when it is twice as large, and none makes the reader fail. */
class GrowthTest {

    record Shape(String name, IntFunction<String> mail) {
        @Override
        public String toString() {
            return name;
        }
    }

    private static String plain(String headers, String body) {
        return "From: a@post.example\n" + headers + "\n" + body;
    }

    private static String html(String body) {
        return plain("Content-Type: text/html\n", body);
    }

    private static Shape repeated(String name, String piece) {
        return new Shape(name, n -> html(piece.repeat(n)));
    }

    static List<Shape> shapes() {
        return List.of(
                new Shape("attribution after attribution", n -> plain("", "On 1 Mar 2027 Kim wrote:\n".repeat(n))),
                new Shape("header lines", n -> plain("", "From: a\nTo: b\nDate: c\n\n".repeat(n))),
                new Shape("one long line", n -> plain("", "a".repeat(20 * n))),
                new Shape("one long line of quotes", n -> plain("", ">".repeat(20 * n))),
                new Shape("marked and not", n -> plain("", "> a\nb\n".repeat(n))),
                new Shape("long sender", n -> "From: " + "a,".repeat(10 * n) + "b@post.example\n\nx"),
                new Shape("sender of brackets", n -> "From: " + "<".repeat(20 * n) + "\n\nx"),
                new Shape("sender of quotes", n -> "From: " + "\"a\" ".repeat(5 * n) + "\n\nx"),
                new Shape("sender of comments", n -> "From: " + "(".repeat(20 * n) + " a@b.example\n\nx"),
                new Shape(
                        "name of a file",
                        n -> plain("Content-Type: application/x; name=\"" + "a".repeat(20 * n) + "\"\n", "x")),
                new Shape(
                        "subject of encoded words",
                        n -> plain("Subject: " + "=?utf-8?Q?a?= ".repeat(2 * n) + "\n", "x")),
                new Shape("references", n -> plain("References: " + "<a@b> ".repeat(3 * n) + "\n", "x")),
                new Shape("many headers", n -> plain("X-A: b\n".repeat(3 * n), "x")),
                new Shape(
                        "bounce of brackets",
                        n -> "From: mailer-daemon@post.example\nSubject: Undelivered\n\n" + "<a@".repeat(7 * n)),
                new Shape("parameters", n -> plain("Content-Type: text/plain" + "; a*0*=b".repeat(3 * n) + "\n", "x")),
                repeated("nested", "<div>"),
                repeated("nested and closed", "<div></div>"),
                repeated("unclosed paragraphs", "<p>a"),
                repeated("formatting within formatting", "<b><i>"),
                repeated("formatting and blocks", "<b><p>"),
                repeated("links and blocks", "<a href=x><p>"),
                repeated("fonts that differ", "<font size=1><p><font size=2>"),
                repeated("quotes within quotes", "<blockquote>"),
                repeated("tables", "<table><tr><td>"),
                repeated("many quotes", "<blockquote type=cite>a</blockquote>b"),
                repeated("many lines", "a<br>"),
                repeated("entities", "&amp;&lt;"),
                repeated("comments", "<!--"),
                repeated("broken tags", "<a b=\"c\" <"),
                repeated("only opening", "<"),
                repeated("lists", "<ul><li>"),
                repeated("closed out of order", "<b><p></b>"),
                repeated("select and option", "<select><option>"),
                repeated("pictures", "<img src=\"https://a.example/b\">"),
                repeated("dividers", "<div>-----Original Message-----</div>"));
    }

    private static void read(String mail) {
        try {
            ReadMail read = MailReader.read(mail.getBytes(StandardCharsets.UTF_8));
            IncomingHtml.of(
                    read,
                    Earlier.of(
                            Set.of("help@ternpassage.example"),
                            () -> List.of("Some words that were said before in this conversation")));
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }

    @ParameterizedTest
    @MethodSource("shapes")
    void it_grows_with_its_size(Shape shape) {
        long best = Long.MAX_VALUE;
        // A busy machine may disturb a run, not all of them.
        for (int i = 0; i < 4 && best > 12; i++) {
            long small = time(shape.mail().apply(3_000));
            long large = time(shape.mail().apply(12_000));
            best = Math.min(best, large / Math.max(small, 3_000_000));
        }
        assertThat(best).isLessThanOrEqualTo(12);
    }

    private static long time(String mail) {
        long start = System.nanoTime();
        read(mail);
        return System.nanoTime() - start;
    }

    @Test
    void what_a_browser_would_make_too_many_elements_of_is_read_without_its_tags() {
        String html = "<a href=x><b><i><u><p>word ".repeat(4_000);
        assertThat(Tangles.tangled(html)).isTrue();
        assertThat(Tangles.parse(html).text()).contains("word word");
        assertThat(Tangles.tangled("<table>" + "<tr><td>a<td>b".repeat(2_000) + "</table>"))
                .isFalse();
        assertThat(Tangles.tangled("<p>one<p>two".repeat(3_000))).isFalse();
    }

    /** Mails of the corpus with bytes changed, doubled, taken out and moved, from a fixed seed. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void mutated_mails_are_read_without_an_exception(long seed) throws Exception {
        var random = new Random(seed);
        List<Corpus.Case> all =
                Corpus.all().stream().filter(one -> one.raw().length < 20_000).toList();
        for (int i = 0; i < 300; i++) {
            byte[] raw = mutated(all.get(random.nextInt(all.size())).raw(), random);
            IncomingHtml.of(MailReader.read(raw), Earlier.of(Set.of("help@ternpassage.example"), List::of));
            MessageKey.of(raw);
        }
    }

    private static byte[] mutated(byte[] raw, Random random) {
        byte[] out = raw.clone();
        for (int n = 1 + random.nextInt(8); n > 0 && out.length > 2; n--) {
            int at = random.nextInt(out.length);
            int length = Math.min(out.length - at, 1 + random.nextInt(40));
            switch (random.nextInt(4)) {
                case 0 -> out[at] = (byte) random.nextInt(256);
                case 1 -> out = splice(out, at, length, new byte[0]);
                case 2 -> out = splice(out, at, 0, java.util.Arrays.copyOfRange(out, at, at + length));
                default ->
                    out = splice(
                            out,
                            at,
                            0,
                            List.of(";", "\"", "\n", "=?", "<", "--", "@", "(", "\r\n\r\n", "%00")
                                    .get(random.nextInt(10))
                                    .getBytes(StandardCharsets.US_ASCII));
            }
        }
        return out;
    }

    private static byte[] splice(byte[] all, int at, int out, byte[] in) {
        byte[] next = new byte[all.length - out + in.length];
        System.arraycopy(all, 0, next, 0, at);
        System.arraycopy(in, 0, next, at, in.length);
        System.arraycopy(all, at + out, next, at + in.length, all.length - at - out);
        return next;
    }
}
