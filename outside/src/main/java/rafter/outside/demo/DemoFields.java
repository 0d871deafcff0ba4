package rafter.outside.demo;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationContext;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.forms.FieldRules;
import rafter.app.house.forms.FormStore;
import rafter.app.house.people.ContactCard;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.form.FieldRule;
import rafter.core.form.TicketForm;
import rafter.core.id.PersonId;

/** The fields that the ferry line added to its tickets, contacts and companies, and what agents fill in. */
final class DemoFields {

    private static final String SERVICES = """
            Crossing
              Booking
                New
                Change
                Cancel
              Cabin
                Upgrade
                Berth for a wheelchair
              On board
                Meals
                Lost and found
            Freight
              Space on the car deck
              Papers
              Claim
            Account
              Invoice
              Access""";
    private static final List<String> LEAVES =
            List.of("Cancel", "Upgrade", "Meals", "Lost and found", "Invoice", "Crossing / Booking / Change");

    private final String booking;
    private final String vessel;
    private final String metres;
    private final String service;
    private final String aboard;
    private final String insured;
    private final String prefers;
    private final String account;

    DemoFields(FieldSetup setup, PersonId by) {
        this.booking = key(
                setup,
                of("Booking", "", "It stands on the confirmation, such as TP-20312"),
                OwnField.Bearer.TICKET,
                OwnField.Kind.TEXT,
                by);
        this.vessel = key(
                setup,
                of("Vessel", "MV Kestrel Light\nMV Saltmarsh", ""),
                OwnField.Bearer.TICKET,
                OwnField.Kind.CHOICE,
                by);
        this.metres = key(
                setup,
                of("Metres", "", "Of the vehicle with its load, to half a metre"),
                OwnField.Bearer.TICKET,
                OwnField.Kind.NUMBER,
                by);
        this.service = key(setup, of("Service", SERVICES, ""), OwnField.Bearer.TICKET, OwnField.Kind.TREE, by);
        this.aboard = key(
                setup,
                of("Aboard", "Animals\nDangerous goods\nWheelchair\nCooled load", ""),
                OwnField.Bearer.TICKET,
                OwnField.Kind.SEVERAL,
                by);
        this.insured = key(setup, of("Insured", "", ""), OwnField.Bearer.TICKET, OwnField.Kind.TICK, by);
        key(
                setup,
                of("Looked into by", "", "Who of ours went through the papers"),
                OwnField.Bearer.TICKET,
                OwnField.Kind.PERSON,
                by);
        key(setup, of("Papers", "", "Where the papers lie"), OwnField.Bearer.TICKET, OwnField.Kind.LINK, by);
        this.prefers =
                key(setup, of("Prefers", "Mail\nTelephone", ""), OwnField.Bearer.CONTACT, OwnField.Kind.CHOICE, by);
        this.account = key(setup, of("Account", "", ""), OwnField.Bearer.COMPANY, OwnField.Kind.TEXT, by);
    }

    private static FieldSetup.Typed of(String name, String choices, String help) {
        return new FieldSetup.Typed(name, choices, help, "");
    }

    private static String key(
            FieldSetup setup, FieldSetup.Typed typed, OwnField.Bearer bearer, OwnField.Kind kind, PersonId by) {
        return new OwnField(setup.add(typed, bearer, kind, by), bearer, kind).key();
    }

    /** Freight is asked for its load, lost things for where the papers lie; everything else for the trip alone. */
    static void askByForms(ApplicationContext context, PersonId by) {
        FormStore forms = context.getBean(FormStore.class);
        Map<String, OwnField> named = context.getBean(OwnFields.class).all().stream()
                .collect(Collectors.toMap(AddedField::name, AddedField::field));
        TicketForm.Section trip = section(named, "Trip", "Booking", "Vessel");
        Criteria freight = topic("freight slots");
        forms.save(
                0,
                new TicketForm(
                        "Freight",
                        freight,
                        List.of(trip, section(named, "Load", "Metres", "Aboard", "Insured", "Papers"))),
                0,
                by);
        forms.save(
                0,
                new TicketForm(
                        "Passengers",
                        Criteria.everything(),
                        List.of(trip, section(named, "What it is about", "Service", "Aboard", "Looked into by"))),
                0,
                by);
        FieldRules rules = context.getBean(FieldRules.class);
        rules.save(0, rule(named, "Metres", FieldRule.Effect.REQUIRE, freight), 0, by);
        rules.save(
                0,
                rule(
                        named,
                        "Papers",
                        FieldRule.Effect.SHOW,
                        Criteria.test(at(named, "Insured"), Operator.IS, OwnField.TICKED)),
                0,
                by);
        rules.save(
                0,
                rule(named, "Aboard", FieldRule.Effect.NARROW, new Criteria.Not(freight), "Animals", "Wheelchair"),
                0,
                by);
    }

    private static OwnField at(Map<String, OwnField> named, String name) {
        return Optional.ofNullable(named.get(name)).orElseThrow();
    }

    private static TicketForm.Section section(Map<String, OwnField> named, String name, String... fields) {
        return new TicketForm.Section(
                name, Arrays.stream(fields).map(one -> at(named, one).id()).toList());
    }

    private static FieldRule rule(
            Map<String, OwnField> named, String field, FieldRule.Effect effect, Criteria when, String... choices) {
        return new FieldRule(at(named, field).id(), effect, List.of(choices), when);
    }

    private static Criteria topic(String topic) {
        return Criteria.test(KnownField.TOPIC, Operator.IS, topic);
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
            known.put(insured, random.nextBoolean() ? OwnField.TICKED : "");
            if (random.nextInt(4) == 0) {
                known.put(aboard, "Cooled load\nDangerous goods");
            }
        } else if (random.nextInt(3) == 0) {
            known.put(service, LEAVES.get(random.nextInt(LEAVES.size())));
        }
        return known;
    }
}
