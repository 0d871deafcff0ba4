package rafter.app.tickets.rating;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.TICKET;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Files;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Secrets;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.wording.Templates;
import rafter.app.tickets.writing.Recipients;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Work;
import rafter.core.wording.Purpose;

/** Asks customers how they were helped, once the time since their ticket was resolved has gone by. */
@Component
public class RatingRequests {

    /** What was resolved within this before what was looked at last may have been committed after it. */
    private static final Duration OVERLAP = Duration.ofMinutes(10);

    private static final int TOKEN_BYTES = 18;

    /** A ticket whose customer may be asked. */
    private record Resolved(TicketNumber number, Instant at) {}

    private final DSLContext sql;
    private final RatingRules rules;
    private final TicketStore store;
    private final OwnWords words;
    private final Templates templates;
    private final Recipients recipients;
    private final Channels channels;
    private final Workspaces workspaces;
    private final Secrets secrets;
    private final URI address;

    RatingRequests(
            DSLContext sql,
            RatingRules rules,
            TicketStore store,
            OwnWords words,
            Templates templates,
            Recipients recipients,
            Channels channels,
            Workspaces workspaces,
            Secrets secrets,
            RafterSettings settings) {
        this.sql = sql;
        this.rules = rules;
        this.store = store;
        this.words = words;
        this.templates = templates;
        this.recipients = recipients;
        this.channels = channels;
        this.workspaces = workspaces;
        this.secrets = secrets;
        this.address = settings.address();
    }

    /**
     * Looks at the tickets whose time has come, the longest resolved first.
     *
     * @param most so many at once
     * @return how many were looked at
     */
    @Transactional
    public int ask(Instant now, int most) {
        RatingRules.Rule rule = rules.current();
        if (!rule.asks()) {
            return 0;
        }
        Instant until = now.minus(rule.after());
        List<Resolved> due = due(rules.seenUntil().minus(OVERLAP), until, most);
        due.forEach(one -> ask(one, rule, now));
        rules.seen(due.size() < most ? until : due.getLast().at());
        return due.size();
    }

    private List<Resolved> due(Instant after, Instant until, int most) {
        return sql.select(TICKET.NUMBER, TICKET.RESOLVED_AT)
                .from(TICKET)
                .where(TICKET.RESOLVED_AT.gt(after))
                .and(TICKET.RESOLVED_AT.le(until))
                .andNot(TICKET.OPEN)
                .and(TICKET.DISCARDED.isFalse())
                .and(TICKET.JOINED_INTO.isNull())
                .and(TICKET.RATING.isNull())
                .and(TicketStore.understood())
                .andNotExists(sql.selectOne()
                        .from(RATING_REQUEST)
                        .where(RATING_REQUEST.TICKET.eq(TICKET.NUMBER))
                        .and(RATING_REQUEST.ASKED_AT.isNotNull().or(RATING_REQUEST.RESOLVED_AT.eq(TICKET.RESOLVED_AT))))
                .orderBy(TICKET.RESOLVED_AT, TICKET.NUMBER)
                .limit(most)
                .fetch(r -> new Resolved(r.value1(), r.value2()));
    }

    private void ask(Resolved one, RatingRules.Rule rule, Instant now) {
        TicketStore.Held held = store.hold(one.number());
        Ticket ticket = held.ticket();
        if (!ticket.resolvedAt().equals(Optional.of(one.at())) || asked(one.number())) {
            // Taken up again, or asked by another node, since it was looked for.
            return;
        }
        Optional<OurAddress> ours = channels.ours(ticket.way());
        String to = recipients.proposed(one.number(), ticket).to();
        String why = hindrance(held, ours, to, rule, now);
        if (!why.isEmpty()) {
            note(one, ticket.contact(), now, why, Optional.empty());
            return;
        }
        String token = secrets.randomWord(TOKEN_BYTES);
        note(one, ticket.contact(), now, "", Optional.of(token));
        var event = new TicketEvent.WeWrote(now, Actor.system(), send(held, ours.orElseThrow(), to, token, now), true);
        store.append(held, List.of(event), now);
    }

    private boolean asked(TicketNumber number) {
        return sql.fetchExists(RATING_REQUEST, RATING_REQUEST.TICKET.eq(number), RATING_REQUEST.ASKED_AT.isNotNull());
    }

    private String hindrance(
            TicketStore.Held held, Optional<OurAddress> ours, String to, RatingRules.Rule rule, Instant now) {
        boolean answered = held.events().stream()
                .anyMatch(event -> event instanceof TicketEvent.WeWrote wrote && !wrote.automatic());
        if (!answered) {
            return "nobody answered them";
        }
        if (channels.abilities(held.ticket().channel()).live()) {
            return "they are asked at the end of the talk";
        }
        if (ours.isEmpty() || MailAddress.of(to).filter(MailAddress::writable).isEmpty()) {
            return "nothing can be sent to them";
        }
        ContactId contact = held.ticket().contact();
        // Two tickets of theirs may come to it at once, on two nodes.
        sql.selectOne().from(CONTACT).where(CONTACT.ID.eq(contact)).forUpdate().fetch();
        boolean rests = sql.fetchExists(
                RATING_REQUEST,
                RATING_REQUEST.CONTACT_ID.eq(contact),
                RATING_REQUEST.ASKED_AT.gt(now.minus(rule.rest())));
        return rests ? "they were asked of late" : "";
    }

    private void note(Resolved one, ContactId contact, Instant now, String why, Optional<String> token) {
        sql.insertInto(RATING_REQUEST)
                .set(RATING_REQUEST.TICKET, one.number())
                .set(RATING_REQUEST.CONTACT_ID, contact)
                .set(RATING_REQUEST.RESOLVED_AT, one.at())
                .set(RATING_REQUEST.ASKED_AT, token.isPresent() ? now : null)
                .set(RATING_REQUEST.WHY, why)
                .set(RATING_REQUEST.TOKEN, token.map(RatingRequests::hashed).orElse(null))
                .onConflict(RATING_REQUEST.TICKET)
                .doUpdate()
                .setAllToExcluded()
                .execute();
    }

    static byte[] hashed(String token) {
        return Files.sha256(token.getBytes(StandardCharsets.UTF_8));
    }

    private MessageId send(TicketStore.Held held, OurAddress ours, String to, String token, Instant now) {
        Asked asked = asked(held.ticket().contact());
        Templates.Filled filled = Templates.Filled.of(
                templates.the(Purpose.RATING).words(asked.language()), values(held, asked.name(), token));
        var letter = new OwnWords.Letter(
                to,
                filled.subject(),
                SafeHtml.fromText(filled.body()),
                filled.body(),
                words.thread(held.number()),
                now);
        return words.send(
                held.number(), held.nextSeq(), channels.of(held.ticket().channel()), ours, letter);
    }

    /** Who is asked. */
    private record Asked(String name, String language) {}

    private Asked asked(ContactId contact) {
        return sql.select(CONTACT.NAME, CONTACT.LANGUAGE)
                .from(CONTACT)
                .where(CONTACT.ID.eq(contact))
                .fetchSingle(r -> new Asked(r.value1(), r.value2()));
    }

    private Map<String, String> values(TicketStore.Held held, String customer, String token) {
        String links = Arrays.stream(Work.Rating.values())
                .map(rating -> rating.word() + ": " + link(token, rating))
                .collect(Collectors.joining("\n"));
        return Placeholder.named(Map.of(
                Placeholder.TICKET, held.number().toString(),
                Placeholder.SUBJECT, held.ticket().subject(),
                Placeholder.CUSTOMER, customer,
                Placeholder.FIRST_NAME, Placeholder.firstName(customer),
                Placeholder.WORKSPACE, workspaces.current().name(),
                Placeholder.RATING, links));
    }

    private String link(String token, Work.Rating rating) {
        return address + "/rate/" + token + "?rating=" + rating.name().toLowerCase(Locale.ROOT);
    }
}
