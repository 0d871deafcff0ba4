package rafter.app.tickets.rules;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.criteria.Criteria;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.time.Amount;

/**
 * A rule as the fields of its form, and back. What is typed is kept as it is typed until it can be read.
 *
 * @param id “new” for one that is not in the book
 * @param when {@code arrival}, {@code change} or {@code clock}
 * @param of the keys of what must happen
 * @param span how long after the moment, and {@code again} between two times, as they were typed
 */
record RuleForm(
        String id,
        String section,
        String name,
        String description,
        boolean on,
        String when,
        Set<String> of,
        String about,
        String moment,
        String span,
        boolean working,
        String times,
        String again,
        Criteria criteria,
        List<Deed> deeds,
        boolean carriesOn) {

    static final String NEW = "new";

    static RuleForm empty(String section) {
        return new RuleForm(
                NEW,
                section,
                "",
                "",
                true,
                "arrival",
                Set.of(),
                "",
                Moment.CUSTOMER.key(),
                "",
                true,
                "1",
                "",
                Criteria.everything(),
                List.of(new Deed("team", Map.of())),
                true);
    }

    static RuleForm of(Rule rule, String section) {
        RuleForm form = empty(section);
        Optional<Occasion.Change> change =
                rule.occasion() instanceof Occasion.Change one ? Optional.of(one) : Optional.empty();
        Optional<Occasion.Clock> clock =
                rule.occasion() instanceof Occasion.Clock one ? Optional.of(one) : Optional.empty();
        var of = new HashSet<String>();
        change.ifPresent(one -> one.of().forEach(happening -> of.add(happening.key())));
        return new RuleForm(
                rule.id(),
                section,
                rule.name(),
                rule.description(),
                rule.on(),
                change.isPresent() ? "change" : clock.isPresent() ? "clock" : "arrival",
                of,
                change.map(Occasion.Change::about).orElse(""),
                clock.map(one -> one.moment().key()).orElse(form.moment()),
                clock.map(one -> Amount.written(one.span())).orElse(""),
                clock.map(Occasion.Clock::working).orElse(true),
                clock.map(one -> Integer.toString(one.times())).orElse("1"),
                clock.filter(one -> one.times() > 1)
                        .map(one -> Amount.written(one.again()))
                        .orElse(""),
                rule.criteria(),
                rule.deeds(),
                rule.carriesOn());
    }

    static RuleForm read(MultiValueMap<String, String> form) {
        return new RuleForm(
                text(form, "id"),
                text(form, "section"),
                text(form, "name"),
                text(form, "description"),
                form.containsKey("on"),
                text(form, "when"),
                Set.copyOf(form.getOrDefault("of", List.of())),
                text(form, "about"),
                text(form, "moment"),
                text(form, "span"),
                !text(form, "working").equals("wall"),
                text(form, "times"),
                text(form, "again"),
                CriteriaForm.read(form),
                deeds(form),
                !text(form, "then").equals("ends"));
    }

    private static List<Deed> deeds(MultiValueMap<String, String> form) {
        var deeds = new ArrayList<Deed>();
        for (int i = 0; i <= Rule.MOST_DEEDS; i++) {
            String at = "d." + i + ".";
            if (form.containsKey(at + "form")) {
                var typed = new HashMap<String, String>();
                form.forEach((name, values) -> {
                    if (name.startsWith(at)) {
                        typed.put(name.substring(at.length()), Say.orBlank(values.getFirst()));
                    }
                });
                deeds.add(Deed.of(text(form, at + "form"), typed));
            }
        }
        return deeds;
    }

    private static String text(MultiValueMap<String, String> form, String name) {
        return Say.orBlank(form.getFirst(name)).strip();
    }

    /** This form after a button was pressed that changes its shape. */
    RuleForm after(String act) {
        String[] words = act.split(":");
        if (act.equals("add-deed")) {
            var more = new ArrayList<>(deeds);
            if (more.size() < Rule.MOST_DEEDS) {
                more.add(new Deed("tag", Map.of()));
            }
            return with(criteria, more);
        }
        if (words.length == 2 && words[0].endsWith("-deed") && words[1].matches("\\d{1,2}")) {
            return with(criteria, moved(words[0], Integer.parseInt(words[1])));
        }
        return with(CriteriaForm.act(criteria, act), deeds);
    }

    private List<Deed> moved(String what, int at) {
        var all = new ArrayList<>(deeds);
        if (at >= all.size()) {
            return all;
        }
        switch (what) {
            case "remove-deed" -> all.remove(at);
            case "up-deed" -> Collections.swap(all, at, Math.max(0, at - 1));
            case "down-deed" -> Collections.swap(all, at, Math.min(all.size() - 1, at + 1));
            default -> {}
        }
        return all;
    }

    private RuleForm with(Criteria changed, List<Deed> done) {
        return new RuleForm(
                id,
                section,
                name,
                description,
                on,
                when,
                of,
                about,
                moment,
                span,
                working,
                times,
                again,
                changed,
                done,
                carriesOn);
    }

    /**
     * The rule that the form says.
     *
     * @throws Problem.Invalid when an amount in it cannot be read, or the text of it is too long
     */
    Rule rule() {
        if (name.length() > 120 || description.length() > 500) {
            throw new Problem.Invalid("A name has at most 120 letters, and what it is for 500.");
        }
        return new Rule(
                id.equals(NEW) ? "rule-" + UUID.randomUUID() : id,
                name,
                description,
                on,
                occasion(),
                criteria,
                deeds,
                carriesOn,
                Instant.EPOCH);
    }

    private Occasion occasion() {
        return switch (when) {
            case "change" -> {
                var what = new HashSet<Happening>();
                of.forEach(key -> Happening.of(key).ifPresent(what::add));
                yield new Occasion.Change(what, about);
            }
            case "clock" -> {
                int many = times.matches("\\d{1,3}") ? Integer.parseInt(times) : 0;
                yield new Occasion.Clock(
                        Moment.of(moment).orElse(Moment.CUSTOMER),
                        amount(span),
                        working,
                        many,
                        many > 1 ? amount(again) : Duration.ZERO);
            }
            default -> new Occasion.Arrival();
        };
    }

    private static Duration amount(String typed) {
        if (typed.isBlank()) {
            return Duration.ZERO;
        }
        return Amount.read(typed)
                .orElseThrow(() ->
                        new Problem.Invalid("“" + typed + "” is no length of time. Write it like 30 m, 4 h or 2 d."));
    }
}
