package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.FieldSource;
import rafter.core.Seeds;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.target.Step;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

class ActTest {

    private static final long NUMBER = 4471;
    private static final Instant NOW = Instant.parse("2027-05-01T09:00:00Z");
    private static final Doer IMANI = new Doer(new Actor.Person(new PersonId(1)), false, false);
    private static final Doer ODILE = new Doer(new Actor.Person(new PersonId(2)), true, true);

    /** A workspace in which persons 1 to 3 work, teams 1 and 2 are, and one field takes numbers. */
    static final House HOUSE = new House() {
        @Override
        public boolean in(TeamId team, PersonId person) {
            return team.value() == 2;
        }

        @Override
        public boolean works(PersonId person) {
            return person.value() <= 3;
        }

        @Override
        public String person(PersonId person) {
            return "Person " + person;
        }

        @Override
        public Optional<String> team(TeamId team) {
            return Optional.of("Team " + team).filter(name -> team.value() <= 2);
        }

        @Override
        public Optional<TicketState> state(String key) {
            return new States(TicketState.shipped()).find(key);
        }

        @Override
        public Optional<String> normalised(String field, String typed, String before) {
            return Optional.of(typed.strip()).filter(value -> value.matches("\\d*"));
        }

        @Override
        public String field(String key) {
            return "metres";
        }

        @Override
        public String holds(String key) {
            return "metres, which hold a number";
        }

        @Override
        public Optional<String> policy(String key) {
            return Optional.of("Gold").filter(name -> key.equals("gold"));
        }

        @Override
        public Optional<String> channel(String key) {
            return Optional.of(key).filter(known -> known.equals("chat") || known.equals("email"));
        }

        @Override
        public Optional<String> queue(QueueId queue) {
            return Optional.of("Queue " + queue).filter(name -> queue.value() <= 3);
        }

        @Override
        public Optional<String> skill(SkillId skill) {
            return Optional.of("Skill " + skill).filter(name -> skill.value() <= 4);
        }
    };

    static final List<Act> ALL = List.of(
            new Act.Several(List.of(
                    new Act.Several.One(new Act.SetTopic("slots"), Optional.empty()),
                    new Act.Several.One(new Act.SetPriority(Priority.P2), Optional.of("P3")))),
            new Act.Watch(new PersonId(3), true),
            new Act.SetTask(OptionalInt.empty(), "Ask", Optional.of(new PersonId(2)), Optional.of(NOW)),
            new Act.AnswerBy(new Way("chat", OptionalLong.of(4))),
            new Act.TickTask(1, true),
            new Act.DropTask(1, true),
            new Act.OrderTask(1, 0),
            new Act.SpendTime(
                    OptionalInt.of(1),
                    new Work.Spent(new PersonId(1), NOW, Duration.ofMinutes(5), "call", true, "a note")),
            new Act.DropTime(1, false),
            new Act.Conclude(new Work.Resolution("was", "done", "cause")),
            new Act.PutUnder(Optional.of(new TicketNumber(1))),
            new Act.Split(new MessageId(8), "Another matter"),
            new Act.PutBack(new MessageId(8)),
            new Act.LogCall(
                    OptionalInt.of(1),
                    new Call.Said(true, new PersonId(1), NOW.minusSeconds(9), Duration.ofMinutes(3), "Dov", "notes")),
            new Act.DropCall(1, true),
            new Act.SetMeeting(
                    OptionalInt.empty(),
                    new Meeting.Plan(
                            "Look at it",
                            NOW.plusSeconds(9000),
                            Duration.ofHours(1),
                            "the quay",
                            List.of("dov@brightwater.example"))),
            new Act.CallOffMeeting(1, true),
            new Act.AskHelp(new Help.Wanted(
                    Optional.of(new PersonId(2)), Optional.empty(), "Look at it", Optional.of(NOW.plusSeconds(60)))),
            new Act.EndHelp(1, "Done", false),
            new Act.ReopenHelp(1),
            new Act.WatchFor(new PersonId(1), Set.of(Interest.STATE)),
            new Act.WaitFor(Set.of(Await.Happening.TASK), "Ask for the seal"),
            new Act.AskBeside(Optional.of(new PersonId(2)), Optional.empty(), "Is it free?"),
            new Act.AnswerBeside(1, "It is"),
            new Act.DropBeside(1),
            new Act.Carry("own-3-number", "own-4-number"),
            new Act.HandToPerson(Optional.of(new PersonId(1))),
            new Act.HandToPerson(Optional.empty()),
            new Act.HandOver(new TeamId(2)),
            new Act.HandBack(new TeamId(2), Optional.of(new TeamId(1)), Optional.empty()),
            new Act.MoveTo("with-partner"),
            new Act.SetPriority(Priority.P1),
            new Act.RaisePriority(),
            new Act.SetTopic("billing"),
            new Act.SetTags(Set.of("lost")),
            new Act.Tag("Storm "),
            new Act.Untag("lost"),
            new Act.Fill("own-1-number", " 14 "),
            new Act.AgreeTime(Optional.of(NOW.plusSeconds(9000)), "asked for it"),
            new Act.AgreeTime(Optional.empty(), ""),
            new Act.BringBack(Optional.of(NOW.plusSeconds(9000))),
            new Act.BringBack(Optional.empty()),
            new Act.Note("Look"),
            new Act.TakeNoteBack(new MessageId(7)),
            new Act.Answer("Hello {first name}", Turn.PARTNER),
            new Act.Notify(Act.Whom.LEAD, "", "{ticket} is late"),
            new Act.Join(new TicketNumber(4472)),
            new Act.Part(new TicketNumber(7)),
            new Act.NoRequest(true),
            new Act.Delete(),
            new Act.Restore(),
            new Act.PutPolicy("gold"),
            new Act.PutPolicy(""),
            new Act.PutIntoQueue(Optional.of(new QueueId(3))),
            new Act.PutIntoQueue(Optional.empty()),
            new Act.PutSkill(new SkillId(4), Steering.Need.NEEDED),
            new Act.PutSkill(new SkillId(4), Steering.Need.BY_ITSELF));

    private static Ticket opened(TicketEvent... more) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.Opened(
                NOW.minusSeconds(60),
                new Actor.Contact(new ContactId(7)),
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot",
                new ContactId(7),
                Priority.P3,
                Optional.of(new TeamId(1))));
        events.addAll(List.of(more));
        return Ticket.replay(events);
    }

    private static TicketEvent owned(long by, long owner) {
        return new TicketEvent.OwnerChanged(NOW, new Actor.Person(new PersonId(by)), Optional.of(new PersonId(owner)));
    }

    private static Decision decide(Ticket ticket, Act act, Doer doer) {
        return Conduct.decide(new TicketNumber(NUMBER), ticket, act, doer, HOUSE, NOW, Optional.empty());
    }

    private static Ticket after(Ticket ticket, Decision decision) {
        Ticket next = ticket;
        for (TicketEvent event : ((Decision.Done) decision).events()) {
            next = next.after(event);
        }
        return next;
    }

    private static void refuses(Decision decision, Decision.Why why, String words) {
        assertThat(decision).isInstanceOfSatisfying(Decision.Refused.class, refused -> {
            assertThat(refused.why()).isEqualTo(why);
            assertThat(refused.words()).contains(words, "Nothing was changed");
        });
    }

    @Test
    void nothing_is_no_act() {
        assertThatThrownBy(() -> ActJson.read("null")).isInstanceOf(JacksonException.class);
        assertThatThrownBy(() -> ActJson.readUndo("null")).isInstanceOf(JacksonException.class);
        assertThatThrownBy(() -> ActJson.readUndo("{}")).isInstanceOf(JacksonException.class);
    }

    @Test
    void every_act_there_is_is_tried_here() {
        Stream<Class<?>> all = Stream.of(Act.class, Act.Automatic.class, Act.OfWork.class, Act.OfSteering.class)
                .flatMap(of -> Stream.of(of.getPermittedSubclasses()))
                .filter(Class::isRecord);
        assertThat(ALL.stream().map(Object::getClass).distinct()).containsExactlyInAnyOrderElementsOf(all.toList());
    }

    @ParameterizedTest
    @FieldSource("ALL")
    void an_act_is_read_back_from_json_as_it_was_written(Act act) {
        assertThat(ActJson.read(ActJson.write(act))).isEqualTo(act);
        var undo = new Decision.Undo(act, Optional.of("P3"));
        assertThat(ActJson.readUndo(ActJson.write(undo))).isEqualTo(undo);
    }

    @Test
    void done_twice_nothing_happens_the_second_time_and_taking_it_back_brings_back_what_was() {
        for (int seed = 0; seed < Seeds.rounds(400); seed++) {
            var random = new Random(seed);
            Ticket ticket = Ticket.replay(RandomHistory.of(seed));
            Act act = ALL.get(random.nextInt(ALL.size()));
            if (!(decide(ticket, act, ODILE) instanceof Decision.Done done)
                    || done.events().isEmpty()) {
                continue;
            }
            Ticket changed = after(ticket, done);
            if (Conduct.standing(ticket, act).isPresent()) {
                assertThat(decide(changed, act, ODILE))
                        .as("%s on seed %s", act, seed)
                        .isEqualTo(new Decision.Done(List.of(), Optional.empty()));
            }
            done.undo().ifPresent(undo -> {
                Decision back =
                        Conduct.decide(new TicketNumber(NUMBER), changed, undo.act(), ODILE, HOUSE, NOW, undo.seen());
                if (back instanceof Decision.Refused refused) {
                    assertThat(refused.words())
                            .as("a time that has passed meanwhile cannot be set again")
                            .contains("has passed");
                    return;
                }
                Ticket restored = after(changed, back);
                assertThat(Conduct.standing(restored, act))
                        .as("%s on the way back", act)
                        .isEqualTo(Conduct.standing(ticket, act));
                assertThat(restored.owner()).isEqualTo(ticket.owner());
                assertThat(restored.team()).isEqualTo(ticket.team());
                assertThat(restored.tags()).isEqualTo(ticket.tags());
                assertThat(restored.state()).isEqualTo(ticket.state());
                assertThat(restored.discarded()).isEqualTo(ticket.discarded());
                assertThat(restored.joined()).isEqualTo(ticket.joined());
            });
        }
    }

    @Test
    void what_a_colleague_owns_is_handed_on_by_leads_and_by_who_handed_it_to_them_and_by_nobody_else() {
        var toSefa = new Act.HandToPerson(Optional.of(new PersonId(3)));
        refuses(decide(opened(owned(2, 2)), toSefa, IMANI), Decision.Why.NO_RIGHT, "colleague");
        assertThat(decide(opened(owned(1, 2)), toSefa, IMANI)).isInstanceOf(Decision.Done.class);
        assertThat(decide(opened(owned(2, 2)), toSefa, ODILE)).isInstanceOf(Decision.Done.class);
        assertThat(decide(opened(owned(2, 2)), new Act.HandToPerson(Optional.of(new PersonId(1))), IMANI))
                .as("anybody may make it theirs")
                .isInstanceOf(Decision.Done.class);
        assertThat(decide(opened(owned(2, 1)), toSefa, IMANI)).as("one's own").isInstanceOf(Decision.Done.class);
        refuses(
                decide(opened(owned(2, 2)), new Act.HandOver(new TeamId(2)), IMANI),
                Decision.Why.NO_RIGHT,
                "colleague");
        refuses(
                decide(opened(), new Act.HandToPerson(Optional.of(new PersonId(9))), ODILE),
                Decision.Why.INVALID,
                "does not work here");
        refuses(decide(opened(), new Act.HandOver(new TeamId(9)), ODILE), Decision.Why.INVALID, "no such team");
    }

    @Test
    void to_a_team_it_goes_without_its_owner_and_comes_back_with_them_unless_it_was_handed_on() {
        Ticket ticket = opened(owned(2, 2));
        Decision.Done done = (Decision.Done) decide(ticket, new Act.HandOver(new TeamId(2)), ODILE);
        Ticket handed = after(ticket, done);
        assertThat(handed.owner()).isEmpty();
        assertThat(handed.team()).hasValue(new TeamId(2));
        Act back = done.undo().orElseThrow().act();
        Ticket returned = after(handed, decide(handed, back, ODILE));
        assertThat(returned.owner()).hasValue(new PersonId(2));
        assertThat(returned.team()).hasValue(new TeamId(1));
        refuses(decide(handed.after(owned(3, 3)), back, ODILE), Decision.Why.STALE, "handed on meanwhile");
    }

    @Test
    void what_somebody_changed_meanwhile_is_not_written_over() {
        Ticket ticket = opened(new TicketEvent.PriorityChanged(NOW, new Actor.Person(new PersonId(2)), Priority.P1));
        refuses(
                Conduct.decide(
                        new TicketNumber(NUMBER),
                        ticket,
                        new Act.SetPriority(Priority.P4),
                        IMANI,
                        HOUSE,
                        NOW,
                        Optional.of("P3")),
                Decision.Why.STALE,
                "is P1 now");
        refuses(
                Conduct.decide(
                        new TicketNumber(NUMBER),
                        opened(owned(2, 2)),
                        new Act.HandToPerson(Optional.of(new PersonId(1))),
                        IMANI,
                        HOUSE,
                        NOW,
                        Optional.of("")),
                Decision.Why.STALE,
                "Person 2 owns");
        assertThat(Conduct.decide(
                        new TicketNumber(NUMBER),
                        ticket,
                        new Act.SetPriority(Priority.P4),
                        IMANI,
                        HOUSE,
                        NOW,
                        Optional.of("P1")))
                .isInstanceOf(Decision.Done.class);
    }

    @Test
    void a_policy_a_queue_and_skills_are_put_on_it_and_only_such_as_there_are() {
        Ticket ticket = opened();
        Ticket put = after(ticket, decide(ticket, new Act.PutPolicy("gold"), ODILE));
        put = after(put, decide(put, new Act.PutIntoQueue(Optional.of(new QueueId(3))), IMANI));
        put = after(put, decide(put, new Act.PutSkill(new SkillId(4), Steering.Need.NEEDED), IMANI));
        put = after(put, decide(put, new Act.PutSkill(new SkillId(2), Steering.Need.SPARED), IMANI));
        assertThat(put.steering())
                .isEqualTo(new Steering(
                        "gold", Optional.of(new QueueId(3)), Set.of(new SkillId(4)), Set.of(new SkillId(2))));
        put = after(put, decide(put, new Act.PutSkill(new SkillId(4), Steering.Need.SPARED), IMANI));
        assertThat(put.steering().need(new SkillId(4))).isEqualTo(Steering.Need.SPARED);
        assertThat(put.steering().need(new SkillId(9))).isEqualTo(Steering.Need.BY_ITSELF);
        refuses(decide(ticket, new Act.PutPolicy("gold"), IMANI), Decision.Why.NO_RIGHT, "for leads");
        refuses(decide(ticket, new Act.PutPolicy("silver"), ODILE), Decision.Why.INVALID, "no such policy");
        refuses(
                decide(ticket, new Act.PutIntoQueue(Optional.of(new QueueId(9))), ODILE),
                Decision.Why.INVALID,
                "no such queue");
        refuses(
                decide(ticket, new Act.PutSkill(new SkillId(9), Steering.Need.NEEDED), ODILE),
                Decision.Why.INVALID,
                "no such skill");
    }

    @Test
    void in_the_bin_or_joined_nothing_is_done_but_bringing_it_out() {
        Ticket binned = opened(new TicketEvent.Discarded(NOW, new Actor.Person(new PersonId(1)), Conduct.NO_REQUEST));
        Ticket joined = opened(new TicketEvent.Joined(NOW, new Actor.Person(new PersonId(1)), new TicketNumber(7)));
        for (Act act : ALL) {
            boolean brings = act instanceof Act.Restore
                    || act instanceof Act.Part
                    || act instanceof Act.TakeNoteBack
                    || act instanceof Act.Notify;
            boolean bins = act instanceof Act.Delete || act instanceof Act.NoRequest;
            if (!brings) {
                refuses(decide(joined, act, ODILE), Decision.Why.INVALID, "goes on in ticket 7");
            }
            if (!brings && !bins) {
                refuses(decide(binned, act, ODILE), Decision.Why.INVALID, "is in the bin");
            }
        }
        assertThat(after(binned, decide(binned, new Act.Restore(), IMANI)).discarded())
                .isFalse();
        assertThat(after(joined, decide(joined, new Act.Part(new TicketNumber(7)), IMANI))
                        .joinedInto())
                .isEmpty();
        refuses(decide(joined, new Act.Part(new TicketNumber(8)), IMANI), Decision.Why.STALE, "no part of ticket 8");
    }

    @Test
    void only_some_may_delete_and_bring_back_what_was_deleted() {
        refuses(decide(opened(), new Act.Delete(), IMANI), Decision.Why.NO_RIGHT, "administrators delete");
        assertThat(decide(opened(), new Act.NoRequest(false), IMANI)).isInstanceOf(Decision.Done.class);
        Ticket deleted = after(opened(), decide(opened(), new Act.Delete(), ODILE));
        refuses(decide(deleted, new Act.Restore(), IMANI), Decision.Why.NO_RIGHT, "deleted");
        assertThat(decide(deleted, new Act.Restore(), ODILE)).isInstanceOf(Decision.Done.class);
    }

    @Test
    void times_lie_ahead_and_belong_to_tickets_that_are_worked_on() {
        refuses(decide(opened(), new Act.BringBack(Optional.of(NOW)), IMANI), Decision.Why.INVALID, "has passed");
        refuses(
                decide(opened(), new Act.AgreeTime(Optional.of(NOW.plus(Duration.ofDays(731))), ""), IMANI),
                Decision.Why.INVALID,
                "two years");
        refuses(
                decide(opened(), new Act.AgreeTime(Optional.of(NOW.plusSeconds(60)), "x".repeat(201)), IMANI),
                Decision.Why.INVALID,
                "200 letters");
        Ticket resolved =
                opened(new TicketEvent.StateChanged(NOW, new Actor.Person(new PersonId(1)), TicketState.RESOLVED));
        refuses(
                decide(resolved, new Act.BringBack(Optional.of(NOW.plusSeconds(60))), IMANI),
                Decision.Why.INVALID,
                "is resolved");
    }

    @Test
    void what_is_typed_must_fit() {
        refuses(decide(opened(), new Act.SetTopic("x".repeat(61)), IMANI), Decision.Why.INVALID, "sixty letters");
        refuses(decide(opened(), new Act.Tag("a,b"), IMANI), Decision.Why.INVALID, "one tag");
        refuses(decide(opened(), new Act.Tag("x".repeat(41)), IMANI), Decision.Why.INVALID, "forty letters");
        refuses(decide(opened(), new Act.Fill("own-1-number", "many"), IMANI), Decision.Why.INVALID, "metres");
        refuses(decide(opened(), new Act.MoveTo("nowhere"), IMANI), Decision.Why.INVALID, "no such state");
        refuses(decide(opened(), new Act.Note("  "), IMANI), Decision.Why.INVALID, "no words in the note");
        refuses(decide(opened(), new Act.Join(new TicketNumber(NUMBER)), IMANI), Decision.Why.INVALID, "joined into");
        assertThat(after(opened(), decide(opened(), new Act.Tag(" STORM "), IMANI))
                        .tags())
                .containsExactly("storm");
        assertThat(after(opened(), decide(opened(), new Act.Fill("own-1-number", " 14 "), IMANI))
                        .own())
                .containsEntry("own-1-number", "14");
    }

    @Test
    void what_can_be_done_to_no_ticket_is_known_before_any_is_tried() {
        assertThat(Conduct.hindrance(new Act.MoveTo("nowhere"), IMANI, HOUSE, NOW))
                .isPresent();
        assertThat(Conduct.hindrance(new Act.Delete(), IMANI, HOUSE, NOW)).isPresent();
        assertThat(Conduct.hindrance(new Act.Delete(), ODILE, HOUSE, NOW)).isEmpty();
        assertThat(Conduct.hindrance(new Act.Answer(" ", Turn.CUSTOMER), IMANI, HOUSE, NOW))
                .isPresent();
        assertThat(Conduct.hindrance(new Act.HandToPerson(Optional.of(new PersonId(2))), IMANI, HOUSE, NOW))
                .isEmpty();
    }

    @ParameterizedTest
    @FieldSource("ALL")
    void every_act_has_its_words(Act act) {
        assertThat(ActWords.of(act, HOUSE, Instant::toString)).isNotBlank().matches("[A-Z].*[^.]");
    }

    @Test
    void answers_go_by_another_way_where_there_is_one_and_policies_that_ask_for_the_channel_follow() {
        Ticket ticket = opened();
        var chat = new Act.AnswerBy(new Way("chat", OptionalLong.of(4)));
        Decision.Done done = (Decision.Done) decide(ticket, chat, IMANI);
        assertThat(after(ticket, done).way()).isEqualTo(chat.way());
        assertThat(done.undo().orElseThrow().act()).isEqualTo(new Act.AnswerBy(ticket.way()));
        refuses(
                decide(ticket, new Act.AnswerBy(Way.by("pigeon")), IMANI),
                Decision.Why.INVALID,
                "There is no such channel");
    }

    @Test
    void the_priority_rises_to_the_highest_and_no_further() {
        Ticket ticket = opened();
        for (Priority next : List.of(Priority.P2, Priority.P1, Priority.P1)) {
            ticket = after(ticket, decide(ticket, new Act.RaisePriority(), Doer.rafter()));
            assertThat(ticket.priority()).isEqualTo(next);
        }
    }

    @Test
    void a_step_is_not_read_that_does_what_a_person_must_answer_for() {
        String step =
                "{\"id\":\"s\",\"objective\":\"RESOLUTION\",\"when\":{\"when\":\"used\",\"percent\":50},\"acts\":[{\"act\":\"%s\"}]}";
        assertThat(JsonMapper.shared()
                        .readValue(step.formatted("raise-priority"), Step.class)
                        .acts())
                .containsExactly(new Act.RaisePriority());
        assertThatThrownBy(() -> JsonMapper.shared().readValue(step.formatted("delete"), Step.class))
                .isInstanceOf(JacksonException.class);
    }

    @Test
    void what_is_carried_over_leaves_what_stands_there_already() {
        var metres = new TicketEvent.FieldSet(NOW, IMANI.actor(), "own-3-number", "12");
        Ticket filled = opened(metres);
        Decision carried = decide(filled, new Act.Carry("own-3-number", "own-4-number"), IMANI);
        assertThat(after(filled, carried).own()).containsEntry("own-4-number", "12");
        Ticket both = filled.after(new TicketEvent.FieldSet(NOW, IMANI.actor(), "own-4-number", "7"));
        assertThat(((Decision.Done) decide(both, new Act.Carry("own-3-number", "own-4-number"), IMANI)).events())
                .isEmpty();
        assertThat(((Decision.Done) decide(both, new Act.Carry("own-9-number", "own-4-number"), IMANI)).events())
                .isEmpty();
    }
}
