package rafter.core.ticket;

import java.time.Instant;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.json.NewerVersion;
import rafter.core.json.StrictJson;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.node.ObjectNode;

/**
 * Events as they are kept. Reading is strict: a value that is missing, has no place or is of another sort is a defect of what was kept, and
 * never becomes an empty text or a zero.
 */
public final class EventJson {

    /**
     * An event as it is kept.
     *
     * @param kind its name, see {@link EventKind}
     * @param version the form of its body
     * @param actor who did it, such as {@code person:3} or {@code system}
     * @param body what else it says, as JSON
     */
    public record Kept(Instant at, String kind, int version, String actor, String body) {}

    /**
     * The forms of events that this version of Rafter knows, counted: it grows by one whenever a kind is added or gets another version. A
     * ticket remembers the greatest one by which it was written.
     */
    public static final int FORM = 8;

    private static final JsonMapper JSON = StrictJson.mapper(new SimpleModule()
            .addSerializer(Actor.class, new ActorWriter())
            .addDeserializer(Actor.class, new ActorReader()));

    private static final String AT = "at";
    private static final String ACTOR = "actor";

    private EventJson() {}

    /** An event in the form in which it is kept. */
    public static Kept write(TicketEvent event) {
        EventKind kind = EventKind.of(event);
        ObjectNode body = JSON.valueToTree(event);
        body.remove(AT);
        return new Kept(
                event.at(), kind.word(), kind.version(), body.remove(ACTOR).stringValue(), body.toString());
    }

    /**
     * An event that was kept by this version of Rafter or an earlier one.
     *
     * @throws NewerVersion when a newer version wrote it
     * @throws JacksonException when it is not what its kind and version say
     */
    public static TicketEvent read(Kept kept) {
        EventKind kind = EventKind.named(kept.kind())
                .filter(known -> kept.version() <= known.version())
                .orElseThrow(() -> newer(kept));
        ObjectNode body = JSON.readValue(kept.body(), ObjectNode.class);
        if (kept.version() < kind.version()) {
            EarlierForms.bringUp(kind, body);
        }
        body.put(AT, kept.at().toString());
        body.put(ACTOR, kept.actor());
        return JSON.treeToValue(body, kind.type());
    }

    private static NewerVersion newer(Kept kept) {
        return new NewerVersion("wrote “" + kept.kind() + "” in version " + kept.version());
    }

    /** Actors are one word each, so that they can be looked for where events are kept. */
    private static final class ActorWriter extends ValueSerializer<Actor> {
        @Override
        public void serialize(Actor actor, JsonGenerator out, SerializationContext context) {
            out.writeString(
                    switch (actor) {
                        case Actor.Person person -> "person:" + person.id();
                        case Actor.Contact contact -> "contact:" + contact.id();
                        case Actor.System system -> "system";
                    });
        }
    }

    private static final class ActorReader extends ValueDeserializer<Actor> {
        private static final Pattern WORD = Pattern.compile("(person|contact):(\\d{1,18})");

        @Override
        public Actor deserialize(JsonParser in, DeserializationContext context) {
            String word = in.getString();
            if (word.equals("system")) {
                return Actor.system();
            }
            Matcher parts = WORD.matcher(word);
            if (!parts.matches()) {
                return (Actor) context.handleWeirdStringValue(Actor.class, word, "nobody is called that");
            }
            long id = Long.parseLong(parts.group(2));
            return parts.group(1).equals("person")
                    ? new Actor.Person(new PersonId(id))
                    : new Actor.Contact(new ContactId(id));
        }
    }
}
