package rafter.app.arrival.intake;

import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MESSAGE;

import jakarta.mail.MessagingException;
import java.util.HashSet;
import java.util.List;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.platform.CatchUp;
import rafter.app.platform.Files;
import rafter.app.tickets.acts.Arrivals;
import rafter.core.text.Earlier;
import rafter.core.text.MailAddress;
import rafter.database.tables.records.MessageRecord;

/**
 * Reads once more, while the application runs, the stored messages that an earlier version read: words that it folded away or never showed are
 * shown. What is done already is not done again after a restart.
 */
@Component
class Rereader {

    private final DSLContext sql;
    private final Files files;
    private final Arrivals arrivals;
    private final Mailboxes mailboxes;
    private final TransactionTemplate transaction;

    Rereader(DSLContext sql, Files files, Arrivals arrivals, Mailboxes mailboxes, TransactionTemplate transaction) {
        this.sql = sql;
        this.files = files;
        this.arrivals = arrivals;
        this.mailboxes = mailboxes;
        this.transaction = transaction;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        CatchUp.begin("stored messages", this::rereadAll);
    }

    /** Reads all that are to be read; how many these were. */
    int rereadAll() {
        int count = 0;
        while (Boolean.TRUE.equals(transaction.execute(status -> rereadNext()))) {
            count++;
        }
        return count;
    }

    private boolean rereadNext() {
        List<MessageRecord> next = sql.selectFrom(MESSAGE)
                .where(MESSAGE.INBOUND_ID.isNotNull())
                .and(MESSAGE.READER.eq(org.jooq.impl.DSL.inline(0)))
                .orderBy(MESSAGE.ID)
                .limit(1)
                .forUpdate()
                .skipLocked()
                .fetch();
        next.forEach(this::reread);
        return !next.isEmpty();
    }

    private void reread(MessageRecord message) {
        byte[] raw = files.read(sql.select(INBOUND.RAW)
                .from(INBOUND)
                .where(INBOUND.ID.eq(message.getInboundId()))
                .fetchSingle(INBOUND.RAW));
        try {
            ReadMail mail = MailReader.read(raw);
            IncomingHtml.Shown shown = IncomingHtml.of(mail, earlier(message));
            String remarks = mail.remarks().stream()
                    .filter(one -> !message.getRemark().contains(one))
                    .collect(Collectors.joining(" "));
            arrivals.rewrite(
                    message.getId(),
                    shown.html(),
                    shown.own(),
                    shown.folded(),
                    (message.getRemark() + " " + remarks).strip());
        } catch (MessagingException unreadable) {
            arrivals.rewrite(message.getId(), message.getHtml(), message.getText(), "", message.getRemark());
        }
    }

    private Earlier earlier(MessageRecord message) {
        List<String> texts = arrivals.textsBefore(message.getTicket(), message.getSeq());
        if (texts.isEmpty()) {
            return Earlier.NOTHING;
        }
        var addresses = new HashSet<>(mailboxes.addresses());
        MailAddress.of(message.getFromAddress()).ifPresent(address -> addresses.add(address.toString()));
        return Earlier.of(addresses, () -> texts);
    }
}
