package rafter.app.work.customers;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.house.people.ContactJoins;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.CustomerMoves;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;

/** Makes one contact of two that are the same person, with all their tickets, and takes that back. */
@Component
class Joining {

    /** So many tickets are moved in one go; more belong to no person. */
    private static final int MOST_TICKETS = 500;

    /**
     * What joining would come to.
     *
     * @param tickets how many tickets get another customer
     * @param filled what the kept one gets into own fields where it has nothing, by the field's key
     */
    public record Preview(ContactCard kept, ContactCard gone, int tickets, Map<String, String> filled) {}

    private final ContactCards cards;
    private final ContactJoins joins;
    private final CustomerMoves moves;
    private final Clock clock;

    Joining(ContactCards cards, ContactJoins joins, CustomerMoves moves, Clock clock) {
        this.cards = cards;
        this.joins = joins;
        this.moves = moves;
        this.clock = clock;
    }

    /** What it would come to; nothing is changed. */
    @Transactional(readOnly = true)
    Preview preview(ContactId kept, ContactId gone, Viewer me) {
        Access.require(me, Right.WORK);
        ContactCard one = cards.get(kept);
        ContactCard other = cards.get(gone);
        Map<String, String> filled = ContactJoins.ownOf(one, other);
        filled.keySet().removeAll(one.own().keySet());
        return new Preview(one, other, moves.of(gone).size(), filled);
    }

    /**
     * Joins one contact into another.
     *
     * @return the number by which it is taken back
     */
    @Transactional
    long join(ContactId kept, ContactId gone, Viewer me) {
        Access.require(me, Right.WORK);
        joins.hold(kept, gone);
        List<TicketNumber> tickets = moves.of(gone);
        if (tickets.size() > MOST_TICKETS) {
            throw new Problem.Invalid(
                    "That contact has more than " + MOST_TICKETS
                            + " tickets, which is more than one person writes. Join it the other way round. Nothing was changed.");
        }
        Instant now = clock.instant();
        tickets.forEach(number -> moves.move(number, gone, kept, now, new Actor.Person(me.id())));
        moves.authorship(gone, kept);
        return joins.join(cards.get(kept), cards.get(gone), tickets, now, me.id());
    }

    /** Makes two of them again, with the tickets that each had. */
    @Transactional
    ContactId takeBack(long id, Viewer me) {
        Access.require(me, Right.WORK);
        ContactJoins.Joined joined = joins.toTakeBack(id);
        Instant now = clock.instant();
        joins.takeBack(joined, now, me.id());
        joined.tickets()
                .forEach(number -> moves.move(number, joined.kept(), joined.gone(), now, new Actor.Person(me.id())));
        return joined.gone();
    }
}
