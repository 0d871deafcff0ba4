package rafter.app.work.worklist;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.core.id.PersonId;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Names the groups that a list is parted into. */
@Component
class GroupWords {

    private final Persons persons;
    private final TicketStates states;

    GroupWords(Persons persons, TicketStates states) {
        this.states = states;
        this.persons = persons;
    }

    /** The keys of the groups that there could be even while they are empty, in their order. */
    List<String> usual(Grouping grouping, boolean ended) {
        return switch (grouping) {
            case STATE ->
                states.current().ending(ended).stream().map(TicketState::key).toList();
            case TURN ->
                Arrays.stream(Turn.values())
                        .filter(t -> (t == Turn.NOBODY) == ended)
                        .map(Turn::name)
                        .toList();
            case PRIORITY ->
                Arrays.stream(Priority.values()).map(Priority::name).toList();
            case OWNER -> {
                var all = new ArrayList<String>();
                all.add("");
                persons.active().forEach(p -> all.add(p.id().toString()));
                yield all;
            }
            case TEAM -> persons.teams().stream().map(t -> t.id().toString()).toList();
            case HOLDER -> {
                var all = new ArrayList<String>();
                all.add("");
                persons.teams().forEach(t -> all.add(GroupSql.TEAM_KEY + t.id()));
                persons.active().forEach(p -> all.add(GroupSql.PERSON_KEY + p.id()));
                yield all;
            }
            case TOPIC -> List.of("");
            case DUE -> Arrays.stream(Within.values()).map(Enum::name).toList();
        };
    }

    /** A group in words, by its key. */
    String of(Grouping grouping, String key) {
        if (key.isEmpty()) {
            return switch (grouping) {
                case OWNER -> "Unowned";
                case HOLDER -> "Unowned, no team";
                case TEAM -> "No team";
                case TOPIC -> "No topic";
                case DUE -> "No target runs";
                default -> "None";
            };
        }
        return switch (grouping) {
            case STATE -> states.name(key);
            case TURN -> Say.capital(turn(Turn.valueOf(key)));
            case PRIORITY -> key + " " + Priority.valueOf(key).word().toLowerCase(Locale.ROOT);
            case OWNER ->
                persons.find(new PersonId(Long.parseLong(key)))
                        .map(Person::name)
                        .orElse(key);
            case TEAM ->
                persons.teams().stream()
                        .filter(t -> t.id().toString().equals(key))
                        .findFirst()
                        .map(Team::name)
                        .orElse(key);
            case HOLDER -> of(key.startsWith(GroupSql.TEAM_KEY) ? Grouping.TEAM : Grouping.OWNER, key.substring(1));
            case TOPIC -> Say.capital(key);
            case DUE -> Say.capital(Within.valueOf(key).words());
        };
    }

    /** Whose turn it is, in words. */
    static String turn(Turn turn) {
        return switch (turn) {
            case OURS -> "our turn";
            case CUSTOMER -> "the customer’s turn";
            case PARTNER -> "a partner’s turn";
            case NOBODY -> "nobody’s turn";
        };
    }
}
