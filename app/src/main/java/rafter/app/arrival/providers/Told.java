package rafter.app.arrival.providers;

import java.time.Instant;
import tools.jackson.databind.JsonNode;

/**
 * Something that a provider told.
 *
 * @param id by which the provider knows it; the same for a second telling
 * @param subject the call or post that it is about
 * @param at when it happened, by the provider's clock
 */
public record Told(String id, String subject, Instant at, JsonNode body) {

    /** What is missing or wrong in what a provider told; trying again does not help. */
    public static final class Unreadable extends RuntimeException {
        private static final long serialVersionUID = 1L;

        private final String told;

        /** With words for an administrator. */
        public Unreadable(String words) {
            this("", words);
        }

        private Unreadable(String told, String words) {
            super(words);
            this.told = told;
        }

        /** Which one it is of all that was told of its subject; blank: it is not known. */
        String told() {
            return told;
        }
    }

    /** Says that this one cannot be read. */
    public Unreadable unreadable(String words) {
        return new Unreadable(id, words);
    }

    /** What happened, in the words of the contract. */
    public String what() {
        return text("what");
    }

    /** A text that must be there. */
    public String text(String name) {
        JsonNode value = body.get(name);
        if (value == null || !value.isString()) {
            throw unreadable("“" + name + "” is missing, or no text");
        }
        return clean(value.stringValue());
    }

    /** A text; the other one when it is not there. */
    public String text(String name, String otherwise) {
        JsonNode value = body.get(name);
        return value == null || value.isNull() ? otherwise : text(name);
    }

    /** A whole number that must be there, not less than none. */
    public int number(String name) {
        JsonNode value = body.get(name);
        if (value == null || !value.isIntegralNumber() || !value.canConvertToInt() || value.intValue() < 0) {
            throw unreadable("“" + name + "” is missing, or no whole number");
        }
        return value.intValue();
    }

    /** The same; the other one when it is not there. */
    public int number(String name, int otherwise) {
        JsonNode value = body.get(name);
        return value == null || value.isNull() ? otherwise : number(name);
    }

    /** Whether something is said to be so. */
    public boolean is(String name) {
        JsonNode value = body.get(name);
        return value != null && value.isBoolean() && value.booleanValue();
    }

    /** What a database cannot keep, and nobody can see. */
    private static String clean(String text) {
        return text.replaceAll("[\\p{Cntrl}&&[^\\n\\t]]", "");
    }
}
