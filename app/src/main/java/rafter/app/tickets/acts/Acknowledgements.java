package rafter.app.tickets.acts;

import static rafter.database.Tables.ACKNOWLEDGEMENT;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.people.Companies;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspace;
import rafter.app.platform.Writes;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/** Tells customers once that their request arrived; never when that could become a loop. */
@Component
public class Acknowledgements {

    /** So many an address gets within an hour, whatever follows a plus in it; more would be a loop. */
    private static final int AN_ADDRESS = 5;
    /** So many a company's mail system gets within an hour. */
    private static final int A_DOMAIN = 100;

    private static final Duration HOUR = Duration.ofHours(1);

    private static final Writes.Form SENT = Writes.insertIfNew(
            Writes.Stage.DEPENDENTS,
            ACKNOWLEDGEMENT,
            ACKNOWLEDGEMENT.TICKET,
            ACKNOWLEDGEMENT.ADDRESS,
            ACKNOWLEDGEMENT.DOMAIN,
            ACKNOWLEDGEMENT.AT);

    /** When an address was acknowledged of late. */
    private record Told(List<Instant> at) {
        int after(Instant since) {
            return (int) at.stream().filter(since::isBefore).count();
        }
    }

    private final DSLContext sql;
    private final Writes writes;
    private final OwnWords words;
    private final Channels channels;
    private final Companies companies;
    private final RequestPages pages;

    Acknowledgements(
            DSLContext sql, Writes writes, OwnWords words, Channels channels, Companies companies, RequestPages pages) {
        this.pages = pages;
        this.sql = sql;
        this.writes = writes;
        this.words = words;
        this.channels = channels;
        this.companies = companies;
    }

    /** Why an address cannot be told of a ticket, in words for the ticket; nothing when it can, and that is noted then. */
    Optional<String> hindrance(TicketNumber number, String to, Instant now) {
        Optional<MailAddress> address = MailAddress.of(to).filter(MailAddress::writable);
        if (address.isEmpty()) {
            return Optional.of("It was not acknowledged, for no mail can be sent to " + to + ".");
        }
        String plain = address.get().plain().toString();
        String domain = address.get().domain();
        if (toldAddress(plain, now) + writes.waiting(SENT, plain) >= AN_ADDRESS) {
            return Optional.of("It was not acknowledged, for " + plain + " got " + AN_ADDRESS
                    + " acknowledgements within the last hour.");
        }
        if (!companies.isPublic(domain)
                && told(ACKNOWLEDGEMENT.DOMAIN.eq(domain), now) + writes.waiting(SENT, domain) >= A_DOMAIN) {
            return Optional.of("It was not acknowledged, for addresses at " + domain + " got " + A_DOMAIN
                    + " acknowledgements within the last hour.");
        }
        writes.write(SENT, number, plain, domain, now);
        return Optional.empty();
    }

    /** Looks up several senders at once, for gathered work that asks for them one by one. */
    void foresee(Collection<String> senders, Instant earliest) {
        Set<String> plain = senders.stream()
                .flatMap(sender -> MailAddress.of(sender).stream())
                .map(address -> address.plain().toString())
                .collect(Collectors.toSet());
        Map<String, List<Instant>> told = sql.select(ACKNOWLEDGEMENT.ADDRESS, ACKNOWLEDGEMENT.AT)
                .from(ACKNOWLEDGEMENT)
                .where(ACKNOWLEDGEMENT.ADDRESS.in(plain))
                .and(ACKNOWLEDGEMENT.AT.gt(earliest.minus(HOUR)))
                .fetchGroups(ACKNOWLEDGEMENT.ADDRESS, ACKNOWLEDGEMENT.AT);
        writes.foresee(
                Told.class,
                plain.stream()
                        .collect(Collectors.toMap(
                                address -> address, address -> new Told(told.getOrDefault(address, List.of())))));
    }

    private int toldAddress(String plain, Instant now) {
        return writes.foreseen(Told.class, plain, Told.class)
                .map(told -> told.after(now.minus(HOUR)))
                .orElseGet(() -> told(ACKNOWLEDGEMENT.ADDRESS.eq(plain), now));
    }

    private int told(Condition whom, Instant now) {
        return sql.fetchCount(ACKNOWLEDGEMENT, whom, ACKNOWLEDGEMENT.AT.gt(now.minus(HOUR)));
    }

    /**
     * Sends it.
     *
     * @param seq the number that the event which tells of it will have
     * @return the entry that shows it
     */
    MessageId send(TicketNumber number, int seq, Arrivals.Request request, Workspace workspace) {
        NewMessage asked = request.message();
        Map<String, String> values =
                values(number, request.subject(), request.contact().name(), workspace.name(), pages.address(number));
        String text = Placeholders.fill(workspace.ackBody(), values);
        var letter = new OwnWords.Letter(
                asked.envelope().from(),
                Placeholders.fill(workspace.ackSubject(), values),
                SafeHtml.fromText(text),
                text,
                asked.envelope().messageId().map(List::of).orElse(List.of()),
                asked.at());
        return words.send(number, seq, channels.of(request.way().channel()), request.ours(), letter);
    }

    /** The placeholders that an acknowledgement may hold, with their values. */
    public static Map<String, String> values(
            TicketNumber number, String subject, String customer, String workspace, String page) {
        return Placeholder.named(Map.of(
                Placeholder.TICKET,
                number.toString(),
                Placeholder.SUBJECT,
                subject,
                Placeholder.CUSTOMER,
                customer,
                Placeholder.FIRST_NAME,
                Placeholder.firstName(customer),
                Placeholder.WORKSPACE,
                workspace,
                Placeholder.REQUEST_PAGE,
                page));
    }
}
