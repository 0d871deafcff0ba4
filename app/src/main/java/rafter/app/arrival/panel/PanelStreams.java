package rafter.app.arrival.panel;

import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import rafter.app.arrival.chat.Chats;
import rafter.app.platform.LiveNews;
import rafter.app.platform.News;
import rafter.core.id.TicketNumber;

/**
 * Tells open panels what is new in their chats, as server-sent events. Each has a thread of its own that looks when it is woken, so that what
 * is told is what stands in the database, whatever news was lost; one that does not read holds up nobody.
 */
@Component
class PanelStreams {

    private static final Set<String> TOPICS = Set.of("talk", "writing", "ticket");

    private final PanelViews views;
    private final Chats chats;
    private final LiveNews news;
    private final Clock clock;
    private final Map<TicketNumber, Set<Stream>> open = new ConcurrentHashMap<>();

    PanelStreams(PanelViews views, Chats chats, LiveNews news, Clock clock) {
        this.views = views;
        this.chats = chats;
        this.news = news;
        this.clock = clock;
    }

    private final class Stream {
        private final SseEmitter emitter = new SseEmitter(0L);
        private final Semaphore wake = new Semaphore(1);
        private final Chats.Chat chat;
        private final Thread thread = Thread.ofVirtual().name("panel").unstarted(this::run);
        private volatile boolean over;
        private volatile boolean beat;
        private int after;

        Stream(Chats.Chat chat, int after) {
            this.chat = chat;
            this.after = after;
            emitter.onCompletion(this::gone);
            emitter.onTimeout(this::gone);
            emitter.onError(e -> gone());
        }

        private void run() {
            PanelState told = new PanelState(List.of(), -1, "", false, 0, 0, "", false, false);
            try {
                while (!over) {
                    wake.acquire();
                    wake.drainPermits();
                    PanelState now = views.of(chat.id(), after);
                    if (!now.bare().equals(told)) {
                        after = Math.max(after, now.last());
                        told = now.bare();
                        emitter.send(SseEmitter.event().name("state").data(now, MediaType.APPLICATION_JSON));
                    } else if (beat) {
                        emitter.send(SseEmitter.event().comment("still here"));
                    }
                    beat = false;
                }
            } catch (IOException | IllegalStateException notThere) {
                gone();
            } catch (InterruptedException ended) {
                Thread.currentThread().interrupt();
            } catch (RuntimeException trouble) {
                // The panel comes again by itself, and then gets what it missed.
                end();
            }
        }

        private void gone() {
            over = true;
            thread.interrupt();
            open.computeIfPresent(chat.ticket(), (ticket, streams) -> {
                streams.remove(this);
                return streams.isEmpty() ? null : streams;
            });
        }

        void end() {
            gone();
            Thread.ofVirtual().start(emitter::complete);
        }
    }

    /** Opens the stream of a panel; first comes what it has not got after a line. */
    SseEmitter open(Chats.Chat chat, int after) {
        var stream = new Stream(chat, after);
        open.compute(chat.ticket(), (ticket, streams) -> {
            Set<Stream> all = streams == null ? ConcurrentHashMap.newKeySet() : streams;
            all.add(stream);
            return all;
        });
        stream.thread.start();
        seen(chat);
        return stream.emitter;
    }

    /** The panel of a chat is open; the desk is told when it was not before. */
    void seen(Chats.Chat chat) {
        boolean back = !chat.here(clock.instant());
        chats.seen(Set.of(chat.id()), clock.instant());
        if (back) {
            news.talk(chat.ticket());
        }
    }

    @EventListener
    void tell(News told) {
        if (told.topic().equals("all")) {
            open.values().forEach(streams -> streams.forEach(stream -> stream.wake.release()));
        } else if (TOPICS.contains(told.topic())) {
            Set<Stream> streams = open.get(new TicketNumber(told.number()));
            if (streams != null) {
                streams.forEach(stream -> stream.wake.release());
            }
        }
    }

    /** Keeps proxies from closing quiet connections, finds those that are gone, and says which panels are open. */
    @Scheduled(fixedRate = 10_000)
    void beat() {
        List<Stream> all = open.values().stream().flatMap(Set::stream).toList();
        chats.seen(all.stream().map(stream -> stream.chat.id()).toList(), clock.instant());
        all.forEach(stream -> {
            stream.beat = true;
            stream.wake.release();
        });
    }

    /** Open streams would hold up an orderly stop. */
    @EventListener(ContextClosedEvent.class)
    void endAll() {
        open.values().stream().flatMap(Set::stream).toList().forEach(Stream::end);
    }
}
