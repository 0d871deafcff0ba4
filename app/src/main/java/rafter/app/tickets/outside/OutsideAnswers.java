package rafter.app.tickets.outside;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OUTSIDE_ENTRY;
import static rafter.database.Tables.OUTSIDE_THREAD;

import java.util.Collection;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.notices.Notices;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Conduct;

/** Knows what third parties answer, and takes it in. */
@Component
public class OutsideAnswers {

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;
    private final Post post;
    private final Notices notices;

    OutsideAnswers(DSLContext sql, TicketStore store, EntryStore entries, Post post, Notices notices) {
        this.sql = sql;
        this.store = store;
        this.entries = entries;
        this.post = post;
        this.notices = notices;
    }

    /**
     * The conversation that a mail belongs to: that of a message it refers to, whoever sent it; or the latest one with its sender on a ticket
     * whose mark its address carries.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Optional<OutsideThread> belonging(
            Collection<String> references, Collection<TicketNumber> marked, String from) {
        Optional<OutsideThread> referred = references.isEmpty()
                ? Optional.empty()
                : sql.select(OUTSIDE_THREAD.fields())
                        .from(OUTSIDE_THREAD)
                        .join(OUTSIDE_ENTRY)
                        .on(OUTSIDE_ENTRY.THREAD_ID.eq(OUTSIDE_THREAD.ID))
                        .join(MESSAGE)
                        .on(MESSAGE.ID.eq(OUTSIDE_ENTRY.MESSAGE_ID))
                        .where(MESSAGE.MESSAGE_ID.in(references))
                        .orderBy(OUTSIDE_THREAD.ID.desc())
                        .limit(1)
                        .fetchOptionalInto(OUTSIDE_THREAD)
                        .map(OutsideThread::of);
        return referred.isPresent() || marked.isEmpty()
                ? referred
                : sql.selectFrom(OUTSIDE_THREAD)
                        .where(OUTSIDE_THREAD.TICKET.in(marked))
                        .and(OUTSIDE_THREAD.ADDRESSES.contains(new String[] {from}))
                        .orderBy(OUTSIDE_THREAD.WRITTEN_AT.desc())
                        .limit(1)
                        .fetchOptional(OutsideThread::of);
    }

    /**
     * Takes in what a third party answered; its owner is told, and nobody is reminded any more.
     *
     * @param automatic written by a machine: it changes no turn and ends no reminding
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void answered(OutsideThread thread, NewMessage message, boolean automatic) {
        TicketStore.Held held = store.hold(thread.ticket());
        MessageId entry = entries.add(held.number(), held.nextSeq(), message.remarked(remark(thread, message)));
        post.belongs(entry, thread.id());
        store.append(
                held,
                Conduct.outsideAnswered(held.ticket(), message.at(), entry, thread.id(), automatic),
                message.at());
        if (automatic) {
            return;
        }
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.ANSWERED, true)
                .set(OUTSIDE_THREAD.WRITTEN_AT, message.at())
                .setNull(OUTSIDE_THREAD.NEXT_NUDGE)
                .where(OUTSIDE_THREAD.ID.eq(thread.id()))
                .execute();
        held.ticket()
                .owner()
                .ifPresent(owner -> notices.tell(
                        owner,
                        held.number(),
                        Notices.Kind.OUTSIDE,
                        message.author() + " answered outside on " + held.number() + ": "
                                + held.ticket().subject()));
    }

    private static String remark(OutsideThread thread, NewMessage message) {
        String from = message.envelope().from();
        return thread.addresses().contains(from)
                ? ""
                : "It comes from " + from + ", another address than it was written to.";
    }
}
