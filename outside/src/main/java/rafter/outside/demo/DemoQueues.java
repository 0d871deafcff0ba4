package rafter.outside.demo;

import static rafter.database.Tables.TICKET;
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
import rafter.app.handout.consults.Consults;
import rafter.app.handout.consults.Experts;
import rafter.app.handout.consults.Outcomes;
import rafter.app.handout.consults.Talking;
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
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Overflow;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.ticket.Turn;

/** The skills, the queues and who is at work in the demo world. */
final class DemoQueues {

    private static final SkillId NONE = new SkillId(0);

    private final Consults consults;
    private final Outcomes outcomes;
    private final Talking talking;
    private final Experts experts;
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
        this.consults = context.getBean(Consults.class);
        this.outcomes = context.getBean(Outcomes.class);
        this.talking = context.getBean(Talking.class);
        this.experts = context.getBean(Experts.class);
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
        demo.experts();
        demo.rooms();
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

    private void experts() {
        Map<String, SkillId> byName = skills.all().stream().collect(Collectors.toMap(Skill::name, Skill::id));
        expert(0, Map.of(byName.getOrDefault("Freight papers", NONE), SkillLevel.EXPERT));
        expert(1, Map.of(byName.getOrDefault("Refrigerated cargo", NONE), SkillLevel.EXPERT));
    }

    private void expert(int which, Map<SkillId, SkillLevel> knows) {
        Cast.Someone one = Cast.EXPERTS.get(which);
        experts.save(
                new Experts.Expert(new ExpertId(0), one.name() + ", " + one.firm(), one.address(), "", knows, 0), ravi);
    }

    /** Two rooms beside freight tickets: one that is open, and one of which something came. */
    private void rooms() {
        List<TicketNumber> freight = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.OPEN)
                .and(TICKET.TEAM_ID.eq(team("Freight desk")))
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .orderBy(TICKET.NUMBER.desc())
                .limit(2)
                .fetch(TICKET.NUMBER);
        if (freight.size() < 2) {
            return;
        }
        Map<String, SkillId> byName = skills.all().stream().collect(Collectors.toMap(Skill::name, Skill::id));
        Set<SkillId> papers = Set.of(byName.getOrDefault("Freight papers", NONE));
        long open = consults.open(
                freight.getFirst(),
                "The customs papers of this trailer name a refrigerated cargo, the booking does not. Can it go on the evening sailing?",
                Set.of(byName.getOrDefault("Freight papers", NONE), byName.getOrDefault("Refrigerated cargo", NONE)),
                List.of(),
                viewer("Imani Okoro"));
        consults.join(open, viewer("Jonas Weir"));
        talking.say(open, viewer("Imani Okoro"), "The driver is at gate 3 and the sailing closes at six.", false);
        talking.say(
                open,
                viewer("Jonas Weir"),
                "The papers are right. The booking was made without a plug for the deck.",
                false);
        talking.say(
                open, viewer("Jonas Weir"), "Asked the deck officer of the Saltmarsh for a place with a plug", true);
        long closed = consults.open(
                freight.getLast(), "Which form goes with a second seal?", papers, List.of(), viewer("Odile Bran"));
        consults.join(closed, viewer("Jonas Weir"));
        talking.say(closed, viewer("Jonas Weir"), "The same form; both numbers go into the box for seals.", false);
        outcomes.close(
                closed,
                "Both seals go into the box for seals, with a comma between.",
                "The customer was told, and the form has an example now.",
                Set.of(),
                viewer("Odile Bran"));
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
