package rafter.app.house.access;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Who sees and who changes what people make for themselves and for each other. */
@Component
public class Holders {

    /** Which of them are listed. */
    public enum Whose {
        ALL("All"),
        MINE("Mine"),
        TEAMS("My teams’"),
        EVERYBODYS("Everybody’s");

        private final String words;

        Whose(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** As an address says it. */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }

        /** Whether what this one holds is among them. */
        public boolean takes(Holder holder) {
            return switch (this) {
                case ALL -> true;
                case MINE -> holder instanceof Holder.One;
                case TEAMS -> holder instanceof Holder.OfTeam;
                case EVERYBODYS -> holder instanceof Holder.Everybody;
            };
        }

        /** The one of this key, or all. */
        public static Whose of(String key) {
            for (Whose one : values()) {
                if (one.key().equals(key)) {
                    return one;
                }
            }
            return ALL;
        }
    }

    private final Persons persons;

    Holders(Persons persons) {
        this.persons = persons;
    }

    /** That a person sees what the row is about: it is their own, one of their teams', or everybody's. */
    public Condition sees(Field<PersonId> person, Field<TeamId> team, Viewer me) {
        return person.eq(me.id())
                .or(team.in(persons.teamsOf(me.id())))
                .or(person.isNull().and(team.isNull()));
    }

    /** Whether a person may change what this one holds. */
    public boolean changes(Holder holder, Viewer me) {
        return switch (holder) {
            case Holder.One one -> one.person().equals(me.id());
            case Holder.OfTeam of ->
                me.role().has(Right.HAND_OVER_ANY) || persons.teamsOf(me.id()).contains(of.team());
            case Holder.Everybody all -> me.role().has(Right.HAND_OVER_ANY);
        };
    }

    /**
     * Insists that they may.
     *
     * @throws Problem.NoRight when they may not
     */
    public void insist(Holder holder, Viewer me) {
        if (!changes(holder, me)) {
            throw new Problem.NoRight(
                    switch (holder) {
                        case Holder.One one -> "That is a colleague’s own. Nothing was saved.";
                        case Holder.OfTeam of -> "What a team has is changed by who is in it. Nothing was saved.";
                        case Holder.Everybody all ->
                            "What everybody has is changed by leads and administrators. Save it for yourself or your team.";
                    });
        }
    }

    /** Whose it is, in words. */
    public String words(Holder holder) {
        return switch (holder) {
            case Holder.One one -> "mine";
            case Holder.OfTeam of ->
                persons.teams().stream()
                        .filter(team -> team.id().equals(of.team()))
                        .findFirst()
                        .map(Team::name)
                        .orElse("a team");
            case Holder.Everybody everybody -> "everybody’s";
        };
    }

    /** The teams that a person can give something to. */
    public List<Team> teams(Viewer me) {
        Set<TeamId> mine = persons.teamsOf(me.id());
        return persons.teams().stream()
                .filter(team -> me.role().has(Right.HAND_OVER_ANY) || mine.contains(team.id()))
                .toList();
    }
}
