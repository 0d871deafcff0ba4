package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.function.Consumer;

/** Awkward messages, as real ones are: each with what must be made of it. */
final class Corpus {

    /**
     * A message and what to expect.
     *
     * @param expect checked on the mail as it was read and as it is shown
     * @param aside whether it is to be set aside rather than to become an entry
     */
    record Case(String name, byte[] raw, Consumer<Read> expect, boolean aside) {
        @Override
        public String toString() {
            return name;
        }
    }

    /** A mail as read and as shown. */
    record Read(ReadMail mail, IncomingHtml.Shown shown) {
        String own() {
            return shown.own();
        }
    }

    private static final String PNG =
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
    private static final List<Case> CASES = new ArrayList<>();

    private Corpus() {}

    static List<Case> all() {
        return List.copyOf(CASES);
    }

    private static void add(String name, String headers, String body, Consumer<Read> expect) {
        add(name, (head(name) + headers + "\n" + body).getBytes(StandardCharsets.UTF_8), expect);
    }

    private static void add(String name, byte[] raw, Consumer<Read> expect) {
        CASES.add(new Case(name, raw, expect, false));
    }

    private static void aside(String name, String raw, Consumer<Read> expect) {
        CASES.add(new Case(name, raw.getBytes(StandardCharsets.UTF_8), expect, true));
    }

    private static String head(String name) {
        return "From: Noor Haddad <noor." + name.hashCode()
                + "@post.example>\nTo: help@ternpassage.example\nMessage-ID: <" + name.hashCode()
                + "@post.example>\nDate: Mon, 1 Mar 2027 10:00:00 +0100\n";
    }

    private static byte[] join(byte[] a, byte[] b) {
        byte[] all = java.util.Arrays.copyOf(a, a.length + b.length);
        System.arraycopy(b, 0, all, a.length, b.length);
        return all;
    }

    private static byte[] in(String charset, String name, String headers, String body) {
        return join(
                (head(name) + headers + "\n").getBytes(StandardCharsets.US_ASCII),
                body.getBytes(Charset.forName(charset)));
    }

    private static Consumer<Read> own(String words) {
        return read -> assertThat(read.own()).isEqualTo(words);
    }

    private static Consumer<Read> file(String name, int size) {
        return read -> assertThat(read.mail().files()).anySatisfy(f -> {
            assertThat(f.name()).isEqualTo(name);
            assertThat(f.content()).hasSize(size);
        });
    }

    private static String multipart(String subtype, String... parts) {
        return "MIME-Version: 1.0\nContent-Type: multipart/" + subtype + "; boundary=\"b\"\n\n--b\n"
                + String.join("\n--b\n", parts) + "\n--b--\n";
    }

    private static void mixed(String name, String subtype, Consumer<Read> expect, String... parts) {
        add(name, (head(name) + multipart(subtype, parts)).getBytes(StandardCharsets.UTF_8), expect);
    }

    private static final String HELLO = "Content-Type: text/plain\n\nHello";

    static {
        add(
                "plain only",
                "Subject: Pass\nContent-Type: text/plain; charset=utf-8\n",
                "Is my pass good? åøæ",
                own("Is my pass good? åøæ"));
        add("no content type at all", "Subject: Pass\n", "Just words", own("Just words"));
        add("html only", "Content-Type: text/html\n", "<p>Is my <b>pass</b> good?</p>", r -> {
            assertThat(r.own()).isEqualTo("Is my pass good?");
            assertThat(r.shown().html()).contains("<b>pass</b>");
        });
        add(
                "latin 1",
                in("ISO-8859-1", "latin 1", "Content-Type: text/plain; charset=iso-8859-1\n", "Fähre für Jürgen"),
                own("Fähre für Jürgen"));
        add(
                "windows 1252 called ascii",
                in(
                        "windows-1252",
                        "windows 1252 called ascii",
                        "Content-Type: text/plain; charset=us-ascii\n",
                        "“late” – sorry"),
                own("“late” – sorry"));
        add("koi8-r", in("KOI8-R", "koi8-r", "Content-Type: text/plain; charset=koi8-r\n", "Паром"), own("Паром"));
        add(
                "shift_jis",
                in("Shift_JIS", "shift_jis", "Content-Type: text/plain; charset=shift_jis\n", "船は遅れ"),
                own("船は遅れ"));
        add(
                "iso-2022-jp",
                in("ISO-2022-JP", "iso-2022-jp", "Content-Type: text/plain; charset=iso-2022-jp\n", "船"),
                own("船"));
        add("big5", in("Big5", "big5", "Content-Type: text/plain; charset=big5\n", "船票"), own("船票"));
        add(
                "utf-16 in base64",
                "Content-Type: text/plain; charset=utf-16\nContent-Transfer-Encoding: base64\n",
                Base64.getEncoder().encodeToString("Båt".getBytes(StandardCharsets.UTF_16)),
                own("Båt"));
        add("unknown charset", "Content-Type: text/plain; charset=x-made-up-9\n", "Words ø", own("Words ø"));
        add("charset in quotes and wrong case", "Content-Type: TEXT/PLAIN; CHARSET=\"UTF8\"\n", "Ærlig", own("Ærlig"));
        add(
                "raw eight bit without charset",
                "Content-Type: text/plain\nContent-Transfer-Encoding: 8bit\n",
                "blåbær",
                own("blåbær"));
        add(
                "quoted printable",
                "Content-Type: text/plain; charset=utf-8\nContent-Transfer-Encoding: quoted-printable\n",
                "b=C3=A5t er for=\nsinket =",
                r -> assertThat(r.own()).startsWith("båt er forsinket"));
        add(
                "base64 that breaks off",
                "Content-Type: text/plain; charset=utf-8\nContent-Transfer-Encoding: base64\n",
                "SGVsbG8gdGhlcmUhIQ",
                r -> assertThat(r.own()).startsWith("Hello there"));
        add(
                "unknown transfer encoding",
                "Content-Type: text/plain\nContent-Transfer-Encoding: x-strange\n",
                "Still words",
                own("Still words"));
        add(
                "encoded subject in two words",
                "Subject: =?utf-8?B?U8O4bg==?= =?iso-8859-1?Q?dag_b=E5t?=\n",
                "x",
                r -> assertThat(r.mail().subject()).isEqualTo("Søndag båt"));
        add(
                "encoded subject broken",
                "Subject: =?utf-8?B?!!!?= pass\n",
                "x",
                r -> assertThat(r.mail().subject()).contains("pass"));
        add(
                "raw utf-8 subject",
                "Subject: Forsinket båt\n",
                "x",
                r -> assertThat(r.mail().subject()).isEqualTo("Forsinket båt"));
        add(
                "folded subject with tabs",
                "Subject: Lost\n\tinstrument\n case\n",
                "x",
                r -> assertThat(r.mail().subject().replaceAll("\\s+", " ")).isEqualTo("Lost instrument case"));
        add(
                "subject of three thousand letters",
                "Subject: " + "long ".repeat(600) + "\n",
                "x",
                r -> assertThat(r.mail().subject()).hasSizeLessThan(510));
        add(
                "no subject",
                "",
                "When does the boat leave?",
                r -> assertThat(r.mail().subject()).isEmpty());
        add("empty body", "Subject: Only a subject\n", "", own(""));
        add("nul bytes", "Subject: Nul\n", "a\0b", own("ab"));
        add(
                "line ends of all kinds",
                ("From: a@post.example\r\nSubject: Ends\r\n\r\none\rtwo\nthree\r\n").getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.own().lines()).hasSize(3));
        add(
                "broken header lines",
                "This is no header\nX: \n: empty name\nSubject: Broken\n",
                "Body",
                r -> assertThat(r.own()).contains("Body"));
        add(
                "from without brackets and with a comma",
                "From: Vik, Tomas <tomas.vik@post.example>\n".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("tomas.vik@post.example"));
        add(
                "encoded sender name",
                "From: =?utf-8?Q?J=C3=BCrgen_Paulsen?= <jp@letterbox.example>\nSubject: x\n\nHi"
                        .getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().name()).isEqualTo("Jürgen Paulsen"));
        add("date that is none", "Date: yesterday at noon\nSubject: Date\n", "Fine", own("Fine"));
        aside(
                "no sender",
                "Subject: Nobody\nTo: help@ternpassage.example\n\nWho am I?",
                r -> assertThat(r.mail().from()).isEmpty());
        aside(
                "sender without an address",
                "From: undisclosed\nSubject: x\n\nHi",
                r -> assertThat(r.mail().from()).isEmpty());
        aside(
                "only noise",
                "\u0001\u0002\u0003 not a mail \uffff",
                r -> assertThat(r.mail().from()).isEmpty());
        aside("empty", "", r -> assertThat(r.mail().from()).isEmpty());
        mixed(
                "alternative shows the formatted text",
                "alternative",
                r -> assertThat(r.shown().html()).contains("<i>rich</i>"),
                "Content-Type: text/plain\n\nplain",
                "Content-Type: text/html\n\n<i>rich</i>");
        mixed(
                "attachment",
                "mixed",
                file("booking.pdf", 5),
                HELLO,
                "Content-Type: application/pdf; name=booking.pdf\nContent-Disposition: attachment; filename=booking.pdf\nContent-Transfer-Encoding: base64\n\nSGVsbG8=");
        mixed(
                "attachment name in RFC 2231 pieces",
                "mixed",
                file("Größe der Fähre.pdf", 5),
                HELLO,
                "Content-Type: application/pdf\nContent-Disposition: attachment; filename*0*=utf-8''Gr%C3%B6%C3%9Fe%20der%20; filename*1*=F%C3%A4hre.pdf\nContent-Transfer-Encoding: base64\n\nSGVsbG8=");
        mixed(
                "attachment name as encoded word",
                "mixed",
                file("Fähre.txt", 5),
                HELLO,
                "Content-Type: application/octet-stream; name=\"=?utf-8?Q?F=C3=A4hre.txt?=\"\n\nHello");
        mixed(
                "attachment name with a path",
                "mixed",
                file("passwd", 1),
                HELLO,
                "Content-Type: text/plain\nContent-Disposition: attachment; filename=\"../../etc/passwd\"\n\nx");
        mixed(
                "attachment name that turns letters round",
                "mixed",
                r -> assertThat(r.mail().files().getFirst().name()).doesNotContain("\u202e"),
                HELLO,
                "Content-Type: application/octet-stream\nContent-Disposition: attachment; filename*=utf-8''a%E2%80%AEfdp.exe\n\nx");
        mixed(
                "attachment without a name",
                "mixed",
                file("file-1.png", 70),
                HELLO,
                "Content-Type: image/png\nContent-Disposition: attachment\nContent-Transfer-Encoding: base64\n\n"
                        + PNG);
        mixed(
                "inline picture",
                "related",
                r -> {
                    assertThat(r.shown().html()).contains("data-cid=\"pic1\"");
                    assertThat(r.mail().files().getFirst().contentId()).isEqualTo("pic1");
                },
                "Content-Type: text/html\n\n<p>See</p><img src=\"cid:pic1\">",
                "Content-Type: image/png\nContent-ID: <pic1>\nContent-Transfer-Encoding: base64\n\n" + PNG);
        add(
                "remote pictures wait",
                "Content-Type: text/html\n",
                "<p>Hi</p><img src=\"https://track.example/x.gif\">",
                r -> assertThat(r.shown().html()).contains("data-remote=").doesNotContain(" src="));
        add(
                "scripts and handlers are gone",
                "Content-Type: text/html\n",
                "<p onclick=\"x()\">Hi</p><script>x()</script><iframe src=x></iframe><a href=\"javascript:x()\">go</a><style>p{}</style>",
                r -> assertThat(r.shown().html())
                        .contains("Hi")
                        .doesNotContainIgnoringCase("script")
                        .doesNotContain("onclick")
                        .doesNotContain("iframe")
                        .doesNotContain("style"));
        add(
                "html with nothing to see falls back to nothing",
                "Content-Type: text/html\n",
                "<html><body></body></html>",
                own(""));
        add(
                "html quoted rest is folded",
                "Content-Type: text/html\n",
                "<div>Thanks!</div><div>On Mon, Help &lt;help@ternpassage.example&gt; wrote:<br></div><blockquote type=\"cite\">Old words</blockquote>",
                r -> {
                    assertThat(r.own()).isEqualTo("Thanks!");
                    assertThat(r.shown().html())
                            .contains("<details class=\"fold\">")
                            .contains("Old words");
                });
        add(
                "plain quoted rest and signature are folded",
                "Content-Type: text/plain\n",
                "Thanks!\n-- \nNoor\n\nOn Monday Help wrote:\n> Old words",
                own("Thanks!"));
        mixed(
                "calendar part",
                "alternative",
                r -> {
                    assertThat(r.own()).isEqualTo("Meet?");
                    assertThat(r.mail().files())
                            .anySatisfy(f -> assertThat(f.name()).isEqualTo("invitation.ics"));
                },
                "Content-Type: text/plain\n\nMeet?",
                "Content-Type: text/calendar; method=REQUEST\n\nBEGIN:VCALENDAR\nEND:VCALENDAR");
        mixed(
                "signed mail",
                "signed; protocol=\"application/pkcs7-signature\"; micalg=sha-256",
                r -> {
                    assertThat(r.own()).isEqualTo("Hello");
                    assertThat(r.mail().files())
                            .anySatisfy(f -> assertThat(f.name()).isEqualTo("smime.p7s"));
                },
                HELLO,
                "Content-Type: application/pkcs7-signature; name=smime.p7s\nContent-Transfer-Encoding: base64\n\nAAAA");
        mixed(
                "forwarded as an attachment",
                "mixed",
                r -> assertThat(r.mail().files())
                        .anySatisfy(f -> assertThat(f.name()).isEqualTo("message.eml")),
                HELLO,
                "Content-Type: message/rfc822\n\nFrom: x@post.example\nSubject: inner\n\nInner");
        add(
                "boundary that is never there",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=nowhere\n",
                "Words without parts",
                r -> assertThat(r.mail()).isNotNull());
        add(
                "multipart without a boundary",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed\n",
                "--x\nContent-Type: text/plain\n\nHello\n--x--",
                r -> assertThat(r.own()).contains("Hello"));
        add(
                "multipart never closed",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=q\n",
                "--q\nContent-Type: text/plain\n\nHello",
                own("Hello"));
        add(
                "nested two hundred deep",
                nested(200),
                r -> assertThat(r.mail().remarks()).isNotEmpty());
        add(
                "three thousand parts",
                parts(3000),
                r -> assertThat(r.mail().remarks()).isNotEmpty());
        add(
                "a hundred thousand empty parts",
                parts(100_000),
                r -> assertThat(r.mail().remarks()).isNotEmpty());
        add(
                "html nested five thousand deep",
                "Content-Type: text/html\n",
                "<div>".repeat(5000) + "deep" + "</div>".repeat(5000),
                r -> assertThat(r.mail()).isNotNull());
        add(
                "text of four megabytes",
                "Content-Type: text/plain\n",
                "word ".repeat(800_000),
                r -> assertThat(r.mail().remarks()).isNotEmpty());
        add("attachment of thirty megabytes", huge(), file("big.bin", 22_000_000));
        add(
                "uuencoded leftovers",
                "Content-Type: text/plain\nContent-Transfer-Encoding: x-uuencode\n",
                "begin 644 a.txt\n%2&5L;&\\\n`\nend\n",
                r -> assertThat(r.mail()).isNotNull());
        add(
                "latin 1 bytes in a header",
                join(
                        "From: J".getBytes(StandardCharsets.US_ASCII),
                        join(
                                new byte[] {(byte) 0xfc},
                                "rgen <jurgen8@letterbox.example>\nSubject: x\n\nHi"
                                        .getBytes(StandardCharsets.US_ASCII))),
                r -> assertThat(r.mail().from().orElseThrow().name()).isEqualTo("Jürgen"));
        add(
                "cyrillic bytes that nobody declared",
                in(
                        "windows-1251",
                        "cyrillic bytes that nobody declared",
                        "Content-Type: text/plain\n",
                        "Здравствуйте, паром опаздывает на два часа. Можно ли вернуть деньги за билет?"),
                r -> assertThat(r.own()).startsWith("Здравствуйте, паром"));
        add(
                "japanese bytes that nobody declared",
                in(
                        "Shift_JIS",
                        "japanese bytes that nobody declared",
                        "Content-Type: text/plain\n",
                        "船は遅れています。切符の払い戻しはできますか。よろしくお願いします。"),
                r -> assertThat(r.own()).startsWith("船は遅れて"));
        mixed(
                "a plain and a formatted text one after the other",
                "mixed",
                r -> {
                    assertThat(r.own()).contains("First words").contains("Second words");
                    assertThat(r.own().indexOf("First")).isLessThan(r.own().indexOf("Second"));
                },
                "Content-Type: text/plain\n\nFirst words",
                "Content-Type: text/html\n\n<p>Second words</p>");
        mixed(
                "formatted, a picture, formatted",
                "mixed",
                r -> assertThat(r.own()).contains("Above").contains("Below"),
                "Content-Type: text/html\n\n<p>Above</p>",
                "Content-Type: image/png; name=a.png\nContent-Transfer-Encoding: base64\n\n" + PNG,
                "Content-Type: text/html\n\n<p>Below</p>");
        mixed(
                "an alternative without words is passed over",
                "alternative",
                own("The words"),
                "Content-Type: text/plain\n\nThe words",
                "Content-Type: text/html\n\n<html><body><br></body></html>");
        add(
                "another boundary than it says",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=said\n",
                "--real\nContent-Type: text/plain\n\nHello there\n--real--\n",
                own("Hello there"));
        add(
                "two semicolons in the content type",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed;; boundary=q\n",
                "--q\nContent-Type: text/plain;; charset=utf-8\n\nHallå\n--q--\n",
                own("Hallå"));
        add(
                "blanks and comments in the content type",
                "MIME-Version: 1.0\nContent-Type: multipart / mixed (a comment); boundary = \"q q\" (another)\n",
                "--q q\nContent-Type: text/plain (words)\n\nHello\n--q q--\n",
                own("Hello"));
        add(
                "words that nothing marks off",
                "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=nowhere9\n",
                "Words without parts",
                r -> {
                    assertThat(r.own()).isEqualTo("Words without parts");
                    assertThat(r.mail().remarks()).isNotEmpty();
                    assertThat(r.mail().files()).isEmpty();
                });
        mixed(
                "only a text file",
                "mixed",
                r -> {
                    assertThat(r.own()).isEqualTo("All I have to say");
                    assertThat(r.mail().remarks()).isNotEmpty();
                },
                "Content-Type: text/plain; name=words.txt\nContent-Disposition: attachment; filename=words.txt\n\nAll I have to say");
        mixed(
                "only a message within",
                "mixed",
                r -> assertThat(r.own()).contains("Inner words"),
                "Content-Type: message/rfc822\n\nFrom: x@post.example\nSubject: inner\n\nInner words");
        add(
                "flowed text",
                "Content-Type: text/plain; format=flowed; DelSp=yes\n",
                "The Fähr \nhaus is open.\n",
                own("The Fährhaus is open."));
        add(
                "a group of receivers",
                ("From: a1@post.example\nTo: Crew: one@post.example, Two <two@post.example>;, help@ternpassage.example\nSubject: x\n\nHi")
                        .getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().to())
                        .extracting(ReadMail.Address::address)
                        .containsExactly("one@post.example", "two@post.example", "help@ternpassage.example"));
        add(
                "sender with two dots",
                "From: taro..yamada@mobile.example\nSubject: x\n\nHi".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("taro..yamada@mobile.example"));
        add(
                "sender that ends in a dot",
                "From: Jiro <jiro.@mobile.example>\nSubject: x\n\nHi".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("jiro.@mobile.example"));
        add(
                "sender with a route",
                "From: <@relay.example:kim9@post.example>\nSubject: x\n\nHi".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("kim9@post.example"));
        add(
                "sender with a quoted name",
                "From: \"kim vale\"@post.example\nSubject: x\n\nHi".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("\"kim vale\"@post.example"));
        add(
                "underscore in the domain",
                "From: kim@under_score.example\nSubject: x\n\nHi".getBytes(StandardCharsets.UTF_8),
                r -> assertThat(r.mail().from().orElseThrow().address()).isEqualTo("kim@under_score.example"));
        add(
                "references on many lines with noise",
                "In-Reply-To: Your message of Monday <a@x.example>\nReferences: <b@x.example>\n  garbage <c@x.example>\n",
                "x",
                r -> assertThat(r.mail().references())
                        .containsExactly("<a@x.example>", "<c@x.example>", "<b@x.example>"));
    }

    private static byte[] nested(int depth) {
        var raw = new StringBuilder(head("nested " + depth)).append("MIME-Version: 1.0\n");
        for (int i = 0; i < depth; i++) {
            raw.append("Content-Type: multipart/mixed; boundary=b")
                    .append(i)
                    .append("\n\n--b")
                    .append(i)
                    .append('\n');
        }
        raw.append("Content-Type: text/plain\n\nDeep\n");
        for (int i = depth - 1; i >= 0; i--) {
            raw.append("--b").append(i).append("--\n");
        }
        return raw.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] parts(int count) {
        return (head("parts " + count) + "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b\n\n"
                        + "--b\nContent-Type: text/plain\n\nx\n".repeat(count) + "--b--\n")
                .getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] huge() {
        String encoded = Base64.getMimeEncoder().encodeToString(new byte[22_000_000]);
        return (head("huge")
                        + multipart(
                                "mixed",
                                HELLO,
                                "Content-Type: application/octet-stream; name=big.bin\nContent-Transfer-Encoding: base64\n\n"
                                        + encoded))
                .getBytes(StandardCharsets.US_ASCII);
    }
}
