package rafter.outside;

import com.icegreen.greenmail.store.StoredMessage;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Part;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.internet.MimeUtility;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Executors;
import org.thymeleaf.context.Context;
import org.thymeleaf.spring6.SpringTemplateEngine;
import org.thymeleaf.templatemode.TemplateMode;
import org.thymeleaf.templateresolver.ClassLoaderTemplateResolver;
import rafter.outside.demo.Cast;

/** A small page where a person can play any customer: read, write, answer, forward, attach. Not a part of Rafter. */
final class OutsidePage {

    private static final DateTimeFormatter WHEN = DateTimeFormatter.ofPattern("EEE d MMM HH:mm", Locale.ENGLISH);
    private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
    private static final int SHOWN = 60;
    private static final int LARGEST_CALL = 100_000;

    /** A line of a mailbox. */
    record Line(long uid, String who, String subject, String when) {}

    /** A message that is read. */
    record Opened(
            long uid,
            String from,
            String to,
            String cc,
            String subject,
            String when,
            String text,
            List<String> files,
            String replyTo,
            String messageId,
            String references) {}

    /** What the writing form begins with. */
    record Form(String to, String cc, String subject, String text, String inReplyTo, String references) {}

    private final OtherProgram program = new OtherProgram();
    private final MailWorld world;
    private final Clock clock;
    private final String rafter;
    private final SpringTemplateEngine templates = new SpringTemplateEngine();
    private final Services services;

    OutsidePage(MailWorld world, Clock clock, String rafter, Telephones telephones, Gangway gangway) {
        this.services = new Services(telephones, gangway, templates, rafter);
        this.world = world;
        this.clock = clock;
        this.rafter = rafter;
        var resolver = new ClassLoaderTemplateResolver();
        resolver.setPrefix("outside/");
        resolver.setSuffix(".html");
        resolver.setTemplateMode(TemplateMode.HTML);
        templates.setTemplateResolver(resolver);
    }

    void start(int port) throws IOException {
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 0);
        server.setExecutor(Executors.newFixedThreadPool(4));
        server.createContext("/", this::handle);
        server.start();
    }

    private void handle(HttpExchange exchange) throws IOException {
        try (exchange) {
            try {
                route(exchange, query(exchange.getRequestURI().getRawQuery()));
            } catch (MessagingException | RuntimeException e) {
                answer(
                        exchange,
                        500,
                        "text/plain",
                        ("That did not work: " + e.getMessage()).getBytes(StandardCharsets.UTF_8));
            }
        }
    }

    private void route(HttpExchange exchange, Map<String, String> query) throws IOException, MessagingException {
        String path = exchange.getRequestURI().getPath();
        if (services.answered(exchange, path, query)) {
            return;
        }
        if (path.startsWith("/program")) {
            program(exchange, path, query);
        } else if (exchange.getRequestMethod().equals("POST")) {
            send(exchange);
        } else if (path.equals("/site") || path.startsWith("/site/")) {
            site(exchange, path, query);
        } else if (path.equals("/style.css") || path.equals("/site.css") || path.equals("/fresh.js")) {
            try (var in = OutsidePage.class.getResourceAsStream("/outside" + path)) {
                String type = path.endsWith(".js") ? "text/javascript" : "text/css";
                answer(exchange, 200, type, in == null ? new byte[0] : in.readAllBytes());
            }
        } else if (path.equals("/file")) {
            file(exchange, query);
        } else if (path.equals("/")) {
            show(exchange, query);
        } else {
            answer(exchange, 404, "text/plain", "There is nothing here.".getBytes(StandardCharsets.UTF_8));
        }
    }

    /** The program that rules call. */
    private void program(HttpExchange exchange, String path, Map<String, String> query) throws IOException {
        boolean posted = exchange.getRequestMethod().equals("POST");
        String body = new String(exchange.getRequestBody().readNBytes(LARGEST_CALL), StandardCharsets.UTF_8);
        if (posted && path.equals("/program/mode")) {
            program.refuse(query(body).getOrDefault("refuse", "").equals("true"));
            exchange.getResponseHeaders().set("Location", "/program");
            answer(exchange, 303, "text/plain", new byte[0]);
        } else if (posted) {
            boolean taken = program.call(
                    header(exchange, "Rafter-Call"), header(exchange, "Rafter-Signature"), body, clock.instant());
            answer(exchange, taken ? 200 : 503, "text/plain", new byte[0]);
        } else {
            var context = new Context(Locale.ENGLISH);
            context.setVariables(program.shown(query.getOrDefault("key", "").strip()));
            context.setVariable("address", "http://" + header(exchange, "Host") + "/program");
            answer(
                    exchange,
                    200,
                    "text/html; charset=utf-8",
                    templates.process("program", context).getBytes(StandardCharsets.UTF_8));
        }
    }

    /** The ferry line’s website. */
    private void site(HttpExchange exchange, String path, Map<String, String> query) throws IOException {
        Optional<Context> page = new Website(rafter).page(path, query);
        byte[] body = page.map(context -> templates.process("site", context))
                .orElse("There is no such page on the website.")
                .getBytes(StandardCharsets.UTF_8);
        answer(exchange, page.isPresent() ? 200 : 404, "text/html; charset=utf-8", body);
    }

    static String header(HttpExchange exchange, String name) {
        return Optional.ofNullable(exchange.getRequestHeaders().getFirst(name)).orElse("");
    }

    private void show(HttpExchange exchange, Map<String, String> query) throws IOException, MessagingException {
        String who = query.getOrDefault("who", Cast.PEOPLE.getFirst().address());
        var context = new Context(Locale.ENGLISH);
        context.setVariable("rafter", rafter);
        context.setVariable("people", people());
        context.setVariable("who", who);
        context.setVariable(
                "boxes", Cast.MAILBOXES.stream().map(Cast.Box::address).toList());
        context.setVariable("lines", lines(who));
        Optional<StoredMessage> message = find(who, query.getOrDefault("uid", ""));
        if (message.isPresent()) {
            context.setVariable("opened", opened(message.get()));
        }
        String write = query.getOrDefault("write", "");
        if (!write.isEmpty()) {
            context.setVariable("form", form(write, message.map(this::opened)));
        }
        context.setVariable("sent", query.containsKey("sent"));
        answer(
                exchange,
                200,
                "text/html; charset=utf-8",
                templates.process("page", context).getBytes(StandardCharsets.UTF_8));
    }

    /** The made-up people first, then everybody else who has had mail. */
    private Map<String, String> people() {
        var all = new java.util.LinkedHashMap<String, String>();
        Cast.PEOPLE.forEach(person -> all.put(person.address(), person.name()));
        Cast.EXPERTS.forEach(expert -> all.put(expert.address(), expert.name()));
        world.addresses().forEach(address -> all.putIfAbsent(address, ""));
        return all;
    }

    private List<Line> lines(String who) throws MessagingException {
        var lines = new ArrayList<Line>();
        for (StoredMessage stored : world.messages(who).stream().limit(SHOWN).toList()) {
            MimeMessage mail = stored.getMimeMessage();
            lines.add(new Line(
                    stored.getUid(),
                    from(mail),
                    Optional.ofNullable(mail.getSubject()).orElse("(no subject)"),
                    when(mail)));
        }
        return lines;
    }

    private Optional<StoredMessage> find(String who, String uid) {
        return world.messages(who).stream()
                .filter(m -> Long.toString(m.getUid()).equals(uid))
                .findFirst();
    }

    private static String from(MimeMessage mail) throws MessagingException {
        return mail.getFrom() == null || mail.getFrom().length == 0
                ? "unknown"
                : MimeMessageText.address(mail.getFrom()[0]);
    }

    private static String when(MimeMessage mail) throws MessagingException {
        return mail.getSentDate() == null
                ? ""
                : WHEN.format(mail.getSentDate().toInstant().atZone(ZONE));
    }

    private Opened opened(StoredMessage stored) {
        try {
            MimeMessage mail = stored.getMimeMessage();
            return new Opened(
                    stored.getUid(),
                    from(mail),
                    list(mail, "To"),
                    list(mail, "Cc"),
                    Optional.ofNullable(mail.getSubject()).orElse(""),
                    when(mail),
                    MimeMessageText.plain(mail),
                    MimeMessageText.files(mail).stream().map(OutsidePage::name).toList(),
                    mail.getReplyTo() == null || mail.getReplyTo().length == 0
                            ? ""
                            : ((InternetAddress) mail.getReplyTo()[0]).getAddress(),
                    Optional.ofNullable(mail.getMessageID()).orElse(""),
                    Optional.ofNullable(mail.getHeader("References", " "))
                            .orElse("")
                            .replaceAll("\\s+", " "));
        } catch (MessagingException | IOException e) {
            throw new IllegalStateException("this message cannot be shown", e);
        }
    }

    private static String name(Part part) {
        try {
            return MimeUtility.decodeText(
                    Optional.ofNullable(part.getFileName()).orElse("file"));
        } catch (MessagingException | java.io.UnsupportedEncodingException e) {
            return "file";
        }
    }

    private static String list(MimeMessage mail, String header) throws MessagingException {
        return Optional.ofNullable(mail.getHeader(header, ", ")).orElse("");
    }

    private static Form form(String write, Optional<Opened> opened) {
        if (opened.isEmpty()) {
            return new Form(Cast.MAILBOXES.getFirst().address(), "", "", "", "", "");
        }
        Opened o = opened.get();
        String quoted = "On " + o.when() + ", " + o.from() + " wrote:\n"
                + o.text().lines().map(l -> "> " + l).reduce("", (a, b) -> a + b + "\n");
        if (write.equals("forward")) {
            String head =
                    "---------- Forwarded message ----------\nFrom: " + o.from() + "\nSubject: " + o.subject() + "\n\n";
            return new Form(
                    "", "", "Fwd: " + o.subject(), "\n\n" + head + o.text(), "", o.references() + " " + o.messageId());
        }
        String subject = o.subject().toLowerCase(Locale.ROOT).startsWith("re:") ? o.subject() : "Re: " + o.subject();
        return new Form(
                o.replyTo(),
                "",
                subject,
                "\n\n" + quoted,
                o.messageId(),
                (o.references() + " " + o.messageId()).strip());
    }

    private void send(HttpExchange exchange) throws IOException, MessagingException {
        String type = exchange.getRequestHeaders().getFirst("Content-Type");
        var body = new MimeMultipart(
                new ByteArrayDataSource(exchange.getRequestBody().readAllBytes(), type));
        var fields = new HashMap<String, String>();
        var files = new ArrayList<Letter.Enclosure>();
        for (int i = 0; i < body.getCount(); i++) {
            BodyPart part = body.getBodyPart(i);
            String disposition = part.getHeader("Content-Disposition")[0];
            String field = disposition.replaceFirst(".*\\bname=\"([^\"]*)\".*", "$1");
            byte[] content = part.getInputStream().readAllBytes();
            if (part.getFileName() == null) {
                fields.put(field, new String(content, StandardCharsets.UTF_8));
            } else if (!part.getFileName().isEmpty() && content.length > 0) {
                String name =
                        new String(part.getFileName().getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
                files.add(new Letter.Enclosure(name, part.getContentType().replaceFirst(";.*", ""), content));
            }
        }
        String who = fields.getOrDefault("who", "");
        MimeMessage mail = letter(who, fields, files).mime();
        world.send(mail, mail.getAllRecipients());
        exchange.getResponseHeaders().add("Location", "/?sent&who=" + URLEncoder.encode(who, StandardCharsets.UTF_8));
        exchange.sendResponseHeaders(303, -1);
    }

    private Letter letter(String who, Map<String, String> fields, List<Letter.Enclosure> files) {
        String name = Cast.PEOPLE.stream()
                .filter(p -> p.address().equals(who))
                .findFirst()
                .map(Cast.Someone::name)
                .orElse("");
        List<String> references =
                List.of(fields.getOrDefault("references", "").strip().split("\\s+"));
        return new Letter(
                name,
                who,
                fields.getOrDefault("to", ""),
                fields.getOrDefault("cc", ""),
                fields.getOrDefault("subject", ""),
                fields.getOrDefault("text", "").replace("\r\n", "\n"),
                Optional.of(fields.getOrDefault("inReplyTo", "")).filter(s -> !s.isBlank()),
                references.getFirst().isEmpty() ? List.of() : references,
                files,
                clock.instant());
    }

    private void file(HttpExchange exchange, Map<String, String> query) throws IOException, MessagingException {
        StoredMessage stored = find(query.getOrDefault("who", ""), query.getOrDefault("uid", ""))
                .orElseThrow();
        Part part = MimeMessageText.files(stored.getMimeMessage()).get(Integer.parseInt(query.getOrDefault("n", "0")));
        exchange.getResponseHeaders().add("Content-Disposition", "attachment");
        answer(exchange, 200, "application/octet-stream", part.getInputStream().readAllBytes());
    }

    /** What a form sent. */
    static Map<String, String> form(HttpExchange exchange) throws IOException {
        return query(new String(exchange.getRequestBody().readNBytes(LARGEST_CALL), StandardCharsets.UTF_8));
    }

    /** Goes on with another page. */
    static void seeOther(HttpExchange exchange, String path) throws IOException {
        exchange.getResponseHeaders().add("Location", path);
        exchange.sendResponseHeaders(303, -1);
    }

    private static Map<String, String> query(@org.jspecify.annotations.Nullable String raw) {
        var all = new HashMap<String, String>();
        for (String pair : raw == null ? new String[0] : raw.split("&")) {
            String[] parts = pair.split("=", 2);
            all.put(
                    URLDecoder.decode(parts[0], StandardCharsets.UTF_8),
                    parts.length > 1 ? URLDecoder.decode(parts[1], StandardCharsets.UTF_8) : "");
        }
        return all;
    }

    static void answer(HttpExchange exchange, int status, String type, byte[] body) throws IOException {
        exchange.getResponseHeaders().add("Content-Type", type);
        exchange.sendResponseHeaders(status, body.length == 0 ? -1 : body.length);
        exchange.getResponseBody().write(body);
    }
}
