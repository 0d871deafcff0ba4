package rafter.outside;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/**
 * A telephone exchange with a waiting queue, in which somebody can play whoever calls or is called. Whom it is told to ring picks up at once, for they
 * pressed the button. A stand-in: no part of Rafter.
 */
final class Telephones extends Played {

    private static final int SHOWN = 30;
    private static final int RATE = 8000;

    /** How a call stands on their side. */
    enum State {
        WAITING,
        RINGS_THERE,
        TALKING,
        HELD,
        OVER
    }

    /** A call. */
    static final class Call {
        private final String id;
        private final boolean outgoing;
        private final String number;
        private final String line;
        private final Instant began;
        private State state;
        private String with = "";
        private String person = "";
        private boolean notice;
        private int message;

        Call(String id, boolean outgoing, String number, String line, Instant began) {
            this.id = id;
            this.outgoing = outgoing;
            this.number = number;
            this.line = line;
            this.began = began;
            this.state = outgoing ? State.RINGS_THERE : State.WAITING;
        }

        public String id() {
            return id;
        }

        public boolean outgoing() {
            return outgoing;
        }

        public String number() {
            return number;
        }

        public String line() {
            return line;
        }

        public State state() {
            return state;
        }

        public String with() {
            return with;
        }
    }

    private final Map<String, Call> calls = new HashMap<>();
    private final List<String> recorded;
    private final Clock clock;

    /** With the lines whose calls it records. */
    Telephones(Teller teller, List<String> recorded, Clock clock) {
        super(teller);
        this.recorded = List.copyOf(recorded);
        this.clock = clock;
    }

    /** The calls, those that go on first. */
    synchronized List<Call> calls() {
        var all = new ArrayList<>(calls.values());
        all.sort(Comparator.comparing((Call one) -> one.state == State.OVER)
                .thenComparing(Comparator.comparing((Call one) -> one.began).reversed()));
        return all.stream().limit(SHOWN).toList();
    }

    // ------------------------------------------------------------------ what whoever calls does

    /** Somebody calls one of our lines. */
    synchronized String ring(String number, String line) {
        String id = UUID.randomUUID().toString();
        calls.put(id, new Call(id, false, number, line, clock.instant()));
        teller().tell(id, "began", Map.of("number", number, "line", line));
        return id;
    }

    /** Whoever is called picks up. */
    synchronized void answer(String id) {
        find(id).filter(call -> call.state == State.RINGS_THERE).ifPresent(call -> taken(call, call.person, call.with));
    }

    /** They speak on the machine, so many seconds, and hang up. */
    synchronized void speak(String id, int seconds) {
        find(id).filter(call -> call.state == State.WAITING).ifPresent(call -> {
            call.message = seconds;
            teller().tell(id, "spoken", Map.of("seconds", seconds, "file", "/files/" + id + "-message"));
            over(call);
        });
    }

    /** One of both hangs up. */
    synchronized void end(String id) {
        find(id).ifPresent(this::over);
    }

    private void over(Call call) {
        if (call.state == State.OVER) {
            return;
        }
        call.state = State.OVER;
        teller().tell(call.id, "ended", Map.of());
        if (call.notice) {
            teller().tell(call.id, "recorded", Map.of("file", "/files/" + call.id + "-recording"));
        }
    }

    private Optional<Call> find(String id) {
        return Optional.ofNullable(calls.get(id));
    }

    private void taken(Call call, String person, String name) {
        call.state = State.TALKING;
        call.person = person;
        call.with = name;
        teller().tell(call.id, "taken", Map.of("person", person));
        if (!call.notice && recorded.contains(call.line)) {
            call.notice = true;
            teller().tell(call.id, "noticed", Map.of());
        }
    }

    // ------------------------------------------------------------------ what it is told

    /** An answer to what it was told: a status, and words where it will not. */
    record Answer(int status, String words) {
        static final Answer DONE = new Answer(200, "");
    }

    /** Does what it is told about a call. */
    synchronized Answer told(String id, String what, JsonNode body) {
        if (down()) {
            return new Answer(503, "The exchange is out of order.");
        }
        Optional<Call> found = find(id);
        if (found.isEmpty() || found.get().state == State.OVER) {
            return new Answer(409, "They have hung up.");
        }
        return done(found.get(), what, body);
    }

    private Answer done(Call call, String what, JsonNode body) {
        String person = body.path("person").asString("");
        String name = body.path("name").asString("");
        switch (what) {
            case "ring" -> {
                if (call.state != State.WAITING) {
                    return new Answer(409, "Somebody has this call.");
                }
                taken(call, person, name);
            }
            case "hold", "word" -> {
                if (call.state == State.TALKING) {
                    call.state = State.HELD;
                    teller().tell(call.id, "held", Map.of());
                }
            }
            case "resume" -> {
                if (call.state == State.HELD) {
                    call.state = State.TALKING;
                    teller().tell(call.id, "resumed", Map.of());
                }
            }
            case "give" -> taken(call, person, name);
            case "end" -> over(call);
            default -> {
                return new Answer(404, "The exchange does not know how to do that.");
            }
        }
        return Answer.DONE;
    }

    /** Calls somebody; the same id calls once. */
    synchronized Answer call(JsonNode body) {
        if (down()) {
            return new Answer(503, "The exchange is out of order.");
        }
        String id = body.path("id").asString("");
        if (id.isEmpty() || calls.containsKey(id)) {
            return Answer.DONE;
        }
        var call = new Call(
                id, true, body.path("number").asString(""), body.path("line").asString(""), clock.instant());
        call.person = body.path("person").asString("");
        call.with = body.path("name").asString("");
        calls.put(id, call);
        teller().tell(id, "began", Map.of("outgoing", true, "number", call.number, "line", call.line));
        return Answer.DONE;
    }

    /** A file of a call: a tone as long as what was spoken, for nobody spoke. */
    synchronized Optional<byte[]> file(String name) {
        return find(name.replaceFirst("-(message|recording)$", ""))
                .map(call -> tone(name.endsWith("-message") ? Math.max(1, call.message) : 3));
    }

    private static byte[] tone(int seconds) {
        int samples = RATE * Math.min(seconds, (int) Duration.ofMinutes(2).toSeconds());
        ByteBuffer head = ByteBuffer.allocate(44).order(ByteOrder.LITTLE_ENDIAN);
        head.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(36 + samples);
        head.put("WAVEfmt ".getBytes(StandardCharsets.US_ASCII))
                .putInt(16)
                .putShort((short) 1)
                .putShort((short) 1);
        head.putInt(RATE).putInt(RATE).putShort((short) 1).putShort((short) 8);
        head.put("data".getBytes(StandardCharsets.US_ASCII)).putInt(samples);
        var out = new ByteArrayOutputStream(44 + samples);
        out.writeBytes(head.array());
        for (int i = 0; i < samples; i++) {
            out.write((int) (128 + 40 * Math.sin(i * 2 * Math.PI * 330 / RATE)));
        }
        return out.toByteArray();
    }
}
