package rafter.app.tickets.rules;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.OwnWords;
import rafter.app.tickets.acts.RafterNotes;
import rafter.app.tickets.acts.Receivers;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.outside.LettersOutside;
import rafter.app.tickets.writing.Recipients;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.rule.Deed;
import rafter.core.rule.Rule;
import rafter.core.text.MailAddress;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.wording.Template;

/** Does what a rule does on a ticket, and says what of it cannot be done. */
@Component
class RuleDeeds {

    /**
     * What came of a rule's deeds.
     *
     * @param held the ticket after them
     * @param handedTo who got it by a rule that chooses among people
     */
    public record Came(TicketStore.Held held, List<String> done, List<String> failed, Optional<PersonId> handedTo) {}

    private final DeedForms forms;
    private final Choosing choosing;
    private final TicketStore store;
    private final Acts acts;
    private final Blanks blanks;
    private final RafterNotes notes;
    private final OwnWords words;
    private final LettersOutside letters;
    private final Recipients recipients;
    private final Channels channels;
    private final Notices notices;
    private final Persons persons;
    private final RuleLog log;
    private final RuleCalls calls;

    RuleDeeds(
            DeedForms forms,
            Choosing choosing,
            TicketStore store,
            Acts acts,
            Blanks blanks,
            RafterNotes notes,
            OwnWords words,
            LettersOutside letters,
            Recipients recipients,
            Channels channels,
            Notices notices,
            Persons persons,
            RuleLog log,
            RuleCalls calls) {
        this.forms = forms;
        this.choosing = choosing;
        this.store = store;
        this.acts = acts;
        this.blanks = blanks;
        this.notes = notes;
        this.words = words;
        this.letters = letters;
        this.recipients = recipients;
        this.channels = channels;
        this.notices = notices;
        this.persons = persons;
        this.log = log;
        this.calls = calls;
    }

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
            String said = forms.words(deed);
            try {
                Optional<String> refused = Deed.Special.of(deed.form())
                        .map(special -> special(special, deed))
                        .orElseGet(() -> act(forms.act(deed)));
                refused.ifPresentOrElse(why -> failed.add(said + ": " + DeedForms.plain(why)), () -> done.add(said));
            } catch (Problem.Invalid e) {
                failed.add(said + ": " + DeedForms.plain(e.words()));
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
                case HAND_BY -> handBy(DeedForms.by(deed), deed);
                case MAIL -> mail(deed);
                case OUTSIDE -> outside(deed);
                case REMIND -> remind();
                case CLOSE -> act(new Act.MoveTo(TicketState.CLOSED.key()));
                case CALL -> call(deed.typed("address"));
                case MACRO ->
                    forms.macro(deed)
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
                Optional<String> capped = capped(notify.address());
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
                return capped;
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

        /** The words of a mail, in the language of its reader where that is the customer. */
        private Template.Version wording(Deed deed, boolean toCustomer) {
            return forms.template(deed)
                    .map(template -> template.words(
                            toCustomer && template.versions().size() > 1
                                    ? blanks.language(held.ticket().contact())
                                    : ""))
                    .orElseGet(() -> new Template.Version("", deed.typed("subject"), deed.typed("text")));
        }

        private Optional<String> outside(Deed deed) {
            String address = deed.typed("address").strip();
            Template.Version wording = wording(deed, false);
            Map<String, String> values = blanks.ofRafter(held.number(), held.events());
            Optional<String> hindered = empty(wording, values).or(() -> capped(address));
            if (hindered.isEmpty()) {
                String subject = wording.subject().isBlank() ? held.ticket().subject() : wording.subject();
                held = letters.write(
                        held,
                        address,
                        Placeholders.fillKnown(subject, values),
                        Placeholders.fillKnown(wording.body(), values),
                        now);
            }
            return hindered;
        }

        private Optional<String> remind() {
            TicketStore.Held before = held;
            held = letters.remind(held, address -> capped(address).isEmpty(), now);
            return held.events().size() == before.events().size()
                    ? Optional.of("there is nobody outside whose answer we wait for")
                    : Optional.empty();
        }

        private Optional<String> empty(Template.Version wording, Map<String, String> values) {
            List<String> empty = Placeholders.gaps(wording.subject() + " " + wording.body(), values)
                    .empty();
            return empty.isEmpty()
                    ? Optional.empty()
                    : Optional.of("{" + String.join("}, {", empty) + "} has no value on this ticket");
        }

        private Optional<String> capped(String address) {
            return log.capped(held.number(), address, now).map(why -> "it was not sent, for " + why);
        }

        private Optional<String> mail(Deed deed) {
            Template.Version wording = wording(deed, true);
            Ticket ticket = held.ticket();
            Optional<OurAddress> ours = channels.ours(ticket.way());
            String to = recipients.proposed(held.number(), ticket).to();
            Channel channel = channels.of(ticket.way().channel());
            if (ours.isEmpty() || to.isEmpty() || !channel.writable(to)) {
                return Optional.of("nothing can be sent to the customer");
            }
            Map<String, String> values = blanks.ofRafter(held.number(), held.events());
            String plain = MailAddress.of(to).map(one -> one.plain().toString()).orElse(to);
            Optional<String> hindered =
                    empty(wording, values).or(() -> channel.abilities().live() ? Optional.empty() : capped(plain));
            if (hindered.isPresent()) {
                return hindered;
            }
            String written = Placeholders.fillKnown(wording.body(), values);
            var letter = new OwnWords.Letter(
                    to,
                    wording.subject().isBlank()
                            ? "Re: " + ticket.subject()
                            : Placeholders.fillKnown(wording.subject(), values),
                    SafeHtml.fromText(written),
                    written,
                    words.thread(held.number()),
                    now);
            MessageId sent = words.send(held.number(), held.nextSeq(), channel, ours.get(), letter);
            held = store.append(held, List.of(new TicketEvent.WeWrote(now, Actor.system(), sent, true)), now);
            return Optional.empty();
        }

        private Optional<String> handBy(Deed.By by, Deed deed) {
            Optional<PersonId> found = choosing.person(by, forms.team(deed), held, rule);
            if (found.isEmpty()) {
                return Optional.of("there is nobody");
            }
            Optional<String> refused = act(new Act.HandToPerson(found));
            handedTo = refused.isEmpty() ? found : handedTo;
            return refused;
        }
    }
}
