package rafter.core.target;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.Duration;
import java.util.List;

/**
 * Something that happens at a moment of a clock, to keep a promise or to make good for a missed one.
 *
 * @param id names the step within its policy; it fires once a clock
 */
public record Step(String id, Objective objective, When when, List<Act> acts) {

    public Step {
        acts = List.copyOf(acts);
    }

    /** The moment, told from the due instant. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "when")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = When.Before.class, name = "before"),
        @JsonSubTypes.Type(value = When.Used.class, name = "used"),
        @JsonSubTypes.Type(value = When.After.class, name = "after")
    })
    public sealed interface When {
        /** When so much working time is left. */
        record Before(Duration left) implements When {}

        /** When this share of the time allowed is used. */
        record Used(int percent) implements When {}

        /** When it has been late for so much working time; zero: at the due instant. */
        record After(Duration late) implements When {}
    }

    /** How much working time must have been used for the moment to come. */
    public Duration usedAt(Duration allowed) {
        return switch (when) {
            case When.Before(Duration left) -> left.compareTo(allowed) >= 0 ? Duration.ZERO : allowed.minus(left);
            case When.Used(int percent) -> allowed.multipliedBy(percent).dividedBy(100);
            case When.After(Duration late) -> allowed.plus(late);
        };
    }

    /** What is done. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "act")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Act.Notify.class, name = "notify"),
        @JsonSubTypes.Type(value = Act.RaisePriority.class, name = "raise-priority"),
        @JsonSubTypes.Type(value = Act.HandOver.class, name = "hand-over"),
        @JsonSubTypes.Type(value = Act.Tag.class, name = "tag"),
        @JsonSubTypes.Type(value = Act.Note.class, name = "note")
    })
    public sealed interface Act {
        /**
         * Somebody is told by mail.
         *
         * @param address where to, for {@link Whom#ADDRESS}; else empty
         * @param message what they read; may hold placeholders
         */
        record Notify(Whom whom, String address, String message) implements Act {}

        /** The priority rises by one, or stays when it is the highest. */
        record RaisePriority() implements Act {}

        /** A team gets the ticket, and nobody owns it then. */
        record HandOver(long team) implements Act {}

        record Tag(String tag) implements Act {}

        /** A note is written on the ticket; may hold placeholders. */
        record Note(String text) implements Act {}
    }

    /** Who is told. */
    public enum Whom {
        OWNER("the owner"),
        TEAM("everybody of the team"),
        LEAD("the leads"),
        ADDRESS("an address");

        private final String words;

        Whom(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }
}
