package rafter.outside.demo;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.ContactCard;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;

/** The fields that the ferry line added to its tickets, contacts and companies, and what agents fill in. */
final class DemoFields {

    private final String booking;
    private final String vessel;
    private final String metres;
    private final String prefers;
    private final String account;

    DemoFields(OwnFields fields, PersonId by) {
        this.booking = key(fields, "Booking", OwnField.Bearer.TICKET, OwnField.Kind.TEXT, "", by);
        this.vessel = key(
                fields, "Vessel", OwnField.Bearer.TICKET, OwnField.Kind.CHOICE, "MV Kestrel Light\nMV Saltmarsh", by);
        this.metres = key(fields, "Metres", OwnField.Bearer.TICKET, OwnField.Kind.NUMBER, "", by);
        this.prefers = key(fields, "Prefers", OwnField.Bearer.CONTACT, OwnField.Kind.CHOICE, "Mail\nTelephone", by);
        this.account = key(fields, "Account", OwnField.Bearer.COMPANY, OwnField.Kind.TEXT, "", by);
    }

    private static String key(
            OwnFields fields, String name, OwnField.Bearer bearer, OwnField.Kind kind, String choices, PersonId by) {
        return new OwnField(fields.add(name, bearer, kind, choices, by), bearer, kind).key();
    }

    /** What is known of the firm that stands at this place among them. */
    Map<String, String> ofFirm(int place) {
        return Map.of(account, "TPA-" + (110 + 7 * place));
    }

    /** What is written down of somebody of a firm: a number that no telephone has, and how they like to be reached. */
    ContactCard known(ContactCard card, int place) {
        return new ContactCard(
                card.id(),
                card.name(),
                card.company(),
                card.addresses(),
                List.of("+999 55 01 " + (20 + place)),
                card.language(),
                place % 2 == 0 ? "Europe/Oslo" : "Europe/Lisbon",
                Map.of(prefers, place % 3 == 0 ? "Telephone" : "Mail"),
                card.version());
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
