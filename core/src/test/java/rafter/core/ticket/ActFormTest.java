package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** What a person fills in becomes the act that it says, or a sentence that says what is missing. */
class ActFormTest {

    private static final Instant NOON = Instant.parse("2027-03-01T12:00:00Z");

    /** A form that is filled in throughout, in each field something that its forms can read. */
    private static final Map<String, String> FULL = Map.ofEntries(
            Map.entry("person", "3"),
            Map.entry("team", "4"),
            Map.entry("state", "with-partner"),
            Map.entry("priority", "P2"),
            Map.entry("topic", "refunds"),
            Map.entry("tag", "deck"),
            Map.entry("field", "own-1-text"),
            Map.entry("value", "Saltmarsh"),
            Map.entry("due", "noon"),
            Map.entry("why", "they asked"),
            Map.entry("back", "noon"),
            Map.entry("by", "noon"),
            Map.entry("ended", "noon"),
            Map.entry("text", "Hello {customer}"),
            Map.entry("then", "OURS"),
            Map.entry("into", "4471"),
            Map.entry("sender", "true"),
            Map.entry("whom", "ADDRESS"),
            Map.entry("address", "quay@harbour.example"),
            Map.entry("task", "Ring them"),
            Map.entry("amount", "25 m"),
            Map.entry("kind", " reading "),
            Map.entry("note", " by hand "),
            Map.entry("billable", "true"),
            Map.entry("policy", "anchor"),
            Map.entry("queue", "5"),
            Map.entry("skill", "6"),
            Map.entry("was", "The fuse"),
            Map.entry("done", "Turned"),
            Map.entry("cause", "wear"));

    private static ActForm.Filled filled(Map<String, String> typed) {
        return new ActForm.Filled(
                typed, words -> words.equals("noon") ? Optional.of(NOON) : Optional.empty(), Set.of("customer"));
    }

    private static Act with(ActForm form, String... typed) {
        var all = new HashMap<>(FULL);
        for (int i = 0; i < typed.length; i += 2) {
            all.put(typed[i], typed[i + 1]);
        }
        return form.read(filled(all));
    }

    @Test
    void each_form_makes_the_act_it_is_called_after() {
        assertThat(with(ActForm.PERSON)).isEqualTo(new Act.HandToPerson(Optional.of(new PersonId(3))));
        assertThat(with(ActForm.TEAM)).isEqualTo(new Act.HandOver(new TeamId(4)));
        assertThat(with(ActForm.STATE)).isEqualTo(new Act.MoveTo("with-partner"));
        assertThat(with(ActForm.PRIORITY)).isEqualTo(new Act.SetPriority(Priority.P2));
        assertThat(with(ActForm.TOPIC)).isEqualTo(new Act.SetTopic("refunds"));
        assertThat(with(ActForm.TAG)).isEqualTo(new Act.Tag("deck"));
        assertThat(with(ActForm.UNTAG)).isEqualTo(new Act.Untag("deck"));
        assertThat(with(ActForm.FIELD)).isEqualTo(new Act.Fill("own-1-text", "Saltmarsh"));
        assertThat(with(ActForm.DUE)).isEqualTo(new Act.AgreeTime(Optional.of(NOON), "they asked"));
        assertThat(with(ActForm.BACK)).isEqualTo(new Act.BringBack(Optional.of(NOON)));
        assertThat(with(ActForm.NOTE)).isEqualTo(new Act.Note("Hello {customer}"));
        assertThat(with(ActForm.ANSWER)).isEqualTo(new Act.Answer("Hello {customer}", Turn.OURS));
        assertThat(with(ActForm.JOIN)).isEqualTo(new Act.Join(new TicketNumber(4471)));
        assertThat(with(ActForm.NO_REQUEST)).as("their further mail, too").isEqualTo(new Act.NoRequest(true));
        assertThat(with(ActForm.RAISE)).isEqualTo(new Act.RaisePriority());
        assertThat(with(ActForm.NOTIFY))
                .isEqualTo(new Act.Notify(Act.Whom.ADDRESS, "quay@harbour.example", "Hello {customer}"));
        assertThat(with(ActForm.DELETE)).isEqualTo(new Act.Delete());
        assertThat(with(ActForm.RESTORE)).isEqualTo(new Act.Restore());
        assertThat(with(ActForm.WATCH)).isEqualTo(new Act.Watch(new PersonId(3), true));
        assertThat(with(ActForm.POLICY)).isEqualTo(new Act.PutPolicy("anchor"));
        assertThat(with(ActForm.QUEUE)).isEqualTo(new Act.PutIntoQueue(Optional.of(new QueueId(5))));
        assertThat(with(ActForm.SKILL)).isEqualTo(new Act.PutSkill(new SkillId(6), Steering.Need.NEEDED));
        assertThat(with(ActForm.CONCLUDE))
                .isEqualTo(new Act.Conclude(new Work.Resolution("The fuse", "Turned", "wear")));
        assertThat(with(ActForm.TASK))
                .isEqualTo(new Act.SetTask(
                        OptionalInt.empty(), "Ring them", Optional.of(new PersonId(3)), Optional.of(NOON)));
        assertThat(with(ActForm.TIME))
                .isEqualTo(new Act.SpendTime(
                        OptionalInt.empty(),
                        new Work.Spent(
                                new PersonId(3),
                                NOON.minus(Duration.ofMinutes(25)),
                                Duration.ofMinutes(25),
                                "reading",
                                true,
                                "by hand")));
    }

    @ParameterizedTest
    @EnumSource(ActForm.class)
    void a_form_reads_no_field_but_those_it_names_and_is_found_by_its_key(ActForm form) {
        var named = new HashMap<>(FULL);
        // Whose time it is and when it ended is put in by whoever offers the form.
        var beside = form == ActForm.TIME ? Set.of("person", "ended") : Set.<String>of();
        named.keySet().removeIf(field -> !form.fields().contains(field) && !beside.contains(field));
        assertThat(form.read(filled(named))).isEqualTo(form.read(filled(FULL)));
        assertThat(ActForm.of(form.key())).contains(form);
        assertThat(form.fields()).allMatch(FULL::containsKey).doesNotHaveDuplicates();
        assertThat(new HashSet<>(
                        Arrays.stream(ActForm.values()).map(ActForm::words).toList()))
                .as("no two are called alike")
                .hasSize(ActForm.values().length);
    }

    @ParameterizedTest
    @CsvSource({
        "PERSON, person, Imani, Choose a person.",
        "TEAM, team, '', Choose a team.",
        "PRIORITY, priority, p2, Choose a priority.",
        "DUE, due, '', Choose the time that was agreed.",
        "BACK, back, yesterday, Choose when they come back.",
        "NOTE, text, For {custmer} and {x}, 'Nobody knows what {custmer}, {x'",
        "ANSWER, text, {boat}, Nobody knows what {boat}",
        "ANSWER, then, nobody, Choose whose turn it is then.",
        "JOIN, into, 44 71, Write the number",
        "JOIN, into, 99999999999999999999, Write the number",
        "NOTIFY, whom, EVERYBODY, Choose who is told.",
        "NOTIFY, address, quay, “quay” is not a mail address.",
        "TASK, task, '   ', Say what is to be done.",
        "TASK, person, me, Choose a person.",
        "TASK, by, soon, Choose by when the task is to be done.",
        "WATCH, person, '', Choose who watches.",
        "TIME, amount, a while, Write how long it took",
        "TIME, amount, '', Write how long it took",
        "TIME, ended, '', Choose when it ended.",
        "QUEUE, queue, '', Choose a queue.",
        "SKILL, skill, customs, Choose a skill."
    })
    void what_is_missing_or_wrong_is_said_in_words(ActForm form, String field, String typed, String words) {
        assertThatThrownBy(() -> with(form, field, typed))
                .isInstanceOfSatisfying(
                        ActForm.Unfilled.class,
                        unfilled -> assertThat(unfilled.words()).contains(words));
    }

    @Test
    void what_may_be_left_empty_has_a_meaning_of_its_own() {
        assertThat(with(ActForm.PERSON, "person", "")).isEqualTo(new Act.HandToPerson(Optional.empty()));
        assertThat(with(ActForm.ANSWER, "then", "")).isEqualTo(new Act.Answer("Hello {customer}", Turn.CUSTOMER));
        assertThat(with(ActForm.TASK, "person", "", "by", ""))
                .isEqualTo(new Act.SetTask(OptionalInt.empty(), "Ring them", Optional.empty(), Optional.empty()));
        assertThat(with(ActForm.NO_REQUEST, "sender", "")).isNotEqualTo(with(ActForm.NO_REQUEST));
        assertThat(with(ActForm.NOTIFY, "whom", "OWNER", "address", "no address"))
                .as("only who is chosen by an address needs one")
                .isEqualTo(new Act.Notify(Act.Whom.OWNER, "", "Hello {customer}"));
        assertThat(ActForm.of("anything")).isEmpty();
    }

    @Test
    void a_text_has_an_end() {
        String longest = "a".repeat(ActForm.LONGEST);
        assertThat(with(ActForm.NOTE, "text", longest)).isEqualTo(new Act.Note(longest));
        assertThatThrownBy(() -> with(ActForm.NOTE, "text", longest + "a")).hasMessageContaining("at most 50000");
        assertThatThrownBy(() -> with(ActForm.TOPIC, "topic", longest + "a")).hasMessageContaining("at most 50000");
    }
}
