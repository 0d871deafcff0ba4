package rafter.app.platform;

import java.io.IOException;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Passes news on to open pages as server-sent events. */
@Controller
class LivePages {

    private final Set<SseEmitter> pages = ConcurrentHashMap.newKeySet();

    @GetMapping(path = "/live", produces = "text/event-stream")
    SseEmitter live() {
        var emitter = new SseEmitter(0L);
        pages.add(emitter);
        emitter.onCompletion(() -> pages.remove(emitter));
        emitter.onTimeout(() -> pages.remove(emitter));
        emitter.onError(e -> pages.remove(emitter));
        send(emitter, SseEmitter.event().name("hello").data("1"));
        return emitter;
    }

    @EventListener
    void tell(News news) {
        if (news.topic().equals("mail") || news.topic().equals("mailboxes")) {
            return;
        }
        pages.forEach(page -> send(page, SseEmitter.event().name(news.topic()).data(Long.toString(news.number()))));
    }

    /** Keeps proxies from closing quiet connections, and finds those that are gone. */
    @Scheduled(fixedRate = 15_000)
    void keepOpen() {
        pages.forEach(page -> send(page, SseEmitter.event().comment("still here")));
    }

    /** Open streams would hold up an orderly stop. */
    @EventListener(ContextClosedEvent.class)
    void end() {
        pages.forEach(SseEmitter::complete);
    }

    private void send(SseEmitter page, SseEmitter.SseEventBuilder event) {
        try {
            page.send(event);
        } catch (IOException | IllegalStateException gone) {
            pages.remove(page);
        }
    }
}
