package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.EXPERT;
import static rafter.database.Tables.PERSON;

import java.util.Collection;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.OtherMail;
import rafter.core.consult.MailedAnswer;
import rafter.core.consult.Who;
import rafter.core.id.TicketNumber;

/** Invitations that are answered by mail: the first word takes or declines, and whatever is said stands in the room. */
@Component
class AnswersByMail implements OtherMail {

    private final Consults consults;
    private final Guests guests;
    private final Lines lines;
    private final NotesBeside notes;

    AnswersByMail(Consults consults, Guests guests, Lines lines, NotesBeside notes) {
        this.consults = consults;
        this.guests = guests;
        this.lines = lines;
        this.notes = notes;
    }

    @Override
    public OptionalLong belonging(Collection<String> references, Collection<TicketNumber> marked, String from) {
        Optional<Guests.Guest> answered = guests.byMail(references);
        Optional<Guests.Guest> found = answered.isPresent() || marked.isEmpty() ? answered : asked(marked, from);
        return found.map(one -> OptionalLong.of(one.id())).orElse(OptionalLong.empty());
    }

    /** Who was asked by mail last on one of these tickets and has that address; they may be no customer of it. */
    private Optional<Guests.Guest> asked(Collection<TicketNumber> marked, String from) {
        Condition theirs =
                DSL.lower(DSL.coalesce(PERSON.ADDRESS, EXPERT.ADDRESS)).eq(from.toLowerCase(Locale.ROOT));
        return guests
                .read(CONSULT.TICKET
                        .in(marked)
                        .and(CONSULT_GUEST.MAIL.isNotNull())
                        .and(CONSULT.STATE.eq(Consults.OPEN))
                        .and(theirs))
                .stream()
                .reduce((first, second) -> second);
    }

    @Override
    @Transactional(propagation = Propagation.MANDATORY)
    public String take(long belonging, NewMessage mail, String once, boolean automatic) {
        Guests.Guest guest = guests.find(belonging).orElseThrow();
        TicketNumber ticket = consults.find(guest.consult()).orElseThrow().ticket();
        // The ticket before the room, as who closes it holds them.
        notes.hold(ticket);
        Consults.Consult consult = consults.hold(guest.consult());
        boolean theirs = mail.envelope().from().equalsIgnoreCase(guest.address());
        Optional<MailedAnswer> answer = automatic || !theirs ? Optional.empty() : MailedAnswer.read(mail.text());
        said(guest, mail, once, automatic, theirs);
        if (consult.open()) {
            answer.ifPresent(one -> answered(one, guest));
        }
        return "It answers the invitation of " + guest.name() + " into a room of ticket " + ticket
                + (answer.isPresent() && consult.open()
                        ? answer.get() == MailedAnswer.YES ? " and takes it." : " and declines it."
                        : "; it stands there.");
    }

    /** What was written is said also in a room that is closed: nobody can be told that it was too late. */
    private void said(Guests.Guest guest, NewMessage mail, String once, boolean automatic, boolean theirs) {
        String text = mail.text().strip();
        if (text.isEmpty() && mail.files().isEmpty()) {
            return;
        }
        String remark = automatic
                ? "[automatic] "
                : theirs ? "" : "[from " + mail.envelope().from() + ", another address than was asked] ";
        String all = remark + (text.isEmpty() ? "A mail without words." : text);
        lines.say(
                guest.consult(),
                new Lines.Speaker(
                        theirs ? guest.name() : mail.author(),
                        guest.who() instanceof Who.Colleague(var person) && theirs
                                ? Optional.of(person)
                                : Optional.empty(),
                        guest.who() instanceof Who.Outside && theirs ? Optional.of(guest.id()) : Optional.empty()),
                Lines.Kind.WORDS,
                all.length() > Lines.LONGEST ? all.substring(0, Lines.LONGEST) : all,
                once,
                mail.files());
    }

    private void answered(MailedAnswer answer, Guests.Guest guest) {
        boolean takes = answer == MailedAnswer.YES;
        boolean open = guest.state().open()
                || (takes ? guest.state() == Guests.State.DECLINED : guest.state() == Guests.State.TAKEN);
        if (!open) {
            return;
        }
        if (takes) {
            consults.take(guest.id());
        } else {
            consults.decline(guest.id(), "");
        }
    }
}
