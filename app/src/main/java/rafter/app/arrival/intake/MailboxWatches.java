package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import rafter.app.arrival.mail.MailConnections;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.platform.News;
import rafter.app.platform.Problem;
import rafter.app.platform.RafterSettings;

/**
 * Watches all mailboxes, each on a thread of its own. Several nodes may watch the same one: what one has kept changes nothing
 * for the other.
 */
@Component
class MailboxWatches implements SmartLifecycle {

    private static final Logger LOG = LoggerFactory.getLogger(MailboxWatches.class);
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(2);

    private final Mailboxes mailboxes;
    private final MailboxWatch watch;
    private final RafterSettings settings;
    private final Map<Long, Watcher> watchers = new HashMap<>();
    private volatile boolean running;

    MailboxWatches(Mailboxes mailboxes, MailboxWatch watch, RafterSettings settings) {
        this.mailboxes = mailboxes;
        this.watch = watch;
        this.settings = settings;
    }

    @Override
    public void start() {
        running = settings.intake().watch();
        arrange();
    }

    @Override
    public synchronized void stop() {
        running = false;
        watchers.values().forEach(Watcher::end);
        watchers.clear();
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    @EventListener
    void hear(News news) {
        if (news.topic().equals("mailboxes") || news.topic().equals("all")) {
            arrange();
        }
    }

    /** Makes the watchers those that the settings ask for; a changed mailbox gets a new one. */
    private synchronized void arrange() {
        if (!running) {
            return;
        }
        List<Mailbox> wanted = mailboxes.all().stream().filter(Mailbox::watched).toList();
        watchers.values().removeIf(watcher -> {
            boolean stays = wanted.stream()
                    .anyMatch(m -> m.id() == watcher.mailbox.id() && m.version() == watcher.mailbox.version());
            if (!stays) {
                watcher.end();
            }
            return !stays;
        });
        wanted.forEach(mailbox -> watchers.computeIfAbsent(mailbox.id(), id -> new Watcher(mailbox)));
    }

    /** Wakes waiting connections: a server may have forgotten them, and some tell of new mail late. */
    @Scheduled(fixedRateString = "${rafter.intake.poll:20s}")
    synchronized void poke() {
        watchers.values().forEach(Watcher::poke);
    }

    private final class Watcher {
        private final Mailbox mailbox;
        private final Thread thread;
        private volatile boolean ended;
        private volatile MailboxWatch.@Nullable Look look;

        Watcher(Mailbox mailbox) {
            this.mailbox = mailbox;
            this.thread = new Thread(this::run, "watch-" + mailbox.address());
            thread.setDaemon(true);
            thread.start();
        }

        void end() {
            ended = true;
            close();
            LockSupport.unpark(thread);
        }

        void poke() {
            MailboxWatch.Look open = look;
            if (open != null) {
                try {
                    open.poke();
                } catch (MessagingException | RuntimeException gone) {
                    close();
                }
            }
            LockSupport.unpark(thread);
        }

        private void close() {
            MailboxWatch.Look open = look;
            look = null;
            if (open != null) {
                try {
                    open.close();
                } catch (MessagingException | RuntimeException alreadyGone) {
                    LOG.debug("closing {}: {}", mailbox.address(), alreadyGone.getMessage());
                }
            }
        }

        private void run() {
            int failures = 0;
            while (!ended) {
                try {
                    watchUntilLost();
                    failures = 0;
                } catch (MessagingException e) {
                    failures = ended ? failures : failed(MailConnections.inWords(e, mailbox.imap()), failures);
                } catch (Problem e) {
                    failures = failed(e.words(), failures);
                } catch (RuntimeException e) {
                    failures = ended ? failures : failed("Fetching broke off: " + e.getMessage(), failures);
                }
                close();
                if (!ended) {
                    LockSupport.parkNanos(pause(failures).toNanos());
                }
            }
        }

        private int failed(String why, int failures) {
            LOG.warn("Mailbox {}: {}", mailbox.address(), why);
            try {
                mailboxes.noteStatus(mailbox.id(), Mailbox.Health.FAILING, why);
            } catch (RuntimeException databaseIsAway) {
                LOG.warn("and that could not be noted: {}", databaseIsAway.getMessage());
            }
            return failures + 1;
        }

        private void watchUntilLost() throws MessagingException {
            MailboxWatch.Look open = watch.open(mailbox);
            look = open;
            open.fetch();
            mailboxes.noteStatus(mailbox.id(), Mailbox.Health.OK, "");
            boolean idle = open.canIdle();
            while (!ended && look != null) {
                if (idle) {
                    open.idle();
                } else {
                    LockSupport.parkNanos(settings.intake().poll().toNanos());
                    open.poke();
                }
                if (!ended && look != null) {
                    open.fetch();
                }
            }
        }

        private static Duration pause(int failures) {
            Duration wanted = Duration.ofSeconds(1L << Math.min(failures, 7));
            return wanted.compareTo(LONGEST_PAUSE) < 0 ? wanted : LONGEST_PAUSE;
        }
    }
}
