package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.FieldSource;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.json.NewerVersion;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class EventJsonTest {

    private static final Instant AT = Instant.parse("2027-03-01T09:00:00.123456Z");
    private static final Actor DOV = new Actor.Contact(new ContactId(7));
    private static final Actor IMANI = new Actor.Person(new PersonId(1));
    private static final Actor RAFTER = Actor.system();
    private static final TicketState OWN_STATE = new TicketState("own", "A state of ours", Turn.PARTNER, false);
    private static final TicketEvent.CustomerKnown UNKNOWN = new TicketEvent.CustomerKnown(Optional.empty(), "");

    /** What each line of the recorded file says; the file is only ever added to. */
    static final List<TicketEvent> RECORDED = List.of(
            new TicketEvent.Opened(
                    AT,
                    DOV,
                    TicketEvent.Origin.CUSTOMER,
                    Way.by("email"),
                    "Slot “å”",
                    new ContactId(7),
                    Priority.P3,
                    Optional.of(new TeamId(2))),
            new TicketEvent.Opened(
                    AT,
                    IMANI,
                    TicketEvent.Origin.OURS,
                    new Way("email", OptionalLong.of(4)),
                    "",
                    new ContactId(7),
                    Priority.P1,
                    Optional.empty()),
            new TicketEvent.Opened(
                    AT,
                    DOV,
                    TicketEvent.Origin.CUSTOMER,
                    Way.by("email"),
                    "Slot “å”",
                    new ContactId(7),
                    Priority.P3,
                    Optional.of(new TeamId(2))),
            new TicketEvent.Opened(
                    AT,
                    IMANI,
                    TicketEvent.Origin.OURS,
                    new Way("email", OptionalLong.of(4)),
                    "",
                    new ContactId(7),
                    Priority.P1,
                    Optional.empty()),
            new TicketEvent.CustomerWrote(AT, DOV, new MessageId(5), true),
            new TicketEvent.CustomerWrote(AT, DOV, new MessageId(5), false),
            new TicketEvent.CustomerWrote(AT, DOV, new MessageId(5), true),
            new TicketEvent.WeWrote(AT, RAFTER, new MessageId(5_000_000_000L), true),
            new TicketEvent.WeWrote(AT, IMANI, new MessageId(6), false),
            new TicketEvent.WeWrote(AT, IMANI, new MessageId(6), false),
            new TicketEvent.NoteAdded(AT, IMANI, new MessageId(7)),
            new TicketEvent.NoteTakenBack(AT, IMANI, new MessageId(7)),
            new TicketEvent.Bounced(AT, RAFTER, new MessageId(8)),
            new TicketEvent.StateChanged(AT, IMANI, TicketState.RESOLVED),
            new TicketEvent.StateChanged(AT, IMANI, OWN_STATE),
            new TicketEvent.PriorityChanged(AT, IMANI, Priority.P4),
            new TicketEvent.OwnerChanged(AT, IMANI, Optional.of(new PersonId(3))),
            new TicketEvent.OwnerChanged(AT, IMANI, Optional.empty()),
            new TicketEvent.OwnerChanged(AT, IMANI, Optional.empty()),
            new TicketEvent.TeamChanged(AT, IMANI, Optional.of(new TeamId(3))),
            new TicketEvent.TeamChanged(AT, IMANI, Optional.empty()),
            new TicketEvent.TeamChanged(AT, IMANI, Optional.of(new TeamId(3))),
            new TicketEvent.TopicChanged(AT, IMANI, "lost items"),
            new TicketEvent.TagsChanged(AT, IMANI, Set.of("lost", "urgent")),
            new TicketEvent.TagsChanged(AT, IMANI, Set.of()),
            new TicketEvent.FieldSet(AT, IMANI, "own-3-text", "Été"),
            new TicketEvent.Linked(AT, RAFTER, new TicketNumber(4001), "that ticket was over"),
            new TicketEvent.Unlinked(AT, IMANI, new TicketNumber(4002), "it is a ticket of its own again"),
            new TicketEvent.Continued(AT, RAFTER, new TicketNumber(4010), "that ticket was over"),
            new TicketEvent.CustomerChanged(
                    AT, RAFTER, UNKNOWN, new TicketEvent.CustomerKnown(Optional.of(new CompanyId(3)), "Anchor")),
            new TicketEvent.CustomerChanged(
                    AT, RAFTER, UNKNOWN, new TicketEvent.CustomerKnown(Optional.of(new CompanyId(3)), "Anchor")),
            new TicketEvent.Joined(AT, IMANI, new TicketNumber(4002)),
            new TicketEvent.Parted(AT, IMANI, new TicketNumber(4002)),
            new TicketEvent.Discarded(AT, IMANI, "not a request"),
            new TicketEvent.Restored(AT, IMANI),
            new TicketEvent.TimeAgreed(
                    AT, IMANI, Optional.of(Instant.parse("2027-03-02T09:00:00.123456Z")), "they are away"),
            new TicketEvent.TimeAgreed(AT, IMANI, Optional.empty(), ""),
            new TicketEvent.TimeAgreed(AT, IMANI, Optional.empty(), ""),
            new TicketEvent.BringBackSet(AT, IMANI, Optional.of(AT.plusNanos(1000))),
            new TicketEvent.BringBackSet(AT, IMANI, Optional.empty()),
            new TicketEvent.BringBackSet(AT, IMANI, Optional.of(AT.plusNanos(1000))),
            new TicketEvent.BroughtBack(AT, RAFTER),
            new TicketEvent.Watched(AT, IMANI, new PersonId(3), true),
            new TicketEvent.TaskSet(AT, IMANI, 1, "Ask the crew", Optional.of(new PersonId(3)), Optional.of(AT)),
            new TicketEvent.TaskSet(AT, IMANI, 2, "Look “there”", Optional.empty(), Optional.empty()),
            new TicketEvent.TaskTicked(AT, IMANI, 1, true),
            new TicketEvent.TaskDropped(AT, IMANI, 2, true),
            new TicketEvent.TasksOrdered(AT, IMANI, List.of(2, 1)),
            new TicketEvent.TimeSpent(
                    AT,
                    IMANI,
                    1,
                    new Work.Spent(new PersonId(1), AT, Duration.ofMinutes(25), "call", true, "with the crew")),
            new TicketEvent.TimeDropped(AT, IMANI, 1, true),
            new TicketEvent.Concluded(AT, IMANI, new Work.Resolution("Left on deck", "Found it", "mislaid")),
            new TicketEvent.PutUnder(AT, IMANI, Optional.of(new TicketNumber(4001))),
            new TicketEvent.PutUnder(AT, IMANI, Optional.empty()),
            new TicketEvent.WasRated(AT, DOV, Work.Rating.GOOD, "quick"),
            new TicketEvent.WroteOutside(AT, IMANI, new MessageId(9), 3),
            new TicketEvent.OutsideWrote(AT, RAFTER, new MessageId(10), 3, false),
            new TicketEvent.CustomerIs(AT, IMANI, new ContactId(8)),
            new TicketEvent.WayChanged(AT, IMANI, new Way("chat", OptionalLong.of(4))),
            new TicketEvent.SplitOff(AT, IMANI, new MessageId(9), new TicketNumber(4480)),
            new TicketEvent.SplitBack(AT, IMANI, new MessageId(9), new TicketNumber(4480)),
            new TicketEvent.CallLogged(
                    AT,
                    IMANI,
                    1,
                    new Call.Said(true, new PersonId(1), AT, Duration.ofMinutes(3), "Dov", "wants it back")),
            new TicketEvent.CallDropped(AT, IMANI, 1, true),
            new TicketEvent.MeetingSet(
                    AT,
                    IMANI,
                    1,
                    new Meeting.Plan("Look at it", AT, Duration.ofHours(1), "the quay", List.of("dov@x.example"))),
            new TicketEvent.MeetingOff(AT, IMANI, 1, true),
            new TicketEvent.HelpAsked(
                    AT,
                    IMANI,
                    1,
                    new Help.Wanted(Optional.of(new PersonId(2)), Optional.empty(), "Look", Optional.of(AT))),
            new TicketEvent.HelpEnded(AT, IMANI, 1, "It is there", false),
            new TicketEvent.HelpReopened(AT, IMANI, 1),
            new TicketEvent.WatchedFor(AT, IMANI, new PersonId(2), Set.of(Interest.STATE)),
            new TicketEvent.Awaits(AT, IMANI, Optional.of(new Await(Set.of(Await.Happening.TASK), "Ask for the seal"))),
            new TicketEvent.SideAsked(AT, IMANI, 1, Optional.of(new PersonId(2)), Optional.empty(), "Is it free?"),
            new TicketEvent.SideAnswered(AT, IMANI, 1, "It is"),
            new TicketEvent.SideDropped(AT, IMANI, 2),
            new TicketEvent.PublicNoteAdded(AT, IMANI, new MessageId(12)),
            new TicketEvent.PolicyPut(AT, RAFTER, "gold"),
            new TicketEvent.QueuePut(AT, IMANI, Optional.of(new QueueId(3))),
            new TicketEvent.QueuePut(AT, IMANI, Optional.empty()),
            new TicketEvent.SkillPut(AT, IMANI, new SkillId(4), Steering.Need.SPARED));

    private static List<EventJson.Kept> file() {
        try (var in = EventJsonTest.class.getResourceAsStream("/recorded/events.jsonl")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .map(EventJsonTest::kept)
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static EventJson.Kept kept(String line) {
        JsonNode node = JsonMapper.shared().readTree(line);
        return new EventJson.Kept(
                AT,
                node.get("kind").stringValue(),
                node.get("version").intValue(),
                node.get("actor").stringValue(),
                node.get("body").toString());
    }

    private static EventJson.Kept kept(String kind, int version, String body) {
        return new EventJson.Kept(AT, kind, version, "person:1", body);
    }

    @Test
    void every_kind_and_version_ever_written_is_read_as_what_it_meant() {
        assertThat(file().stream().map(EventJson::read)).containsExactlyElementsOf(RECORDED);
    }

    @Test
    void the_recorded_file_has_every_kind_in_every_version() {
        var recorded = new TreeSet<String>();
        file().forEach(kept -> recorded.add(kept.kind() + " " + kept.version()));
        Stream<String> all = Arrays.stream(EventKind.values())
                .flatMap(kind ->
                        IntStream.rangeClosed(1, kind.version()).mapToObj(version -> kind.word() + " " + version));
        assertThat(recorded).containsExactlyInAnyOrderElementsOf(all.toList());
    }

    @Test
    void what_is_written_today_is_what_the_recorded_file_has_of_the_latest_version() {
        List<EventJson.Kept> file = file();
        for (int i = 0; i < file.size(); i++) {
            EventJson.Kept written = EventJson.write(RECORDED.get(i));
            if (file.get(i).version() == written.version()) {
                JsonNode body = JsonMapper.shared().readTree(written.body());
                if (RECORDED.get(i) instanceof TicketEvent.TagsChanged) {
                    assertThat(body.get("tags"))
                            .hasSameSizeAs(JsonMapper.shared()
                                    .readTree(file.get(i).body())
                                    .get("tags"));
                } else {
                    assertThat(body)
                            .isEqualTo(JsonMapper.shared().readTree(file.get(i).body()));
                }
                assertThat(written.actor()).isEqualTo(file.get(i).actor());
            }
        }
    }

    @ParameterizedTest
    @FieldSource("RECORDED")
    void every_event_is_read_back_as_it_was_written(TicketEvent event) {
        assertThat(EventJson.read(EventJson.write(event))).isEqualTo(event);
    }

    @Test
    void there_is_a_kind_for_every_event() {
        assertThat(Arrays.stream(EventKind.values()).map(EventKind::type))
                .containsExactlyInAnyOrder(kinds(TicketEvent.class).toArray(Class[]::new));
    }

    /** The records of a sealed type, those of the sealed types within it among them. */
    private static Stream<Class<?>> kinds(Class<?> type) {
        return type.isSealed()
                ? Arrays.stream(type.getPermittedSubclasses()).flatMap(EventJsonTest::kinds)
                : Stream.of(type);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "topic|{}",
                "topic|{'topic':null}",
                "topic|{'topic':3}",
                "topic|{'topic':'a','more':1}",
                "note|{}",
                "note|{'message':null}",
                "note|{'message':'7'}",
                "note|{'message':7.5}",
                "priority|{'priority':'P9'}",
                "priority|{'priority':1}",
                "linked|{'earlier':1}",
                "tags|{'tags':null}",
                "tags|{}",
                "field|{'field':'own-1-text'}",
                "note|[]"
            })
    void what_is_missing_or_of_another_sort_is_a_defect_and_never_an_empty_text_or_a_zero(String kind, String body) {
        assertThatExceptionOfType(JacksonException.class)
                .isThrownBy(() -> EventJson.read(kept(kind, 1, body.replace('\'', '"'))));
    }

    @ParameterizedTest
    @CsvSource({"robot:3", "person:", "person", "''", "person:x"})
    void nobody_acts_who_is_not_known(String actor) {
        assertThatExceptionOfType(JacksonException.class)
                .isThrownBy(() -> EventJson.read(new EventJson.Kept(AT, "restored", 1, actor, "{}")));
    }

    @Test
    void what_a_newer_version_wrote_is_not_guessed_at() {
        assertThatExceptionOfType(NewerVersion.class)
                .isThrownBy(() -> EventJson.read(kept("novel", 1, "{}")))
                .withMessageContaining("novel");
        assertThatExceptionOfType(NewerVersion.class)
                .isThrownBy(() -> EventJson.read(kept("topic", 2, "{\"topic\":\"a\"}")));
    }
}
