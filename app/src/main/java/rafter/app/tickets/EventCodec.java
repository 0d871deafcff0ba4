package rafter.app.tickets;

import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.jooq.JSONB;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes events as rows and reads them back. The names here are the format of the events for good: old ones are read for ever.
 */
final class EventCodec {

    /** An event as it lies in its row. */
    record Row(Instant at, String kind, String actor, JSONB body) {}

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private EventCodec() {}

    static Row write(TicketEvent event) {
        var body = new HashMap<String, Object>();
        String kind =
                switch (event) {
                    case TicketEvent.Opened e -> {
                        body.put("origin", e.origin().name());
                        body.put("channel", e.channel());
                        body.put("subject", e.subject());
                        body.put("contact", e.contact());
                        body.put("priority", e.priority().name());
                        put(body, "team", e.team());
                        yield "opened";
                    }
                    case TicketEvent.CustomerWrote e -> message(body, "customer-wrote", e.message(), e.automatic());
                    case TicketEvent.WeWrote e -> message(body, "we-wrote", e.message(), e.automatic());
                    case TicketEvent.NoteAdded e -> message(body, "note", e.message(), false);
                    case TicketEvent.Bounced e -> message(body, "bounced", e.message(), false);
                    case TicketEvent.StateChanged e -> {
                        // The whole state, so that the event means the same when the state is renamed or gone.
                        body.put("state", e.state().key());
                        body.put("name", e.state().name());
                        body.put("turn", e.state().turn().name());
                        body.put("ending", e.state().ending());
                        yield "state";
                    }
                    case TicketEvent.PriorityChanged e -> {
                        body.put("priority", e.priority().name());
                        yield "priority";
                    }
                    case TicketEvent.OwnerChanged e -> {
                        put(body, "owner", e.owner());
                        yield "owner";
                    }
                    case TicketEvent.TeamChanged e -> {
                        put(body, "team", e.team());
                        yield "team";
                    }
                    case TicketEvent.TopicChanged e -> {
                        body.put("topic", e.topic());
                        yield "topic";
                    }
                    case TicketEvent.TagsChanged e -> {
                        body.put("tags", e.tags().stream().sorted().toList());
                        yield "tags";
                    }
                    case TicketEvent.Linked e -> other(body, "linked", "earlier", e.earlier(), e.why());
                    case TicketEvent.CustomerChanged e -> {
                        known(body, "before", e.before());
                        known(body, "after", e.after());
                        yield "customer";
                    }
                    case TicketEvent.Joined e -> {
                        body.put("into", e.into());
                        yield "joined";
                    }
                    case TicketEvent.Discarded e -> {
                        body.put("why", e.why());
                        yield "discarded";
                    }
                    case TicketEvent.Restored e -> "restored";
                    case TicketEvent.Parted e -> {
                        body.put("from", e.from());
                        yield "parted";
                    }
                    case TicketEvent.Unlinked e -> other(body, "unlinked", "other", e.other(), e.why());
                    case TicketEvent.Continued e -> other(body, "continued", "later", e.later(), e.why());
                    case TicketEvent.NoteTakenBack e -> message(body, "note-taken-back", e.message(), false);
                    case TicketEvent.FieldSet e -> {
                        body.put("field", e.field());
                        body.put("value", e.value());
                        yield "field";
                    }
                    case TicketEvent.TimeAgreed e -> {
                        e.due().ifPresent(due -> body.put("due", due.toString()));
                        body.put("why", e.why());
                        yield "time-agreed";
                    }
                    case TicketEvent.BringBackSet e -> {
                        e.when().ifPresent(when -> body.put("when", when.toString()));
                        yield "bring-back";
                    }
                    case TicketEvent.BroughtBack e -> "brought-back";
                };
        return new Row(event.at(), kind, actor(event.actor()), JSONB.valueOf(JSON.writeValueAsString(body)));
    }

    private static String message(Map<String, Object> body, String kind, long message, boolean automatic) {
        body.put("message", message);
        if (automatic) {
            body.put("automatic", true);
        }
        return kind;
    }

    private static String other(Map<String, Object> body, String kind, String name, long ticket, String why) {
        body.put(name, ticket);
        body.put("why", why);
        return kind;
    }

    private static void put(Map<String, Object> body, String name, OptionalLong value) {
        value.ifPresent(v -> body.put(name, v));
    }

    @SuppressWarnings("unchecked")
    static TicketEvent read(Row row) {
        Map<String, Object> b = JSON.readValue(row.body().data(), Map.class);
        Instant at = row.at();
        Actor actor = actor(row.actor());
        return switch (row.kind()) {
            case "opened" ->
                new TicketEvent.Opened(
                        at, actor, TicketEvent.Origin.valueOf(text(b, "origin")), text(b, "channel"), text(b, "subject"),
                        number(b, "contact"), Priority.valueOf(text(b, "priority")), optional(b, "team"));
            case "customer-wrote" -> new TicketEvent.CustomerWrote(at, actor, number(b, "message"), b.containsKey("automatic"));
            case "we-wrote" -> new TicketEvent.WeWrote(at, actor, number(b, "message"), b.containsKey("automatic"));
            case "note" -> new TicketEvent.NoteAdded(at, actor, number(b, "message"));
            case "bounced" -> new TicketEvent.Bounced(at, actor, number(b, "message"));
            case "state" ->
                new TicketEvent.StateChanged(
                        at, actor,
                        new TicketState(text(b, "state"), text(b, "name"), Turn.valueOf(text(b, "turn")), b.get("ending") == Boolean.TRUE));
            case "priority" -> new TicketEvent.PriorityChanged(at, actor, Priority.valueOf(text(b, "priority")));
            case "owner" -> new TicketEvent.OwnerChanged(at, actor, optional(b, "owner"));
            case "team" -> new TicketEvent.TeamChanged(at, actor, optional(b, "team"));
            case "topic" -> new TicketEvent.TopicChanged(at, actor, text(b, "topic"));
            case "tags" -> new TicketEvent.TagsChanged(at, actor, (Set<String>) new LinkedHashSet<>((List<String>) b.getOrDefault("tags", List.of())));
            case "linked" -> new TicketEvent.Linked(at, actor, number(b, "earlier"), text(b, "why"));
            case "customer" -> new TicketEvent.CustomerChanged(at, actor, known(b, "before"), known(b, "after"));
            case "joined" -> new TicketEvent.Joined(at, actor, number(b, "into"));
            case "discarded" -> new TicketEvent.Discarded(at, actor, text(b, "why"));
            case "restored" -> new TicketEvent.Restored(at, actor);
            case "parted" -> new TicketEvent.Parted(at, actor, number(b, "from"));
            case "unlinked" -> new TicketEvent.Unlinked(at, actor, number(b, "other"), text(b, "why"));
            case "continued" -> new TicketEvent.Continued(at, actor, number(b, "later"), text(b, "why"));
            case "note-taken-back" -> new TicketEvent.NoteTakenBack(at, actor, number(b, "message"));
            case "field" -> new TicketEvent.FieldSet(at, actor, text(b, "field"), text(b, "value"));
            case "time-agreed" -> new TicketEvent.TimeAgreed(at, actor, instant(b, "due"), text(b, "why"));
            case "bring-back" -> new TicketEvent.BringBackSet(at, actor, instant(b, "when"));
            case "brought-back" -> new TicketEvent.BroughtBack(at, actor);
            default -> throw new IllegalStateException("an event of a kind that this version does not know: " + row.kind());
        };
    }

    private static void known(Map<String, Object> body, String name, TicketEvent.CustomerKnown customer) {
        body.put(name + "-plan", customer.plan());
        put(body, name + "-company", customer.company());
    }

    private static TicketEvent.CustomerKnown known(Map<String, Object> body, String name) {
        return new TicketEvent.CustomerKnown(optional(body, name + "-company"), text(body, name + "-plan"));
    }

    private static String text(Map<String, Object> body, String name) {
        return String.valueOf(body.get(name));
    }

    private static long number(Map<String, Object> body, String name) {
        return ((Number) body.getOrDefault(name, 0)).longValue();
    }

    private static Optional<Instant> instant(Map<String, Object> body, String name) {
        return body.containsKey(name) ? Optional.of(Instant.parse(text(body, name))) : Optional.empty();
    }

    private static OptionalLong optional(Map<String, Object> body, String name) {
        return body.containsKey(name) ? OptionalLong.of(number(body, name)) : OptionalLong.empty();
    }

    private static String actor(Actor actor) {
        return switch (actor) {
            case Actor.Person p -> "person:" + p.id();
            case Actor.Contact c -> "contact:" + c.id();
            case Actor.System s -> "system";
        };
    }

    private static Actor actor(String written) {
        int colon = written.indexOf(':');
        if (colon < 0) {
            return Actor.system();
        }
        long id = Long.parseLong(written.substring(colon + 1));
        return written.startsWith("person") ? new Actor.Person(id) : new Actor.Contact(id);
    }
}
