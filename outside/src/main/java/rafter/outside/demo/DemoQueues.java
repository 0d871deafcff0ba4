package rafter.outside.demo;

import static rafter.database.Tables.WORKING;

import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationContext;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.handout.queues.Queues;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Overflow;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;

/** The skills, the queues and who is at work in the demo world. */
final class DemoQueues {

    private final Queues queues;
    private final Skills skills;
    private final Workforce workforce;
    private final Whereabouts whereabouts;
    private final DSLContext sql;
    private final Clock clock;
    private final DemoPeople people;
    private final PersonId ravi;
    private final Map<String, TeamId> teams;

    private DemoQueues(ApplicationContext context, DemoPeople people) {
        this.queues = context.getBean(Queues.class);
        this.skills = context.getBean(Skills.class);
        this.workforce = context.getBean(Workforce.class);
        this.whereabouts = context.getBean(Whereabouts.class);
        this.sql = context.getBean(DSLContext.class);
        this.clock = context.getBean(Clock.class);
        this.people = people;
        this.ravi = people.named("Ravi Nand").id();
        this.teams = context.getBean(Persons.class).teams().stream().collect(Collectors.toMap(Team::name, Team::id));
    }

    static void settle(ApplicationContext context, DemoPeople people) {
        var demo = new DemoQueues(context, people);
        demo.skills();
        demo.queues();
        demo.here();
        DemoConsults.settle(context, people);
        DemoChats.settle(context, people, (DemoClock) demo.clock);
        DemoVoices.settle(context, people, (DemoClock) demo.clock);
    }

    private void skills() {
        skill(
                "Freight papers",
                "Bills of lading, dangerous goods, customs.",
                List.of("bill of lading", "customs"),
                List.of("freight slots"));
        skill(
                "Refrigerated cargo",
                "Trailers that are cooled: plugs, temperatures, alarms.",
                List.of("refrigerated", "reefer", "temperature"),
                List.of());
        skill("Billing", "Invoices, refunds and credit notes.", List.of("invoice", "refund"), List.of("billing"));
        Map<String, SkillId> byName = skills.all().stream().collect(Collectors.toMap(Skill::name, Skill::id));
        can("Jonas Weir", 10, Map.of("Freight papers", SkillLevel.EXPERT, "Billing", SkillLevel.ABLE), byName);
        can("Imani Okoro", 12, Map.of("Billing", SkillLevel.EXPERT), byName);
        can("Priya Raman", 10, Map.of("Freight papers", SkillLevel.LEARNING, "Billing", SkillLevel.ABLE), byName);
        can("Marta Kowal", 8, Map.of("Freight papers", SkillLevel.ABLE), byName);
    }

    private void skill(String name, String description, List<String> words, List<String> topics) {
        skills.save(new Skill(new SkillId(0), name, description, words, topics), 0, ravi);
    }

    private void can(String name, int units, Map<String, SkillLevel> levels, Map<String, SkillId> byName) {
        var known = new HashMap<SkillId, SkillLevel>();
        levels.forEach((skill, level) -> known.put(byName.getOrDefault(skill, new SkillId(0)), level));
        PersonId person = people.named(name).id();
        skills.level(person, known, ravi);
        workforce.limit(person, units, ravi);
    }

    private void queues() {
        queue(
                "Calls",
                Criteria.test(KnownField.CHANNEL, Operator.IS, "telephone"),
                new Ordering.Oldest(),
                Set.of("Passengers", "Freight desk", "Key accounts"),
                Handing.OFFERS,
                List.of());
        queue(
                "Chats",
                Criteria.test(KnownField.CHANNEL, Operator.IS, "chat"),
                new Ordering.Oldest(),
                Set.of("Passengers", "Freight desk", "Lost property"),
                Handing.OFFERS,
                List.of());
        queue(
                "Urgent",
                Criteria.test(KnownField.PRIORITY, Operator.AT_LEAST, "P2"),
                new Ordering.Due(),
                Set.of("Passengers", "Freight desk"),
                Handing.OFFERS,
                List.of());
        queue(
                "Key accounts",
                Criteria.test(KnownField.TEAM, Operator.IS, team("Key accounts").toString()),
                new Ordering.Due(),
                Set.of("Key accounts"),
                Handing.FIT,
                List.of(new Overflow(new Overflow.When.Waited(Duration.ofHours(1)), Set.of(team("Passengers")))));
        queue(
                "Freight",
                Criteria.test(KnownField.TEAM, Operator.IS, team("Freight desk").toString()),
                new Ordering.Due(),
                Set.of("Freight desk"),
                Handing.PULL,
                List.of(new Overflow(new Overflow.When.Waited(Duration.ofHours(2)), Set.of(team("Key accounts")))));
        queue(
                "Lost property",
                Criteria.test(
                        KnownField.TEAM, Operator.IS, team("Lost property").toString()),
                new Ordering.Oldest(),
                Set.of("Lost property"),
                Handing.LEAST,
                List.of());
        queue(
                "Passengers",
                Criteria.everything(),
                new Ordering.Weighted(10, 5, 2),
                Set.of("Passengers"),
                Handing.PULL,
                List.of(new Overflow(new Overflow.When.NobodyFree(), Set.of(team("Lost property")))));
    }

    private TeamId team(String name) {
        return teams.getOrDefault(name, new TeamId(0));
    }

    private void queue(
            String name, Criteria criteria, Ordering order, Set<String> whose, Handing way, List<Overflow> overflow) {
        queues.save(
                new Queue(
                        new QueueId(0),
                        name,
                        true,
                        criteria,
                        order,
                        whose.stream().map(this::team).collect(Collectors.toSet()),
                        Set.of(),
                        way,
                        Duration.ofMinutes(2),
                        Optional.of(Duration.ZERO),
                        overflow),
                0,
                ravi);
    }

    private void here() {
        whereabouts.teamCalendar(team("Freight desk"), DemoBook.SHORE, ravi);
        for (String name : List.of("Imani Okoro", "Jonas Weir", "Sefa Tui", "Odile Bran")) {
            whereabouts.say(Presence.HERE, "", true, viewer(name));
        }
        whereabouts.say(Presence.AWAY, "on the pier until two", true, viewer("Marta Kowal"));
        // Nobody sits at most of their pages, so that what a page would renew is lent for a day.
        sql.update(WORKING)
                .set(WORKING.SEEN_UNTIL, clock.instant().plus(Duration.ofHours(24)))
                .execute();
    }

    private Viewer viewer(String name) {
        return people.named(name);
    }
}
