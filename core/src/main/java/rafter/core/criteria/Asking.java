package rafter.core.criteria;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.time.Amount;

/**
 * Who asks, and when: what relative words in criteria mean.
 *
 * @param me the reader's id
 * @param teams the ids of the teams that the reader is in
 */
public record Asking(Instant now, PersonId me, Set<TeamId> teams) {

    /** In place of an owner: whoever reads. */
    public static final String ME = "me";
    /** In place of a team: those of whoever reads. */
    public static final String MINE = "mine";

    /** Nobody reads, at a time: what Rafter asks by itself. */
    public static Asking ofNobody(Instant now) {
        return new Asking(now, new PersonId(0), Set.of());
    }

    public Asking {
        teams = Set.copyOf(teams);
    }

    /**
     * The same criteria with everything relative made absolute: the reader by their id, lengths of time by the instant they reach to.
     * Only what is resolved can be matched, in memory or in a database. An amount that cannot be read matches nothing.
     */
    public Criteria resolve(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) ->
                new Criteria.All(parts.stream().map(this::resolve).toList());
            case Criteria.Any(List<Criteria> parts) ->
                new Criteria.Any(parts.stream().map(this::resolve).toList());
            case Criteria.Not(Criteria part) -> new Criteria.Not(resolve(part));
            case Criteria.Test test -> new Criteria.Test(test.field(), test.operator(), values(test));
            case Criteria.Expert expert -> expert;
        };
    }

    private List<String> values(Criteria.Test test) {
        return switch (test.field().type()) {
            case ELAPSED ->
                test.values().stream()
                        .flatMap(v -> Amount.read(v).stream())
                        .map(this::ago)
                        .toList();
            case DUE, AHEAD ->
                test.operator() == Operator.WITHIN || test.operator() == Operator.SOON
                        ? test.values().stream()
                                .flatMap(v -> Amount.read(v).stream())
                                .map(d -> now.plus(d).toString())
                                .toList()
                        : List.of(now.toString());
            case CHOICE, SET -> choice(test);
            case RANKED, TEXT, WORDS, NUMBER, DATE -> test.values();
        };
    }

    private String ago(Duration amount) {
        return now.minus(amount).toString();
    }

    private List<String> choice(Criteria.Test test) {
        var values = new ArrayList<String>();
        for (String value : test.values()) {
            if (ofPersons(test.field()) && value.equals(ME)) {
                values.add(me.toString());
            } else if (ofTeams(test.field()) && value.equals(MINE)) {
                teams.stream().sorted().map(String::valueOf).forEach(values::add);
            } else {
                values.add(value);
            }
        }
        return values;
    }

    private static boolean ofPersons(Field field) {
        return field == KnownField.OWNER || field == KnownField.WATCHERS || field == KnownField.HELPERS;
    }

    private static boolean ofTeams(Field field) {
        return field == KnownField.TEAM || field == KnownField.HELPING_TEAMS;
    }

    /** Whether the answer depends on who reads. */
    public static boolean personal(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts.stream().anyMatch(Asking::personal);
            case Criteria.Any(List<Criteria> parts) -> parts.stream().anyMatch(Asking::personal);
            case Criteria.Not(Criteria part) -> personal(part);
            case Criteria.Test test ->
                (ofPersons(test.field()) && test.values().contains(ME))
                        || (ofTeams(test.field()) && test.values().contains(MINE));
            case Criteria.Expert expert -> false;
        };
    }
}
