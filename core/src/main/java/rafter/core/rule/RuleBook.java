package rafter.core.rule;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;

/** All rules of a workspace, in the order in which they are read. */
public record RuleBook(List<Section> sections) {

    /** More rules nobody keeps an eye on. */
    public static final int MOST_RULES = 1_000;

    /**
     * Rules that belong together. A rule that does not carry on ends the reading of its own section alone.
     *
     * @param id stays, whatever it is called
     */
    public record Section(String id, String name, List<Rule> rules) {
        public Section {
            rules = List.copyOf(rules);
        }

        Section with(List<Rule> others) {
            return new Section(id, name, others);
        }
    }

    /** A book without rules. */
    public static final RuleBook EMPTY = new RuleBook(List.of());

    public RuleBook {
        sections = List.copyOf(sections);
    }

    /** All rules, from the top. */
    public List<Rule> rules() {
        return sections.stream().flatMap(section -> section.rules().stream()).toList();
    }

    /** The rule of this id. */
    public Optional<Rule> rule(String id) {
        return rules().stream().filter(rule -> rule.id().equals(id)).findFirst();
    }

    /** The section that a rule stands in. */
    public Optional<Section> sectionOf(String rule) {
        return sections.stream()
                .filter(section ->
                        section.rules().stream().anyMatch(one -> one.id().equals(rule)))
                .findFirst();
    }

    /** The rules on the clock that are read. */
    public List<Rule> onTheClock() {
        return rules().stream()
                .filter(rule -> rule.on() && rule.occasion() instanceof Occasion.Clock)
                .toList();
    }

    /** What keeps it from coming into force, in words; rules that are off may be unfinished. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        List<Rule> all = rules();
        if (all.size() > MOST_RULES) {
            faults.add("There are more than " + MOST_RULES + " rules.");
        }
        var ids = new HashSet<String>();
        Stream.concat(sections.stream().map(Section::id), all.stream().map(Rule::id))
                .filter(id -> id.isBlank() || !ids.add(id))
                .forEach(id -> faults.add("Two parts of the book are called “" + id + "”."));
        all.stream()
                .filter(Rule::on)
                .forEach(rule -> rule.faults().forEach(fault -> faults.add(label(rule) + ": " + fault)));
        return faults;
    }

    private static String label(Rule rule) {
        return rule.name().isBlank() ? "A rule without a name" : "“" + rule.name() + "”";
    }

    // ------------------------------------------------------------------ changing it

    /** The book with a rule changed; one that is new goes to the end of a section, or of the first one. */
    public RuleBook with(Rule rule, String section) {
        if (rule(rule.id()).isPresent()) {
            return replaced(rule).moved(rule.id(), section);
        }
        String into = sections.stream().anyMatch(one -> one.id().equals(section))
                ? section
                : sections.stream().findFirst().map(Section::id).orElse("");
        return new RuleBook(sections.stream()
                .map(one -> one.id().equals(into)
                        ? one.with(Stream.concat(one.rules().stream(), Stream.of(rule))
                                .toList())
                        : one)
                .toList());
    }

    /** The book with a rule at the end of another section; unchanged when it stands there, or there is no such section. */
    private RuleBook moved(String id, String section) {
        boolean there = sectionOf(id).filter(one -> one.id().equals(section)).isPresent()
                || sections.stream().noneMatch(one -> one.id().equals(section));
        return there
                ? this
                : rule(id).map(rule -> without(id).with(rule, section)).orElse(this);
    }

    /** The book with a rule changed where it stands. */
    public RuleBook replaced(Rule rule) {
        return each(one -> one.id().equals(rule.id()) ? Stream.of(rule) : Stream.of(one));
    }

    /** The book without a rule. */
    public RuleBook without(String id) {
        return each(one -> one.id().equals(id) ? Stream.empty() : Stream.of(one));
    }

    private RuleBook each(Function<Rule, Stream<Rule>> change) {
        return new RuleBook(sections.stream()
                .map(section ->
                        section.with(section.rules().stream().flatMap(change).toList()))
                .toList());
    }

    /**
     * The book with a rule one place higher or lower; from the edge of its section it goes into the next one.
     *
     * @param by minus one: up; one: down
     */
    public RuleBook moved(String id, int by) {
        Optional<Section> at = sectionOf(id);
        if (at.isEmpty()) {
            return this;
        }
        var rules = new ArrayList<>(at.get().rules());
        int from = rules.stream().map(Rule::id).toList().indexOf(id);
        int to = from + by;
        if (to >= 0 && to < rules.size()) {
            Rule rule = rules.remove(from);
            rules.add(to, rule);
            return withRules(at.get().id(), rules);
        }
        int other = sections.indexOf(at.get()) + by;
        if (other < 0 || other >= sections.size()) {
            return this;
        }
        return placed(
                id,
                sections.get(other).id(),
                by < 0 ? sections.get(other).rules().size() : 0);
    }

    /**
     * The book with a rule somewhere else.
     *
     * @param place among the rules of the section without this one, from zero
     */
    public RuleBook placed(String id, String section, int place) {
        Optional<Rule> rule = rule(id);
        Optional<Section> into =
                sections.stream().filter(one -> one.id().equals(section)).findFirst();
        if (rule.isEmpty() || into.isEmpty()) {
            return this;
        }
        RuleBook without = without(id);
        var rules = new ArrayList<>(without.sections.stream()
                .filter(one -> one.id().equals(section))
                .findFirst()
                .orElseThrow()
                .rules());
        rules.add(Math.clamp(place, 0, rules.size()), rule.get());
        return without.withRules(section, rules);
    }

    private RuleBook withRules(String section, List<Rule> rules) {
        return new RuleBook(sections.stream()
                .map(one -> one.id().equals(section) ? one.with(rules) : one)
                .toList());
    }

    /** The book with a section at its end, or with another name for one. */
    public RuleBook withSection(String id, String name) {
        if (sections.stream().noneMatch(one -> one.id().equals(id))) {
            return new RuleBook(Stream.concat(sections.stream(), Stream.of(new Section(id, name, List.of())))
                    .toList());
        }
        return new RuleBook(sections.stream()
                .map(one -> one.id().equals(id) ? new Section(id, name, one.rules()) : one)
                .toList());
    }

    /** The book without a section that is empty; unchanged when it is not. */
    public RuleBook withoutSection(String id) {
        return new RuleBook(sections.stream()
                .filter(one -> !one.id().equals(id) || !one.rules().isEmpty())
                .toList());
    }

    /** The book as it comes into force: rules that work otherwise than before do so from now on, the others since they did. */
    public RuleBook comingIntoForce(RuleBook before, Instant now) {
        Map<String, Rule> old = new HashMap<>();
        before.rules().forEach(rule -> old.put(rule.id(), rule));
        return each(rule -> Stream.of(Optional.ofNullable(old.get(rule.id()))
                .filter(rule::worksLike)
                .map(was -> rule.since(was.since()))
                .orElseGet(() -> rule.since(now))));
    }

    /** The same book with nothing said about since when; for comparing what people wrote. */
    public RuleBook asWritten() {
        return each(rule -> Stream.of(rule.since(Instant.EPOCH)));
    }
}
