package rafter.app.tickets.acts;

import static rafter.database.Tables.ACKNOWLEDGEMENT;
import static rafter.database.Tables.ACKNOWLEDGEMENT_DUE;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;

import java.time.Clock;
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
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.wording.Templates;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.target.TicketFacts;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** Tells customers once that their request arrived; never when that could become a loop. */
@Component
public class Acknowledgements {

    /** So many an address gets within an hour, whatever follows a plus in it; more would be a loop. */
    private static final int AN_ADDRESS = 5;
    /** So many a company's mail system gets within an hour. */
    private static final int A_DOMAIN = 100;

    private static final Duration HOUR = Duration.ofHours(1);

    /** So long the rules have time to be read before an acknowledgement that waits for them goes out without. */
    private static final Duration PATIENCE = Duration.ofMinutes(2);

    private static final Writes.Form LATER = Writes.insertIfNew(
            Writes.Stage.DEPENDENTS, ACKNOWLEDGEMENT_DUE, ACKNOWLEDGEMENT_DUE.TICKET, ACKNOWLEDGEMENT_DUE.DUE_AT);

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
    private final TicketStore store;
    private final OwnWords words;
    private final Templates templates;
    private final Channels channels;
    private final Companies companies;
    private final Contacts contacts;
    private final CustomerFacts customers;
    private final RequestPages pages;
    private final Causes causes;
    private final Targets targets;
    private final Workspaces workspaces;
    private final Clock clock;

    Acknowledgements(
            DSLContext sql,
            Writes writes,
            TicketStore store,
            OwnWords words,
            Templates templates,
            Channels channels,
            Companies companies,
            Contacts contacts,
            CustomerFacts customers,
            RequestPages pages,
            Causes causes,
            Targets targets,
            Workspaces workspaces,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.words = words;
        this.templates = templates;
        this.channels = channels;
        this.companies = companies;
        this.contacts = contacts;
        this.customers = customers;
        this.pages = pages;
        this.causes = causes;
        this.targets = targets;
        this.workspaces = workspaces;
        this.clock = clock;
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
     * Sends it, or leaves it until the rules have been read, when which mail they get depends on the ticket.
     *
     * @param seq the number that the event which tells of it will have
     * @return the entry that shows it; nothing when it is sent later, or no mail fits
     */
    Optional<MessageId> send(TicketNumber number, int seq, Arrivals.Request request, Workspace workspace) {
        NewMessage asked = request.message();
        if (waitForRules()) {
            writes.write(LATER, number, asked.at());
            return Optional.empty();
        }
        var to = new To(
                asked.envelope().from(),
                request.contact(),
                request.subject(),
                asked.envelope().messageId(),
                request.ours(),
                request.way().channel());
        return send(number, seq, to, Facts.none(), workspace.name(), asked.at());
    }

    private boolean waitForRules() {
        return templates.of(Purpose.ACKNOWLEDGEMENT).stream()
                .anyMatch(one -> one.on() && !one.criteria().equals(Criteria.everything()));
    }

    /** Whom it goes to, and what it follows. */
    private record To(
            String address,
            Contact contact,
            String subject,
            Optional<String> messageId,
            OurAddress ours,
            String channel) {}

    private Optional<MessageId> send(TicketNumber number, int seq, To to, Facts ticket, String workspace, Instant now) {
        boolean open = targets.terms().hours().isOpen(now);
        return Template.choose(templates.all(), Purpose.ACKNOWLEDGEMENT, ticket, open)
                .map(template -> {
                    String language = template.versions().size() > 1
                            ? language(to.contact().id())
                            : "";
                    Map<String, String> values = Placeholder.named(Map.of(
                            Placeholder.TICKET, number.toString(),
                            Placeholder.SUBJECT, to.subject(),
                            Placeholder.CUSTOMER, to.contact().name(),
                            Placeholder.FIRST_NAME,
                                    Placeholder.firstName(to.contact().name()),
                            Placeholder.WORKSPACE, workspace,
                            Placeholder.REQUEST_PAGE, pages.address(number),
                            Placeholder.OPENS, OpensWords.of(targets.terms().hours(), now, targets.zone())));
                    Templates.Filled filled = Templates.Filled.of(template.words(language), values);
                    var letter = new OwnWords.Letter(
                            to.address(),
                            filled.subject(),
                            SafeHtml.fromText(filled.body()),
                            filled.body(),
                            to.messageId().map(List::of).orElse(List.of()),
                            now);
                    return words.send(number, seq, channels.of(to.channel()), to.ours(), letter);
                });
    }

    private String language(ContactId contact) {
        return sql.select(CONTACT.LANGUAGE)
                .from(CONTACT)
                .where(CONTACT.ID.eq(contact))
                .fetchOptional(CONTACT.LANGUAGE)
                .orElse("");
    }

    // ------------------------------------------------------------------ once the rules have been read

    /** Sends what was left until the rules had been read for a ticket; nothing when nothing was. */
    @Transactional
    public void late(TicketNumber number) {
        // What waits although nothing asks any more is sent with what no reading has sent.
        if (waitForRules()) {
            sendLate(number);
        }
    }

    private void sendLate(TicketNumber number) {
        writes.settle(List.of(number));
        boolean due = sql.deleteFrom(ACKNOWLEDGEMENT_DUE)
                        .where(ACKNOWLEDGEMENT_DUE.TICKET.eq(number))
                        .execute()
                > 0;
        if (due) {
            sendLate(store.hold(number), clock.instant());
        }
    }

    private void sendLate(TicketStore.Held held, Instant now) {
        Ticket ticket = held.ticket();
        Optional<OurAddress> ours = channels.ours(ticket.way());
        Optional<To> to = ours.flatMap(from -> firstSender(held.number(), ticket, from));
        if (to.isEmpty()) {
            return;
        }
        Facts facts = TicketFacts.of(
                customers
                        .customers(List.of(held.number()), KnownField.ofPromises())
                        .getOrDefault(held.number(), Facts.none()),
                ticket);
        send(
                        held.number(),
                        held.nextSeq(),
                        to.get(),
                        facts,
                        workspaces.current().name(),
                        now)
                .ifPresent(sent ->
                        store.append(held, List.of(new TicketEvent.WeWrote(now, Actor.system(), sent, true)), now));
    }

    private Optional<To> firstSender(TicketNumber number, Ticket ticket, OurAddress from) {
        return sql.select(MESSAGE.FROM_ADDRESS, MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq(NewMessage.Kind.CUSTOMER.name()))
                .orderBy(MESSAGE.SEQ)
                .limit(1)
                .fetchOptional(r -> new To(
                        r.value1(),
                        contacts.get(ticket.contact()),
                        ticket.subject(),
                        Optional.ofNullable(r.value2()),
                        from,
                        ticket.channel()));
    }

    /**
     * Sends what no reading of rules has sent, because there are none or they could not be read.
     *
     * @return how many were looked at
     */
    @Transactional
    public int sendDue(int most) {
        List<TicketNumber> due = sql.select(ACKNOWLEDGEMENT_DUE.TICKET)
                .from(ACKNOWLEDGEMENT_DUE)
                .where(ACKNOWLEDGEMENT_DUE.DUE_AT.le(clock.instant().minus(causes.wanted() ? PATIENCE : Duration.ZERO)))
                .orderBy(ACKNOWLEDGEMENT_DUE.DUE_AT)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch(ACKNOWLEDGEMENT_DUE.TICKET);
        due.forEach(this::sendLate);
        return due.size();
    }
}
