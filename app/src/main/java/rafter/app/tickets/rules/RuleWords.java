package rafter.app.tickets.rules;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Say;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Sentence;
import rafter.core.rule.Occasion;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;

/** Rules, what they are read for, and what of a book is wrong or new, as people read it. */
@Component
class RuleWords {

    /**
     * A rule as a sentence, in the parts that are drawn apart.
     *
     * @param when such as “On arrival”
     * @param criteria blank when it takes every ticket
     */
    public record Said(String when, String criteria, List<String> deeds) {}

    private final CriteriaNames names;
    private final DeedForms deeds;

    RuleWords(CriteriaNames names, DeedForms deeds) {
        this.names = names;
        this.deeds = deeds;
    }

    Sentence sentence() {
        return names.sentence();
    }

    Said said(Rule rule, Sentence sentence) {
        boolean all = rule.criteria().equals(Criteria.everything());
        return new Said(
                occasion(rule.occasion()),
                all ? "" : sentence.of(rule.criteria()),
                rule.deeds().stream().map(deeds::words).map(RuleWords::within).toList());
    }

    /** As it stands within a sentence. */
    private static String within(String words) {
        return words.isEmpty() ? words : words.substring(0, 1).toLowerCase(Locale.ROOT) + words.substring(1);
    }

    /** When it is read; a field that it waits for by its name. */
    private String occasion(Occasion occasion) {
        return occasion instanceof Occasion.Change(var of, String about)
                        && !about.isBlank()
                        && rafter.core.criteria.OwnField.of(about).isPresent()
                ? new Occasion.Change(
                                of,
                                names.name(
                                        rafter.core.criteria.OwnField.of(about).orElseThrow()))
                        .words()
                : occasion.words();
    }

    /** What a reading was for, such as “the customer writes”. */
    String trigger(Reading.Trigger trigger, RuleBook book) {
        return switch (trigger) {
            case Reading.Trigger.Came came -> "it arrived";
            case Reading.Trigger.Happened happened -> happened.what().words();
            case Reading.Trigger.Time(String id) ->
                book.rule(id)
                        .map(rule -> "the time came: " + occasion(rule.occasion()))
                        .orElse("a time came");
        };
    }

    /** What keeps a book from coming into force in this workspace. */
    List<String> faults(RuleBook book) {
        var faults = new ArrayList<>(book.faults());
        for (Rule rule : book.rules()) {
            if (rule.on()) {
                faults(rule).forEach(fault -> faults.add("“" + rule.name() + "”: " + fault));
            }
        }
        return faults;
    }

    /** What of a rule's deeds cannot be done in this workspace. */
    List<String> faults(Rule rule) {
        return rule.deeds().stream()
                .flatMap(deed -> deeds.fault(deed).stream().map(fault -> deeds.words(deed) + ": " + fault))
                .distinct()
                .toList();
    }

    /** What differs between two books, in words. */
    static List<String> differences(RuleBook before, RuleBook after) {
        var all = new ArrayList<String>();
        Map<String, Rule> old = new HashMap<>();
        before.rules().forEach(rule -> old.put(rule.id(), rule));
        for (Rule rule : after.rules()) {
            Optional<Rule> was = Optional.ofNullable(old.remove(rule.id()));
            if (was.isEmpty()) {
                all.add("“" + rule.name() + "” is new");
            } else {
                difference(was.get(), rule).ifPresent(words -> all.add("“" + rule.name() + "”: " + words));
            }
        }
        old.values().forEach(gone -> all.add("“" + gone.name() + "” is removed"));
        if (!order(before, after).equals(order(after, before))) {
            all.add("The order of the rules");
        }
        Map<String, String> sections =
                before.sections().stream().collect(Collectors.toMap(RuleBook.Section::id, RuleBook.Section::name));
        for (RuleBook.Section section : after.sections()) {
            Optional<String> was = Optional.ofNullable(sections.remove(section.id()));
            if (was.isEmpty()) {
                all.add("The section “" + section.name() + "” is new");
            } else if (!was.get().equals(section.name())) {
                all.add("The section “" + was.get() + "” is called “" + section.name() + "”");
            }
        }
        sections.values().forEach(gone -> all.add("The section “" + gone + "” is removed"));
        return all;
    }

    /** The rules that both have, with their sections, in the order of the first. */
    private static List<String> order(RuleBook book, RuleBook other) {
        return book.sections().stream()
                .flatMap(section -> section.rules().stream()
                        .filter(rule -> other.rule(rule.id()).isPresent())
                        .map(rule -> section.id() + "/" + rule.id()))
                .toList();
    }

    private static Optional<String> difference(Rule was, Rule is) {
        var parts = new ArrayList<String>();
        if (was.on() != is.on()) {
            parts.add(is.on() ? "switched on" : "switched off");
        }
        if (!was.occasion().equals(is.occasion())) {
            parts.add("when it is read");
        }
        if (!was.criteria().equals(is.criteria())) {
            parts.add("which tickets it takes");
        }
        if (!was.deeds().equals(is.deeds())) {
            parts.add("what it does");
        }
        if (was.carriesOn() != is.carriesOn()) {
            parts.add(is.carriesOn() ? "carries on" : "ends the reading");
        }
        if (!was.name().equals(is.name()) || !was.description().equals(is.description())) {
            parts.add("its name or what it is for");
        }
        return parts.isEmpty() ? Optional.empty() : Optional.of(Say.capital(String.join(", ", parts)));
    }
}
