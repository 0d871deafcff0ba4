package rafter.app.arrival.panel;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import rafter.app.arrival.chat.ChatFiles;
import rafter.app.arrival.chat.ChatSettings;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Endings;
import rafter.app.arrival.chat.Talk;
import rafter.app.platform.Limits;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.files.Uploads;
import rafter.core.ticket.Work;

/** A chat, for whoever has its token. Everything that is sent has a key, so that it can be sent again until it is answered. */
@Controller
@RequestMapping("/talk/{token}")
class TalkController {

    /** In one chat so many lines are said at once, and then one each so long. */
    private static final Limits.Limit LINES = new Limits.Limit("chat-lines", 12, Duration.ofMillis(1200));

    private static final Limits.Limit SIGNS = new Limits.Limit("chat-signs", 30, Duration.ofMillis(500));

    private final Talk talk;
    private final Endings endings;
    private final ChatSites sites;
    private final ChatSettings settings;
    private final ChatFiles files;
    private final Uploads uploads;
    private final PanelStreams streams;
    private final PanelViews views;
    private final Limits limits;
    private final Workspaces workspaces;

    TalkController(
            Talk talk,
            Endings endings,
            ChatSites sites,
            ChatSettings settings,
            ChatFiles files,
            Uploads uploads,
            PanelStreams streams,
            PanelViews views,
            Limits limits,
            Workspaces workspaces) {
        this.talk = talk;
        this.endings = endings;
        this.sites = sites;
        this.settings = settings;
        this.files = files;
        this.uploads = uploads;
        this.streams = streams;
        this.views = views;
        this.limits = limits;
        this.workspaces = workspaces;
    }

    /** The chat as a page of its own, for going on with it elsewhere. */
    @GetMapping
    String page(@PathVariable String token, Model model, HttpServletResponse response) {
        Chats.Chat chat = talk.of(token);
        var page = new PanelPage(
                sites.of(chat.site()).orElseThrow().word(),
                token,
                workspaces.current().name(),
                settings.rules().greeting(),
                List.of(),
                "",
                chat.place(),
                0);
        return PanelPages.show(page, model, response);
    }

    @GetMapping(path = "/live", produces = "text/event-stream")
    SseEmitter live(@PathVariable String token, @RequestParam(defaultValue = "0") int after) {
        return streams.open(talk.of(token), Math.max(0, after));
    }

    /** The same as it stands, for where no stream can be kept open. */
    @GetMapping("/state")
    ResponseEntity<Object> state(@PathVariable String token, @RequestParam(defaultValue = "0") int after) {
        return PanelPages.told(() -> {
            Chats.Chat chat = talk.of(token);
            streams.seen(chat);
            return views.of(chat.id(), Math.max(0, after));
        });
    }

    @PostMapping("/lines")
    ResponseEntity<Object> say(
            @PathVariable String token,
            @RequestParam String key,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "0") long opener,
            @RequestParam(name = "file", required = false) Optional<List<MultipartFile>> sent,
            HttpServletRequest request) {
        return changing(token, request, LINES, chat -> {
            if (opener > 0) {
                talk.press(chat, key, opener);
            } else {
                talk.say(chat, key, text, kept(sent.orElse(List.of())));
            }
        });
    }

    private List<NewMessage.FileRef> kept(List<MultipartFile> sent) {
        try {
            return uploads.keep(sent);
        } catch (IOException e) {
            throw new Problem.Invalid("The files did not arrive whole. Nothing was said; send it once more.");
        }
    }

    @PostMapping("/helped")
    ResponseEntity<Object> helped(
            @PathVariable String token,
            @RequestParam long press,
            @RequestParam boolean helped,
            HttpServletRequest request) {
        return changing(token, request, LINES, chat -> talk.helped(chat, press, helped));
    }

    @PostMapping("/typing")
    ResponseEntity<Object> typing(@PathVariable String token, HttpServletRequest request) {
        return changing(token, request, SIGNS, talk::typing);
    }

    @PostMapping("/read")
    ResponseEntity<Object> read(@PathVariable String token, @RequestParam int seq, HttpServletRequest request) {
        return changing(token, request, SIGNS, chat -> talk.read(chat, seq));
    }

    @PostMapping("/end")
    ResponseEntity<Object> end(@PathVariable String token, HttpServletRequest request) {
        return changing(
                token,
                request,
                LINES,
                chat -> endings.end(
                        chat, Chats.EndedBy.CUSTOMER, chat.name().isBlank() ? "The customer" : chat.name()));
    }

    @PostMapping("/rate")
    ResponseEntity<Object> rate(
            @PathVariable String token,
            @RequestParam(defaultValue = "") String rating,
            @RequestParam(defaultValue = "") String comment,
            HttpServletRequest request) {
        return changing(token, request, LINES, chat -> {
            Work.Rating chosen = Arrays.stream(Work.Rating.values())
                    .filter(one -> one.name().equals(rating))
                    .findFirst()
                    .orElseThrow(() -> new Problem.Invalid("Choose one of the three, please."));
            endings.rate(chat, chosen, comment);
        });
    }

    @PostMapping("/copy")
    ResponseEntity<Object> copy(
            @PathVariable String token, @RequestParam(defaultValue = "") String address, HttpServletRequest request) {
        return changing(token, request, LINES, chat -> endings.copy(chat, address));
    }

    private ResponseEntity<Object> changing(
            String token, HttpServletRequest request, Limits.Limit limit, Consumer<Chats.Chat> deed) {
        PanelPages.insistOnOwnPage(request);
        Supplier<Object> done = () -> {
            deed.accept(talk.of(token));
            return Map.of("done", true);
        };
        return PanelPages.within(limits, limit, token, done);
    }

    @GetMapping("/files/{file}")
    ResponseEntity<byte[]> file(@PathVariable String token, @PathVariable long file) {
        return files.of(talk.of(token), file);
    }
}
