package rafter.app.house.access;

import static rafter.database.Tables.TICKET;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.database.tables.Ticket;

/**
 * Who looks at tickets, or acts on them: somebody of ours, what they may (by their role), and how far they see. Whatever is asked of
 * tickets for a person is asked from {@link #tickets()}.
 *
 * @param reach which tickets they may see
 */
public record Viewer(Person person, Reach reach) {

    /** Their id. */
    public PersonId id() {
        return person.id();
    }

    /** Their name. */
    public String name() {
        return person.name();
    }

    /** What they are here. */
    public Role role() {
        return person.role();
    }

    /** The tickets that they may see, to select from in place of the table; its columns are called as the table's are. */
    public Ticket tickets() {
        return seesAll() ? TICKET : TICKET.where(reach.condition(person.id()));
    }

    /** That they may see the ticket whose number stands in a column. */
    public Condition sees(Field<TicketNumber> ticket) {
        return seesAll()
                ? DSL.noCondition()
                : ticket.in(DSL.select(TICKET.NUMBER).from(tickets()));
    }

    /**
     * Who may be shown what was computed for one viewer: those of whom this says the same.
     *
     * @param person who alone; zero: everybody of that reach
     */
    public record Sharing(Reach reach, PersonId person) {}

    /**
     * With whom what is computed for this one can be shared.
     *
     * @param personal whether it is about the person themselves
     */
    public Sharing sharing(boolean personal) {
        return new Sharing(reach, personal || !seesAll() ? person.id() : new PersonId(0));
    }

    /** Whether they see all tickets, so that none has to be looked up to know whether they may see it. */
    public boolean seesAll() {
        return reach instanceof Reach.Everything;
    }
}
