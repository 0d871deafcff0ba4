package rafter.app.handout.queues;

import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.ABSENCE;
import static rafter.database.Tables.HANDOUT_RULES;
import static rafter.database.Tables.OFFER;
import static rafter.database.Tables.RULE_CAUSE;
import static rafter.database.Tables.TEAM_MEMBER;
import static rafter.database.Tables.WORKING;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Guard;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.rules.RuleDesk;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Waiting;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;

/** What tests of handing out share: a team of two who are here, queues for the tickets of one test, and mail that arrives. */
@ExtendWith(RunningApp.class)
abstract class QueuesAtWork extends Browsing {

    final String word = "queue" + unique();
    final Queues queues = bean(Queues.class);
    final Places places = bean(Places.class);
    final HandingOut handing = bean(HandingOut.class);
    final GivingOut giving = bean(GivingOut.class);
    final Workforce workforce = bean(Workforce.class);
    final Skills skills = bean(Skills.class);
    final Whereabouts whereabouts = bean(Whereabouts.class);
    final Acts acts = bean(Acts.class);
    final List<TicketNumber> mails = new ArrayList<>();
    final TeamId team = bean(Persons.class).addTeam("Team " + word, Guard.ITSELF);

    @BeforeEach
    void here() {
        RunningApp.nextMinute();
        for (Viewer one : List.of(imani(), sefa())) {
            sql().insertInto(TEAM_MEMBER, TEAM_MEMBER.TEAM_ID, TEAM_MEMBER.PERSON_ID)
                    .values(team, one.id())
                    .execute();
            whereabouts.say(Presence.HERE, "", true, one);
            workforce.limit(one.id(), 100, ravi().id());
        }
    }

    @AfterEach
    void as_it_was() {
        skills.all().forEach(skill -> skills.remove(skill.id(), ravi().id()));
        queues.kept().forEach(one -> queues.remove(one.queue().id(), ravi().id()));
        sql().deleteFrom(OFFER).execute();
        sql().deleteFrom(WORKING).execute();
        sql().deleteFrom(ABSENCE).execute();
        sql().deleteFrom(TEAM_MEMBER).where(TEAM_MEMBER.TEAM_ID.eq(team)).execute();
        HandOutSettings settings = bean(HandOutSettings.class);
        settings.save(HandOutRules.usual(), settings.kept().version(), ravi().id());
        sql().deleteFrom(HANDOUT_RULES).execute();
        mails.forEach(number -> acts.perform(number, new Act.MoveTo(TicketState.CLOSED.key()), odile()));
        sql().deleteFrom(RULE_CAUSE).execute();
    }

    Queue queue(String name, Handing way, Criteria criteria) {
        return new Queue(
                new QueueId(0),
                name + word,
                true,
                criteria,
                new Ordering.Oldest(),
                Set.of(team),
                Set.of(),
                way,
                Duration.ofMinutes(1),
                Optional.empty(),
                List.of());
    }

    QueueId saved(Queue queue) {
        queues.save(queue, 0, ravi().id());
        return queues.kept().getLast().queue().id();
    }

    Criteria about(String what) {
        return Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, what + word);
    }

    TicketNumber mail(String subject, String text) {
        String raw = "From: Ida <ida" + unique() + "@" + word + ".example>\nSubject: " + subject + word + "\n\n" + text;
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        mails.add(number);
        clock().tick(Duration.ofSeconds(1));
        bean(RuleDesk.class).readAll();
        return number;
    }

    List<TicketNumber> waiting(QueueId queue) {
        return places.waiting(DSL.noCondition()).getOrDefault(queue, List.of()).stream()
                .map(Waiting::number)
                .sorted()
                .toList();
    }

    Optional<Long> owner(TicketNumber number) {
        return bean(Tickets.class).find(number, odile()).orElseThrow().owner().map(owner -> owner.value());
    }
}
