package rafter.app.work.worklist;

import java.util.List;
import java.util.Optional;
import rafter.core.criteria.Criteria;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/**
 * A saved criteria sentence and how it is shown.
 *
 * @param key as addresses name it
 * @param scope among which tickets it looks
 * @param grouping by what it is parted; nothing for not at all
 * @param owner whose it is; nothing for one that ships
 * @param limits of lanes, by the lane's key, such as {@code in-hand:12}
 */
public record ListView(
        long id,
        String key,
        String title,
        String description,
        Criteria criteria,
        Scope scope,
        Shape shape,
        List<Column.Shown> columns,
        List<Sorting> sorting,
        Optional<Grouping> grouping,
        SeenBy seenBy,
        Optional<PersonId> owner,
        Optional<TeamId> team,
        String role,
        String limits,
        int version) {

    /** Among which tickets a view looks. */
    public enum Scope {
        OPEN,
        ENDED,
        BIN
    }

    /** Whether it shows no open tickets. */
    public boolean ended() {
        return scope != Scope.OPEN;
    }

    /** Who may see a view. */
    public enum SeenBy {
        ME("only me"),
        TEAM("a team"),
        ROLE("a role"),
        EVERYONE("everyone");

        private final String words;

        SeenBy(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    public boolean shipped() {
        return owner.isEmpty();
    }
}
