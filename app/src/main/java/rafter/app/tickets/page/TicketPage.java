package rafter.app.tickets.page;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Colleagues;
import rafter.app.house.access.Everybody;
import rafter.app.house.access.Person;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.clocks.SpanDrawing;
import rafter.core.criteria.OwnField;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Await;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Puts together what the page of a ticket shows. */
@Component
class TicketPage {

    private static final int OTHERS_SHOWN = 6;
    private static final int LINKED_SHOWN = 30;

    /** The page. */
    public record View(
            TicketNumber number,
            Ticket ticket,
            List<TicketEvent> events,
            SpanDrawing span,
            List<Conversation.Item> items,
            int hidden,
            Facts facts,
            TicketCustomers.Customer customer,
            List<Other> others,
            Optional<Person> owner,
            boolean mine,
            Colleagues colleagues,
            Traces.Found traces) {

        private static final int GLANCED = 3;

        /** Whether it can be answered and changed: it is neither in the bin nor a part of another ticket. */
        public boolean goesOn() {
            return !ticket.discarded() && ticket.joinedInto().isEmpty();
        }

        /** The latest entries that people wrote and the latest changes, in their order; a glance has no room for more. */
        public List<Conversation.Item> latest() {
            var latest = new ArrayDeque<Conversation.Item>();
            int entries = 0;
            int changes = 0;
            for (Conversation.Item item : items.reversed()) {
                boolean change = !(item instanceof Conversation.Entry);
                boolean written = !change && !item.css().equals("automatic");
                if (change ? changes++ < GLANCED : written && entries++ < GLANCED) {
                    latest.addFirst(item);
                }
            }
            return List.copyOf(latest);
        }
    }

    public record Facts(
            String team,
            String owner,
            String topic,
            String mailbox,
            String channel,
            String opened,
            String openedExact,
            List<String> tags,
            String agreed,
            String comesBack,
            List<OwnFields.OwnValue> own) {}

    /** Another ticket of the same customer, or a linked one. */
    public record Other(TicketNumber number, String subject, String state, String how) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final Targets targets;
    private final Everybody everybody;
    private final Clock clock;
    private final Conversation conversation;
    private final OwnFields fields;
    private final Channels channels;
    private final TicketStates states;
    private final Viewers viewers;
    private final TicketCustomers customers;
    private final Workplace workplace;
    private final Traces traces;

    TicketPage(
            DSLContext sql,
            TicketStore store,
            CustomerFacts customerFacts,
            Targets targets,
            Everybody everybody,
            Conversation conversation,
            OwnFields fields,
            Channels channels,
            Clock clock,
            TicketStates states,
            Viewers viewers,
            TicketCustomers customers,
            Workplace workplace,
            Traces traces) {
        this.traces = traces;
        this.workplace = workplace;
        this.customers = customers;
        this.viewers = viewers;
        this.states = states;
        this.channels = channels;
        this.sql = sql;
        this.store = store;
        this.customerFacts = customerFacts;
        this.targets = targets;
        this.everybody = everybody;
        this.conversation = conversation;
        this.fields = fields;
        this.clock = clock;
    }

    /**
     * Everything the page shows.
     *
     * @param all whether the older entries of a long conversation are wanted too
     * @param pictures the entry whose pictures from elsewhere were asked for
     * @throws Problem.NotFound when there is no ticket of this number
     */
    @Transactional(readOnly = true)
    View load(TicketNumber number, Viewer me, boolean all, Optional<MessageId> pictures) {
        viewers.insist(me, number);
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound(
                    "There is no ticket " + number + ". Check the number, or look for it in the worklist.");
        }
        Instant now = clock.instant();
        Terms terms = targets.terms();
        Ticket ticket = Ticket.replay(events);
        List<TargetClock> clocks = targets.reckon(events, customerFacts.customer(number), now, terms);
        Traces.Found there = traces.of(number);
        Colleagues colleagues = everybody.colleagues();
        Optional<Person> owner = ticket.owner().flatMap(colleagues::find);
        var words = new ChangeWords(colleagues, fields, workplace, terms.zone(), now);
        Conversation.Said said = conversation.of(number, ticket, events, there, all, pictures, words);
        return new View(
                number,
                ticket,
                events,
                SpanDrawing.of(events, clocks, terms, now),
                said.items(),
                said.hidden(),
                facts(ticket, colleagues, terms, now),
                customers.of(ticket, me, now),
                others(number, ticket, there, me),
                owner,
                owner.filter(person -> person.id().equals(me.id())).isPresent(),
                colleagues,
                there);
    }

    private Facts facts(Ticket ticket, Colleagues colleagues, Terms terms, Instant now) {
        return new Facts(
                ticket.team().map(colleagues::team).orElse("none"),
                ticket.owner().map(colleagues::name).orElse("nobody"),
                ticket.topic(),
                channels.ours(ticket.way()).map(OurAddress::address).orElse(""),
                channels.name(ticket.channel()),
                Say.when(ticket.openedAt(), now, terms.zone()),
                Say.exactly(ticket.openedAt(), terms.zone()),
                ticket.tags().stream().sorted().toList(),
                ticket.agreedDue().map(at -> Say.when(at, now, terms.zone())).orElse(""),
                comesBack(ticket, now, terms),
                fields.values(OwnField.Bearer.TICKET, ticket.own()));
    }

    /** When it comes back, or by what, and what is noted for then. */
    private static String comesBack(Ticket ticket, Instant now, Terms terms) {
        Optional<Await> await = ticket.work().await();
        String when =
                ticket.bringBackAt().map(at -> Say.when(at, now, terms.zone())).orElse("");
        String until = await.filter(one -> !one.until().isEmpty())
                .map(one -> "when " + ChangeWords.until(one))
                .orElse("");
        String note = await.map(Await::note)
                .filter(words -> !words.isEmpty())
                .map(words -> ": “" + words + "”")
                .orElse("");
        return when + (when.isEmpty() || until.isEmpty() ? "" : ", or ") + until + note;
    }

    /** What this ticket has to do with, in either direction, however much that is; then the latest others of the customer. */
    private List<Other> others(TicketNumber number, Ticket ticket, Traces.Found there, Viewer me) {
        var named = new TreeSet<>(ticket.links());
        ticket.joinedInto().ifPresent(named::add);
        boolean any = !named.isEmpty() || there.may(OwnTrace.LINKED) || there.may(OwnTrace.JOINED);
        List<Other> linked = any
                ? others(
                        TICKET.NUMBER.in(named).or(TICKET.LINKED_TO.eq(number)).or(TICKET.JOINED_INTO.eq(number)),
                        number,
                        "linked",
                        LINKED_SHOWN,
                        me)
                : List.of();
        List<Other> theirs = others(
                TICKET.CONTACT_ID.eq(ticket.contact()), number, "same customer", OTHERS_SHOWN + linked.size(), me);
        return Stream.concat(
                        linked.stream(),
                        theirs.stream()
                                .filter(one -> linked.stream()
                                        .noneMatch(other -> other.number().equals(one.number())))
                                .limit(OTHERS_SHOWN))
                .toList();
    }

    private List<Other> others(Condition which, TicketNumber number, String how, int most, Viewer me) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE)
                .from(me.tickets())
                .where(which)
                .and(TICKET.NUMBER.ne(number))
                .orderBy(TICKET.OPEN.desc(), TICKET.NUMBER.desc())
                .limit(most)
                .fetch(r -> new Other(r.value1(), r.value2(), states.name(r.value3()), how));
    }
}
