package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import rafter.core.criteria.Criteria;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.ticket.Priority;

/** People, queues and tickets for tests. */
final class Scene {

    static final Instant NOW = Instant.parse("2027-03-01T09:00:00Z");
    static final TeamId FREIGHT = new TeamId(1);
    static final TeamId PASSENGERS = new TeamId(2);
    static final Skill BILLING = skill(1, "Billing", "invoice", "billing");
    static final Skill CUSTOMS = skill(2, "Customs", "customs papers", "customs");

    private Scene() {}

    static Skill skill(long id, String name, String word, String topic) {
        return new Skill(new SkillId(id), name, "", List.of(word), List.of(topic));
    }

    static Worker worker(long id, TeamId team, double used, double limit, Map<Skill, SkillLevel> skills) {
        var levels = new HashMap<SkillId, SkillLevel>();
        skills.forEach((skill, level) -> levels.put(skill.id(), level));
        return new Worker(
                new PersonId(id), "P" + id, Set.of(team), levels, Presence.HERE, true, used, limit, Set.of("en"));
    }

    static Worker worker(long id) {
        return worker(id, FREIGHT, 0, 5, Map.of());
    }

    static Worker away(Worker one) {
        return new Worker(
                one.id(),
                one.name(),
                one.teams(),
                one.skills(),
                Presence.AWAY,
                one.taking(),
                one.used(),
                one.limit(),
                one.languages());
    }

    static Waiting ticket(long number, Priority priority, int minutesAgo, Optional<Integer> dueIn, Skill... needs) {
        return new Waiting(
                new TicketNumber(number),
                priority,
                "",
                "freight slots",
                new ContactId(1),
                NOW.minus(Duration.ofMinutes(minutesAgo)),
                dueIn.map(minutes -> NOW.plus(Duration.ofMinutes(minutes))),
                1,
                "",
                List.of(needs).stream()
                        .map(skill -> new Need(skill, new Need.Why.Said()))
                        .toList());
    }

    static Waiting ticket(long number, Skill... needs) {
        return ticket(number, Priority.P3, 10, Optional.of(120), needs);
    }

    static Queue queue(Handing way, Overflow... overflow) {
        return new Queue(
                new QueueId(1),
                "Freight",
                true,
                Criteria.everything(),
                new Ordering.Due(),
                Set.of(FREIGHT),
                Set.of(),
                way,
                Duration.ofMinutes(1),
                Optional.empty(),
                List.of(overflow));
    }

    static BestFit.Question question(Queue queue, Waiting ticket, Map<PersonId, Knowledge> known) {
        return new BestFit.Question(
                ticket,
                queue.teams(),
                queue.needs(ticket),
                Factor.weights(),
                new Share(50, 60),
                id -> known.getOrDefault(id, Knowledge.NOTHING),
                NOW);
    }

    /** People of all sorts. */
    static List<Worker> people(Random random, int many) {
        var all = new ArrayList<Worker>();
        for (int i = 1; i <= many; i++) {
            var skills = new HashMap<SkillId, SkillLevel>();
            for (long skill = 1; skill <= 4; skill++) {
                if (random.nextInt(3) > 0) {
                    skills.put(new SkillId(skill), SkillLevel.values()[random.nextInt(3)]);
                }
            }
            var teams = new HashSet<TeamId>();
            teams.add(new TeamId(1 + random.nextInt(2)));
            all.add(new Worker(
                    new PersonId(i),
                    "P" + i,
                    teams,
                    skills,
                    Presence.values()[random.nextInt(4) == 0 ? 1 + random.nextInt(2) : 0],
                    random.nextInt(6) > 0,
                    random.nextInt(7),
                    1 + random.nextInt(6),
                    Set.of(random.nextBoolean() ? "en" : "de-CH")));
        }
        return all;
    }

    static Map<PersonId, Knowledge> knowledge(Random random, List<Worker> people) {
        var known = new HashMap<PersonId, Knowledge>();
        people.forEach(one -> {
            int whole = random.nextInt(20);
            known.put(
                    one.id(),
                    new Knowledge(
                            random.nextInt(5),
                            random.nextInt(8) == 0,
                            new Share(whole == 0 ? 0 : random.nextInt(whole), whole),
                            random.nextInt(400)));
        });
        return known;
    }
}
