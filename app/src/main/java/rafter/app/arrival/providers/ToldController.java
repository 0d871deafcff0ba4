package rafter.app.arrival.providers;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import rafter.app.platform.Limits;

/** Where providers tell us what happened. It is answered once it is kept; what becomes of it comes later. */
@RestController
class ToldController {

    private static final int LARGEST = 2_000_000;

    /** So often something may come from one place that is not signed. */
    private static final Limits.Limit FORGED = new Limits.Limit("told-forged", 60, Duration.ofSeconds(1));

    private final Providers providers;
    private final ToldBook book;
    private final Limits limits;

    ToldController(Providers providers, ToldBook book, Limits limits) {
        this.limits = limits;
        this.providers = providers;
        this.book = book;
    }

    @PostMapping("/told/{word}")
    ResponseEntity<Map<String, String>> told(
            @PathVariable String word,
            @RequestHeader(name = "Rafter-Time", defaultValue = "") String time,
            @RequestHeader(name = "Rafter-Signature", defaultValue = "") String signature,
            HttpServletRequest request)
            throws IOException {
        Optional<Provider> provider = providers.of(word);
        if (provider.isEmpty()) {
            // Who has no key learns nothing of which providers there are.
            return answer(HttpStatus.UNAUTHORIZED, "not signed as we sign");
        }
        String from = String.valueOf(request.getRemoteAddr());
        if (limits.wait(FORGED, from).isPositive()) {
            return answer(HttpStatus.TOO_MANY_REQUESTS, "too much from here was not signed as we sign");
        }
        byte[] body = request.getInputStream().readNBytes(LARGEST + 1);
        if (body.length > LARGEST) {
            return answer(HttpStatus.CONTENT_TOO_LARGE, "send less at once, two million bytes at most");
        }
        return switch (book.keep(provider.get(), time, signature, new String(body, StandardCharsets.UTF_8))) {
            case KEPT -> answer(HttpStatus.ACCEPTED, "kept");
            case FORGED -> {
                limits.count(FORGED, from);
                yield answer(HttpStatus.UNAUTHORIZED, "not signed as we sign");
            }
            case UNREADABLE ->
                answer(
                        HttpStatus.BAD_REQUEST,
                        "write {\"told\": [{\"id\": …, \"subject\": …, \"at\": …, \"what\": …}]}, a thousand at most");
        };
    }

    private static ResponseEntity<Map<String, String>> answer(HttpStatus status, String words) {
        return ResponseEntity.status(status).body(Map.of("words", words));
    }
}
