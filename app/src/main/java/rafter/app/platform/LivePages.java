package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Passes news on to open pages as server-sent events. Each page has a short queue and a thread of its own, so that one that does not read holds
 * up nobody: it is dropped, comes again by itself, and then catches up. A page ends with its session.
 */
@Controller
class LivePages {

    private static final int QUEUE = 200;

    private final Set<Page> pages = ConcurrentHashMap.newKeySet();
    private final OpenSessions sessions;
    private final Audience audience;
    private final RecentNews recent;

    LivePages(OpenSessions sessions, Audience audience, RecentNews recent) {
        this.audience = audience;
        this.recent = recent;
        this.sessions = sessions;
    }

    /** Something to be sent, and what it is about; whether it is for the page is looked up by the page's own thread. */
    private record Line(Optional<News> about, SseEmitter.SseEventBuilder event) {}

    private final class Page {
        private final SseEmitter emitter = new SseEmitter(0L);
        private final String session;
        private final Predicate<News> wanted;
        private final BlockingQueue<Line> queue = new ArrayBlockingQueue<>(QUEUE);
        private final Thread thread;

        Page(String session, Predicate<News> wanted) {
            this.wanted = wanted;
            this.session = session;
            this.thread = Thread.ofVirtual().name("live").unstarted(this::run);
            emitter.onCompletion(this::gone);
            emitter.onTimeout(this::gone);
            emitter.onError(e -> gone());
        }

        void start() {
            thread.start();
        }

        void tell(SseEmitter.SseEventBuilder event) {
            offer(new Line(Optional.empty(), event));
        }

        void tell(News news) {
            offer(new Line(
                    Optional.of(news), SseEmitter.event().name(news.topic()).data(Long.toString(news.number()))));
        }

        private void offer(Line line) {
            if (!queue.offer(line)) {
                end();
            }
        }

        private void run() {
            try {
                while (pages.contains(this)) {
                    Line line = queue.take();
                    if (line.about().filter(wanted.negate()).isEmpty()) {
                        emitter.send(line.event());
                    }
                }
            } catch (IOException | IllegalStateException notThere) {
                gone();
            } catch (InterruptedException over) {
                Thread.currentThread().interrupt();
            }
        }

        private void gone() {
            pages.remove(this);
            thread.interrupt();
        }

        void end() {
            gone();
            // The other side may not read; nobody waits for that.
            Thread.ofVirtual().start(emitter::complete);
        }
    }

    /**
     * What happens from now on, and what happened since the page was made; it is greeted with {@code missed} when that is not known.
     */
    @GetMapping(path = "/live", produces = "text/event-stream")
    SseEmitter live(@RequestParam(defaultValue = "") String since, HttpServletRequest request) {
        var page = new Page(
                Optional.ofNullable(request.getSession(false))
                        .map(HttpSession::getId)
                        .orElse(""),
                audience.here());
        // What happens between these lines is told twice, which does no harm.
        pages.add(page);
        Optional<Set<News>> missed = recent.since(since).filter(news -> news.size() < QUEUE);
        page.tell(SseEmitter.event().name("hello").data(missed.isPresent() ? "told" : "missed"));
        missed.orElse(Set.of()).forEach(page::tell);
        page.start();
        return page.emitter;
    }

    @EventListener
    void tell(News news) {
        if (news.topic().equals("sessions")) {
            endOver();
            return;
        }
        if (recent.heard(news)) {
            pages.forEach(page -> page.tell(news));
        }
    }

    /** Keeps proxies from closing quiet connections, and finds those that are gone or whose session has ended. */
    @Scheduled(fixedRate = 15_000)
    void keepOpen() {
        endOver();
        pages.forEach(page -> page.tell(SseEmitter.event().comment("still here")));
    }

    private void endOver() {
        Set<String> open =
                sessions.stillOpen(pages.stream().map(page -> page.session).collect(Collectors.toSet()));
        pages.stream().filter(page -> !open.contains(page.session)).toList().forEach(Page::end);
    }

    /** Open streams would hold up an orderly stop. */
    @EventListener(ContextClosedEvent.class)
    void end() {
        Set.copyOf(pages).forEach(Page::end);
    }
}
