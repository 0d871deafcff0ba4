package rafter.app.house.access;

import org.jooq.Field;

/** Something that may wait for a person to look at it. Each page that opens asks once for all of it, and then only for what there is. */
public interface Awaiting {

    /** What pages know it by. */
    String name();

    /** How many of it wait for somebody; part of a query of nothing else. */
    Field<Integer> waitingFor(Viewer me);
}
