package rafter.core.consult;

import java.util.Comparator;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;

/** Somebody who can be asked into a consult. */
public sealed interface Who extends Comparable<Who> {

    /** Somebody who works here. */
    record Colleague(PersonId id) implements Who {}

    /** Somebody who knows what colleagues do not, and gets to see nothing but the room. */
    record Outside(ExpertId id) implements Who {}

    /** Colleagues before others, then by id. */
    @Override
    default int compareTo(Who other) {
        return Comparator.comparingInt((Who who) -> who instanceof Colleague ? 0 : 1)
                .thenComparingLong(Who::number)
                .compare(this, other);
    }

    private static long number(Who who) {
        return switch (who) {
            case Colleague one -> one.id().value();
            case Outside one -> one.id().value();
        };
    }
}
