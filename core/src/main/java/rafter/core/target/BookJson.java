package rafter.core.target;

import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.json.NewerVersion;
import rafter.core.json.StrictJson;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.node.ObjectNode;

/** A book of promises as JSON, for keeping. */
public final class BookJson {

    /** The form in which books are written; this version of Rafter reads it and the one before, which did not say its number. */
    private static final int VERSION = 2;

    private static final String VERSION_FIELD = "version";

    private static final JsonMapper JSON = StrictJson.mapper(criteria());

    /** Books of the first form lack what was added while it was in use, and have what was taken away. */
    private static final JsonMapper FIRST = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .addModule(criteria())
            .build();

    private BookJson() {}

    private static SimpleModule criteria() {
        return new SimpleModule()
                .addSerializer(Criteria.class, new Writer())
                .addDeserializer(Criteria.class, new Reader());
    }

    public static String write(PromiseBook book) {
        ObjectNode document = JSON.valueToTree(book);
        return document.put(VERSION_FIELD, VERSION).toString();
    }

    /**
     * Reads a book.
     *
     * @throws NewerVersion when a newer version of Rafter wrote it
     * @throws JacksonException when it is none
     */
    public static PromiseBook read(String json) {
        ObjectNode document = JSON.readValue(json, ObjectNode.class);
        if (!document.has(VERSION_FIELD)) {
            return FIRST.treeToValue(document, PromiseBook.class);
        }
        int version = document.remove(VERSION_FIELD).intValue();
        if (version > VERSION) {
            throw new NewerVersion("wrote the service targets in version " + version);
        }
        return JSON.treeToValue(document, PromiseBook.class);
    }

    private static final class Writer extends ValueSerializer<Criteria> {
        @Override
        public void serialize(Criteria criteria, JsonGenerator out, SerializationContext context) {
            context.writeTree(out, CriteriaJson.tree(criteria));
        }
    }

    private static final class Reader extends ValueDeserializer<Criteria> {
        @Override
        public Criteria deserialize(JsonParser in, DeserializationContext context) {
            JsonNode tree = context.readTree(in);
            return CriteriaJson.read(tree);
        }
    }
}
