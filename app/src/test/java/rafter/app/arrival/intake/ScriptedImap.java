package rafter.app.arrival.intake;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** An IMAP server that misbehaves as it is told: some messages come without their text, some only when asked for alone. */
final class ScriptedImap implements AutoCloseable {

    private static final Pattern COMMAND = Pattern.compile("(\\S+) (UID FETCH|UID STORE|[A-Z]+) ?(.*)");

    private final ServerSocket socket = new ServerSocket(0, 5, InetAddress.getLoopbackAddress());
    private final Map<Long, String> texts;
    private final List<Long> onlyAlone;
    private final List<Long> never;
    private final List<String> stored = new CopyOnWriteArrayList<>();

    /** Answers with these texts by number; numbers in {@code onlyAlone} only when asked for one by one, those in {@code never} not at all. */
    ScriptedImap(Map<Long, String> texts, List<Long> onlyAlone, List<Long> never) throws IOException {
        this.texts = texts;
        this.onlyAlone = onlyAlone;
        this.never = never;
        Thread.ofVirtual().start(this::listen);
    }

    int port() {
        return socket.getLocalPort();
    }

    /** The flags that were set, as they were asked for. */
    List<String> stored() {
        return List.copyOf(stored);
    }

    private void listen() {
        while (!socket.isClosed()) {
            try (Socket one = socket.accept()) {
                talk(one);
            } catch (IOException e) {
                // The other side went away, or the test is over.
            }
        }
    }

    private void talk(Socket one) throws IOException {
        OutputStream out = one.getOutputStream();
        var in = new BufferedReader(new InputStreamReader(one.getInputStream(), StandardCharsets.US_ASCII));
        say(out, "* OK [CAPABILITY IMAP4rev1] here");
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            Matcher command = COMMAND.matcher(line);
            if (command.matches()) {
                answer(out, command.group(2), command.group(3));
                say(out, command.group(1) + " OK done");
            }
        }
    }

    private void answer(OutputStream out, String command, String rest) throws IOException {
        switch (command) {
            case "CAPABILITY" -> say(out, "* CAPABILITY IMAP4rev1");
            case "SELECT" -> {
                say(out, "* " + texts.size() + " EXISTS");
                say(out, "* OK [UIDVALIDITY 7] numbers");
                say(out, "* FLAGS (\\Seen \\Deleted)");
            }
            case "UID STORE" -> stored.add(rest);
            case "UID FETCH" -> fetch(out, rest);
            default -> {}
        }
    }

    private void fetch(OutputStream out, String rest) throws IOException {
        if (rest.contains("RFC822.SIZE")) {
            for (Map.Entry<Long, String> one : texts.entrySet()) {
                say(
                        out,
                        "* " + one.getKey() + " FETCH (UID " + one.getKey() + " RFC822.SIZE "
                                + one.getValue().length() + ")");
            }
            return;
        }
        List<Long> asked = Stream.of(rest.substring(0, rest.indexOf(' ')).split(","))
                .map(Long::valueOf)
                .toList();
        for (Long uid : asked) {
            boolean nothing = never.contains(uid) || onlyAlone.contains(uid) && asked.size() > 1;
            String text = texts.getOrDefault(uid, "");
            String body = nothing ? "NIL" : "{" + text.length() + "}\r\n" + text;
            say(out, "* " + uid + " FETCH (UID " + uid + " BODY[] " + body + ")");
        }
    }

    private static void say(OutputStream out, String line) throws IOException {
        out.write((line + "\r\n").getBytes(StandardCharsets.US_ASCII));
        out.flush();
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
