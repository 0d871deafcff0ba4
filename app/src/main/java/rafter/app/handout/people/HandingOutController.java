package rafter.app.handout.people;

import java.time.Duration;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whole;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.SkillLevel;
import rafter.core.time.Amount;

/** How this workspace hands out, whatever the queue: weights, units of channels, idle time, reasons, the hours of teams. */
@Controller
@RequestMapping(HandingOutController.HERE)
class HandingOutController {

    static final String HERE = "/house-rules/handing-out";

    /** A factor with its weight as it was typed. */
    public record Weight(Factor factor, String typed) {}

    /** A channel with what a ticket of it takes, as it was typed. */
    public record Unit(String key, String name, String typed) {}

    /** A level of skill with what its people take of their limit, as it was typed. */
    public record Share(SkillLevel level, String typed) {}

    /** A team with the calendar of its hours. */
    public record Line(Team team, String calendar) {}

    private final HandOutSettings settings;
    private final Whereabouts whereabouts;
    private final Hours hours;
    private final Channels channels;
    private final Persons persons;
    private final Access access;

    HandingOutController(
            HandOutSettings settings,
            Whereabouts whereabouts,
            Hours hours,
            Channels channels,
            Persons persons,
            Access access) {
        this.settings = settings;
        this.whereabouts = whereabouts;
        this.hours = hours;
        this.channels = channels;
        this.persons = persons;
        this.access = access;
    }

    @GetMapping
    String page(Model model) {
        access.require(Right.HOUSE_RULES);
        HandOutSettings.Kept kept = settings.kept();
        return form(typed(kept), model);
    }

    private static Map<String, String> typed(HandOutSettings.Kept kept) {
        HandOutRules rules = kept.rules();
        var typed = new HashMap<String, String>();
        typed.put("version", Integer.toString(kept.version()));
        rules.weights().forEach((factor, weight) -> typed.put("weight-" + factor.name(), weight.toString()));
        rules.units().forEach((channel, units) -> typed.put("units-" + channel, units(units)));
        rules.shares().forEach((level, share) -> typed.put("share-" + level.name(), share.toString()));
        typed.put("idle", rules.idleAfter().map(Amount::written).orElse(""));
        typed.put("reasons", String.join("\n", rules.reasons()));
        if (rules.passAsksWhy()) {
            typed.put("why", "true");
        }
        if (rules.floorForAll()) {
            typed.put("all", "true");
        }
        return typed;
    }

    private static String units(double units) {
        return units == Math.rint(units) ? Long.toString(Math.round(units)) : Double.toString(units);
    }

    private String form(Map<String, String> typed, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute(
                "weights",
                Arrays.stream(Factor.values())
                        .map(factor -> new Weight(factor, typed.getOrDefault("weight-" + factor.name(), "")))
                        .toList());
        model.addAttribute(
                "units",
                channels.channelNames().entrySet().stream()
                        .map(one -> new Unit(
                                one.getKey(), one.getValue(), typed.getOrDefault("units-" + one.getKey(), "1")))
                        .toList());
        model.addAttribute(
                "shares",
                Arrays.stream(SkillLevel.values())
                        .map(level -> new Share(level, typed.getOrDefault("share-" + level.name(), "100")))
                        .toList());
        Map<?, String> calendars = whereabouts.teamCalendars();
        model.addAttribute(
                "teams",
                persons.teams().stream()
                        .map(team -> new Line(
                                team,
                                Optional.ofNullable(calendars.get(team.id())).orElse("")))
                        .toList());
        model.addAttribute("calendars", hours.calendars());
        return "handout/people/handing-out";
    }

    @PostMapping
    String save(@RequestParam MultiValueMap<String, String> all, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = all.toSingleValueMap();
        try {
            settings.save(read(typed), Whole.of(typed.getOrDefault("version", ""), -1), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(typed, model);
        }
        redirect.addFlashAttribute("said", "Saved. It counts from now on.");
        return "redirect:" + HERE;
    }

    private HandOutRules read(Map<String, String> typed) {
        var weights = new HashMap<Factor, Integer>();
        for (Factor factor : Factor.values()) {
            weights.put(factor, (int) number(typed.getOrDefault("weight-" + factor.name(), ""), factor.words()));
        }
        var units = new HashMap<String, Double>();
        channels.channelNames()
                .forEach((key, name) -> units.put(key, number(typed.getOrDefault("units-" + key, "1"), name)));
        var shares = new HashMap<SkillLevel, Integer>();
        for (SkillLevel level : SkillLevel.values()) {
            shares.put(level, (int)
                    number(typed.getOrDefault("share-" + level.name(), "100"), "who is " + level.words()));
        }
        String idle = typed.getOrDefault("idle", "").strip();
        Optional<Duration> idleAfter = idle.isEmpty()
                ? Optional.empty()
                : Optional.of(Amount.read(idle)
                        .orElseThrow(() -> new Problem.Invalid(
                                "“" + idle + "” is no length of time. Write it like 15 m, or leave it empty.")));
        List<String> reasons = typed.getOrDefault("reasons", "")
                .lines()
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
        return new HandOutRules(
                weights, units, idleAfter, reasons, typed.containsKey("why"), typed.containsKey("all"), shares);
    }

    private static double number(String typed, String what) {
        if (!typed.strip().matches("\\d{1,4}([.,]\\d{1,2})?")) {
            throw new Problem.Invalid(
                    "“" + typed + "” is no number for " + what + ". Nothing was saved; it is still here.");
        }
        return Double.parseDouble(Say.orBlank(typed).strip().replace(',', '.'));
    }

    /** By which calendar the people of a team work who have none of their own. */
    @PostMapping("/teams/{team}")
    String team(
            @PathVariable TeamId team, @RequestParam(defaultValue = "") String calendar, RedirectAttributes redirect) {
        whereabouts.teamCalendar(
                team, calendar, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "Saved.");
        return "redirect:" + HERE;
    }
}
