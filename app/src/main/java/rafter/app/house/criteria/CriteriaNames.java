package rafter.app.house.criteria;

import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Persons;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.Companies;
import rafter.app.house.states.TicketStates;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.criteria.Sentence;
import rafter.core.text.MailKind;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;

/** What can be chosen for a field, and what people call it. */
@Component
public class CriteriaNames {

    /** A value that can be chosen. */
    public record Option(String value, String words) {}

    private static final int MOST_TOPICS = 200;

    private final DSLContext sql;
    private final Persons persons;
    private final Companies companies;
    private final OwnFields fields;
    private final TicketStates states;
    private final ChannelNames channels;

    CriteriaNames(
            DSLContext sql,
            Persons persons,
            Companies companies,
            OwnFields fields,
            TicketStates states,
            ChannelNames channels) {
        this.channels = channels;
        this.states = states;
        this.fields = fields;
        this.sql = sql;
        this.persons = persons;
        this.companies = companies;
    }

    /** Says sentences with the names of today. */
    public Sentence sentence() {
        return sentence(this::name);
    }

    /** Says sentences with the fields' names of today. */
    public Sentence sentence(BiFunction<Field, String, String> values) {
        Map<Field, String> own = own().stream().collect(Collectors.toMap(AddedField::field, AddedField::name));
        return new Sentence(new Sentence.Names() {
            @Override
            public String of(Field field, String value) {
                return values.apply(field, value);
            }

            @Override
            public String of(Field field) {
                return own.getOrDefault(field, field.words());
            }
        });
    }

    /** The fields that administrators added. */
    public List<AddedField> own() {
        return fields.all();
    }

    /** Everything that lists can ask about, of own fields only what is shown. */
    public List<Field> all() {
        return Stream.concat(
                        KnownField.ofLists().stream(),
                        fields.all().stream().filter(AddedField::shown).map(AddedField::field))
                .toList();
    }

    /** Everything that rules can ask about. */
    public List<Field> ofRules() {
        return Stream.concat(
                        KnownField.ofTickets().stream(),
                        fields.all().stream().filter(AddedField::shown).map(AddedField::field))
                .toList();
    }

    /** What people call a field. */
    public String name(Field field) {
        return field instanceof OwnField own
                ? fields.find(own.id()).map(AddedField::name).orElse(field.words())
                : field.words();
    }

    /** What people call a value; the value itself when nobody knows better. */
    public String name(Field field, String value) {
        // The words of these are their names, and there may be many of them.
        if (field == KnownField.TOPIC || field == KnownField.TAGS || field == KnownField.CAUSE) {
            return value;
        }
        if (field instanceof OwnField own) {
            return fields.said(own, value);
        }
        return options(field).stream()
                .filter(o -> o.value().equals(value))
                .map(Option::words)
                .findFirst()
                .orElse(value);
    }

    /** What can be chosen for a field; nothing for fields that take any words. */
    public List<Option> options(Field field) {
        return switch (field) {
            case OwnField own -> options(own);
            case KnownField known -> options(known);
        };
    }

    private List<Option> options(OwnField own) {
        return switch (own.kind()) {
            case TICK -> List.of(new Option(OwnField.TICKED, OwnField.TICKED));
            case PERSON ->
                persons.active().stream()
                        .map(p -> new Option(p.id().toString(), p.name()))
                        .toList();
            case COMPANY -> companies();
            case CHOICE, SEVERAL, TREE, TEXT, LONG, LINK, NUMBER, DATE ->
                fields.find(own.id()).stream()
                        .flatMap(f -> f.choices().stream())
                        .map(choice -> new Option(choice, choice))
                        .toList();
        };
    }

    private List<Option> companies() {
        return companies.all().stream()
                .map(c -> new Option(c.id().toString(), c.name()))
                .toList();
    }

    private List<Option> options(KnownField field) {
        return switch (field) {
            case PLAN -> List.of(new Option("Anchor", "Anchor"), new Option("Harbour", "Harbour"));
            case COMPANY -> companies();
            case CHANNEL -> options(channels.channelNames());
            case MAILBOX -> options(channels.ourAddresses());
            case SENDER_KNOWN -> List.of(new Option("known", "known"), new Option("unknown", "unknown"));
            case WRITTEN_BY ->
                Arrays.stream(MailKind.values())
                        .filter(kind -> kind != MailKind.BOUNCE)
                        .map(kind -> new Option(kind.name(), words(kind)))
                        .toList();
            case TEAM, HELPING_TEAMS ->
                with(
                        new Option(Asking.MINE, "one of mine"),
                        persons.teams().stream().map(t -> new Option(t.id().toString(), t.name())));
            case OWNER, WATCHERS, HELPERS ->
                with(
                        new Option(Asking.ME, "me"),
                        persons.active().stream().map(p -> new Option(p.id().toString(), p.name())));
            case TOPIC -> topics();
            case PRIORITY ->
                Arrays.stream(Priority.values())
                        .map(p -> new Option(p.name(), p + " " + p.word()))
                        .toList();
            case STATE ->
                states.all().stream().map(s -> new Option(s.key(), s.name())).toList();
            case TURN ->
                Arrays.stream(Turn.values())
                        .map(t -> new Option(t.name(), words(t)))
                        .toList();
            case RATING ->
                Arrays.stream(Work.Rating.values())
                        .map(rating -> new Option(rating.name(), rating.word()))
                        .toList();
            case CAUSE -> causes();
            case TAGS,
                    OPEN_TASKS,
                    TIME_SPENT,
                    SUBJECT,
                    FIRST_MESSAGE,
                    ANY_MESSAGE,
                    CONTACT_NAME,
                    CONTACT_ADDRESS,
                    CUSTOMER_MESSAGES,
                    OUR_MESSAGES,
                    REOPENINGS,
                    EARLIER_TICKETS,
                    AGE,
                    IN_TURN,
                    SINCE_CUSTOMER,
                    SINCE_BACK,
                    COMES_BACK,
                    NEXT_TARGET,
                    FIRST_REPLY,
                    NEXT_REPLY,
                    RESOLUTION,
                    PICK_UP,
                    REGULAR_UPDATE,
                    SENDER,
                    SENDER_NAME,
                    RECIPIENT,
                    HEADER,
                    MAIL_SIZE,
                    MAIL_FILES,
                    JUNK_SCORE,
                    OPEN_TICKETS -> List.of();
        };
    }

    private static List<Option> options(SortedMap<String, String> names) {
        return names.entrySet().stream()
                .map(one -> new Option(one.getKey(), one.getValue()))
                .toList();
    }

    private static String words(MailKind kind) {
        return switch (kind) {
            case PERSON -> "a person";
            case AUTO_REPLY -> "an automatic reply";
            case AUTO_GENERATED -> "a machine";
            case LIST -> "a mailing list";
            case BOUNCE -> "a mail server";
        };
    }

    private static List<Option> with(Option first, Stream<Option> others) {
        return Stream.concat(Stream.of(first), others).toList();
    }

    private static String words(Turn turn) {
        return turn == Turn.OURS ? "ours" : turn.name().toLowerCase(Locale.ROOT) + "’s";
    }

    /** The causes that were written down. */
    private List<Option> causes() {
        return sql.selectDistinct(RESOLUTION.CAUSE)
                .from(RESOLUTION)
                .where(RESOLUTION.CAUSE.ne(""))
                .orderBy(RESOLUTION.CAUSE)
                .limit(MOST_TOPICS)
                .fetch(r -> new Option(r.value1(), r.value1()));
    }

    /** The topics that tickets have had. */
    private List<Option> topics() {
        var found = new ArrayList<Option>();
        sql.selectDistinct(TICKET.TOPIC)
                .from(TICKET)
                .where(TICKET.TOPIC.ne(""))
                .orderBy(TICKET.TOPIC)
                .limit(MOST_TOPICS)
                .forEach(r -> found.add(new Option(r.value1(), r.value1())));
        return found;
    }
}
