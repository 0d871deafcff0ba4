package rafter.app.tickets;

import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.mail.Mailboxes;
import rafter.app.mail.ReplyMark;
import rafter.app.platform.Problem;
import rafter.core.text.MailAddress;

/**
 * To whom a reply goes: to the customer, where they wanted answers when the ticket was opened, and to the people who take part. What a later
 * mail says of its sender never moves the answer by itself.
 */
@Component
public class Recipients {

    private static final int MOST_COPIES = 20;
    private static final String KEPT = " Nothing was sent; your text is saved.";

    /**
     * To whom a reply goes unless its writer says otherwise.
     *
     * @param to the customer's address; empty when they have none that can be written to
     * @param cc those of the others who take part
     * @param others further addresses from which the customer wrote or that they are known by
     */
    public record Proposed(String to, List<String> cc, List<String> others) {}

    private record Written(String from, String replyTo) {}

    private final DSLContext sql;
    private final Mailboxes mailboxes;

    Recipients(DSLContext sql, Mailboxes mailboxes) {
        this.sql = sql;
        this.mailboxes = mailboxes;
    }

    /** To whom a reply to a ticket goes by itself. */
    public Proposed proposed(long ticket, long contact) {
        List<String> known = sql.select(CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(contact))
                .orderBy(CONTACT_ADDRESS.ADDRESS)
                .fetch(CONTACT_ADDRESS.ADDRESS);
        List<Written> written = sql.select(MESSAGE.FROM_ADDRESS, MESSAGE.REPLY_TO)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(ticket))
                .and(MESSAGE.KIND.eq("CUSTOMER"))
                .and(MESSAGE.CONTACT_ID.eq(contact))
                .orderBy(MESSAGE.SEQ)
                .limit(200)
                .fetch(r -> new Written(r.value1(), r.value2()));
        String to = customersAddress(written, known);
        var others = new LinkedHashSet<String>();
        written.forEach(one -> others.add(one.from()));
        others.addAll(known);
        others.remove(to);
        return new Proposed(to, copies(ticket, to, known), others.stream().filter(Recipients::writable).toList());
    }

    /** Where they wanted answers at first; when that address is theirs no more, another one of theirs. */
    private static String customersAddress(List<Written> written, List<String> known) {
        Optional<Written> first = written.stream().findFirst();
        Optional<String> wanted = first.map(one -> one.replyTo().isEmpty() ? one.from() : one.replyTo());
        boolean gone = first.isPresent() && first.get().replyTo().isEmpty() && !known.isEmpty() && !known.contains(first.get().from());
        var inOrder = new ArrayList<String>();
        if (!gone) {
            wanted.ifPresent(inOrder::add);
        }
        written.reversed().stream().map(Written::from).filter(known::contains).forEach(inOrder::add);
        inOrder.addAll(known);
        return inOrder.stream().filter(Recipients::writable).findFirst().orElse("");
    }

    private List<String> copies(long ticket, String to, List<String> known) {
        Set<String> ours = Set.copyOf(mailboxes.addresses());
        return sql.select(PARTICIPANT.ADDRESS)
                .from(PARTICIPANT)
                .where(PARTICIPANT.TICKET.eq(ticket))
                .orderBy(PARTICIPANT.ADDRESS)
                .fetch(PARTICIPANT.ADDRESS)
                .stream()
                .filter(address -> !address.equals(to) && !known.contains(address) && !ours.contains(ReplyMark.plain(address)) && writable(address))
                .limit(MOST_COPIES)
                .toList();
    }

    private static boolean writable(String address) {
        return MailAddress.of(address).filter(MailAddress::writable).isPresent();
    }

    /**
     * The addresses in a list that a person typed.
     *
     * @param where it was typed, in words
     * @throws Problem.Invalid when one of them is none
     */
    static List<String> typed(String typed, String where) {
        var found = new LinkedHashSet<String>();
        for (String one : typed.split("[,;\\s]+")) {
            if (one.isEmpty()) {
                continue;
            }
            MailAddress address = MailAddress.of(one)
                    .filter(a -> a.domain().contains("."))
                    .orElseThrow(() -> new Problem.Invalid("“" + one + "” in " + where + " is not a mail address." + KEPT));
            if (!address.writable()) {
                throw new Problem.Invalid("No mail can be sent to " + address + " in " + where + "; it has signs that few servers understand." + KEPT);
            }
            found.add(address.toString());
        }
        return List.copyOf(found);
    }
}
