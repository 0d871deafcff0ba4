package rafter.app.house.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.unique;
import static rafter.core.criteria.Criteria.test;
import static rafter.database.Tables.TICKET;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Company;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Help;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Work;

/** What the database finds is what the criteria say, for random tickets and random sentences. */
@ExtendWith(RunningApp.class)
class CriteriaSqlTest {

    private static final List<String> TEXTS = List.of(
            "Déjà vu at Skelby",
            "lost my Season-Pass",
            "season tickets; pass me by",
            "Booking 4471 cancelled!",
            "STRASSE straße",
            "trailer of 14m",
            "one_two 100% sure",
            "O'Neill's ferry",
            "日本 ferries",
            "Skelby, at noon: sailing");
    private static final List<String> PHRASES = List.of(
            "deja vu",
            "season pass",
            "pass",
            "14m",
            "14",
            "ferry",
            "sail",
            "cancel",
            "at skelby",
            "100%",
            "one two",
            "",
            "%",
            "'",
            "日本",
            "strasse",
            "skelby at");
    private static final Map<TicketNumber, Facts> FACTS = new TreeMap<>();
    private static final List<Field> FIELDS = new ArrayList<>(KnownField.ofLists());
    private static Asking asking = new Asking(Instant.EPOCH, new PersonId(0), Set.of());

    @BeforeAll
    static void random_tickets() {
        var random = new Random(11);
        Persons persons = bean(Persons.class);
        TeamId team = persons.addTeam("Agreement " + unique(), ravi().id());
        for (OwnField.Bearer bearer : OwnField.Bearer.values()) {
            for (OwnField.Kind kind : OwnField.Kind.values()) {
                String choices = kind == OwnField.Kind.TREE ? "Deck\n  Cabin\nHold" : "Deck\nHold\nnone of both";
                FIELDS.add(RunningApp.field(bearer, kind, "Agreed " + kind + unique(), choices)
                        .field());
            }
        }
        fillBrightwater(random);
        var tickets = bean(Tickets.class);
        clock().set(RunningApp.MONDAY.plus(Duration.ofDays(400)));
        for (int i = 0; i < 60; i++) {
            TicketNumber number = ticket(random);
            clock().tick(Duration.ofMinutes(random.nextInt(90)));
            if (random.nextBoolean()) {
                bean(Acts.class).perform(number, new Act.SetPriority(Priority.values()[random.nextInt(4)]), odile());
                bean(Acts.class)
                        .perform(
                                number,
                                new Act.SetTopic(
                                        List.of("", "billing", "lost items").get(random.nextInt(3))),
                                odile());
                bean(Acts.class)
                        .perform(
                                number,
                                new Act.SetTags(new TreeSet<>(
                                        List.of("booking", "late", "vip").subList(0, random.nextInt(4)))),
                                odile());
            }
            if (random.nextBoolean()) {
                bean(Acts.class).perform(number, new Act.HandOver(team), odile());
            }
            if (random.nextBoolean()) {
                Viewer taker = random.nextBoolean() ? imani() : odile();
                bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(taker.id())), taker);
            }
            if (random.nextBoolean()) {
                RunningApp.fill(number, own(random, OwnField.Bearer.TICKET), odile());
            }
            if (random.nextBoolean()) {
                fillContact(tickets.find(number, odile()).orElseThrow().contact(), random);
            }
            if (random.nextInt(3) == 0) {
                bean(Acts.class)
                        .perform(
                                number,
                                new Act.BringBack(
                                        Optional.of(clock().instant().plusSeconds(60L * random.nextInt(6000) + 60))),
                                odile());
                bean(TicketTimes.class).broughtBack(clock().instant(), 100);
            }
            work(number, random, team);
            if (random.nextInt(3) == 0) {
                bean(Acts.class)
                        .perform(
                                number,
                                new Act.MoveTo(TicketState.shipped()
                                        .get(random.nextInt(6))
                                        .key()),
                                odile());
            }
            FACTS.put(number, Facts.none());
        }
        endSome(random);
        asking = new Asking(clock().instant(), imani().id(), Set.of(team));
        FACTS.replaceAll((number, none) -> tickets.facts(number, clock().instant()));
    }

    private static void work(TicketNumber number, Random random, TeamId team) {
        Acts acts = bean(Acts.class);
        for (int i = random.nextInt(3); i > 0; i--) {
            acts.perform(
                    number, new Act.SetTask(OptionalInt.empty(), "Do", Optional.empty(), Optional.empty()), odile());
        }
        if (random.nextBoolean()) {
            acts.perform(number, new Act.Watch((random.nextBoolean() ? imani() : odile()).id(), true), odile());
            acts.perform(
                    number,
                    new Act.Conclude(new Work.Resolution("", "", random.nextBoolean() ? "mislaid" : "")),
                    odile());
        }
        if (random.nextBoolean()) {
            boolean person = random.nextBoolean();
            var wanted = new Help.Wanted(
                    person ? Optional.of((random.nextBoolean() ? imani() : odile()).id()) : Optional.empty(),
                    person ? Optional.empty() : Optional.of(team),
                    "Look",
                    Optional.empty());
            acts.perform(number, new Act.AskHelp(wanted), odile());
            if (random.nextInt(3) == 0) {
                acts.perform(number, new Act.EndHelp(1, "", true), odile());
            }
        }
        if (random.nextBoolean()) {
            var spent = new Work.Spent(odile().id(), clock().instant(), Duration.ofMinutes(12), "", false, "");
            acts.perform(number, new Act.SpendTime(OptionalInt.empty(), spent), odile());
        }
    }

    /** Some in the bin, some a part of another, some out of either again. */
    private static void endSome(Random random) {
        List<TicketNumber> numbers = List.copyOf(FACTS.keySet());
        for (int i = 0; i < 12; i++) {
            bean(Acts.class)
                    .perform(
                            numbers.get(i * 5),
                            random.nextBoolean() ? new Act.NoRequest(false) : new Act.Delete(),
                            ravi());
            bean(Acts.class).perform(numbers.get(i * 5 + 1), new Act.Join(numbers.get(i * 5 + 2)), odile());
            if (i % 3 == 0) {
                bean(Acts.class).perform(numbers.get(i * 5), new Act.Restore(), ravi());
                bean(Acts.class).perform(numbers.get(i * 5 + 1), new Act.Part(numbers.get(i * 5 + 2)), odile());
            }
        }
    }

    private static void fillContact(ContactId contact, Random random) {
        ContactCard card = bean(ContactCards.class).get(contact);
        bean(ContactCards.class)
                .save(
                        new ContactCard(
                                contact,
                                card.name(),
                                card.company(),
                                card.addresses(),
                                card.phones(),
                                card.language(),
                                card.zone(),
                                own(random, OwnField.Bearer.CONTACT),
                                card.version()),
                        odile().id());
    }

    private static void fillBrightwater(Random random) {
        Company firm = bean(Companies.class).all().stream()
                .filter(company -> company.domains().contains("brightwater.example"))
                .findFirst()
                .orElseThrow();
        bean(Companies.class)
                .save(
                        Optional.of(firm.id()),
                        firm.name(),
                        firm.plan(),
                        String.join(" ", firm.domains()),
                        own(random, OwnField.Bearer.COMPANY),
                        RunningApp.ravi().id());
    }

    private static TicketNumber ticket(Random random) {
        int nth = unique();
        String from = random.nextBoolean()
                ? "dov" + random.nextInt(4) + "@brightwater.example"
                : "s" + random.nextInt(9) + "@post.example";
        String id = "<agree" + nth + "@post.example>";
        TicketNumber number =
                RunningApp.ticketOf(RunningApp.take(mail(from, id, "", any(random), any(random) + "\n\n" + any(random)))
                        .orElseThrow());
        if (random.nextInt(3) == 0) {
            RunningApp.take(
                    mail(from, "<again" + nth + "@post.example>", "In-Reply-To: " + id + "\n", "Re: it", any(random)));
        }
        return number;
    }

    private static String any(Random random) {
        return TEXTS.get(random.nextInt(TEXTS.size()));
    }

    private static byte[] mail(String from, String id, String more, String subject, String text) {
        String encoded = "=?utf-8?B?"
                + java.util.Base64.getEncoder().encodeToString(subject.getBytes(StandardCharsets.UTF_8)) + "?=";
        return ("From: Ann Éclair <" + from + ">\nMessage-ID: " + id + "\n" + more + "Subject: " + encoded
                        + "\nMIME-Version: 1.0\nContent-Type: text/plain; charset=utf-8\nContent-Transfer-Encoding: 8bit\n\n"
                        + text + "\n")
                .getBytes(StandardCharsets.UTF_8);
    }

    static LongStream seeds() {
        return LongStream.range(0, 400);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_database_finds_exactly_the_tickets_that_the_sentence_says(long seed) {
        assertAgreement(random(new Random(seed), 0));
    }

    private static void assertAgreement(Criteria criteria) {
        Criteria resolved = asking.resolve(criteria);
        List<TicketNumber> said = FACTS.entrySet().stream()
                .filter(e -> Matching.matches(resolved, e.getValue()))
                .map(Map.Entry::getKey)
                .toList();
        assertThat(found(resolved)).as("%s", criteria).isEqualTo(said);
    }

    private static List<TicketNumber> found(Criteria resolved) {
        return RunningApp.sql()
                .select(TICKET.NUMBER)
                .from(TICKET)
                .where(CriteriaSql.condition(resolved))
                .and(TICKET.NUMBER.in(FACTS.keySet()))
                .orderBy(TICKET.NUMBER)
                .fetch(TICKET.NUMBER);
    }

    @Test
    void every_field_and_every_question_agrees_on_each_of_its_values() {
        int some = 0;
        for (Field field : FIELDS) {
            for (Operator operator : field.type().operators()) {
                for (String value : operator.wantsValues() ? values(field) : List.of("")) {
                    Criteria asked = operator.wantsValues() ? test(field, operator, value) : test(field, operator);
                    assertAgreement(asked);
                    assertAgreement(new Criteria.Not(asked));
                    some += found(asking.resolve(asked)).isEmpty() ? 0 : 1;
                }
            }
        }
        // The tickets are varied enough for the comparison to mean something.
        assertThat(some).isGreaterThan(100);
    }

    private static List<String> values(Field field) {
        return switch (field.type()) {
            case NUMBER -> List.of("12", "1", "0", "-3.5", "12.0", "0.50", "many", "1000000");
            case DATE -> List.of("2027-03-01", "2028-02-29", "2027-02-29", "yesterday");
            case ELAPSED, DUE, AHEAD -> List.of("1 m", "30 m", "5 h", "2 d", "400 d", "never");
            case WORDS -> PHRASES;
            case RANKED -> List.of("P1", "P2", "P3", "P4");
            case SET ->
                field == KnownField.WATCHERS
                        ? List.of(imani().id().toString(), Asking.ME, "none")
                        : List.of("booking", "late", "vip", "none", "Deck", "hold", "deck / cabin");
            case TEXT -> List.of("dov1@brightwater.example", "DOV", "été", "ETE 12", "@post.example", "%", "s");
            case CHOICE -> choices(field);
        };
    }

    private static Map<String, String> own(Random random, OwnField.Bearer bearer) {
        var own = new TreeMap<String, String>();
        for (Field field : FIELDS) {
            if (field instanceof OwnField one && one.bearer() == bearer && random.nextInt(3) > 0) {
                own.put(
                        one.key(),
                        switch (one.kind()) {
                            case TEXT ->
                                List.of("Été 12", "dovetail", "50 %", "s").get(random.nextInt(4));
                            case NUMBER -> List.of("12", "-3.50", "0.5", "999").get(random.nextInt(4));
                            case DATE ->
                                List.of("2027-02-28", "2027-03-01", "2028-02-29")
                                        .get(random.nextInt(3));
                            case CHOICE -> List.of("Deck", "Hold").get(random.nextInt(2));
                            case LONG -> List.of("Été 12", "Two\nlines").get(random.nextInt(2));
                            case LINK -> "https://dock.example/" + random.nextInt(2);
                            case SEVERAL ->
                                List.of("Deck", "Hold", "Deck\nHold").get(random.nextInt(3));
                            case TREE -> List.of("Deck", "Deck / Cabin", "Hold").get(random.nextInt(3));
                            case TICK -> List.of("yes", "no").get(random.nextInt(2));
                            case PERSON ->
                                List.of(imani(), odile())
                                        .get(random.nextInt(2))
                                        .id()
                                        .toString();
                            case COMPANY ->
                                bean(Companies.class).all().getFirst().id().toString();
                        });
            }
        }
        return own;
    }

    private static List<String> choices(Field field) {
        var all = new ArrayList<String>(List.of("nothing", "1"));
        FACTS.values()
                .forEach(facts -> facts.of(field).plain().stream()
                        .filter(v -> !all.contains(v))
                        .forEach(all::add));
        if (field == KnownField.OWNER) {
            all.add(Asking.ME);
        }
        if (field == KnownField.TEAM) {
            all.add(Asking.MINE);
        }
        return all;
    }

    private static Criteria random(Random random, int depth) {
        return switch (depth > 3 ? 3 : random.nextInt(5)) {
            case 0 -> new Criteria.All(parts(random, depth));
            case 1 -> new Criteria.Any(parts(random, depth));
            case 2 -> new Criteria.Not(random(random, depth + 1));
            default -> {
                Field field = FIELDS.get(random.nextInt(FIELDS.size()));
                Operator operator = field.type()
                        .operators()
                        .get(random.nextInt(field.type().operators().size()));
                List<String> values = values(field);
                var some = new ArrayList<String>();
                for (int i = random.nextInt(3); operator.wantsValues() && i >= 0; i--) {
                    some.add(values.get(random.nextInt(values.size())));
                }
                yield new Criteria.Test(field, operator, some);
            }
        };
    }

    private static List<Criteria> parts(Random random, int depth) {
        var parts = new ArrayList<Criteria>();
        for (int i = random.nextInt(4); i > 0; i--) {
            parts.add(random(random, depth + 1));
        }
        return parts;
    }
}
