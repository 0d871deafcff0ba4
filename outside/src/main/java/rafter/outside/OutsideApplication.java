package rafter.outside;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashMap;
import java.util.Map;
import rafter.outside.demo.Cast;
import rafter.outside.demo.Chatters;
import rafter.outside.demo.Shift;
import rafter.outside.demo.Tide;

/** The outside world as a process of its own, so that Rafter can be stopped and started against it. */
public final class OutsideApplication {

    private OutsideApplication() {}

    /** Understands {@code --outside.smtp-port}, {@code --outside.imap-port}, {@code --outside.spool}, {@code --outside.tide} and {@code --server.port}. */
    public static void main(String[] args) throws IOException {
        Map<String, String> settings = settings(args);
        var world = new MailWorld(
                Integer.parseInt(settings.getOrDefault("outside.smtp-port", "3025")),
                Integer.parseInt(settings.getOrDefault("outside.imap-port", "3143")),
                Path.of(settings.getOrDefault("outside.spool", "target/spool")));
        Cast.PEOPLE.forEach(person -> world.mailbox(person.address()));
        Cast.EXPERTS.forEach(expert -> world.mailbox(expert.address()));
        Cast.MAILBOXES.forEach(box -> world.mailbox(box.address()));
        URI rafter = URI.create(settings.getOrDefault("outside.rafter", "http://127.0.0.1:8400"));
        Clock clock = Clock.systemUTC();
        var telephones = new Telephones(
                new Teller(rafter.resolve("/told/exchange"), Cast.EXCHANGE_SECRET, clock),
                Cast.LINES.stream()
                        .filter(Cast.Line::recorded)
                        .map(Cast.Line::number)
                        .toList(),
                clock);
        var gangway = new Gangway(new Teller(rafter.resolve("/told/gangway"), Cast.NETWORK_SECRET, clock));
        var page = new OutsidePage(world, clock, settings.getOrDefault("outside.rafter", ""), telephones, gangway);
        page.start(Integer.parseInt(settings.getOrDefault("server.port", "8490")));
        if (Boolean.parseBoolean(settings.getOrDefault("outside.tide", "false"))) {
            new Tide(world, clock).start(rafter);
            new Shift(rafter).start();
            new Chatters(rafter).start();
            new Voices(telephones, gangway).start();
        }
        System.out.println("The outside is there: SMTP " + world.smtpPort() + ", IMAP " + world.imapPort());
    }

    private static Map<String, String> settings(String[] args) {
        var settings = new HashMap<String, String>();
        for (String arg : args) {
            int equals = arg.indexOf('=');
            if (arg.startsWith("--") && equals > 0) {
                settings.put(arg.substring(2, equals), arg.substring(equals + 1));
            }
        }
        return settings;
    }
}
