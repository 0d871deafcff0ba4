package rafter.outside;

import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.thymeleaf.TemplateEngine;
import org.thymeleaf.context.Context;
import rafter.outside.demo.Cast;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The pages of the exchange and of the network on which somebody plays the other side, and the addresses at which both are told what to do. */
final class Services {

    private static final int LARGEST = 100_000;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final Telephones telephones;
    private final Gangway gangway;
    private final TemplateEngine templates;
    private final String rafter;

    Services(Telephones telephones, Gangway gangway, TemplateEngine templates, String rafter) {
        this.telephones = telephones;
        this.gangway = gangway;
        this.templates = templates;
        this.rafter = rafter;
    }

    /** Answers what is asked of one of both; false: it is something else. */
    boolean answered(HttpExchange exchange, String path, Map<String, String> query) throws IOException {
        boolean posted = exchange.getRequestMethod().equals("POST");
        if (path.startsWith("/telephones/api/") || path.startsWith("/network/api/")) {
            api(exchange, path);
        } else if (path.equals("/telephones") && posted) {
            play(OutsidePage.form(exchange));
            OutsidePage.seeOther(exchange, "/telephones");
        } else if (path.equals("/telephones")) {
            page(exchange, "telephones", telephones.teller());
        } else if (path.equals("/network") && posted) {
            Map<String, String> form = OutsidePage.form(exchange);
            write(form);
            OutsidePage.seeOther(exchange, "/network?who=" + form.getOrDefault("who", ""));
        } else if (path.equals("/network")) {
            page(exchange, "network", gangway.teller(), Map.of("who", query.getOrDefault("who", "@oskardahl")));
        } else {
            return false;
        }
        return true;
    }

    // ------------------------------------------------------------------ pages

    private void page(HttpExchange exchange, String template, Teller teller) throws IOException {
        page(exchange, template, teller, Map.of());
    }

    private void page(HttpExchange exchange, String template, Teller teller, Map<String, Object> more)
            throws IOException {
        var context = new Context(Locale.ENGLISH);
        context.setVariable("rafter", rafter);
        context.setVariable("calls", telephones.calls());
        context.setVariable("lines", Cast.LINES);
        context.setVariable("callers", Cast.CALLERS);
        context.setVariable("posts", gangway.posts());
        context.setVariable("voices", Cast.VOICES);
        context.setVariable("accounts", Cast.ACCOUNTS);
        context.setVariable("manner", teller.manner().name());
        context.setVariable("standing", teller.standing());
        context.setVariable("down", template.equals("network") ? gangway.down() : telephones.down());
        context.setVariables(more);
        OutsidePage.answer(
                exchange,
                200,
                "text/html; charset=utf-8",
                templates.process(template, context).getBytes(StandardCharsets.UTF_8));
    }

    private void play(Map<String, String> form) {
        String call = form.getOrDefault("call", "");
        switch (form.getOrDefault("do", "")) {
            case "ring" ->
                telephones.ring(
                        form.getOrDefault("other", "").isBlank()
                                ? form.getOrDefault("number", "")
                                : form.getOrDefault("other", "").strip(),
                        form.getOrDefault("line", ""));
            case "answer" -> telephones.answer(call);
            case "speak" -> telephones.speak(call, number(form.getOrDefault("seconds", "12")));
            case "end" -> telephones.end(call);
            default -> fault(telephones, form);
        }
    }

    /** Lets something go wrong, or right again. */
    private static void fault(Played service, Map<String, String> form) {
        switch (form.getOrDefault("do", "")) {
            case "down" -> service.down(!service.down());
            case "manner" -> service.teller().manner(manner(form));
            default -> {}
        }
    }

    private static int number(String text) {
        return text.matches("\\d{1,4}") ? Integer.parseInt(text) : 1;
    }

    private static Teller.Manner manner(Map<String, String> form) {
        return Arrays.stream(Teller.Manner.values())
                .filter(one -> one.name().equals(form.getOrDefault("manner", "")))
                .findFirst()
                .orElse(Teller.Manner.WELL);
    }

    private void write(Map<String, String> form) {
        String post = form.getOrDefault("post", "");
        String text = form.getOrDefault("text", "").strip();
        switch (form.getOrDefault("do", "")) {
            case "write" -> {
                String account = form.getOrDefault("account", "");
                if (!text.isEmpty()) {
                    gangway.write(form.getOrDefault("who", "@oskardahl"), text, post, !account.isEmpty(), account);
                }
            }
            case "edit" -> {
                if (!text.isEmpty()) {
                    gangway.edit(post, text);
                }
            }
            case "delete" -> gangway.delete(post);
            case "like" -> gangway.like(post);
            default -> fault(gangway, form);
        }
    }

    // ------------------------------------------------------------------ what they are told

    private void api(HttpExchange exchange, String path) throws IOException {
        boolean calls = path.startsWith("/telephones/");
        String body = new String(exchange.getRequestBody().readNBytes(LARGEST), StandardCharsets.UTF_8);
        Teller teller = calls ? telephones.teller() : gangway.teller();
        if (!teller.signed(
                OutsidePage.header(exchange, "Rafter-Time"), OutsidePage.header(exchange, "Rafter-Signature"), body)) {
            answer(exchange, new Telephones.Answer(401, "That is not signed as we sign."));
            return;
        }
        String verb = exchange.getRequestMethod();
        String[] parts = path.replaceFirst("/(telephones|network)/api/", "").split("/");
        if (verb.equals("GET") && calls && parts.length == 2 && parts[0].equals("files")) {
            Optional<byte[]> file = telephones.file(parts[1]);
            OutsidePage.answer(exchange, file.isPresent() ? 200 : 404, "audio/wav", file.orElse(new byte[0]));
            return;
        }
        Optional<JsonNode> read = read(body);
        answer(
                exchange,
                read.map(node -> calls ? call(parts, node) : post(verb, parts, node))
                        .orElse(new Telephones.Answer(400, "That cannot be read.")));
    }

    private static Optional<JsonNode> read(String body) {
        try {
            return Optional.ofNullable(JSON.readTree(body));
        } catch (JacksonException e) {
            return Optional.empty();
        }
    }

    private Telephones.Answer call(String[] parts, JsonNode body) {
        if (parts.length == 1) {
            return telephones.call(body);
        }
        return telephones.told(parts[1], parts.length > 2 ? parts[2] : "", body);
    }

    private Telephones.Answer post(String verb, String[] parts, JsonNode body) {
        if (parts.length == 1) {
            return gangway.told(body);
        }
        return gangway.told(parts[1], verb.equals("DELETE") ? "delete" : parts.length > 2 ? parts[2] : "");
    }

    private static void answer(HttpExchange exchange, Telephones.Answer answer) throws IOException {
        byte[] body = JSON.writeValueAsString(Map.of("words", answer.words())).getBytes(StandardCharsets.UTF_8);
        OutsidePage.answer(exchange, answer.status(), "application/json", body);
    }
}
