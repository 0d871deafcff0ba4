package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.QUEUE_ENTRY;
import static rafter.database.Tables.RULE_CAUSE;
import static rafter.database.Tables.TEAM_MEMBER;
import static rafter.database.Tables.WORKING;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.rules.RuleDesk;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Waiting;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;

/** Queues at work: where tickets wait and why, who gets the next one, and that nobody gets too much or twice. */
@ExtendWith(RunningApp.class)
class QueuesTest extends Browsing {

    private final String word = "queue" + unique();
    private final Queues queues = bean(Queues.class);
    private final Places places = bean(Places.class);
    private final HandingOut handing = bean(HandingOut.class);
    private final Workforce workforce = bean(Workforce.class);
    private final Skills skills = bean(Skills.class);
    private final Acts acts = bean(Acts.class);
    private final List<TicketNumber> mails = new ArrayList<>();
    private final TeamId team = bean(Persons.class).addTeam("Team " + word, Guard.ITSELF);

    @BeforeEach
    void here() {
        clock().set(RunningApp.MONDAY.plus(Duration.ofMinutes(unique())));
        for (Viewer one : List.of(imani(), sefa())) {
            sql().insertInto(TEAM_MEMBER, TEAM_MEMBER.TEAM_ID, TEAM_MEMBER.PERSON_ID)
                    .values(team, one.id())
                    .execute();
            workforce.say(Presence.HERE, "", true, one);
            workforce.limit(one.id(), 100, ravi().id());
        }
    }

    @AfterEach
    void as_it_was() {
        skills.all().forEach(skill -> skills.remove(skill.id(), ravi().id()));
        queues.kept().forEach(one -> queues.remove(one.queue().id(), ravi().id()));
        sql().deleteFrom(WORKING).execute();
        sql().deleteFrom(TEAM_MEMBER).where(TEAM_MEMBER.TEAM_ID.eq(team)).execute();
        mails.forEach(number -> acts.perform(number, new Act.MoveTo(TicketState.CLOSED.key()), odile()));
        sql().deleteFrom(RULE_CAUSE).execute();
    }

    private Queue queue(String name, Handing way, Criteria criteria) {
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
                false,
                List.of());
    }

    private QueueId saved(Queue queue) {
        queues.save(queue, 0, ravi().id());
        return queues.kept().getLast().queue().id();
    }

    private Criteria about(String what) {
        return Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, what + word);
    }

    private TicketNumber mail(String subject, String text) {
        String raw = "From: Ida <ida" + unique() + "@" + word + ".example>\nSubject: " + subject + word + "\n\n" + text;
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        mails.add(number);
        clock().tick(Duration.ofSeconds(1));
        bean(RuleDesk.class).readAll();
        return number;
    }

    private List<TicketNumber> waiting(QueueId queue) {
        return places.waiting(DSL.noCondition()).getOrDefault(queue, List.of()).stream()
                .map(Waiting::number)
                .sorted()
                .toList();
    }

    private Optional<Long> owner(TicketNumber number) {
        return bean(Tickets.class).find(number, odile()).orElseThrow().owner().map(owner -> owner.value());
    }

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
        workforce.say(Presence.AWAY, "lunch", true, imani());
        assertThatThrownBy(() -> handing.next(imani())).hasMessageContaining("away");
        workforce.say(Presence.HERE, "", false, imani());
        assertThatThrownBy(() -> handing.next(imani())).hasMessageContaining("take no work");
        workforce.say(Presence.HERE, "", true, imani());
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
        assertThat(handing.giveOut()).isEqualTo(4);
        assertThat(mails.stream()
                        .filter(number ->
                                owner(number).equals(Optional.of(imani().id().value()))))
                .hasSize(1);
        assertThat(waiting(queue)).isEmpty();
        assertThat(handing.giveOut()).isZero();
        workforce.say(Presence.OFF, "", true, sefa());
        TicketNumber late = mail("turn", "Nobody is there");
        assertThat(handing.giveOut()).isZero();
        assertThat(waiting(queue)).containsExactly(late);
        workforce.say(Presence.HERE, "", true, sefa());
        assertThat(handing.giveOut()).isEqualTo(1);
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
}
