package rafter.app.tickets.rules;

import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.acts.RafterNotes;
import rafter.app.tickets.acts.Receivers;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.writing.Recipients;
import rafter.core.id.Id;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Deed;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleTrial;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Doer;
import rafter.core.ticket.House;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.time.Amount;

/** Does what a rule does, and says what of it cannot be done: while it is written, and when it comes to it. */
@Component
class RuleDeeds {

    /**
     * What came of a rule's deeds.
     *
     * @param held the ticket after them
     * @param handedTo who got it by a rule that chooses among people
     */
    record Came(TicketStore.Held held, List<String> done, List<String> failed, Optional<PersonId> handedTo) {}

    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forRules());
    private static final String UNCHANGED = "Nothing was changed";

    private final DSLContext sql;
    private final TicketStore store;
    private final Acts acts;
    private final Blanks blanks;
    private final RafterNotes notes;
    private final OwnWords words;
    private final Recipients recipients;
    private final Channels channels;
    private final Notices notices;
    private final Persons persons;
    private final Macros macros;
    private final Targets targets;
    private final TicketTimes times;
    private final RuleLog log;
    private final RuleCalls calls;
    private final Workplace workplace;
    private final Clock clock;

    RuleDeeds(
            DSLContext sql,
            TicketStore store,
            Acts acts,
            Blanks blanks,
            RafterNotes notes,
            OwnWords words,
            Recipients recipients,
            Channels channels,
            Notices notices,
            Persons persons,
            Macros macros,
            Targets targets,
            TicketTimes times,
            RuleLog log,
            RuleCalls calls,
            Workplace workplace,
            Clock clock) {
        this.workplace = workplace;
        this.sql = sql;
        this.store = store;
        this.acts = acts;
        this.blanks = blanks;
        this.notes = notes;
        this.words = words;
        this.recipients = recipients;
        this.channels = channels;
        this.notices = notices;
        this.persons = persons;
        this.macros = macros;
        this.targets = targets;
        this.times = times;
        this.log = log;
        this.calls = calls;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ before it comes to it

    /** What is wrong with a deed in this workspace as it is, such as a team that is gone; nothing when it can be done. */
    Optional<String> fault(Deed deed) {
        Optional<Deed.Special> special = Deed.Special.of(deed.form());
        try {
            return special.isPresent()
                    ? fault(special.get(), deed)
                    : acts.hindrance(act(deed)).map(refused -> plain(refused.words()));
        } catch (Problem.Invalid e) {
            return Optional.of(plain(e.words()));
        }
    }

    /** Nothing was about to be changed. */
    private static String plain(String words) {
        return words.replace(" " + UNCHANGED + ".", "");
    }

    private Optional<String> fault(Deed.Special special, Deed deed) {
        return switch (special) {
            case HAND_BY -> {
                Deed.By by = by(deed);
                boolean lacks = by.ofTeam() && team(deed).isEmpty();
                yield lacks ? Optional.of("Choose a team that there is.") : Optional.empty();
            }
            case MAIL -> mailFault(deed);
            case CLOSE -> Optional.empty();
            case CALL -> RuleCalls.fault(deed.typed("address"));
            case MACRO ->
                macro(deed).isPresent()
                        ? Optional.empty()
                        : Optional.of("Choose a macro that is shared with a team or everybody.");
        };
    }

    private static Optional<String> mailFault(Deed deed) {
        if (deed.typed("text").isBlank()) {
            return Optional.of("Write what the customer is to read.");
        }
        var unknown = new java.util.TreeSet<>(Placeholders.unknown(deed.typed("text"), PLACEHOLDERS));
        unknown.addAll(Placeholders.unknown(deed.typed("subject"), PLACEHOLDERS));
        return unknown.isEmpty()
                ? Optional.empty()
                : Optional.of("Nobody knows what {" + String.join("}, {", unknown) + "} stands for.");
    }

    /** A deed as people read it. */
    String words(Deed deed) {
        Optional<Deed.Special> special = Deed.Special.of(deed.form());
        if (special.isEmpty()) {
            try {
                return acts.words(act(deed));
            } catch (Problem.Invalid e) {
                return ActForm.of(deed.form()).map(ActForm::words).orElse(deed.form()) + ": " + plain(e.words());
            }
        }
        return switch (special.get()) {
            case HAND_BY -> {
                Deed.By by = by(deed);
                String team = team(deed).map(Team::name).orElse("a team that is gone");
                yield "Hand to " + (by.ofTeam() ? by.words().replace("a team", team) : by.words());
            }
            case MAIL -> "Write to the customer" + about(deed);
            case CLOSE -> special.get().words();
            case CALL ->
                "Call "
                        + (deed.typed("address").isBlank()
                                ? "another program"
                                : deed.typed("address").strip());
            case MACRO ->
                "Run " + macro(deed).map(one -> "“" + one.name() + "”").orElse("a macro that is gone");
        };
    }

    private static String about(Deed deed) {
        return deed.typed("subject").isBlank()
                ? ""
                : ": “" + deed.typed("subject").strip() + "”";
    }

    private static Deed.By by(Deed deed) {
        return java.util.Arrays.stream(Deed.By.values())
                .filter(by -> by.name().equals(deed.typed("by")))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Choose by what somebody is found."));
    }

    private Optional<Team> team(Deed deed) {
        return Id.read(deed.typed("team"), TeamId::new)
                .flatMap(id -> persons.teams().stream()
                        .filter(team -> team.id().equals(id))
                        .findFirst());
    }

    private Optional<Macro> macro(Deed deed) {
        String id = deed.typed("macro");
        return id.matches("\\d{1,15}") ? macros.shared(Long.parseLong(id)) : Optional.empty();
    }

    /**
     * The act of a deed, done now.
     *
     * @throws Problem.Invalid when something is missing or no value
     */
    private Act act(Deed deed) {
        ActForm form = ActForm.of(deed.form())
                .filter(Deed.ACTS::contains)
                .orElseThrow(() -> new Problem.Invalid("There is nothing “" + deed.form() + "” that a rule can do."));
        try {
            return form.read(new ActForm.Filled(deed.typed(), this::when, PLACEHOLDERS));
        } catch (ActForm.Unfilled e) {
            throw new Problem.Invalid(e.words());
        }
    }

    /** An amount of time from now, up to the next moment at which we are open; or a time itself. */
    private Optional<Instant> when(String typed) {
        Optional<Instant> ahead = Amount.read(typed.startsWith("+") ? typed.substring(1) : typed)
                .map(clock.instant()::plus)
                .map(at -> targets.terms().hours().nextOpen(at).orElse(at));
        return ahead.isPresent() ? ahead : times.read(typed);
    }

    /** What deeds would add to tickets, for trying rules; nothing is asked of the house twice. Not safe for several threads. */
    RuleTrial.Effects effects() {
        var house = new MemoHouse(workplace);
        var known = new HashMap<Deed, Optional<Act>>();
        return (ticket, deed, now) -> known.computeIfAbsent(deed, this::changing).stream()
                .flatMap(act -> events(ticket, act, house, now).stream())
                .toList();
    }

    private static List<TicketEvent> events(Ticket ticket, Act act, House house, Instant now) {
        return Conduct.decide(new TicketNumber(0), ticket, act, Doer.rafter(), house, now, Optional.empty())
                        instanceof Decision.Done(List<TicketEvent> events, var undo)
                ? events
                : List.of();
    }

    /** The act of a deed that changes the ticket itself. */
    private Optional<Act> changing(Deed deed) {
        if (deed.form().equals(Deed.Special.CLOSE.key())) {
            return Optional.of(new Act.MoveTo(TicketState.CLOSED.key()));
        }
        try {
            return Optional.of(act(deed)).filter(act -> !(act instanceof Act.Note) && !(act instanceof Act.Notify));
        } catch (Problem.Invalid e) {
            return Optional.empty();
        }
    }

    // ------------------------------------------------------------------ when it comes to it

    /** Does all deeds of a rule on a ticket that is held; what cannot be done is told, and the rest is done. */
    Came perform(TicketStore.Held held, Rule rule, Instant now) {
        var came = new Doing(held, rule, now);
        rule.deeds().forEach(came::one);
        return new Came(came.held, came.done, came.failed, came.handedTo);
    }

    /** One rule at work. */
    private final class Doing {
        private final Rule rule;
        private final Instant now;
        private final List<String> done = new ArrayList<>();
        private final List<String> failed = new ArrayList<>();
        private TicketStore.Held held;
        private Optional<PersonId> handedTo = Optional.empty();

        Doing(TicketStore.Held held, Rule rule, Instant now) {
            this.held = held;
            this.rule = rule;
            this.now = now;
        }

        void one(Deed deed) {
            String said = RuleDeeds.this.words(deed);
            try {
                Optional<String> refused = Deed.Special.of(deed.form())
                        .map(special -> special(special, deed))
                        .orElseGet(() -> act(RuleDeeds.this.act(deed)));
                refused.ifPresentOrElse(why -> failed.add(said + ": " + plain(why)), () -> done.add(said));
            } catch (Problem.Invalid e) {
                failed.add(said + ": " + plain(e.words()));
            }
        }

        private Optional<String> act(Act act) {
            return switch (act) {
                case Act.Note(String text) -> {
                    held = notes.add(held, filled(text), now);
                    yield Optional.empty();
                }
                case Act.Notify notify -> tell(notify);
                default -> {
                    Acts.Tried tried = acts.tried(held, act, now);
                    held = tried.held();
                    yield tried.refused();
                }
            };
        }

        private Optional<String> special(Deed.Special special, Deed deed) {
            return switch (special) {
                case HAND_BY -> handBy(by(deed), deed);
                case MAIL -> mail(deed.typed("subject"), deed.typed("text"));
                case CLOSE -> act(new Act.MoveTo(TicketState.CLOSED.key()));
                case CALL -> call(deed.typed("address"));
                case MACRO ->
                    macro(deed)
                            .map(this::run)
                            .orElseGet(() -> Optional.of("The macro is gone, or is one person’s alone now."));
            };
        }

        private Optional<String> call(String address) {
            Optional<String> fault = RuleCalls.fault(address);
            if (fault.isEmpty()) {
                calls.keep(held.number(), held.ticket(), rule, address, now);
            }
            return fault;
        }

        private Optional<String> run(Macro macro) {
            for (Macro.Step step : macro.steps()) {
                boolean answer = step.form().equals(ActForm.ANSWER.key());
                if (step.offered()) {
                    continue;
                }
                Deed deed =
                        answer ? new Deed(Deed.Special.MAIL.key(), step.typed()) : new Deed(step.form(), step.typed());
                if (deed.known()) {
                    one(deed);
                } else {
                    failed.add("“" + macro.name() + "”: "
                            + ActForm.of(step.form()).map(ActForm::words).orElse(step.form())
                            + " is for people alone.");
                }
            }
            return Optional.empty();
        }

        private String filled(String text) {
            if (!text.contains("{")) {
                return text;
            }
            return Placeholders.fillKnown(text, blanks.ofRafter(held.number(), held.events()));
        }

        private Optional<String> tell(Act.Notify notify) {
            String message = filled(notify.message());
            if (notify.whom() == Act.Whom.ADDRESS) {
                Optional<String> capped = log.capped(held.number(), notify.address(), now);
                if (capped.isEmpty()) {
                    Receivers.mail(
                            channels,
                            held.number(),
                            held.ticket().way(),
                            notify.address(),
                            held.ticket().subject(),
                            message,
                            now);
                }
                return capped.map(why -> "it was not sent, for " + why);
            }
            Map<PersonId, Person> people =
                    persons.active().stream().collect(Collectors.toMap(Person::id, Function.identity()));
            Map<TeamId, List<PersonId>> members =
                    held.ticket().team().stream().collect(Collectors.toMap(Function.identity(), persons::membersOf));
            Collection<PersonId> told = Receivers.of(held.ticket(), notify.whom(), people, members);
            notices.tell(told.stream()
                    .map(person -> new Notices.Told(person, held.number(), now, Notices.Kind.RULE, message))
                    .toList());
            return told.isEmpty() ? Optional.of(notify.whom().words() + " is nobody just now") : Optional.empty();
        }

        private Optional<String> mail(String subject, String text) {
            Ticket ticket = held.ticket();
            Optional<OurAddress> ours = channels.ours(ticket.way());
            String to = recipients.proposed(held.number(), ticket).to();
            Optional<MailAddress> address = MailAddress.of(to).filter(MailAddress::writable);
            if (ours.isEmpty() || address.isEmpty()) {
                return Optional.of("nothing can be sent to the customer");
            }
            Map<String, String> values = blanks.ofRafter(held.number(), held.events());
            List<String> empty = Placeholders.gaps(text, values).empty();
            if (!empty.isEmpty()) {
                return Optional.of("{" + String.join("}, {", empty) + "} has no value on this ticket");
            }
            Optional<String> capped =
                    log.capped(held.number(), address.get().plain().toString(), now);
            if (capped.isPresent()) {
                return capped.map(why -> "it was not sent, for " + why);
            }
            String written = Placeholders.fillKnown(text, values);
            var letter = new OwnWords.Letter(
                    to,
                    subject.isBlank() ? "Re: " + ticket.subject() : Placeholders.fillKnown(subject, values),
                    SafeHtml.fromText(written),
                    written,
                    sql.select(MESSAGE.MESSAGE_ID)
                            .from(MESSAGE)
                            .where(MESSAGE.TICKET.eq(held.number()))
                            .and(MESSAGE.KIND.in("CUSTOMER", "PUBLIC"))
                            .and(MESSAGE.MESSAGE_ID.isNotNull())
                            .orderBy(MESSAGE.SEQ)
                            .fetch(MESSAGE.MESSAGE_ID),
                    now);
            MessageId sent = words.send(
                    held.number(), held.nextSeq(), channels.of(ticket.way().channel()), ours.get(), letter);
            held = store.append(held, List.of(new TicketEvent.WeWrote(now, Actor.system(), sent, true)), now);
            return Optional.empty();
        }

        // -------------------------------------------------------------- who gets it

        private Optional<String> handBy(Deed.By by, Deed deed) {
            Optional<PersonId> found = switch (by) {
                case PREVIOUS -> previous();
                case AGENT -> agent();
                case ROTATION -> team(deed).flatMap(this::nextInTurn);
                case LEAST -> team(deed).flatMap(this::leastLoaded);
            };
            if (found.isEmpty()) {
                return Optional.of("there is nobody");
            }
            Optional<String> refused = act(new Act.HandToPerson(found));
            handedTo = refused.isEmpty() ? found : handedTo;
            return refused;
        }

        private Optional<PersonId> previous() {
            return held.events().reversed().stream()
                    .filter(TicketEvent.OwnerChanged.class::isInstance)
                    .map(event -> ((TicketEvent.OwnerChanged) event).owner())
                    .flatMap(Optional::stream)
                    .filter(person -> !held.ticket().owner().equals(Optional.of(person)))
                    .filter(this::works)
                    .findFirst();
        }

        private boolean works(PersonId person) {
            return persons.find(person).filter(Person::active).isPresent();
        }

        /** Who last answered this customer, on whatever ticket. */
        private Optional<PersonId> agent() {
            return sql
                    .select(MESSAGE.PERSON_ID)
                    .from(TICKET)
                    .join(MESSAGE)
                    .on(MESSAGE.TICKET.eq(TICKET.NUMBER))
                    .where(TICKET.CONTACT_ID.eq(held.ticket().contact()))
                    .and(MESSAGE.KIND.eq("PUBLIC"))
                    .and(MESSAGE.PERSON_ID.isNotNull())
                    .orderBy(MESSAGE.AT.desc())
                    .limit(20)
                    .fetch(MESSAGE.PERSON_ID)
                    .stream()
                    .filter(this::works)
                    .findFirst();
        }

        private List<PersonId> members(Team team) {
            return persons.membersOf(team.id()).stream()
                    .filter(this::works)
                    .sorted(Comparator.naturalOrder())
                    .toList();
        }

        private Optional<PersonId> nextInTurn(Team team) {
            List<PersonId> members = members(team);
            Optional<PersonId> last = log.lastHanded(rule.id());
            return members.stream()
                    .filter(person -> last.isEmpty() || person.compareTo(last.get()) > 0)
                    .findFirst()
                    .or(() -> members.stream().findFirst());
        }

        private Optional<PersonId> leastLoaded(Team team) {
            List<PersonId> members = members(team);
            Map<PersonId, Integer> load = new HashMap<>(sql.select(TICKET.OWNER_ID, DSL.count())
                    .from(TICKET)
                    .where(TICKET.OWNER_ID.in(members))
                    .and(TICKET.OPEN)
                    .and(TICKET.DISCARDED.isFalse())
                    .groupBy(TICKET.OWNER_ID)
                    .fetchMap(TICKET.OWNER_ID, DSL.count()));
            return members.stream().min(Comparator.comparingInt(person -> load.getOrDefault(person, 0)));
        }
    }
}
