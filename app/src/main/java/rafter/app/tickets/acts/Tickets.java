package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** Tickets as they stand, and what is said about them field by field. */
@Component
public class Tickets {

    private final DSLContext sql;
    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final Acts acts;
    private final Workspaces workspaces;
    private final Targets targets;
    private final OwnFields fields;
    private final Viewers viewers;

    private final TicketFields ticketFields;

    Tickets(
            DSLContext sql,
            TicketStore store,
            CustomerFacts customerFacts,
            Acts acts,
            Workspaces workspaces,
            Targets targets,
            OwnFields fields,
            Viewers viewers,
            TicketFields ticketFields) {
        this.ticketFields = ticketFields;
        this.viewers = viewers;
        this.sql = sql;
        this.store = store;
        this.customerFacts = customerFacts;
        this.acts = acts;
        this.workspaces = workspaces;
        this.targets = targets;
        this.fields = fields;
    }

    /**
     * What somebody says a ticket is about.
     *
     * @param fields own fields by their keys, as somebody typed them
     */
    public record About(String topic, Set<String> tags, Map<String, String> fields) {

        public About {
            tags = Set.copyOf(tags);
            fields = Map.copyOf(fields);
        }

        /** What a ticket is about. */
        public static About of(Ticket ticket) {
            return new About(ticket.topic(), ticket.tags(), ticket.own());
        }
    }

    /**
     * Says what a ticket is about, field by field: what the person left as it was stays as it is now, so that two people who change
     * different things both get what they want.
     *
     * @param was what the person saw
     * @return what was not saved, since it is not asked for any more; mostly blank
     * @throws Problem.Stale when one of the things that the person changed was changed otherwise meanwhile; nothing is changed then
     */
    @Transactional
    public String changeAbout(TicketNumber number, About typed, About was, Viewer by) {
        Access.require(by, Right.WORK);
        Ticket now = store.hold(number, by).ticket();
        var tags = new TreeSet<>(now.tags());
        typed.tags().stream().filter(tag -> !was.tags().contains(tag)).forEach(tags::add);
        was.tags().stream().filter(tag -> !typed.tags().contains(tag)).forEach(tags::remove);
        var changes = new ArrayList<Act>();
        String topic = merged("topic", was.topic(), typed.topic(), now.topic());
        changes.add(new Act.SetTopic(topic));
        changes.add(new Act.SetTags(tags));
        Map<String, String> after = after(typed.fields(), was.fields(), now.own());
        after.forEach((key, value) -> {
            if (!value.equals(now.own().getOrDefault(key, ""))) {
                ticketFields.check(now, topic, after, key);
            }
            if (typed.fields().containsKey(key)) {
                changes.add(new Act.Fill(key, value));
            }
        });
        acts.performAll(number, changes, by);
        return fields.notAsked(OwnField.Bearer.TICKET, typed.fields(), now.own());
    }

    /** What stands in the fields afterwards; what cannot be kept stays as it was typed, for the act to refuse it. */
    private Map<String, String> after(Map<String, String> typed, Map<String, String> was, Map<String, String> now) {
        var after = new TreeMap<>(now);
        for (AddedField field : fields.shown(OwnField.Bearer.TICKET)) {
            String key = field.key();
            if (typed.containsKey(key)) {
                String before = was.getOrDefault(key, "");
                String text = typed.getOrDefault(key, "");
                String kept = fields.normalised(field, text, before).orElse(text);
                after.put(key, merged(field.name(), before, kept, now.getOrDefault(key, "")));
            }
        }
        return after;
    }

    private static String merged(String name, String was, String typed, String now) {
        if (typed.equals(was)) {
            return now;
        }
        if (!now.equals(was) && !now.equals(typed)) {
            throw new Problem.Stale(
                    "Somebody changed “" + name + "” to " + (now.isEmpty() ? "nothing" : "“" + now + "”")
                            + " meanwhile. Nothing was changed; what you typed still stands here.");
        }
        return typed;
    }

    /** The events of several tickets, oldest first, by ticket. */
    public Map<TicketNumber, List<TicketEvent>> events(Collection<TicketNumber> numbers) {
        return store.events(numbers);
    }

    /** Everything that criteria can ask about a ticket, as of an instant. */
    @Transactional(readOnly = true)
    public Facts facts(TicketNumber number, Instant now) {
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound("There is no ticket " + number + ".");
        }
        Facts customer = customerFacts
                .customers(List.of(number), EnumSet.allOf(KnownField.class))
                .getOrDefault(number, Facts.none());
        return TicketFacts.withTimes(
                TicketFacts.of(customer, events), Ticket.replay(events), targets.reckon(events, customer, now));
    }

    /** Closes what was resolved so long ago that it takes no answers any more. */
    @Transactional
    public int closeOver(Instant now, int most) {
        Instant before = now.minus(workspaces.current().reopenFor());
        List<TicketNumber> over = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.STATE.eq(DSL.inline(TicketState.RESOLVED.key())))
                .and(TICKET.RESOLVED_AT.le(before))
                .and(TicketStore.understood())
                .orderBy(TICKET.RESOLVED_AT)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
        for (TicketNumber number : over) {
            store.append(
                    store.hold(number),
                    List.of(new TicketEvent.StateChanged(now, Actor.system(), TicketState.CLOSED)),
                    now);
        }
        return over.size();
    }

    /** Tickets as they stand, by their number; those that there are. */
    public Map<TicketNumber, Ticket> find(Collection<TicketNumber> numbers) {
        return store.events(numbers).entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, entry -> Ticket.replay(entry.getValue())));
    }

    /** A ticket as it stands, if there is one that somebody may see. */
    public Optional<Ticket> find(TicketNumber number, Viewer viewer) {
        if (!viewers.maySee(viewer, number)) {
            return Optional.empty();
        }
        List<TicketEvent> events = store.events(number);
        return events.isEmpty() ? Optional.empty() : Optional.of(Ticket.replay(events));
    }

    /**
     * A ticket that must be there.
     *
     * @throws Problem.NotFound when there is none of this number that the viewer may see
     */
    public Ticket get(TicketNumber number, Viewer viewer) {
        return find(number, viewer).orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
    }
}
