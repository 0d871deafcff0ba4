package rafter.app.arrival.providers;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Tells providers what to do, signed as they sign. */
@Component
public class ProviderClient {

    /** What a provider answered. */
    public sealed interface Answer {

        /** It does it. */
        record Done(JsonNode body) implements Answer {}

        /** It will not, also not later. */
        record Refused(String words) implements Answer {}

        /** It cannot be reached, or not now. */
        record Silent(String words) implements Answer {}

        /** Why it does not do it; nothing: it does. */
        default Optional<String> trouble() {
            return switch (this) {
                case Done done -> Optional.empty();
                case Refused refused -> Optional.of(refused.words());
                case Silent silent -> Optional.of(silent.words());
            };
        }
    }

    /** A file that a provider has. */
    public record Fetched(String mediaType, byte[] content) {}

    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final int LARGEST_FILE = 25_000_000;
    private static final int LONGEST_WORDS = 200;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final Providers providers;
    private final Clock clock;
    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(2))
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    ProviderClient(Providers providers, Clock clock) {
        this.providers = providers;
        this.clock = clock;
    }

    /** An id of a provider’s as a part of a path, whatever stands in it. */
    public static String part(String id) {
        return URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20").replace("*", "%2A");
    }

    /** Tells it something as JSON. */
    public Answer tell(Provider provider, String verb, String path, Map<String, ?> body) {
        return tell(provider, verb, path, JSON.writeValueAsString(body));
    }

    Answer tell(Provider provider, String verb, String path, String body) {
        Answer answer = asked(provider, verb, path, body);
        providers.trouble(provider.id(), answer instanceof Answer.Silent silent ? silent.words() : "");
        return answer;
    }

    private Answer asked(Provider provider, String verb, String path, String body) {
        if (provider.address().isEmpty()) {
            return new Answer.Refused("Nothing can be told to “" + provider.name() + "”: its address is not set.");
        }
        try {
            HttpResponse<String> answer = http.send(
                    request(provider, path, body)
                            .header("Content-Type", "application/json")
                            .method(verb, HttpRequest.BodyPublishers.ofString(body))
                            .build(),
                    HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8));
            JsonNode said = read(answer.body());
            int status = answer.statusCode();
            if (status / 100 == 2) {
                return new Answer.Done(said);
            }
            String words =
                    said.path("words").isString() ? said.get("words").stringValue() : "It answered " + status + ".";
            String shown = words.length() > LONGEST_WORDS ? words.substring(0, LONGEST_WORDS) : words;
            boolean later = status / 100 != 4 || status == 408 || status == 425 || status == 429;
            return later ? new Answer.Silent(shown) : new Answer.Refused(shown);
        } catch (IOException | IllegalArgumentException e) {
            return new Answer.Silent("“" + provider.name() + "” does not answer.");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new Answer.Silent("It was interrupted.");
        }
    }

    private static JsonNode read(String body) {
        try {
            JsonNode read = JSON.readTree(body);
            return read == null || read.isMissingNode() ? JSON.createObjectNode() : read;
        } catch (JacksonException e) {
            return JSON.createObjectNode();
        }
    }

    /**
     * Fetches a file that a provider has.
     *
     * @param path below its own address; nothing is fetched from elsewhere
     * @throws Unfetched when it cannot be had now
     */
    public Fetched fetch(Provider provider, String path) throws Unfetched {
        try {
            HttpResponse<byte[]> answer =
                    http.send(request(provider, path, "").GET().build(), HttpResponse.BodyHandlers.ofByteArray());
            if (answer.statusCode() != 200) {
                throw new Unfetched("the file could not be had: it answered " + answer.statusCode());
            }
            if (answer.body().length > LARGEST_FILE) {
                throw new Told.Unreadable("the file is larger than 25 MB");
            }
            String type = answer.headers().firstValue("Content-Type").orElse("application/octet-stream");
            return new Fetched(type.replaceFirst(";.*", "").strip(), answer.body());
        } catch (IOException | IllegalArgumentException e) {
            throw new Unfetched("the file could not be had: the provider does not answer");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new Unfetched("it was interrupted");
        }
    }

    /** A file could not be had now. */
    public static final class Unfetched extends Exception {
        private static final long serialVersionUID = 1L;

        Unfetched(String words) {
            super(words);
        }
    }

    private HttpRequest.Builder request(Provider provider, String path, String body) {
        if (!path.matches("(/[A-Za-z0-9@._~%-]+)+") || path.contains("..")) {
            throw new IllegalArgumentException("no path below a provider: " + path);
        }
        String time = Long.toString(clock.instant().getEpochSecond());
        return HttpRequest.newBuilder(URI.create(provider.address() + path))
                .timeout(PATIENCE)
                .header("Rafter-Time", time)
                .header(
                        "Rafter-Signature",
                        "hmac-sha256=" + ToldBook.signature(providers.secret(provider.id()), time, body));
    }
}
