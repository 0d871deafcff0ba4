package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.QUEUE_ENTRY;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;
import rafter.app.tickets.rules.RuleDesk;
import rafter.core.criteria.Criteria;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Waiting;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Steering;

/** Queues at work: where tickets wait and why, who gets the next one, and that nobody gets too much or twice. */
class QueuesTest extends QueuesAtWork {

    @Test
    void a_ticket_waits_in_the_first_queue_it_fits_and_leaves_it_when_somebody_owns_it() {
        QueueId first = saved(queue("A", Handing.HAND, about("urgent")));
        QueueId second = saved(queue("B", Handing.HAND, about("urgent")));
        TicketNumber number = mail("urgent", "Help");
        assertThat(waiting(first)).containsExactly(number);
        assertThat(waiting(second)).isEmpty();
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        bean(RuleDesk.class).readAll();
        assertThat(waiting(first)).isEmpty();
        acts.perform(number, new Act.HandToPerson(Optional.empty()), imani());
        bean(RuleDesk.class).readAll();
        assertThat(waiting(first)).containsExactly(number);
        acts.perform(number, new Act.MoveTo("with-customer"), imani());
        bean(RuleDesk.class).readAll();
        assertThat(waiting(first)).isEmpty();
    }

    @Test
    void after_a_change_of_queues_the_open_tickets_are_looked_through() {
        QueueId first = saved(queue("A", Handing.HAND, about("x")));
        TicketNumber number = mail("y", "Help");
        assertThat(waiting(first)).isEmpty();
        QueueId second = saved(queue("B", Handing.HAND, about("y")));
        runAll();
        assertThat(waiting(second)).containsExactly(number);
        queues.move(second, -1, ravi().id());
        assertThat(queues.kept().getFirst().queue().id()).isEqualTo(second);
        queues.remove(second, ravi().id());
        assertThat(sql().fetchCount(QUEUE_ENTRY, QUEUE_ENTRY.TICKET.eq(number))).isZero();
    }

    @Test
    void a_ticket_is_put_into_a_queue_and_needs_a_skill_by_hand_and_its_page_says_so() throws Exception {
        skills.save(new Skill(new SkillId(0), "Customs " + word, "", List.of(), List.of()), 0, ravi().id());
        SkillId customs = skills.all().getFirst().id();
        QueueId first = saved(queue("A", Handing.PULL, about("put")));
        QueueId second = saved(queue("B", Handing.PULL, about("other")));
        TicketNumber number = mail("put", "Help");
        acts.perform(number, new Act.PutIntoQueue(Optional.of(second)), imani());
        acts.perform(number, new Act.PutSkill(customs, Steering.Need.NEEDED), imani());
        bean(RuleDesk.class).readAll();
        assertThat(waiting(first)).isEmpty();
        assertThat(waiting(second)).containsExactly(number);
        assertThat(handing.next(imani())).as("they lack the skill").isEmpty();
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body())
                .contains("1 of 1 in B" + word)
                .contains("Customs " + word + ", put there by hand or by a rule");
        String token = token(get("/tickets/" + number + "/choose/queue"));
        post("/tickets/" + number + "/queue", token, "queue", "", "was", second.toString());
        post("/tickets/" + number + "/skill", token, "skill", customs.toString(), "need", "SPARED", "was", "NEEDED");
        bean(RuleDesk.class).readAll();
        assertThat(waiting(first)).containsExactly(number);
        assertThat(post("/tickets/" + number + "/queue", token, "queue", second.toString(), "was", second.toString())
                        .body())
                .contains("Somebody else said where it waits meanwhile");
        assertThat(handing.next(imani()).orElseThrow().number()).isEqualTo(number);
        assertThat(get("/tickets/" + number + "/history").body()).contains("put it into the queue B" + word);
    }

    @Test
    void the_place_that_a_ticket_page_says_is_that_in_which_the_queue_hands_out() {
        QueueId id = saved(queue("A", Handing.PULL, about("place")));
        var random = new Random(7);
        for (int i = 0; i < 8; i++) {
            TicketNumber number = mail("place", "Number " + i);
            acts.perform(number, new Act.SetPriority(Priority.values()[random.nextInt(4)]), imani());
            clock().tick(Duration.ofMinutes(random.nextInt(90)));
        }
        bean(RuleDesk.class).readAll();
        for (Ordering order : List.of(
                new Ordering.Due(),
                new Ordering.Oldest(),
                new Ordering.Weighted(3, 2, 1),
                new Ordering.Weighted(0, 5, 0))) {
            Queues.Kept kept = queues.find(id).orElseThrow();
            Queue was = kept.queue();
            queues.save(
                    new Queue(
                            id,
                            was.name(),
                            true,
                            was.criteria(),
                            order,
                            was.teams(),
                            Set.of(),
                            was.way(),
                            was.answerWithin(),
                            Optional.empty(),
                            List.of()),
                    kept.version(),
                    ravi().id());
            List<TicketNumber> said = mails.stream()
                    .sorted(Comparator.comparingInt(number -> bean(Desk.class)
                            .waiting(number, imani())
                            .place()
                            .orElseThrow()
                            .place()))
                    .toList();
            List<TicketNumber> handed =
                    order
                            .sorted(places.waiting(DSL.noCondition()).getOrDefault(id, List.of()), clock().instant())
                            .stream()
                            .map(Waiting::number)
                            .toList();
            assertThat(said).as(order.words()).isEqualTo(handed);
        }
    }

    private void runAll() {
        long last = sql().select(DSL.max(rafter.database.Tables.BACKGROUND_WORK.ABOUT))
                .from(rafter.database.Tables.BACKGROUND_WORK)
                .where(rafter.database.Tables.BACKGROUND_WORK.KIND.eq(LookingThrough.KIND))
                .fetchSingle(r -> r.value1());
        bean(BackgroundWork.class).run(LookingThrough.KIND, last);
    }

    @Test
    void who_asks_for_the_next_one_gets_the_first_in_order_that_they_can_take() {
        skills.save(
                new Skill(new SkillId(0), "Customs " + word, "", List.of("papers" + word), List.of()), 0, ravi().id());
        SkillId customs = skills.all().getFirst().id();
        saved(queue("A", Handing.PULL, about("pull")));
        TicketNumber hard = mail("pull", "The papers" + word + " are missing");
        TicketNumber easy = mail("pull", "Hello");
        assertThat(handing.next(imani()).orElseThrow().number()).isEqualTo(easy);
        assertThat(owner(easy)).contains(imani().id().value());
        assertThat(handing.next(imani())).isEmpty();
        skills.level(sefa().id(), Map.of(customs, SkillLevel.LEARNING), ravi().id());
        assertThat(handing.next(sefa())).isEmpty();
        skills.level(sefa().id(), Map.of(customs, SkillLevel.ABLE), ravi().id());
        assertThat(handing.next(sefa()).orElseThrow().number()).isEqualTo(hard);
        assertThat(waiting(queues.kept().getFirst().queue().id())).isEmpty();
    }

    @Test
    void who_is_away_takes_no_work_or_is_full_gets_nothing_and_is_told_why() {
        saved(queue("A", Handing.PULL, about("pull")));
        mail("pull", "Hello");
        whereabouts.say(Presence.AWAY, "lunch", true, imani());
        assertThatThrownBy(() -> handing.next(imani())).hasMessageContaining("away");
        whereabouts.say(Presence.HERE, "", false, imani());
        assertThatThrownBy(() -> handing.next(imani())).hasMessageContaining("take no work");
        whereabouts.say(Presence.HERE, "", true, imani());
        workforce.limit(imani().id(), 0, ravi().id());
        assertThatThrownBy(() -> handing.next(imani())).hasMessageContaining("Finish one first");
        assertThatThrownBy(() -> workforce.limit(imani().id(), 101, ravi().id()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> workforce.limit(imani().id(), 5, imani().id())).isInstanceOf(Problem.class);
    }

    @Test
    void two_who_ask_at_once_never_get_the_same_ticket() throws Exception {
        saved(queue("A", Handing.PULL, about("race")));
        for (int i = 0; i < 12; i++) {
            mail("race", "Number " + i);
        }
        try (var both = Executors.newFixedThreadPool(4)) {
            List<Callable<Optional<HandingOut.Got>>> asks = new ArrayList<>();
            for (int i = 0; i < 12; i++) {
                Viewer who = i % 2 == 0 ? imani() : sefa();
                asks.add(() -> handing.next(who));
            }
            var got = new HashSet<TicketNumber>();
            for (var one : both.invokeAll(asks)) {
                assertThat(got.add(one.get().orElseThrow().number())).isTrue();
            }
        }
        assertThat(handing.next(imani())).isEmpty();
    }

    @Test
    void in_turn_each_gets_one_and_nobody_more_than_they_take() {
        QueueId queue = saved(queue("A", Handing.ROTATION, about("turn")));
        int has = (int) Math.round(workforce.workers().stream()
                .filter(one -> one.id().equals(imani().id()))
                .findFirst()
                .orElseThrow()
                .used());
        workforce.limit(imani().id(), has + 1, ravi().id());
        for (int i = 0; i < 4; i++) {
            mail("turn", "Number " + i);
        }
        assertThat(giving.giveOut()).isEqualTo(4);
        assertThat(mails.stream()
                        .filter(number ->
                                owner(number).equals(Optional.of(imani().id().value()))))
                .hasSize(1);
        assertThat(waiting(queue)).isEmpty();
        assertThat(giving.giveOut()).isZero();
        whereabouts.say(Presence.OFF, "", true, sefa());
        TicketNumber late = mail("turn", "Nobody is there");
        assertThat(giving.giveOut()).isZero();
        assertThat(waiting(queue)).containsExactly(late);
        whereabouts.say(Presence.HERE, "", true, sefa());
        assertThat(giving.giveOut()).isEqualTo(1);
    }

    @Test
    void a_queue_that_somebody_changed_meanwhile_is_not_overwritten_and_faults_are_told() {
        QueueId id = saved(queue("A", Handing.PULL, about("x")));
        Queues.Kept kept = queues.find(id).orElseThrow();
        queues.save(kept.queue(), kept.version(), ravi().id());
        assertThatThrownBy(() -> queues.save(kept.queue(), kept.version(), ravi().id()))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> saved(queue("N".repeat(61), Handing.PULL, about("x"))))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> queues.save(kept.queue(), kept.version(), imani().id()))
                .isInstanceOf(Problem.class);
    }

    @Test
    void the_pages_set_up_queues_and_skills_and_keep_what_was_typed() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/queues/0"));
        String[] typed = {
            "id",
            "0",
            "version",
            "0",
            "name",
            "Typed " + word,
            "on",
            "true",
            "order",
            "weighted",
            "priority",
            "many",
            "plan",
            "5",
            "hour",
            "1",
            "way",
            "PULL",
            "team",
            team.toString(),
            "n.0.kind",
            "all"
        };
        assertThat(post("/house-rules/queues/save", token, typed).body())
                .contains("“many” are no points")
                .contains("Typed " + word);
        typed[11] = "7";
        assertThat(post("/house-rules/queues/save", token, typed).body()).contains("is saved");
        assertThat(queues.kept().getLast().queue().order()).isEqualTo(new Ordering.Weighted(7, 5, 1));
        assertThat(post("/house-rules/skills/save", token, "name", "").body()).contains("A skill needs a name");
        assertThat(post("/house-rules/skills/save", token, "name", "Typed " + word, "words", "one\ntwo")
                        .body())
                .contains("is saved");
        assertThat(skills.all().getFirst().words()).containsExactly("one", "two");
        assertThat(post("/house-rules/skills/save", token, "name", "typed " + word)
                        .body())
                .contains("There is a skill of this name already");
        assertThat(get("/floor").body()).contains("Typed " + word).contains("Next for me");
        assertThat(post("/floor/next", token).body()).contains("Say first that you are at work");
        assertThat(post("/presence", token, "presence", "HERE", "taking", "true")
                        .body())
                .contains("You are at work.");
        assertThat(post("/floor/next", token).body()).contains("Nothing waits that you can take.");
    }

    @Test
    void a_queue_that_no_ticket_reaches_is_told_and_what_was_removed_is_brought_back() throws Exception {
        QueueId all = saved(queue("All", Handing.PULL, Criteria.everything()));
        saved(queue("Behind", Handing.PULL, about("behind")));
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/house-rules/queues");
        assertThat(page.body()).contains("those before it take all of its");
        String token = token(page);
        assertThat(post("/house-rules/queues/" + all + "/remove", token).body())
                .contains("The queue is removed")
                .contains("/house-rules/queues/" + all + "/bring-back")
                .doesNotContain("those before it take all");
        assertThat(post("/house-rules/queues/" + all + "/bring-back", token).body())
                .contains("The queue is back", "those before it take all of its");
        assertThat(post("/house-rules/queues/" + all + "/bring-back", token).body())
                .contains("there already");
        skills.save(new Skill(new SkillId(0), "Gone " + word, "", List.of(), List.of()), 0, ravi().id());
        SkillId skill = skills.all().getFirst().id();
        skills.level(imani().id(), Map.of(skill, SkillLevel.ABLE), ravi().id());
        assertThat(post("/house-rules/skills/" + skill + "/remove", token).body())
                .contains("Bring it back");
        assertThat(skills.levels().getOrDefault(imani().id(), Map.of())).isEmpty();
        assertThat(post("/house-rules/skills/" + skill + "/bring-back", token).body())
                .contains("The skill is back");
        assertThat(skills.levels().getOrDefault(imani().id(), Map.of())).containsKey(skill);
    }
}
