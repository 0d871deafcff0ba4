package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Optional;
import java.util.function.LongFunction;

/** By what one thing is known; each kind of thing has a type of its own, so that a person is never taken for a team. */
public sealed interface Id extends Comparable<Id>
        permits TicketNumber, PersonId, TeamId, ContactId, CompanyId, MessageId, QueueId, ExpertId, SkillId {

    /** The number as it is kept, and as it stands in addresses and forms. */
    @JsonValue
    long value();

    /** Whether it is that of nothing: zero, where there must be an id and there is none, as for what Rafter does by itself. */
    default boolean none() {
        return value() == 0;
    }

    /** Ids of one kind are ordered by number: what is older first. */
    @Override
    default int compareTo(Id other) {
        return Long.compare(value(), other.value());
    }

    /**
     * Reads an id that somebody gave us.
     *
     * @param text digits, with or without blanks around
     * @param as the kind of id
     * @return nothing when it cannot be one
     */
    static <T extends Id> Optional<T> read(String text, LongFunction<T> as) {
        String digits = text.strip();
        return digits.matches("\\d{1,18}") ? Optional.of(as.apply(Long.parseLong(digits))) : Optional.empty();
    }
}
