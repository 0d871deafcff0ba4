package rafter.app.handout.consults;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.handout.people.ConsultSettings;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.platform.Say;
import rafter.app.platform.Whens;
import rafter.core.consult.Candidate;
import rafter.core.consult.Cover;
import rafter.core.consult.Who;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.Attendance;
import rafter.core.routing.Presence;
import rafter.core.routing.Worker;

/** Everybody who may be asked into a room, as they stand just now. */
@Component
class Candidates {

    /** Of who has no hours, so much is left of any day. */
    private static final Duration DAY = Duration.ofHours(8);
    /** Experts from outside are in no more rooms at once than this. */
    private static final int MOST_ROOMS = 2;

    private final Workforce workforce;
    private final Whereabouts whereabouts;
    private final Experts experts;
    private final Skills skills;
    private final ConsultSettings settings;
    private final Whens whens;
    private final Clock clock;

    Candidates(
            Workforce workforce,
            Whereabouts whereabouts,
            Experts experts,
            Skills skills,
            ConsultSettings settings,
            Whens whens,
            Clock clock) {
        this.workforce = workforce;
        this.whereabouts = whereabouts;
        this.experts = experts;
        this.skills = skills;
        this.settings = settings;
        this.whens = whens;
        this.clock = clock;
    }

    /** All but who asks. */
    List<Candidate> all(PersonId asking) {
        Instant now = clock.instant();
        Map<PersonId, Attendance> known = whereabouts.all();
        var all = new ArrayList<Candidate>();
        for (Worker worker : workforce.workers()) {
            if (!worker.id().equals(asking)) {
                all.add(colleague(worker, Optional.ofNullable(known.get(worker.id())), now));
            }
        }
        Map<ExpertId, Integer> rooms = experts.rooms();
        for (Experts.Expert expert : experts.all()) {
            all.add(outside(expert, rooms.getOrDefault(expert.id(), 0), now));
        }
        return all;
    }

    private Candidate colleague(Worker worker, Optional<Attendance> known, Instant now) {
        Optional<String> why = worker.presence() == Presence.HERE
                ? worker.hasRoom(settings.rules().units()) ? Optional.empty() : Optional.of("has no room")
                : Optional.of("is " + worker.presence().words());
        return new Candidate(
                new Who.Colleague(worker.id()),
                worker.name(),
                worker.skills(),
                worker.load(),
                why,
                known.map(one -> one.left(now, DAY)).orElse(Duration.ZERO),
                known.flatMap(one -> one.back(now)));
    }

    private Candidate outside(Experts.Expert expert, int rooms, Instant now) {
        Attendance hours = whereabouts.byHours(expert.calendar());
        boolean here = hours.at(now).presence() == Presence.HERE;
        Optional<String> why = !here
                ? Optional.of("is outside of their hours")
                : rooms >= MOST_ROOMS ? Optional.of("is in " + rooms + " rooms already") : Optional.empty();
        return new Candidate(
                new Who.Outside(expert.id()),
                expert.name(),
                expert.skills(),
                (double) rooms / MOST_ROOMS,
                why,
                hours.left(now, DAY),
                hours.back(now));
    }

    /** What skills are called. */
    Map<SkillId, String> names() {
        var names = new HashMap<SkillId, String>();
        skills.all().forEach(skill -> names.put(skill.id(), skill.name()));
        return names;
    }

    /** Why somebody is asked. */
    String why(Cover.Chosen chosen, Map<SkillId, String> names) {
        String knows = chosen.knows().entrySet().stream()
                .map(one -> names.getOrDefault(one.getKey(), "") + " ("
                        + one.getValue().words() + ")")
                .collect(Collectors.joining(", "));
        Candidate one = chosen.candidate();
        return "knows " + knows + "; has " + Math.round(one.load() * 100) + " % of what they take; "
                + Say.worked(one.left()) + " of their day left";
    }

    /** Why somebody cannot come, and when they can. */
    String whyNot(Candidate one) {
        return one.hindrance().orElse("can come")
                + one.next().map(at -> ", back " + whens.say(at)).orElse("");
    }
}
