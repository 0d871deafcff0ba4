package rafter.app.arrival.social;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import org.springframework.web.util.UriComponentsBuilder;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.HomeZone;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;
import rafter.core.social.Mood;
import rafter.core.ticket.Turn;

/** What is written on networks: looked through, with the thread around each post and everything that its author wrote before. */
@Controller
@RequestMapping("/social")
class SocialController {

    private static final int MOST = 40;
    private static final int THREAD = 60;
    private static final int DEALINGS = 8;

    /** A post as a list shows it. */
    public record Card(
            Posts.Post post,
            String initials,
            String when,
            String exactly,
            String account,
            String mood,
            String moodCss,
            List<String> searches) {}

    /** Who wrote it. */
    public record Profile(
            String handle,
            String name,
            String about,
            int followers,
            String contact,
            String contactId,
            List<String> alsoKnownAs) {}

    /** What can be asked of the list, as its address has it. */
    public record Asked(String state, String kind, String mood, String search, String words) {

        Posts.Wanted wanted() {
            return new Posts.Wanted(
                    of(Posts.State.class, state),
                    of(Posts.Kind.class, kind),
                    of(Mood.Kind.class, mood),
                    search.matches("\\d{1,15}") ? Optional.of(Long.parseLong(search)) : Optional.empty(),
                    words);
        }

        private static <E extends Enum<E>> Optional<E> of(Class<E> type, String key) {
            return Arrays.stream(type.getEnumConstants())
                    .filter(one -> one.name().equalsIgnoreCase(key))
                    .findFirst();
        }

        /** Its address with something of it another. */
        public String with(String name, String value) {
            var all =
                    new HashMap<>(Map.of("state", state, "kind", kind, "mood", mood, "search", search, "words", words));
            all.put(name, value);
            UriComponentsBuilder address = UriComponentsBuilder.fromPath("/social");
            List.of("state", "kind", "mood", "search", "words", "at", "before").forEach(one -> {
                String there = all.getOrDefault(one, "");
                if (!there.isEmpty()) {
                    address.queryParam(one, "{" + one + "}");
                }
            });
            return address.buildAndExpand(all).encode().toUriString();
        }
    }

    private final Posts posts;
    private final SocialDesk desk;
    private final Waves waves;
    private final SocialRules rules;
    private final OurLines lines;
    private final KnownBy known;
    private final Contacts contacts;
    private final HomeZone home;
    private final Access access;
    private final Clock clock;

    SocialController(
            Posts posts,
            SocialDesk desk,
            Waves waves,
            SocialRules rules,
            OurLines lines,
            KnownBy known,
            Contacts contacts,
            HomeZone home,
            Access access,
            Clock clock) {
        this.posts = posts;
        this.desk = desk;
        this.waves = waves;
        this.rules = rules;
        this.lines = lines;
        this.known = known;
        this.contacts = contacts;
        this.home = home;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String show(
            @RequestParam(defaultValue = "new") String state,
            @RequestParam(defaultValue = "") String kind,
            @RequestParam(defaultValue = "") String mood,
            @RequestParam(defaultValue = "") String search,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "0") long at,
            @RequestParam(required = false) Optional<Long> before,
            Model model) {
        Viewer me = access.require(Right.WORK);
        var asked = new Asked(state, kind, mood, search, words.strip());
        List<Posts.Post> page = posts.page(asked.wanted(), before, MOST, me);
        model.addAttribute("asked", asked);
        model.addAttribute("cards", page.stream().map(this::card).toList());
        model.addAttribute("next", page.size() == MOST ? page.getLast().id() : null);
        model.addAttribute("counts", posts.counts(me));
        model.addAttribute(
                "states",
                List.of(
                        Posts.State.NEW,
                        Posts.State.TICKET,
                        Posts.State.ARCHIVED,
                        Posts.State.NOISE,
                        Posts.State.ASIDE));
        model.addAttribute(
                "kinds",
                Arrays.stream(Posts.Kind.values()).filter(Posts.Kind::watched).toList());
        model.addAttribute("moods", Mood.Kind.values());
        model.addAttribute("searches", rules.searches());
        model.addAttribute("waves", waves.all());
        Optional<Posts.Post> chosen = at == 0 ? page.stream().findFirst() : Optional.of(desk.post(at, me));
        model.addAttribute("chosen", chosen.map(this::card).orElse(null));
        chosen.ifPresent(post -> detail(post, me, model));
        return "arrival/social/social";
    }

    private void detail(Posts.Post post, Viewer me, Model model) {
        model.addAttribute(
                "thread",
                posts.thread(post, THREAD, me).stream().map(this::card).toList());
        model.addAttribute("author", profile(post));
        model.addAttribute(
                "dealings",
                posts.by(post.provider(), post.handle(), DEALINGS + 1, me).stream()
                        .filter(one -> one.id() != post.id())
                        .limit(DEALINGS)
                        .map(this::card)
                        .toList());
        model.addAttribute("accounts", lines.at(post.provider()));
        model.addAttribute("wave", waves.of(post.id()).orElse(null));
        model.addAttribute("publicMost", PublicPosts.LONGEST);
        model.addAttribute("privateMost", PrivateMessages.LONGEST);
    }

    private Card card(Posts.Post post) {
        Instant now = clock.instant();
        return new Card(
                post,
                Say.initials(post.name()),
                Say.when(post.writtenAt(), now, home.zone()),
                Say.exactly(post.writtenAt(), home.zone()),
                post.line().flatMap(lines::of).map(OurLine::address).orElse(""),
                post.moodKind().word(),
                post.moodKind().name().toLowerCase(Locale.ROOT),
                rules.searches().stream()
                        .filter(one -> post.searches().contains(one.id()))
                        .map(SocialRules.Search::name)
                        .toList());
    }

    private Profile profile(Posts.Post post) {
        Optional<KnownBy.Author> author = known.author(post.provider(), post.handle());
        var contact = author.flatMap(KnownBy.Author::contact);
        var also = new ArrayList<String>();
        contact.ifPresent(id -> {
            known.names(id).stream()
                    .map(KnownBy.Author::handle)
                    .filter(one -> !one.equals(post.handle()))
                    .forEach(also::add);
            also.addAll(contacts.get(id).addresses());
        });
        return new Profile(
                post.handle(),
                post.name(),
                author.map(KnownBy.Author::about).orElse(""),
                author.map(KnownBy.Author::followers).orElse(0),
                contact.map(id -> contacts.get(id).name()).orElse(""),
                contact.map(Object::toString).orElse(""),
                also);
    }

    // ------------------------------------------------------------------ deeds

    private String done(String back, long at, RedirectAttributes redirect, String said, Runnable deed) {
        try {
            deed.run();
            if (!said.isEmpty()) {
                redirect.addFlashAttribute("said", said);
            }
            return "redirect:" + path(back);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            String there = path(back);
            return "redirect:" + there + (there.contains("?") ? "&" : "?") + "at=" + at;
        }
    }

    /** Only a list of our own is gone back to. */
    private static String path(String back) {
        return back.matches("/social(\\?[A-Za-z0-9=&%+._~@-]*)?") ? back.replaceAll("[?&]at=\\d+", "") : "/social";
    }

    @PostMapping("/{id}/ticket")
    String ticket(@PathVariable long id, @RequestParam(defaultValue = "") String back, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            return "redirect:/tickets/" + desk.makeTicket(id, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            return "redirect:" + path(back);
        }
    }

    @PostMapping("/{id}/archive")
    String archive(@PathVariable long id, @RequestParam(defaultValue = "") String back, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        undo(redirect, id, Map.of("back", back));
        return done(back, id, redirect, "It is archived.", () -> desk.archive(id, me));
    }

    private static void undo(RedirectAttributes redirect, long id, Map<String, String> fields) {
        redirect.addFlashAttribute("undo", Map.of("action", "/social/" + id + "/again", "fields", fields));
    }

    @PostMapping("/{id}/noise")
    String noise(
            @PathVariable long id,
            @RequestParam(defaultValue = "sender") String by,
            @RequestParam(defaultValue = "") String back,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        boolean sender = by.equals("sender");
        String said = sender
                ? "It is noise, and so is what this sender writes."
                : "It is noise, and so is what is worded like it.";
        return done(back, id, redirect, said, () -> {
            long mark = desk.noise(id, sender, me);
            undo(redirect, id, Map.of("back", back, "mark", Long.toString(mark)));
        });
    }

    @PostMapping("/{id}/again")
    String again(
            @PathVariable long id,
            @RequestParam(required = false) Optional<Long> mark,
            @RequestParam(defaultValue = "") String back,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(back, id, redirect, "It is there to look at again.", () -> desk.again(id, mark, me));
    }

    @PostMapping("/{id}/hide")
    String hide(
            @PathVariable long id,
            @RequestParam(defaultValue = "true") boolean hidden,
            @RequestParam(defaultValue = "") String back,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(
                back,
                id,
                redirect,
                hidden ? "The network is told to hide it." : "The network is told to show it again.",
                () -> desk.hide(id, hidden, me));
    }

    @PostMapping("/{id}/take-away")
    String takeAway(@PathVariable long id, @RequestParam(defaultValue = "") String back, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(back, id, redirect, "The network is told to take it away.", () -> desk.takeAway(id, me));
    }

    @PostMapping("/{id}/answer")
    String answer(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "true") boolean publicly,
            @RequestParam(defaultValue = "0") long account,
            @RequestParam(defaultValue = "CUSTOMER") Turn then,
            @RequestParam(defaultValue = "") String back,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            TicketNumber number = desk.answer(id, new SocialDesk.Answer(text, publicly, account, then), me);
            redirect.addFlashAttribute("said", "Answered, in ticket " + number + ".");
            return "redirect:" + path(back);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", text);
            redirect.addFlashAttribute("publicly", publicly);
            String there = path(back);
            return "redirect:" + there + (there.contains("?") ? "&" : "?") + "at=" + id;
        }
    }

    // ------------------------------------------------------------------ waves

    @GetMapping("/waves/{first}")
    String wave(@PathVariable long first, Model model) {
        access.require(Right.WORK);
        Waves.Seen wave = waves.of(first)
                .orElseThrow(() -> new Problem.NotFound("There is no such wave any more; its posts are in the list."));
        model.addAttribute("wave", wave);
        model.addAttribute(
                "cards", wave.posts().reversed().stream().map(this::card).toList());
        model.addAttribute("accounts", lines.at(wave.posts().getFirst().provider()));
        model.addAttribute("most", PublicPosts.LONGEST);
        model.addAttribute("from", Say.when(wave.wave().from(), clock.instant(), home.zone()));
        model.addAttribute("until", Say.when(wave.wave().until(), clock.instant(), home.zone()));
        return "arrival/social/wave";
    }

    @PostMapping("/waves/{first}/answer")
    String answerWave(
            @PathVariable long first,
            @RequestParam(name = "post", required = false) List<Long> chosen,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "0") long account,
            @RequestParam(defaultValue = "NOBODY") Turn then,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            Waves.Answered answered = waves.answer(
                    chosen == null ? List.of() : chosen, new SocialDesk.Answer(text, true, account, then), me);
            int many = answered.tickets().size();
            redirect.addFlashAttribute(
                    "said",
                    (many == 1 ? "One is" : many + " are") + " answered, beneath ticket "
                            + answered.tickets().getFirst() + ".");
            redirect.addFlashAttribute("remarks", answered.reasons());
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", text);
        }
        return "redirect:/social/waves/" + first;
    }
}
