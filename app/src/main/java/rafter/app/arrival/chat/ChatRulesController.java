package rafter.app.arrival.chat;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Whole;
import rafter.core.chat.ChatRules;
import rafter.core.chat.Gathering;
import rafter.core.chat.Invite;
import rafter.core.chat.Pages;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.time.Amount;

/** How the workspace chats: on which sites, what is asked, what can be pressed, and who is invited. */
@Controller
@RequestMapping(ChatRulesController.HERE)
class ChatRulesController {

    static final String HERE = "/house-rules/chat";
    static final String BACK = "redirect:" + HERE;
    static final String KEPT = " Nothing was saved; what you typed is still here.";

    /** An opener as the list shows it. */
    public record Pressable(long id, String wording, String pages, String language, Openers.Count count) {}

    private final ChatSettings settings;
    private final ChatSites sites;
    private final Openers openers;
    private final Invites invites;
    private final OwnFields fields;
    private final RafterSettings rafter;
    private final Access access;
    private final Clock clock;

    ChatRulesController(
            ChatSettings settings,
            ChatSites sites,
            Openers openers,
            Invites invites,
            OwnFields fields,
            RafterSettings rafter,
            Access access,
            Clock clock) {
        this.settings = settings;
        this.sites = sites;
        this.openers = openers;
        this.invites = invites;
        this.fields = fields;
        this.rafter = rafter;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String show(Model model) {
        access.require(Right.HOUSE_RULES);
        if (!model.containsAttribute("typed")) {
            model.addAttribute("typed", typed(settings.kept()));
        }
        Map<Long, Openers.Count> counts = openers.counts();
        model.addAttribute("rows", ChatRules.MOST_QUESTIONS);
        model.addAttribute("into", into());
        model.addAttribute("sites", sites.all());
        model.addAttribute("address", rafter.address().toString());
        model.addAttribute(
                "openers",
                openers.all().stream()
                        .map(one -> new Pressable(
                                one.id(),
                                one.wording(),
                                one.pages().typed(),
                                one.language(),
                                counts.getOrDefault(one.id(), Openers.Count.NONE)))
                        .toList());
        model.addAttribute("macros", openers.answering());
        model.addAttribute("invites", invites.all());
        return "arrival/chat/rules";
    }

    /** Into what an answer can go, by key, as people choose it. */
    private Map<String, String> into() {
        var all = new LinkedHashMap<String, String>();
        all.put("", "is not asked");
        all.put(ChatSettings.key(new Gathering.Into.Name()), "who they are");
        all.put(ChatSettings.key(new Gathering.Into.Address()), "their mail address");
        all.put(ChatSettings.key(new Gathering.Into.Topic()), "the topic");
        fields.shown(OwnField.Bearer.TICKET)
                .forEach(field ->
                        all.put(ChatSettings.key(new Gathering.Into.Field(field.key())), "the field " + field.name()));
        return all;
    }

    private static Map<String, String> typed(ChatSettings.Kept kept) {
        ChatRules rules = kept.rules();
        var typed = new HashMap<String, String>();
        typed.put("version", Integer.toString(kept.version()));
        typed.put("greeting", rules.greeting());
        typed.put("patience", Amount.written(rules.patience()));
        if (rules.open()) {
            typed.put("open", "true");
        }
        List<Gathering.Question> questions = rules.gathering().questions();
        for (int i = 0; i < questions.size(); i++) {
            typed.put("ask" + i, questions.get(i).ask());
            typed.put("into" + i, ChatSettings.key(questions.get(i).into()));
            typed.put("choices" + i, String.join(", ", questions.get(i).choices()));
        }
        return typed;
    }

    @PostMapping
    String save(@RequestParam MultiValueMap<String, String> form, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = form.toSingleValueMap();
        try {
            Duration patience = Amount.read(typed.getOrDefault("patience", ""))
                    .orElseThrow(() -> new Problem.Invalid("“" + typed.getOrDefault("patience", "")
                            + "” is no amount of time. Write it like 10 m." + KEPT));
            var rules = new ChatRules(
                    typed.containsKey("open"),
                    typed.getOrDefault("greeting", "").strip(),
                    patience,
                    gathering(typed));
            settings.save(rules, Whole.of(typed.getOrDefault("version", ""), 0), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("typed", typed);
            model.addAttribute("problem", e.words());
            return show(model);
        }
        redirect.addFlashAttribute("said", "Saved.");
        return BACK;
    }

    private Gathering gathering(Map<String, String> typed) {
        Map<String, String> known = into();
        var questions = new ArrayList<Gathering.Question>();
        for (int i = 0; i < ChatRules.MOST_QUESTIONS; i++) {
            String into = typed.getOrDefault("into" + i, "");
            String ask = typed.getOrDefault("ask" + i, "").strip();
            if (into.isEmpty()) {
                if (!ask.isEmpty()) {
                    throw new Problem.Invalid("Choose where the answer to “" + ask + "” goes." + KEPT);
                }
                continue;
            }
            if (!known.containsKey(into)) {
                throw new Problem.Invalid("That field is gone. Choose another one for “" + ask + "”." + KEPT);
            }
            questions.add(new Gathering.Question(
                    into, ask, ChatSettings.into(into), choices(typed.getOrDefault("choices" + i, ""))));
        }
        return new Gathering(questions);
    }

    private static List<String> choices(String typed) {
        return Arrays.stream(typed.split(","))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
    }

    /** Back to the rules, where it is said and can be undone. */
    static String removed(String what, long id, String words, RedirectAttributes redirect) {
        redirect.addFlashAttribute("said", words);
        redirect.addFlashAttribute(
                "undo",
                new HashMap<>(
                        Map.of("action", HERE + "/" + what + "/" + id + "/bring-back", "fields", new HashMap<>())));
        return BACK;
    }

    // ------------------------------------------------------------------ openers and invitations

    @PostMapping("/openers")
    String addOpener(
            @RequestParam(defaultValue = "0") long macro,
            @RequestParam(defaultValue = "") String pages,
            @RequestParam(defaultValue = "") String language,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            openers.add(macro, pages, language.strip(), me);
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
            model.addAttribute("opener", Map.of("macro", macro, "pages", pages, "language", language));
            return show(model);
        }
        redirect.addFlashAttribute("said", "The opener is added.");
        return BACK;
    }

    @PostMapping("/openers/{id}/remove")
    String removeOpener(@PathVariable long id, RedirectAttributes redirect) {
        openers.remove(id, clock.instant(), access.require(Right.HOUSE_RULES).id());
        return removed("openers", id, "The opener is removed.", redirect);
    }

    @PostMapping("/openers/{id}/bring-back")
    String bringOpenerBack(@PathVariable long id, RedirectAttributes redirect) {
        openers.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The opener is back.");
        return BACK;
    }

    @PostMapping("/invites")
    String addInvite(@RequestParam MultiValueMap<String, String> form, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = form.toSingleValueMap();
        try {
            var invite = new Invite(
                    0,
                    typed.getOrDefault("words", ""),
                    new Pages(typed.getOrDefault("pages", "")),
                    seconds(typed.getOrDefault("after", "")),
                    typed.getOrDefault("searched", ""),
                    every(typed.getOrDefault("every", "")));
            invites.add(invite, me);
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
            model.addAttribute("invite", typed);
            return show(model);
        }
        redirect.addFlashAttribute("said", "The invitation is added.");
        return BACK;
    }

    private static Duration seconds(String typed) {
        if (!typed.strip().matches("\\d{1,5}")) {
            throw new Problem.Invalid(
                    "Write after how many seconds on the page it is shown. Nothing was added; what you typed is still here.");
        }
        return Duration.ofSeconds(Long.parseLong(typed.strip()));
    }

    private static Duration every(String typed) {
        return Amount.read(typed)
                .orElseThrow(
                        () -> new Problem.Invalid(
                                "“" + typed
                                        + "” is no amount of time. Write it like 12 h or 1 d. Nothing was added; what you typed is still here."));
    }

    @PostMapping("/invites/{id}/remove")
    String removeInvite(@PathVariable long id, RedirectAttributes redirect) {
        invites.remove(id, clock.instant(), access.require(Right.HOUSE_RULES).id());
        return removed("invites", id, "The invitation is removed.", redirect);
    }

    @PostMapping("/invites/{id}/bring-back")
    String bringInviteBack(@PathVariable long id, RedirectAttributes redirect) {
        invites.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The invitation is back.");
        return BACK;
    }
}
