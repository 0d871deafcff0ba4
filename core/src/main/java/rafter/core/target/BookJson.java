package rafter.core.target;

import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
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

/** A book of promises as JSON, for keeping. */
public final class BookJson {

    private static final JsonMapper MAPPER = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .addModule(new SimpleModule()
                    .addSerializer(Criteria.class, new Writer())
                    .addDeserializer(Criteria.class, new Reader()))
            .build();

    private BookJson() {}

    public static String write(PromiseBook book) {
        return MAPPER.writeValueAsString(book);
    }

    /**
     * Reads a book.
     *
     * @throws JacksonException when it is none
     */
    public static PromiseBook read(String json) {
        return MAPPER.readValue(json, PromiseBook.class);
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
