package rafter.app.work.shape;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.app.work.batches.Batches;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** Takes fields of tickets and their choices out of use, and carries over what stands in them. */
@Component
class FieldRetiring {

    private static final int MOST = 5_000;

    private final OwnFields fields;
    private final FieldSetup setup;
    private final FieldUses uses;
    private final Batches batches;

    FieldRetiring(OwnFields fields, FieldSetup setup, FieldUses uses, Batches batches) {
        this.fields = fields;
        this.setup = setup;
        this.uses = uses;
        this.batches = batches;
    }

    /** The fields into which the values of another can be carried over. */
    List<AddedField> successors(AddedField field) {
        return fields.shown(field.bearer()).stream()
                .filter(one -> one.field().id() != field.field().id()
                        && one.field().kind() == field.field().kind())
                .toList();
    }

    /**
     * Asks for a field no more.
     *
     * @param into the number of the field into which what stands in it is carried over; nothing: it stays where it is
     * @return the batch that carries it over beside everything else
     * @throws Problem.Invalid when it cannot be carried over so; nothing is changed
     */
    @Transactional
    public OptionalLong retire(AddedField field, Optional<Long> into, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        OptionalLong batch = into.isEmpty() ? OptionalLong.empty() : carry(field, into.get(), me);
        setup.hide(field, me.id());
        return batch;
    }

    private OptionalLong carry(AddedField field, long into, Viewer me) {
        AddedField successor = successors(field).stream()
                .filter(one -> one.field().id() == into && field.bearer() == OwnField.Bearer.TICKET)
                .findFirst()
                .orElseThrow(
                        () -> new Problem.Invalid(
                                "What stands in it can be carried over into a field of tickets of the same kind. Nothing was changed."));
        return start(new Act.Carry(field.key(), successor.key()), uses.tickets(field, MOST + 1, me), me);
    }

    /**
     * Puts one choice in the place of another on all tickets.
     *
     * @throws Problem.Invalid when the field does not offer it; nothing is changed
     */
    @Transactional
    public OptionalLong replace(AddedField field, String was, String becomes, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        OwnField.Kind kind = field.field().kind();
        boolean single = kind == OwnField.Kind.CHOICE || kind == OwnField.Kind.TREE;
        boolean offered = becomes.isEmpty() || field.choices().contains(becomes);
        if (!single || !offered || was.isBlank()) {
            throw new Problem.Invalid("Choose what is replaced, and by which of its choices. Nothing was changed.");
        }
        return start(new Act.Fill(field.key(), becomes), uses.tickets(field, was, MOST + 1, me), me);
    }

    private OptionalLong start(Act act, List<TicketNumber> numbers, Viewer me) {
        if (numbers.size() > MOST) {
            throw new Problem.Invalid(
                    "More than 5,000 tickets have it. Change them by batches first. Nothing was changed.");
        }
        return numbers.isEmpty() ? OptionalLong.empty() : OptionalLong.of(batches.start(act, numbers, me));
    }
}
