package rafter.core.chat;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.ticket.Turn;

class ShownTest {

    private static final Instant NOW = Instant.parse("2027-03-01T10:00:00Z");
    private static final Duration HOUR = Duration.ofHours(1);

    private static Visit on(String path, String language) {
        return new Visit(path, language, "", Map.of());
    }

    private static Opener opener(long id, String pages, String language) {
        return new Opener(id, id, "Question " + id, new Pages(pages), language);
    }

    private static List<Long> ids(List<Opener> openers) {
        return openers.stream().map(Opener::id).toList();
    }

    @Test
    void pages_are_named_whole_or_by_how_they_begin() {
        assertThat(new Pages("").has("/anything")).isTrue();
        assertThat(new Pages("/lost").has("/lost")).isTrue();
        assertThat(new Pages("/lost").has("/lost/2")).isFalse();
        assertThat(new Pages("/book, /lost*").has("/lost/2")).isTrue();
        assertThat(new Pages("/book /lost*").has("/freight")).isFalse();
    }

    @Test
    void openers_stand_in_the_language_of_the_page_and_else_in_that_of_everybody() {
        List<Opener> all = List.of(opener(1, "", ""), opener(2, "", "de"), opener(3, "/lost*", "no"));
        assertThat(ids(Opener.shown(all, on("/", "de-AT")))).containsExactly(2L);
        assertThat(ids(Opener.shown(all, on("/", "no")))).containsExactly(1L);
        assertThat(ids(Opener.shown(all, on("/lost", "no")))).containsExactly(3L);
        assertThat(ids(Opener.shown(all, on("/", "")))).containsExactly(1L);
    }

    @Test
    void no_more_openers_are_shown_than_can_be_looked_over() {
        List<Opener> all = java.util.stream.LongStream.range(0, 20)
                .mapToObj(id -> opener(id, "", ""))
                .toList();
        assertThat(ids(Opener.shown(all, on("/", "")))).containsExactly(0L, 1L, 2L, 3L, 4L, 5L);
    }

    private static final Invite FREIGHT =
            new Invite(1, "Shall we look for a slot?", new Pages("/freight*"), Duration.ofSeconds(30), "", HOUR);
    private static final Invite UMBRELLA = new Invite(
            2, "Did you lose something?", new Pages(""), Duration.ZERO, "umbrella, lost bag", HOUR.multipliedBy(24));

    private static Optional<Long> invited(String path, String searched, Map<Long, Instant> shown) {
        return Invite.chosen(List.of(FREIGHT, UMBRELLA), new Visit(path, "en", searched, shown), NOW)
                .map(Invite::id);
    }

    @Test
    void somebody_is_invited_where_the_page_fits_and_they_searched_for_it() {
        assertThat(invited("/freight/slots", "", Map.of())).contains(1L);
        assertThat(invited("/timetable", "", Map.of())).isEmpty();
        assertThat(invited("/timetable", "my UMBRELLA!", Map.of())).contains(2L);
        assertThat(invited("/timetable", "lost a bag", Map.of())).isEmpty();
        assertThat(invited("/timetable", "the lost bag", Map.of())).contains(2L);
    }

    @Test
    void nobody_is_invited_more_often_than_is_set_nor_by_two_at_once() {
        assertThat(invited("/freight", "", Map.of(1L, NOW.minus(HOUR)))).contains(1L);
        assertThat(invited("/freight", "", Map.of(1L, NOW.minus(HOUR).plusSeconds(1))))
                .isEmpty();
        assertThat(invited("/freight", "umbrella", Map.of(1L, NOW.minus(Duration.ofMinutes(40)))))
                .contains(2L);
        assertThat(invited("/freight", "umbrella", Map.of(1L, NOW.minus(Duration.ofMinutes(20)))))
                .isEmpty();
    }

    @Test
    void it_is_open_within_the_hours_while_somebody_takes_work() {
        var next = Optional.of(NOW.plus(HOUR));
        assertThat(Doors.of(true, true, next, 1)).isEqualTo(new Doors.Open());
        assertThat(Doors.of(true, true, next, 0)).isEqualTo(new Doors.Closed(Doors.Why.NOBODY, Optional.empty()));
        assertThat(Doors.of(true, false, next, 3)).isEqualTo(new Doors.Closed(Doors.Why.HOURS, next));
        assertThat(Doors.of(false, true, next, 3)).isEqualTo(new Doors.Closed(Doors.Why.BY_HAND, Optional.empty()));
    }

    private static Departure gone(Duration since, Turn turn, boolean unseen, boolean reachable) {
        return Departure.of(NOW.minus(since), NOW, Duration.ofMinutes(10), turn, unseen, reachable);
    }

    @Test
    void who_is_gone_and_waits_for_an_answer_gets_it_by_mail() {
        Duration long_ = Duration.ofMinutes(10);
        assertThat(gone(long_.minusMillis(1), Turn.OURS, true, true)).isEqualTo(Departure.STAYS);
        assertThat(gone(long_, Turn.OURS, false, true)).isEqualTo(Departure.GOES_ON_BY_MAIL);
        assertThat(gone(long_, Turn.CUSTOMER, true, true)).isEqualTo(Departure.GOES_ON_BY_MAIL);
        assertThat(gone(long_, Turn.CUSTOMER, false, true)).isEqualTo(Departure.ENDS);
        assertThat(gone(long_, Turn.OURS, true, false)).isEqualTo(Departure.ENDS);
    }
}
