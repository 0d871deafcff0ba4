package rafter.outside.demo;

import static rafter.database.Tables.TICKET;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationContext;
import rafter.app.arrival.mail.Outbox;
import rafter.app.arrival.mail.SendMail;
import rafter.app.handout.consults.Consults;
import rafter.app.handout.consults.Experts;
import rafter.app.handout.consults.Outcomes;
import rafter.app.handout.consults.Talking;
import rafter.app.handout.people.Skills;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.ticket.Turn;

/** The experts from outside and the rooms of the demo world. */
final class DemoConsults {

    private static final SkillId NONE = new SkillId(0);

    private final Consults consults;
    private final Outcomes outcomes;
    private final Talking talking;
    private final Experts experts;
    private final DSLContext sql;
    private final DemoPeople people;
    private final PersonId ravi;
    private final Map<String, SkillId> skills;
    private final Map<String, TeamId> teams;

    private DemoConsults(ApplicationContext context, DemoPeople people) {
        this.consults = context.getBean(Consults.class);
        this.outcomes = context.getBean(Outcomes.class);
        this.talking = context.getBean(Talking.class);
        this.experts = context.getBean(Experts.class);
        this.sql = context.getBean(DSLContext.class);
        this.people = people;
        this.ravi = people.named("Ravi Nand").id();
        this.skills = context.getBean(Skills.class).all().stream().collect(Collectors.toMap(Skill::name, Skill::id));
        this.teams = context.getBean(Persons.class).teams().stream().collect(Collectors.toMap(Team::name, Team::id));
    }

    static void settle(ApplicationContext context, DemoPeople people) {
        var demo = new DemoConsults(context, people);
        demo.experts();
        demo.rooms();
        // Nothing is scheduled while the world is loaded: what was written leaves now.
        SendMail sending = context.getBean(SendMail.class);
        context.getBean(Outbox.class).queued().forEach(sending::send);
    }

    private SkillId skill(String name) {
        return skills.getOrDefault(name, NONE);
    }

    private Viewer viewer(String name) {
        return people.named(name);
    }

    private void experts() {
        expert(0, Map.of(skill("Freight papers"), SkillLevel.EXPERT));
        expert(1, Map.of(skill("Refrigerated cargo"), SkillLevel.EXPERT));
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
                .and(TICKET.TEAM_ID.eq(teams.getOrDefault("Freight desk", new TeamId(0))))
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .orderBy(TICKET.NUMBER.desc())
                .limit(2)
                .fetch(TICKET.NUMBER);
        if (freight.size() < 2) {
            return;
        }
        Set<SkillId> papers = Set.of(skill("Freight papers"));
        long open = consults.open(
                freight.getFirst(),
                "The customs papers of this trailer name a refrigerated cargo, the booking does not. Can it go on the evening sailing?",
                Set.of(skill("Freight papers"), skill("Refrigerated cargo")),
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
}
