package rafter.outside.demo;

import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import rafter.app.fields.OwnFields;
import rafter.core.criteria.OwnField;

/** The fields that the ferry line added to its tickets, and what agents fill in. */
final class DemoFields {

    private final String booking;
    private final String vessel;
    private final String metres;

    DemoFields(OwnFields fields, long by) {
        this.booking = key(fields, "Booking", OwnField.Kind.TEXT, "", by);
        this.vessel = key(fields, "Vessel", OwnField.Kind.CHOICE, "MV Kestrel Light\nMV Saltmarsh", by);
        this.metres = key(fields, "Metres", OwnField.Kind.NUMBER, "", by);
    }

    private static String key(OwnFields fields, String name, OwnField.Kind kind, String choices, long by) {
        return new OwnField(fields.add(name, OwnField.Bearer.TICKET, kind, choices, by), kind).key();
    }

    /** What an agent knows of a request once they have read it. */
    Map<String, String> of(Telling telling, Random random) {
        var known = new HashMap<String, String>();
        if (random.nextInt(3) > 0) {
            known.put(booking, "TP-" + (20_100 + random.nextInt(800)));
        }
        if (random.nextInt(4) > 0) {
            known.put(vessel, random.nextInt(3) > 0 ? "MV Kestrel Light" : "MV Saltmarsh");
        }
        if (telling.story().topic().equals("freight slots")) {
            known.put(metres, Double.toString(6 + random.nextInt(22) / 2.0));
        }
        return known;
    }
}
