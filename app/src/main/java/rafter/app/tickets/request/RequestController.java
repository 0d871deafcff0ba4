package rafter.app.tickets.request;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import rafter.app.platform.Say;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.RequestPages;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.TicketRecord;

/** The page on which a customer sees their request: who has the link needs no password, and sees nothing that is for colleagues. */
@Controller
class RequestController {

    private static final int MOST = 200;
    private static final List<String> SEEN =
            List.of(NewMessage.Kind.CUSTOMER.name(), NewMessage.Kind.PUBLIC.name(), NewMessage.Kind.PUBLIC_NOTE.name());

    /**
     * Something that was said.
     *
     * @param ours whether we said it
     * @param files the names of its files
     */
    public record Said(String who, String when, String text, boolean ours, List<String> files) {}

    private final DSLContext sql;
    private final RequestPages pages;
    private final Workspaces workspaces;
    private final Targets targets;
    private final Clock clock;

    RequestController(DSLContext sql, RequestPages pages, Workspaces workspaces, Targets targets, Clock clock) {
        this.sql = sql;
        this.pages = pages;
        this.workspaces = workspaces;
        this.targets = targets;
        this.clock = clock;
    }

    @GetMapping("/request/{token}")
    @Transactional(readOnly = true)
    public String show(@PathVariable String token, Model model, HttpServletResponse response) {
        response.setHeader("Referrer-Policy", "no-referrer");
        response.setHeader("X-Robots-Tag", "noindex");
        model.addAttribute("ours", workspaces.current().name());
        Optional<TicketRecord> ticket = pages.of(token)
                .flatMap(number -> sql.selectFrom(TICKET)
                        .where(TICKET.NUMBER.eq(number))
                        .and(TICKET.DISCARDED.isFalse())
                        .fetchOptional());
        if (ticket.isEmpty()) {
            response.setStatus(HttpStatus.NOT_FOUND.value());
            return "tickets/request/request";
        }
        TicketRecord row = ticket.get();
        model.addAttribute("number", row.getNumber());
        model.addAttribute("subject", row.getSubject());
        model.addAttribute("stands", stands(row));
        model.addAttribute("said", said(row.getNumber()));
        return "tickets/request/request";
    }

    /** Whose move it is, in the customer's words. */
    private static String stands(TicketRecord row) {
        return switch (Turn.valueOf(row.getTurn())) {
            case OURS -> "We are working on it.";
            case CUSTOMER -> "We wait for your answer. You can answer any mail that you got from us about it.";
            case PARTNER -> "We wait for somebody whose help we need, and will come back to you.";
            case NOBODY -> "It is resolved. If something is still open, answer any mail that you got from us about it.";
        };
    }

    private List<Said> said(TicketNumber number) {
        Instant now = clock.instant();
        Map<MessageId, List<String>> files = sql.select(ATTACHMENT.MESSAGE_ID, ATTACHMENT.NAME)
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in(SEEN))
                .and(ATTACHMENT.CONTENT_ID.eq(""))
                .fetchGroups(ATTACHMENT.MESSAGE_ID, ATTACHMENT.NAME);
        return sql.selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in(SEEN))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .and(MESSAGE.SPLIT_INTO.isNull())
                .orderBy(MESSAGE.SEQ.desc())
                .limit(MOST)
                .fetch(m -> new Said(
                        m.getAuthor(),
                        Say.when(m.getAt(), now, targets.terms().zone()),
                        m.getText().strip(),
                        !m.getKind().equals(NewMessage.Kind.CUSTOMER.name()),
                        files.getOrDefault(m.getId(), List.of())))
                .reversed();
    }
}
