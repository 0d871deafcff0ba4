package rafter.app.work.batches;

import java.time.Clock;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeSet;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Acknowledgements;
import rafter.app.tickets.acts.TicketEnds;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.core.criteria.OwnField;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Does an act to one ticket, and takes it back. */
@Component
class Doing {

    private final Tickets tickets;
    private final TicketTimes times;
    private final TicketEnds ends;
    private final Answering answering;
    private final Contacts contacts;
    private final Persons persons;
    private final Workspaces workspaces;
    private final OwnFields fields;
    private final Clock clock;

    Doing(Tickets tickets, TicketTimes times, TicketEnds ends, Answering answering, Contacts contacts, Persons persons, Workspaces workspaces,
            OwnFields fields, Clock clock) {
        this.fields = fields;
        this.tickets = tickets;
        this.times = times;
        this.ends = ends;
        this.answering = answering;
        this.contacts = contacts;
        this.persons = persons;
        this.workspaces = workspaces;
        this.clock = clock;
    }

    /** What an act is, in words. */
    String words(Act act) {
        return switch (act.kind()) {
            case PERSON -> act.arg("person").isEmpty() ? "Leave to the team" : "Hand to " + persons.find(Long.parseLong(act.arg("person"))).map(Person::name).orElse("a person");
            case TEAM -> "Hand to " + persons.teams().stream().filter(t -> Long.toString(t.id()).equals(act.arg("team"))).findFirst().map(t -> t.name()).orElse("a team");
            case STATE -> "Move to “" + TicketState.of(act.arg("state")).map(TicketState::name).orElse("") + "”";
            case PRIORITY -> "Set priority " + act.arg("priority");
            case TOPIC -> act.arg("topic").isBlank() ? "Take the topic off" : "Set topic “" + act.arg("topic").strip() + "”";
            case TAG -> "Add tag “" + tag(act) + "”";
            case UNTAG -> "Take tag “" + tag(act) + "” off";
            case JOIN -> "Join into " + act.arg("into");
            case NO_REQUEST -> act.arg("sender").isEmpty() ? "Not a request" : "Not a request, and set their senders’ mail aside";
            case FIELD -> "Set " + fieldName(act) + " to " + (act.arg("value").isBlank() ? "nothing" : act.arg("value").strip());
            case DUE -> "Agree on " + act.arg("due").replace('T', ' ');
            case BACK -> "Have them come back " + act.arg("back").replace('T', ' ');
            case NOTE, ANSWER, DELETE, RESTORE -> act.kind().words();
        };
    }

    private String fieldName(Act act) {
        return fields.all().stream().filter(f -> f.key().equals(act.arg("field"))).findFirst().map(AddedField::name).orElse("a field");
    }

    /** What is put into the field, as it is kept. */
    private static String value(Act act) {
        return OwnField.of(act.arg("field")).flatMap(field -> field.kept(act.arg("value"))).orElse("");
    }

    private static String tag(Act act) {
        return act.arg("tag").strip().toLowerCase(java.util.Locale.ROOT);
    }

    private static void whole(Ticket ticket) {
        if (ticket.joinedInto().isPresent()) {
            throw new Problem.Invalid("It is a part of ticket " + ticket.joinedInto().getAsLong() + " now.");
        }
    }

    /**
     * Does it.
     *
     * @param was the ticket as it stands
     * @return what there was before, for taking it back; nothing when it was so already
     * @throws Problem when it cannot be done to this ticket
     */
    Optional<Map<String, String>> act(Act act, long number, Ticket was, Person me) {
        whole(was);
        return switch (act.kind()) {
            case PERSON -> {
                OptionalLong to = act.arg("person").isEmpty() ? OptionalLong.empty() : OptionalLong.of(Long.parseLong(act.arg("person")));
                tickets.changeOwner(number, to, Optional.empty(), me);
                yield changed(!was.owner().equals(to), "owner", text(was.owner()));
            }
            case TEAM -> {
                tickets.handToTeam(number, Long.parseLong(act.arg("team")), me);
                boolean other = !text(was.team()).equals(act.arg("team")) || was.owner().isPresent();
                yield other ? Optional.of(Map.of("team", text(was.team()), "owner", text(was.owner()))) : Optional.empty();
            }
            case STATE -> {
                tickets.changeState(number, TicketState.of(act.arg("state")).orElseThrow(), Optional.empty(), me);
                yield changed(!was.state().key().equals(act.arg("state")), "state", was.state().key());
            }
            case PRIORITY -> {
                tickets.changePriority(number, Priority.valueOf(act.arg("priority")), Optional.empty(), me);
                yield changed(!was.priority().name().equals(act.arg("priority")), "priority", was.priority().name());
            }
            case TOPIC -> {
                tickets.changeTopic(number, act.arg("topic").strip(), me);
                yield changed(!was.topic().equals(act.arg("topic").strip()), "topic", was.topic());
            }
            case TAG, UNTAG -> {
                var tags = new TreeSet<>(was.tags());
                boolean changes = act.kind() == Act.Kind.TAG ? tags.add(tag(act)) : tags.remove(tag(act));
                tickets.changeTags(number, tags, me);
                yield changed(changes, "tag", tag(act));
            }
            case FIELD -> {
                tickets.changeFields(number, Map.of(act.arg("field"), act.arg("value")), me);
                String before = was.own().getOrDefault(act.arg("field"), "");
                yield changed(!before.equals(value(act)), "value", before);
            }
            case DUE -> {
                Optional<Instant> due = times.read(act.arg("due"));
                times.agree(number, due, act.arg("why"), me);
                yield changed(!was.agreedDue().equals(due), "due", text(was.agreedDue()));
            }
            case BACK -> {
                Optional<Instant> back = times.read(act.arg("back"));
                times.bringBack(number, back, me);
                yield changed(!was.bringBackAt().equals(back), "back", text(was.bringBackAt()));
            }
            case NOTE -> {
                long note = answering.note(number, SafeHtml.fromText(filled(act, number, was)), me);
                yield changed(true, "note", Long.toString(note));
            }
            case ANSWER -> {
                Turn then = act.arg("then").isEmpty() ? Turn.CUSTOMER : Turn.valueOf(act.arg("then"));
                var answer = new Answering.Answer(SafeHtml.fromText(filled(act, number, was)), "", Optional.empty(), then, was.lastPublicSeq());
                if (answering.answer(number, answer, me) instanceof Answering.Outcome.Crossed crossed) {
                    throw new Problem.Stale(crossed.words() + " Nothing was sent to them.");
                }
                yield changed(true, "", "");
            }
            case JOIN -> {
                if (number != Long.parseLong(act.arg("into"))) {
                    ends.join(number, Long.parseLong(act.arg("into")), me);
                }
                yield changed(number != Long.parseLong(act.arg("into")), "", "");
            }
            case NO_REQUEST -> {
                ends.discard(number, TicketEnds.NO_REQUEST, me);
                if (!act.arg("sender").isEmpty()) {
                    contacts.unwanted(was.contact(), me.id(), clock.instant());
                }
                yield changed(!was.discarded(), "discarded", "");
            }
            case DELETE -> {
                ends.discard(number, "it was deleted", me);
                yield changed(!was.discarded(), "discarded", "");
            }
            case RESTORE -> {
                ends.restore(number, me);
                yield changed(was.discarded(), "", "");
            }
        };
    }

    private String filled(Act act, long number, Ticket ticket) {
        String customer = contacts.get(ticket.contact()).name();
        return Placeholders.fill(act.arg("text"), Acknowledgements.values(number, ticket.subject(), customer, workspaces.current().name()));
    }

    private static Optional<Map<String, String>> changed(boolean changed, String what, String before) {
        return changed ? Optional.of(what.isEmpty() ? Map.of() : Map.of(what, before)) : Optional.empty();
    }

    /**
     * Takes it back, provided that nobody has changed the ticket in that respect since.
     *
     * @throws Problem.Stale when somebody has
     */
    Optional<Map<String, String>> takeBack(Act act, long number, Ticket now, Map<String, String> before, Person me) {
        if (act.kind() != Act.Kind.JOIN) {
            whole(now);
        }
        switch (act.kind()) {
            case PERSON -> {
                tickets.changeOwner(number, number(before.getOrDefault("owner", "")), Optional.of(act.arg("person")), me);
            }
            case STATE -> tickets.changeState(number, TicketState.of(before.getOrDefault("state", "")).orElseThrow(), Optional.of(act.arg("state")), me);
            case PRIORITY -> tickets.changePriority(number, Priority.valueOf(before.getOrDefault("priority", "")), Optional.of(act.arg("priority")), me);
            case TOPIC -> {
                if (!now.topic().equals(act.arg("topic").strip())) {
                    throw new Problem.Stale("Its topic is “" + now.topic() + "” now.");
                }
                tickets.changeTopic(number, before.getOrDefault("topic", ""), me);
            }
            case TAG, UNTAG -> {
                var tags = new TreeSet<>(now.tags());
                boolean changes = act.kind() == Act.Kind.TAG ? tags.remove(tag(act)) : tags.add(tag(act));
                if (changes) {
                    tickets.changeTags(number, tags, me);
                }
            }
            case FIELD -> {
                if (!now.own().getOrDefault(act.arg("field"), "").equals(value(act))) {
                    throw new Problem.Stale("Somebody put something else into " + fieldName(act) + " since.");
                }
                tickets.changeFields(number, Map.of(act.arg("field"), before.getOrDefault("value", "")), me);
            }
            case DUE -> {
                unchanged(now.agreedDue(), act.arg("due"), "Another time was agreed since.");
                times.agree(number, times.read(before.getOrDefault("due", "")), "", me);
            }
            case BACK -> {
                unchanged(now.bringBackAt(), act.arg("back"), "It comes back at another time now, or not at all.");
                times.bringBack(number, times.read(before.getOrDefault("back", "")), me);
            }
            case NO_REQUEST, DELETE -> {
                ends.restore(number, me);
            }
            case TEAM -> {
                if (!before.containsKey("team")) {
                    throw new Problem.Invalid("Its team before was not written down, so it cannot be taken back.");
                }
                tickets.takeBackFromTeam(number, Long.parseLong(act.arg("team")), number(before.get("team")), number(before.getOrDefault("owner", "")), me);
            }
            case NOTE -> {
                if (!before.containsKey("note")) {
                    throw new Problem.Invalid("Which note it was is not written down, so it cannot be taken back.");
                }
                answering.takeNoteBack(number, Long.parseLong(before.get("note")), me);
            }
            case JOIN -> ends.part(number, Long.parseLong(act.arg("into")), me);
            case ANSWER, RESTORE -> throw new Problem.Invalid("That cannot be taken back.");
        }
        return Optional.of(Map.of());
    }

    private void unchanged(Optional<Instant> now, String set, String words) {
        if (!now.equals(times.read(set))) {
            throw new Problem.Stale(words);
        }
    }

    private static OptionalLong number(String text) {
        return text.isEmpty() ? OptionalLong.empty() : OptionalLong.of(Long.parseLong(text));
    }

    private static String text(Optional<Instant> at) {
        return at.map(Instant::toString).orElse("");
    }

    private static String text(OptionalLong value) {
        return value.isPresent() ? Long.toString(value.getAsLong()) : "";
    }
}
