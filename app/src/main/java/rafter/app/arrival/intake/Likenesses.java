package rafter.app.arrival.intake;

import static rafter.database.Tables.LIKENESS;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Companies;
import rafter.app.platform.Files;
import rafter.app.platform.Writes;
import rafter.core.id.TicketNumber;
import rafter.core.text.Earlier;
import rafter.core.text.MailAddress;
import rafter.core.text.Words;

/**
 * Notices requests that are alike: a machine that answers our answers writes the same words again and again, from addresses that differ in
 * what follows a plus, or not even that.
 */
@Component
class Likenesses {

    /** More alike requests within an hour are no person's. */
    static final int MOST_AN_HOUR = 10;

    private static final Duration WITHIN = Duration.ofHours(1);
    private static final int WORDS_READ = 300;
    /** Fewer words may be anybody's, so they are told by their sender. */
    private static final int FEW_WORDS = 8;

    private static final Writes.Form SEEN =
            Writes.insert(Writes.Stage.DEPENDENTS, LIKENESS, LIKENESS.KEY, LIKENESS.AT, LIKENESS.TICKET);

    /**
     * A request as it is shown.
     *
     * @param likeness what it has in common with others that are alike
     */
    public record Request(IncomingHtml.Shown shown, byte[] likeness) {}

    /** A request that opened a ticket. */
    private record Seen(TicketNumber ticket, Instant at) {}

    /** Requests that are alike, the first come first. */
    private record Known(List<Seen> seen) {}

    private final DSLContext sql;
    private final Writes writes;
    private final Companies companies;
    private final Notices notices;

    Likenesses(DSLContext sql, Writes writes, Companies companies, Notices notices) {
        this.sql = sql;
        this.writes = writes;
        this.companies = companies;
        this.notices = notices;
    }

    /**
     * Looks at several mails that refer to nothing before they are filed one by one, and at once for requests that are like them.
     *
     * @param mails by the number of their message
     * @param earliest when the first of them was received
     */
    void foresee(Map<Long, ReadMail> mails, Instant earliest) {
        var requests = new HashMap<Long, Request>();
        mails.forEach((id, mail) -> {
            if (mail.from().isPresent() && mail.references().isEmpty()) {
                requests.put(id, request(mail, Earlier.NOTHING));
            }
        });
        writes.foresee(Request.class, requests);
        List<byte[]> keys = requests.values().stream().map(Request::likeness).toList();
        Map<ByteBuffer, List<Seen>> found = seen(keys, earliest);
        writes.foresee(
                Known.class,
                keys.stream()
                        .map(ByteBuffer::wrap)
                        .distinct()
                        .collect(Collectors.toMap(key -> key, key -> new Known(found.getOrDefault(key, List.of())))));
    }

    /** A mail as a request, with what came before it folded away. */
    Request request(long message, ReadMail mail, Earlier earlier) {
        Optional<Request> foreseen =
                earlier == Earlier.NOTHING ? writes.foreseen(Request.class, message, Request.class) : Optional.empty();
        return foreseen.orElseGet(() -> request(mail, earlier));
    }

    private Request request(ReadMail mail, Earlier earlier) {
        IncomingHtml.Shown shown = IncomingHtml.of(mail, earlier);
        return new Request(shown, of(mail.from().orElseThrow().address(), mail.subject(), shown.own()));
    }

    /** What alike requests have in common: whose mail system they come from, and their words without figures. */
    private byte[] of(String sender, String subject, String text) {
        MailAddress address = MailAddress.of(sender).orElse(new MailAddress(sender, ""));
        List<String> words = Stream.concat(Words.list(subject).stream(), Words.list(text).stream())
                .filter(word -> word.chars().noneMatch(Character::isDigit))
                .limit(WORDS_READ)
                .toList();
        boolean bySystem = words.size() >= FEW_WORDS && !companies.isPublic(address.domain());
        String who = bySystem ? address.domain() : address.plain().toString();
        return Files.sha256(
                (who + "\n" + words.stream().collect(Collectors.joining(" "))).getBytes(StandardCharsets.UTF_8));
    }

    private Map<ByteBuffer, List<Seen>> seen(List<byte[]> keys, Instant now) {
        return sql.select(LIKENESS.KEY, LIKENESS.TICKET, LIKENESS.AT)
                .from(LIKENESS)
                .where(LIKENESS.KEY.eq(DSL.any(keys.toArray(byte[][]::new))))
                .and(LIKENESS.AT.gt(now.minus(WITHIN)))
                .orderBy(LIKENESS.AT)
                .fetchGroups(r -> ByteBuffer.wrap(r.value1()), r -> new Seen(r.value2(), r.value3()));
    }

    /** Whether there were so many within the hour that this one is a machine's. Administrators are told once. */
    boolean tooMany(byte[] key, String sender, Instant now) {
        ByteBuffer one = ByteBuffer.wrap(key);
        List<TicketNumber> tickets = writes
                .foreseen(Known.class, one, Known.class)
                .map(Known::seen)
                .orElseGet(() -> seen(List.of(key), now).getOrDefault(one, List.of()))
                .stream()
                .filter(seen -> seen.at().isAfter(now.minus(WITHIN)))
                .limit(MOST_AN_HOUR)
                .map(Seen::ticket)
                .toList();
        int count = tickets.size() + writes.waiting(SEEN, key);
        if (count == MOST_AN_HOUR && !tickets.isEmpty() && !told(tickets.getLast())) {
            tell(tickets.getLast(), sender, now);
        }
        return count >= MOST_AN_HOUR;
    }

    /** Notes a request that opened a ticket. */
    void note(byte[] key, TicketNumber ticket, Instant now) {
        writes.write(SEEN, key, now, ticket);
    }

    private boolean told(TicketNumber ticket) {
        return notices.told(ticket, Notices.Kind.MACHINE);
    }

    private void tell(TicketNumber ticket, String sender, Instant now) {
        String words = "A machine at "
                + MailAddress.of(sender).map(MailAddress::domain).orElse(sender) + " seems to answer our answers: "
                + MOST_AN_HOUR + " alike requests within an hour. Further ones are set aside (House rules, Set aside).";
        notices.tellAdministrators(ticket, now, Notices.Kind.MACHINE, words);
    }
}
