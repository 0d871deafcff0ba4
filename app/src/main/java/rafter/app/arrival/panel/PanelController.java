package rafter.app.arrival.panel;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.arrival.chat.ChatSettings;
import rafter.app.arrival.chat.ChatSite;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Doorman;
import rafter.app.arrival.chat.Invites;
import rafter.app.arrival.chat.LeftMessages;
import rafter.app.arrival.chat.Openers;
import rafter.app.arrival.chat.Talk;
import rafter.app.platform.Limits;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.core.chat.Invite;
import rafter.core.chat.Opener;
import rafter.core.chat.Site;
import rafter.core.chat.Visit;

/** The panel on a website before there is a chat: whether it is open, its page, and how a chat is begun or a message left. */
@Controller
@RequestMapping("/panel/{word}")
class PanelController {

    /** Somebody at one address begins so many at once, and then one each so long. */
    private static final Limits.Limit BEGUN = new Limits.Limit("chat-begun", 20, Duration.ofSeconds(20));

    private static final int LONGEST_PATH = 500;
    private static final int LONGEST_TITLE = 200;
    private static final int LONGEST_CODE = 20;
    private static final int LONGEST_SHOWN = 2000;

    /** What the script on a website asks before it draws anything. */
    public record Open(boolean open, String words, Optional<Shown> invite) {}

    /** An invitation, and after how many seconds on the page. */
    public record Shown(long id, String words, long after) {}

    /** What a new chat has. */
    public record Begun(String token, int last) {}

    /** What went wrong, in words. */
    public record Wrong(String words) {}

    private final ChatSites sites;
    private final ChatSettings settings;
    private final Doorman doorman;
    private final Openers openers;
    private final Invites invites;
    private final Talk talk;
    private final LeftMessages messages;
    private final OpensAgain opens;
    private final Limits limits;
    private final Workspaces workspaces;
    private final Clock clock;

    PanelController(
            ChatSites sites,
            ChatSettings settings,
            Doorman doorman,
            Openers openers,
            Invites invites,
            Talk talk,
            LeftMessages messages,
            OpensAgain opens,
            Limits limits,
            Workspaces workspaces,
            Clock clock) {
        this.sites = sites;
        this.settings = settings;
        this.doorman = doorman;
        this.openers = openers;
        this.invites = invites;
        this.talk = talk;
        this.messages = messages;
        this.opens = opens;
        this.limits = limits;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    private ChatSite site(String word) {
        return sites.of(word)
                .orElseThrow(() -> new Problem.NotFound("There is no chat of that name. Look at the script tag."));
    }

    /** Asked by the script from the website itself; a website that is not listed is told so and gets nothing. */
    @GetMapping("/open")
    ResponseEntity<Object> open(
            @PathVariable String word,
            @RequestHeader(name = "Origin", defaultValue = "") String origin,
            @RequestParam(defaultValue = "/") String path,
            @RequestParam(defaultValue = "") String language,
            @RequestParam(defaultValue = "") String searched,
            @RequestParam(defaultValue = "") String shown) {
        ChatSite site = site(word);
        if (!Site.listed(site.origins(), origin)) {
            return ResponseEntity.status(HttpStatus.FORBIDDEN)
                    .header("Access-Control-Allow-Origin", "*")
                    .body(new Wrong(
                            "This website may not hold the panel “" + word + "”. List its origin in the house rules."));
        }
        boolean open = opens.words(doorman.doors(site)).isEmpty();
        var visit = new Visit(cut(path, LONGEST_PATH), language, cut(searched, LONGEST_TITLE), shown(shown));
        Optional<Invite> invite = open
                ? Invite.chosen(
                        invites.all().stream().map(Invites.Counted::invite).toList(), visit, clock.instant())
                : Optional.empty();
        return ResponseEntity.ok()
                .header("Access-Control-Allow-Origin", origin)
                .header("Vary", "Origin")
                .header("Cache-Control", "no-store")
                .body(new Open(
                        open,
                        settings.rules().greeting(),
                        invite.map(one ->
                                new Shown(one.id(), one.words(), one.after().toSeconds()))));
    }

    /** Which invitation was shown when, as the script keeps it: {@code 3:1767225600,5:…}. */
    private static Map<Long, Instant> shown(String kept) {
        var all = new HashMap<Long, Instant>();
        if (kept.length() > LONGEST_SHOWN) {
            return all;
        }
        for (String one : kept.split(",")) {
            if (one.matches("\\d{1,15}:\\d{1,11}")) {
                String[] parts = one.split(":");
                all.put(Long.parseLong(parts[0]), Instant.ofEpochSecond(Long.parseLong(parts[1])));
            }
        }
        return all;
    }

    private static String cut(String text, int longest) {
        return text.length() > longest ? text.substring(0, longest) : text;
    }

    /** An invitation was shown. */
    @PostMapping("/invites/{id}")
    ResponseEntity<Void> shown(
            @PathVariable String word,
            @PathVariable long id,
            @RequestHeader(name = "Origin", defaultValue = "") String origin) {
        if (Site.listed(site(word).origins(), origin)) {
            invites.shown(id);
        }
        return ResponseEntity.noContent()
                .header("Access-Control-Allow-Origin", "*")
                .build();
    }

    /** The page within the panel. */
    @GetMapping
    String page(
            @PathVariable String word,
            @RequestParam(defaultValue = "/") String path,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String language,
            @RequestParam(defaultValue = "") String searched,
            @RequestParam(defaultValue = "0") long invite,
            Model model,
            HttpServletResponse response) {
        ChatSite site = site(word);
        Chats.Place place = place(path, title, language, searched);
        var visit = new Visit(place.page(), place.language(), place.searched(), Map.of());
        String greeting =
                invites.find(invite).map(Invite::words).orElse(settings.rules().greeting());
        var page = new PanelPage(
                word,
                "",
                workspaces.current().name(),
                greeting,
                Opener.shown(openers.all(), visit),
                opens.words(doorman.doors(site)).orElse(""),
                place,
                invite);
        return PanelPages.show(page, model, response);
    }

    /** On which page somebody is, of bounded length. */
    private static Chats.Place place(String path, String title, String language, String searched) {
        return new Chats.Place(
                cut(path, LONGEST_PATH),
                cut(title, LONGEST_TITLE),
                cut(language, LONGEST_CODE),
                cut(searched, LONGEST_TITLE));
    }

    /** Begins a chat with what is said first. */
    @PostMapping("/chats")
    ResponseEntity<Object> begin(
            @PathVariable String word,
            @RequestParam String key,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "0") long opener,
            @RequestParam(defaultValue = "/") String path,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String language,
            @RequestParam(defaultValue = "") String searched,
            @RequestParam(defaultValue = "0") long invite,
            HttpServletRequest request) {
        ChatSite site = site(word);
        PanelPages.insistOnOwnPage(request);
        return PanelPages.within(limits, BEGUN, request.getRemoteAddr(), () -> {
            Optional<String> closed = opens.words(doorman.doors(site));
            if (closed.isPresent()) {
                throw new Problem.Stale(closed.get());
            }
            Talk.First first = opener > 0 ? new Talk.First.Pressed(opener) : new Talk.First.Words(text);
            Chats.Place place = place(path, title, language, searched);
            Talk.Begun begun = talk.begin(site, key, first, place, invite);
            return new Begun(begun.token(), begun.chat().lastSeq());
        });
    }

    /** Leaves a message that is answered by mail. */
    @PostMapping("/message")
    ResponseEntity<Object> message(
            @PathVariable String word,
            @RequestParam String key,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String address,
            @RequestParam(defaultValue = "") String text,
            HttpServletRequest request) {
        ChatSite site = site(word);
        PanelPages.insistOnOwnPage(request);
        return PanelPages.within(limits, BEGUN, request.getRemoteAddr(), () -> {
            messages.leave(site, key, name, address, text);
            return Map.of("left", true);
        });
    }
}
