package rafter.outside.demo;

import com.icegreen.greenmail.store.StoredMessage;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import rafter.outside.Letter;
import rafter.outside.MailWorld;
import rafter.outside.MimeMessageText;

/** Mail that keeps arriving now and then while the demo runs: new requests, and thanks or questions after our answers. */
public final class Tide {

    private static final Duration SHORTEST = Duration.ofSeconds(45);
    private static final int SPREAD_SECONDS = 90;
    /** In these hours of the day, in the ferry line's own time, a rush comes in: mail follows on mail. */
    private static final int RUSH_FROM = 8;

    private static final int RUSH_UNTIL = 10;
    private static final int RUSHED = 4;
    private static final List<String> REPLIES = List.of(
            "Thank you, that helps.",
            "Thanks. And is that also true on Sundays?",
            "I tried, and it still does not work. What now?",
            "Perfect, thank you for the quick answer!");

    private final MailWorld world;
    private final Clock clock;
    private URI rafter = URI.create("http://127.0.0.1");
    private final Random random = new Random();
    private final Set<String> answered = new HashSet<>();

    public Tide(MailWorld world, Clock clock) {
        this.world = world;
        this.clock = clock;
    }

    /**
     * Begins, on a thread of its own, once Rafter answers. What lies in the mailboxes by then is let be.
     *
     * @param rafter the address of Rafter
     */
    public void start(URI rafter) {
        this.rafter = rafter;
        Thread thread = new Thread(this::run, "tide");
        thread.setDaemon(true);
        thread.start();
    }

    private void awaitRafter() throws InterruptedException {
        while (true) {
            try (var socket = new Socket(rafter.getHost(), rafter.getPort())) {
                return;
            } catch (IOException notYet) {
                Thread.sleep(Duration.ofSeconds(1));
            }
        }
    }

    private void run() {
        try {
            awaitRafter();
        } catch (InterruptedException e) {
            return;
        }
        Cast.PEOPLE.forEach(person -> world.messages(person.address()).forEach(mail -> answered.add(id(mail))));
        while (true) {
            try {
                Thread.sleep(pause());
                answerInvitations();
                if (random.nextInt(3) == 0 || !answerSomething()) {
                    askSomething();
                }
            } catch (InterruptedException e) {
                return;
            } catch (MessagingException | IOException | RuntimeException e) {
                System.err.println("The tide paused: " + e);
            }
        }
    }

    private Duration pause() {
        int hour = clock.instant().atZone(DemoBook.ZONE).getHour();
        Duration usual = SHORTEST.plusSeconds(random.nextInt(SPREAD_SECONDS));
        return hour >= RUSH_FROM && hour < RUSH_UNTIL ? usual.dividedBy(RUSHED) : usual;
    }

    /** Experts from outside take most of what they are asked into. */
    private void answerInvitations() throws MessagingException, IOException {
        for (Cast.Someone expert : Cast.EXPERTS) {
            for (StoredMessage stored : world.messages(expert.address())) {
                if (answered.add(id(stored))) {
                    String text = random.nextInt(4) == 0
                            ? "No, not today, sorry."
                            : "Yes, I can look at it. Which booking is it about?";
                    answer(expert, stored.getMimeMessage(), text);
                }
            }
        }
    }

    private void askSomething() throws MessagingException {
        Story story = Telling.pick(Stories.ALL, random);
        List<Cast.Someone> able = Cast.PEOPLE.stream()
                .filter(p -> p.firm().isEmpty() != story.firms())
                .toList();
        Telling told = Telling.begin(story, Telling.pick(able, random), random, clock.instant());
        send(new Letter(
                told.who().name(),
                told.who().address(),
                story.mailbox(),
                "",
                told.subject(),
                told.fill(story.asks().getFirst()),
                Optional.empty(),
                List.of(),
                List.of(),
                clock.instant()));
    }

    private boolean answerSomething() throws MessagingException, IOException {
        for (Cast.Someone person : Cast.PEOPLE) {
            for (StoredMessage stored : world.messages(person.address())) {
                MimeMessage mail = stored.getMimeMessage();
                boolean ours = mail.getHeader("Auto-Submitted") == null
                        && String.valueOf(mail.getFrom()[0]).contains("ternpassage.example");
                if (answered.add(id(stored)) && ours) {
                    answer(person, mail, Telling.pick(REPLIES, random));
                    return true;
                }
            }
        }
        return false;
    }

    private void answer(Cast.Someone person, MimeMessage mail, String words) throws MessagingException, IOException {
        String to = ((InternetAddress) mail.getReplyTo()[0]).getAddress();
        String quoted =
                MimeMessageText.plain(mail).lines().map(line -> "> " + line).reduce("", (a, b) -> a + b + "\n");
        String text = words + "\n\nOn " + mail.getSentDate() + ", " + Cast.LINE + " wrote:\n" + quoted;
        send(new Letter(
                person.name(),
                person.address(),
                to,
                "",
                mail.getSubject(),
                text,
                Optional.of(mail.getMessageID()),
                List.of(mail.getMessageID()),
                List.of(),
                clock.instant()));
    }

    private void send(Letter letter) throws MessagingException {
        MimeMessage mail = letter.mime();
        world.send(mail, mail.getAllRecipients());
    }

    private static String id(StoredMessage stored) {
        try {
            return String.valueOf(stored.getMimeMessage().getMessageID());
        } catch (MessagingException e) {
            return "none " + stored.getUid();
        }
    }
}
