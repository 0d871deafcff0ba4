package rafter.app.house.criteria;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.util.MultiValueMap;
import rafter.app.platform.Say;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Field;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.Formula;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/**
 * Criteria as the fields of a form, and back. Each part of the sentence has a place, such as {@code 0.2}: the third part of the first. Its
 * fields are called {@code n.0.2.field} and so on; a button names what is to be done at which place.
 */
public final class CriteriaForm {

    private static final int MOST_PARTS = 60;

    private CriteriaForm() {}

    /**
     * A part as the page draws it.
     *
     * @param formulas whether a formula can be added to it
     */
    public record Node(
            String place,
            String kind,
            List<Node> parts,
            String field,
            String operator,
            List<String> values,
            List<FieldChoice> fields,
            List<OperatorChoice> operators,
            List<CriteriaNames.Option> options,
            boolean wantsValues,
            boolean last,
            boolean formulas) {}

    public record FieldChoice(String key, String words) {}

    public record OperatorChoice(String key, String words) {}

    // ------------------------------------------------------------------ to the page

    /**
     * The parts as a page draws them; the outermost is always a group.
     *
     * @param offered the fields that may be asked about here
     */
    public static Node draw(Criteria criteria, CriteriaNames names, List<? extends Field> offered) {
        return draw(group(criteria), "0", new Offer(names, List.copyOf(offered)), false);
    }

    /** What can be chosen. */
    private record Offer(CriteriaNames names, List<Field> fields) {

        boolean ofRules() {
            return CriteriaForm.ofRules(fields);
        }

        /** Nobody reads a promise, so it knows no "me" and no "mine". */
        List<CriteriaNames.Option> options(Field field) {
            boolean someoneReads = fields.contains(KnownField.OWNER) && !ofRules();
            return names.options(field).stream()
                    .filter(o -> someoneReads
                            || !(o.value().equals(Asking.MINE)
                                    || (ofRules() && o.value().equals(Asking.ME))))
                    .toList();
        }
    }

    /** Rules ask formulas, too. */
    private static boolean ofRules(List<? extends Field> offered) {
        return offered.contains(KnownField.REOPENINGS);
    }

    private static Criteria group(Criteria criteria) {
        return criteria instanceof Criteria.All || criteria instanceof Criteria.Any
                ? criteria
                : new Criteria.All(List.of(criteria));
    }

    private static Node draw(Criteria criteria, String place, Offer offer, boolean last) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> node(place, "all", parts(parts, place, offer), last, offer);
            case Criteria.Any(List<Criteria> parts) -> node(place, "any", parts(parts, place, offer), last, offer);
            case Criteria.Not(Criteria part) -> node(place, "none", parts(inner(part), place, offer), last, offer);
            case Criteria.Test test -> draw(test, place, offer, last);
            case Criteria.Expert(Formula formula) ->
                new Node(
                        place,
                        "formula",
                        List.of(),
                        "",
                        "",
                        List.of(formula.text()),
                        List.of(),
                        List.of(),
                        formula.text().isEmpty()
                                ? List.of()
                                : formula.fault().stream()
                                        .map(fault -> new CriteriaNames.Option("", fault))
                                        .toList(),
                        false,
                        last,
                        true);
        };
    }

    private static Node draw(Criteria.Test test, String place, Offer offer, boolean last) {
        return new Node(
                place,
                "test",
                List.of(),
                test.field().key(),
                test.operator().key(),
                test.values(),
                fields(offer),
                operators(test.field().type()),
                options(test.field(), test.values(), offer),
                test.operator().wantsValues(),
                last,
                false);
    }

    /** A value that is gone, such as a team, can still be seen and taken away. */
    private static List<CriteriaNames.Option> options(Field field, List<String> values, Offer offer) {
        var options = new ArrayList<>(offer.options(field));
        if (field.type() == FieldType.CHOICE || field.type() == FieldType.RANKED) {
            values.stream()
                    .filter(v -> options.stream().noneMatch(o -> o.value().equals(v)))
                    .forEach(v -> options.add(new CriteriaNames.Option(v, v)));
        }
        return options;
    }

    /** "None of" is said as not any of. */
    private static List<Criteria> inner(Criteria part) {
        return part instanceof Criteria.Any(List<Criteria> parts) ? parts : List.of(part);
    }

    private static List<Node> parts(List<Criteria> parts, String place, Offer offer) {
        var nodes = new ArrayList<Node>();
        for (int i = 0; i < parts.size(); i++) {
            nodes.add(draw(parts.get(i), place + "." + i, offer, i == parts.size() - 1));
        }
        return nodes;
    }

    private static Node node(String place, String kind, List<Node> parts, boolean last, Offer offer) {
        return new Node(
                place, kind, parts, "", "", List.of(), List.of(), List.of(), List.of(), false, last, offer.ofRules());
    }

    private static List<FieldChoice> fields(Offer offer) {
        return offer.fields().stream()
                .map(f -> new FieldChoice(f.key(), offer.names().name(f)))
                .toList();
    }

    private static List<OperatorChoice> operators(FieldType type) {
        return type.operators().stream()
                .map(o -> new OperatorChoice(o.key(), o.words()))
                .toList();
    }

    // ------------------------------------------------------------------ from the page

    /** The criteria that a form says. */
    public static Criteria read(MultiValueMap<String, String> form) {
        return read(form, "0").orElse(Criteria.everything());
    }

    private static Optional<Criteria> read(MultiValueMap<String, String> form, String place) {
        String kind = first(form, "n." + place + ".kind");
        return switch (kind) {
            case "all" -> Optional.of(new Criteria.All(readParts(form, place)));
            case "any" -> Optional.of(new Criteria.Any(readParts(form, place)));
            case "none" -> Optional.of(new Criteria.Not(new Criteria.Any(readParts(form, place))));
            case "test" -> Field.of(first(form, "n." + place + ".field")).map(field -> test(form, place, field));
            case "formula" -> Optional.of(new Criteria.Expert(Formula.of(first(form, "n." + place + ".text"))));
            default -> Optional.empty();
        };
    }

    private static List<Criteria> readParts(MultiValueMap<String, String> form, String place) {
        var parts = new ArrayList<Criteria>();
        for (int i = 0; i < MOST_PARTS; i++) {
            if (place.length() < 2 * Criteria.DEEPEST) {
                read(form, place + "." + i).ifPresent(parts::add);
            }
        }
        return parts;
    }

    /** When the field became one of another type, the first question of that type is asked, and about nothing yet. */
    private static Criteria test(MultiValueMap<String, String> form, String place, Field field) {
        List<String> values = form.getOrDefault("n." + place + ".v", List.of()).stream()
                .map(String::strip)
                .filter(v -> !v.isEmpty())
                .distinct()
                .toList();
        Optional<Operator> operator = Operator.of(first(form, "n." + place + ".op"))
                .filter(field.type().operators()::contains);
        boolean another = !first(form, "n." + place + ".was").equals(field.key());
        return new Criteria.Test(
                field, operator.orElse(field.type().operators().getFirst()), another ? List.of() : values);
    }

    private static String first(MultiValueMap<String, String> form, String name) {
        return Say.orBlank(form.getFirst(name));
    }

    // ------------------------------------------------------------------ changing its shape

    /**
     * Does what a button asked for.
     *
     * @param act {@code add:PLACE}, {@code group:PLACE}, {@code formula:PLACE}, {@code remove:PLACE} or {@code drop:PLACE:NUMBER}; anything else changes nothing
     */
    public static Criteria act(Criteria criteria, String act) {
        String[] words = act.split(":");
        if (words.length < 2 || !words[1].matches("0(\\.\\d{1,2})*")) {
            return criteria;
        }
        List<Integer> path = new ArrayList<>();
        for (String step : words[1].split("\\.")) {
            path.add(Integer.parseInt(step));
        }
        path.removeFirst();
        Criteria empty = new Criteria.Test(KnownField.PLAN, Operator.IS, List.of());
        return switch (words[0]) {
            case "add" -> at(group(criteria), path, group -> with(group, empty)).orElse(criteria);
            case "group" ->
                at(group(criteria), path, group -> with(group, new Criteria.Any(List.of(empty))))
                        .orElse(criteria);
            case "formula" ->
                at(group(criteria), path, group -> with(group, new Criteria.Expert(Formula.of(""))))
                        .orElse(criteria);
            case "remove" ->
                path.isEmpty()
                        ? Criteria.everything()
                        : at(group(criteria), path, part -> Optional.empty()).orElse(Criteria.everything());
            case "drop" ->
                at(group(criteria), path, part -> drop(part, words.length > 2 ? Integer.parseInt(words[2]) : 0))
                        .orElse(criteria);
            default -> criteria;
        };
    }

    private static Optional<Criteria> drop(Criteria part, int number) {
        if (!(part instanceof Criteria.Test test) || number >= test.values().size()) {
            return Optional.of(part);
        }
        var values = new ArrayList<>(test.values());
        values.remove(number);
        return Optional.of(new Criteria.Test(test.field(), test.operator(), values));
    }

    private static Optional<Criteria> with(Criteria group, Criteria more) {
        return Optional.of(
                switch (group) {
                    case Criteria.All(List<Criteria> parts) -> new Criteria.All(plus(parts, more));
                    case Criteria.Any(List<Criteria> parts) -> new Criteria.Any(plus(parts, more));
                    case Criteria.Not(Criteria part) -> new Criteria.Not(new Criteria.Any(plus(inner(part), more)));
                    case Criteria.Test test -> test;
                    case Criteria.Expert expert -> expert;
                });
    }

    private static List<Criteria> plus(List<Criteria> parts, Criteria more) {
        var all = new ArrayList<>(parts);
        all.add(more);
        return all;
    }

    /** A change of one part. */
    private interface Change {
        Optional<Criteria> of(Criteria part);
    }

    /** Changes the part at a path; a part that becomes nothing is left out. */
    private static Optional<Criteria> at(Criteria criteria, List<Integer> path, Change change) {
        if (path.isEmpty()) {
            return change.of(criteria);
        }
        return Optional.of(
                switch (criteria) {
                    case Criteria.All(List<Criteria> parts) -> new Criteria.All(at(parts, path, change));
                    case Criteria.Any(List<Criteria> parts) -> new Criteria.Any(at(parts, path, change));
                    case Criteria.Not(Criteria part) ->
                        new Criteria.Not(new Criteria.Any(at(inner(part), path, change)));
                    case Criteria.Test test -> test;
                    case Criteria.Expert expert -> expert;
                });
    }

    private static List<Criteria> at(List<Criteria> parts, List<Integer> path, Change change) {
        var all = new ArrayList<Criteria>();
        for (int i = 0; i < parts.size(); i++) {
            if (i == path.getFirst()) {
                at(parts.get(i), path.subList(1, path.size()), change).ifPresent(all::add);
            } else {
                all.add(parts.get(i));
            }
        }
        return all;
    }
}
