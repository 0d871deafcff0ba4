package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;

import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.WordsTo;
import rafter.app.house.access.Waiting;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.FitRehearsal;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;

/** What the floor tells of time that has passed: what each had, and whom best fit would have chosen. And words from it to a person. */
class LookingBackTest extends QueuesAtWork {

    private void hand(TicketNumber number, PersonId to) {
        acts.perform(number, new Act.HandToPerson(Optional.of(to)), odile());
        clock().tick(Duration.ofMinutes(1));
    }

    @Test
    void what_each_had_is_read_from_the_events() {
        Instant from = clock().instant();
        int before = had(from, 1).getLast().getOrDefault(imani().id(), 0);
        TicketNumber number = mail("back", "Words");
        clock().tick(Duration.ofMinutes(4));
        hand(number, imani().id());
        clock().tick(Duration.ofMinutes(9));
        hand(number, sefa().id());

        List<Map<PersonId, Integer>> loads = had(from, 4);

        assertThat(loads)
                .extracting(one -> one.getOrDefault(imani().id(), 0) - before)
                .containsExactly(0, 1, 1, 0);
    }

    private List<Map<PersonId, Integer>> had(Instant from, int frames) {
        return bean(Past.class).loads(from, Duration.ofMinutes(5), frames).orElseThrow();
    }

    @Test
    void best_fit_is_rehearsed_over_what_people_chose() throws IOException, InterruptedException {
        Instant from = clock().instant();
        FitRehearsal.Report before = bean(FitPast.class).since(from);
        for (int i = 0; i < 3; i++) {
            hand(mail("fit", "Words"), imani().id());
        }

        FitRehearsal.Report report = bean(FitPast.class).since(from);

        assertThat(report.choices() - before.choices()).isEqualTo(3);
        assertThat(got(report.people(), imani().id()) - got(before.people(), imani().id()))
                .isEqualTo(3);
        assertThat(report.fit().got().values().stream().mapToInt(one -> one).sum())
                .isEqualTo(report.choices());
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/house-rules/handing-out/rehearsal?days=7").body()).contains("Where they differ");
        assertThat(get("/house-rules/handing-out/rehearsal?days=x").statusCode())
                .isEqualTo(200);
    }

    private static int got(FitRehearsal.Way way, PersonId person) {
        return way.got().getOrDefault(person, 0);
    }

    @Test
    void a_lead_writes_to_somebody_who_reads_it_once_and_answers() {
        WordsTo words = bean(WordsTo.class);
        words.send(sefa().id(), "Look at the pier first", odile());

        assertThat(bean(Waiting.class).of(sefa())).containsEntry("words", 1);
        WordsTo.Unread unread = words.unread(sefa()).orElseThrow();
        assertThat(unread.text()).isEqualTo("Look at the pier first");
        assertThatThrownBy(() -> words.read(unread.id(), "", imani())).isInstanceOf(Problem.Stale.class);
        words.read(unread.id(), "On my way", sefa());

        assertThat(words.unread(sefa())).isEmpty();
        assertThat(bean(Waiting.class).of(sefa())).containsEntry("words", 0);
        assertThatThrownBy(() -> words.read(unread.id(), "", sefa())).isInstanceOf(Problem.Stale.class);
        WordsTo.Unread back = words.unread(odile()).orElseThrow();
        assertThat(back.text()).isEqualTo("On my way");
        words.read(back.id(), "", odile());
        assertThatThrownBy(() -> words.send(odile().id(), "Hello", sefa())).isInstanceOf(Problem.class);
        assertThatThrownBy(() -> words.send(sefa().id(), " ", odile())).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> {
                    for (int i = 0; i < 30; i++) {
                        words.send(sefa().id(), "again " + i, odile());
                    }
                })
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void who_is_an_expert_takes_more_when_the_workspace_says_so() {
        HandOutSettings settings = bean(HandOutSettings.class);
        HandOutRules usual = HandOutRules.usual();
        settings.save(
                new HandOutRules(
                        usual.weights(),
                        usual.units(),
                        usual.idleAfter(),
                        usual.reasons(),
                        false,
                        true,
                        Map.of(SkillLevel.EXPERT, 150)),
                settings.kept().version(),
                ravi().id());
        skills.save(new Skill(new SkillId(0), "Tides " + word, "", List.of(), List.of()), 0, ravi().id());
        skills.level(sefa().id(), Map.of(skills.all().getFirst().id(), SkillLevel.EXPERT), ravi().id());

        Map<PersonId, Double> limits =
                workforce.workers().stream().collect(Collectors.toMap(Worker::id, Worker::limit));

        assertThat(limits).containsEntry(sefa().id(), 150.0).containsEntry(imani().id(), 100.0);
    }
}
