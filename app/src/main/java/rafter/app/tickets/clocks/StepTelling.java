package rafter.app.tickets.clocks;

import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.notices.Notices;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Say;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Receivers;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;

/** Says what a step does, and tells those whom it wants told. */
@Component
class StepTelling {

    private final Channels channels;
    private final RafterSettings settings;
    private final Workspaces workspaces;

    StepTelling(Channels channels, RafterSettings settings, Workspaces workspaces) {
        this.channels = channels;
        this.settings = settings;
        this.workspaces = workspaces;
    }

    /** Tells whom a step wants told: by mail at once, or by notices that are added to {@code told}. */
    void tell(FiringRound.Firing one, Act.Notify notify, FiringRound round, List<Notices.Told> told) {
        String words = Placeholders.fill(notify.message(), values(one, round)) + tardiness(one, round);
        if (notify.whom() == Act.Whom.ADDRESS) {
            Receivers.mail(
                    channels,
                    one.timer().getTicket(),
                    round.ticket(one).way(),
                    notify.address(),
                    one.clock().objective().words(),
                    words,
                    round.now());
            return;
        }
        receivers(one, notify.whom(), round)
                .forEach(person -> told.add(
                        new Notices.Told(person, one.timer().getTicket(), round.now(), Notices.Kind.STEP, words)));
    }

    /** That a step comes late, with a blank before; nothing when it does not. */
    static String tardiness(FiringRound.Firing one, FiringRound round) {
        return one.tardy()
                ? " (This comes late: it was due "
                        + Say.when(
                                one.timer().getDueAt(),
                                round.now(),
                                round.terms().zone()) + ".)"
                : "";
    }

    private static Collection<PersonId> receivers(FiringRound.Firing one, Act.Whom whom, FiringRound round) {
        return Receivers.of(round.ticket(one), whom, round.people(), round.members());
    }

    /** The placeholders that a step's words may hold, with their values. */
    Map<String, String> values(FiringRound.Firing one, FiringRound round) {
        Ticket ticket = round.ticket(one);
        var values = new EnumMap<Placeholder, String>(Placeholder.class);
        TicketNumber number = one.timer().getTicket();
        String customer = round.names().getOrDefault(number, "");
        values.put(Placeholder.TICKET, number.toString());
        values.put(Placeholder.SUBJECT, ticket.subject());
        values.put(Placeholder.CUSTOMER, customer);
        values.put(Placeholder.FIRST_NAME, Placeholder.firstName(customer));
        values.put(Placeholder.WORKSPACE, workspaces.current().name());
        values.put(Placeholder.OWNER, ticket.owner().map(id -> name(id, round)).orElse("nobody"));
        values.put(
                Placeholder.DUE,
                one.clock()
                        .dueMark()
                        .map(due -> Say.when(due, round.now(), round.terms().zone()))
                        .orElse("never"));
        values.put(Placeholder.TARGET, one.clock().objective().words());
        values.put(Placeholder.LINK, settings.address() + "/tickets/" + number);
        return Placeholder.named(values);
    }

    private static String name(PersonId person, FiringRound round) {
        return Optional.ofNullable(round.people().get(person)).map(Person::name).orElse("somebody who left");
    }

    /** What a step does, in words. */
    String words(FiringRound.Firing one, FiringRound round) {
        return one.step().acts().stream().map(act -> words(one, act, round)).collect(Collectors.joining("; "))
                + tardiness(one, round);
    }

    private String words(FiringRound.Firing one, Act.Automatic act, FiringRound round) {
        return switch (act) {
            case Act.Notify n when n.whom() == Act.Whom.ADDRESS -> "told " + n.address();
            case Act.Notify n -> {
                String names = receivers(one, n.whom(), round).stream()
                        .map(id -> name(id, round))
                        .collect(Collectors.joining(", "));
                yield "told " + (names.isEmpty() ? n.whom().words() + ", who is nobody just now" : names);
            }
            case Act.RaisePriority r -> "raised the priority";
            case Act.HandOver h -> "handed it to a team";
            case Act.Tag t -> "tagged it " + t.tag();
            case Act.Note n -> "wrote a note";
        };
    }
}
