package rafter.app.handout.consults;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_FILE;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.CONSULT_LINE;
import static rafter.database.Tables.WORKING;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.ExpertId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Presence;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;

/** A ticket, two skills, and who is asked into a room. */
@ExtendWith(RunningApp.class)
abstract class ConsultsAtWork extends Browsing {

    final String word = "seal" + unique();

    final Consults consults = bean(Consults.class);

    final Outcomes outcomes = bean(Outcomes.class);

    final Guests guests = bean(Guests.class);

    final Lines lines = bean(Lines.class);

    final Talking talking = bean(Talking.class);

    final Experts experts = bean(Experts.class);

    final Skills skills = bean(Skills.class);

    final Whereabouts whereabouts = bean(Whereabouts.class);

    final String address = "ivo" + unique() + "@harbour.example";

    TicketNumber ticket = new TicketNumber(0);

    SkillId customs = new SkillId(0);

    SkillId reefer = new SkillId(0);

    @BeforeEach
    void a_ticket_and_two_skills() {
        RunningApp.nextMinute();
        String raw = "From: Dov <dov" + unique() + "@" + word + ".example>\nSubject: " + word + "\n\nWhere is it?";
        ticket = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        customs = skill("Customs");
        reefer = skill("Reefer");
        List.of(imani(), sefa()).forEach(one -> whereabouts.say(Presence.HERE, "", true, one));
        RunningApp.post();
    }

    SkillId skill(String name) {
        var skill = new Skill(
                new SkillId(0), name + " " + word, "", List.of(name.toLowerCase(Locale.ROOT) + word), List.of());
        skills.save(skill, 0, ravi().id());
        return skills.all().stream()
                .filter(one -> one.name().equals(skill.name()))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @AfterEach
    void as_it_was() {
        skills.all().forEach(skill -> skills.remove(skill.id(), ravi().id()));
        experts.all().forEach(expert -> experts.remove(expert.id(), ravi().id()));
        Stream.of(CONSULT_FILE, CONSULT_LINE, CONSULT_GUEST, CONSULT)
                .forEach(table -> sql().deleteFrom(table).execute());
        sql().deleteFrom(WORKING).execute();
        bean(Acts.class).perform(ticket, new Act.MoveTo(TicketState.CLOSED.key()), odile());
    }

    void knows(Viewer who, SkillId... what) {
        skills.level(
                who.id(), Stream.of(what).collect(Collectors.toMap(one -> one, one -> SkillLevel.ABLE)), ravi().id());
    }

    ExpertId expert(SkillId... what) {
        experts.save(
                new Experts.Expert(
                        new ExpertId(0),
                        "Ivo Brand",
                        address,
                        "",
                        Stream.of(what).collect(Collectors.toMap(one -> one, one -> SkillLevel.EXPERT)),
                        0),
                ravi().id());
        return experts.all().getFirst().id();
    }

    long ask(SkillId... what) {
        return consults.open(ticket, "Who knows " + word + "?", Set.of(what), List.of(), odile());
    }

    Guests.Guest only(long room) {
        assertThat(guests.of(room)).hasSize(1);
        return guests.of(room).getFirst();
    }

    Map<String, Guests.State> states(long room) {
        return guests.of(room).stream().collect(Collectors.toMap(Guests.Guest::name, Guests.Guest::state));
    }

    double used(Viewer who) {
        return bean(Workforce.class).workers().stream()
                .filter(one -> one.id().equals(who.id()))
                .mapToDouble(Worker::used)
                .sum();
    }

    List<String> words(long room) {
        return lines.of(room).stream()
                .filter(one -> one.kind() != Lines.Kind.HAPPENED)
                .map(Lines.Line::text)
                .toList();
    }
}
