package rafter.app.promises.hours;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.time.Entry;
import rafter.core.time.Repeat;
import rafter.core.time.RepeatWords;

class EntryFormTest {

    @ParameterizedTest
    @ValueSource(
            strings = {
                "FREQ=DAILY",
                "FREQ=DAILY;INTERVAL=3",
                "FREQ=WEEKLY;BYDAY=MO,TH",
                "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR",
                "FREQ=MONTHLY",
                "FREQ=MONTHLY;BYDAY=2SU",
                "FREQ=MONTHLY;BYDAY=-1FR",
                "FREQ=YEARLY",
                "FREQ=YEARLY;BYMONTH=5;BYDAY=1MO",
                "FREQ=MONTHLY;BYDAY=MO,TU,WE;BYSETPOS=-1",
                "FREQ=WEEKLY;COUNT=4;BYDAY=MO"
            })
    void an_entry_comes_back_from_its_form_as_it_went(String rule) {
        var until = rule.contains("COUNT")
                ? Optional.<LocalDateTime>empty()
                : Optional.of(LocalDateTime.parse("2028-01-01T23:59:59"));
        Entry entry = new Entry(
                        "e",
                        "Market",
                        Entry.Kind.OPENING,
                        true,
                        false,
                        LocalDateTime.parse("2027-05-03T22:00"),
                        LocalDateTime.parse("2027-05-04T06:00"),
                        Optional.of(new Repeat(rule, until)),
                        new TreeSet<>(List.of(LocalDateTime.parse("2027-05-10T22:00"))),
                        new TreeSet<>(),
                        Optional.empty())
                .synchronised();
        assertThat(EntryForm.of(entry).entry()).isEqualTo(entry);
    }

    @Test
    void several_whole_days_and_midnight_as_an_end_come_back_too() {
        Entry days = Entry.of(
                "e",
                "Yard closed",
                Entry.Kind.CLOSING,
                LocalDateTime.parse("2027-12-27T00:00"),
                LocalDateTime.parse("2027-12-29T00:00"),
                Optional.empty());
        assertThat(EntryForm.of(days).entry()).isEqualTo(days);
        Entry evening = Entry.of(
                "e",
                "",
                Entry.Kind.OPENING,
                LocalDateTime.parse("2027-12-27T18:00"),
                LocalDateTime.parse("2027-12-28T00:00"),
                Optional.empty());
        assertThat(EntryForm.of(evening).to()).isEqualTo("24:00");
        assertThat(EntryForm.of(evening).entry()).isEqualTo(evening);
    }

    @Test
    void a_new_opening_is_on_weekdays_and_a_new_closing_all_day() {
        LocalDate monday = LocalDate.of(2027, 3, 1);
        assertThat(RepeatWords.sentence(EntryForm.empty("OPENING", monday).entry()))
                .startsWith("Every week on Monday to Friday")
                .endsWith("08:00 to 17:00");
        assertThat(RepeatWords.sentence(EntryForm.empty("CLOSING", monday).entry()))
                .isEqualTo("Closed once, Mon 1 Mar 2027, all day");
    }

    private static EntryForm typed(String first, String from, String last, String rule, String zone, boolean allDay) {
        return new EntryForm(
                "new", "CLOSING", "", false, allDay, first, from, "17:00", last, "rule", "1", List.of(), "1", "", "",
                rule, "", "", zone);
    }

    @Test
    void what_is_wrong_is_said_in_words() {
        assertThatThrownBy(() ->
                        typed("soon", "08:00", "", "FREQ=DAILY", "", false).entry())
                .hasMessageContaining("first day is not a date");
        assertThatThrownBy(() ->
                        typed("2027-03-01", "8 h", "", "FREQ=DAILY", "", false).entry())
                .hasMessageContaining("beginning is not a time of day");
        assertThatThrownBy(() -> typed("2027-03-02", "", "2027-03-01", "FREQ=DAILY", "", true)
                        .entry())
                .hasMessageContaining("last day is before the first");
        assertThatThrownBy(() -> typed("2027-03-01", "08:00", "", "FREQ=NEVER", "", false)
                        .entry())
                .hasMessageContaining("RFC 5545");
        assertThatThrownBy(() -> typed("2027-03-01", "08:00", "", "", "", false).entry())
                .hasMessageContaining("RFC 5545");
        assertThatThrownBy(() -> typed("2027-03-01", "08:00", "", "FREQ=DAILY", "Moon/Crater", false)
                        .entry())
                .hasMessageContaining("is not a time zone");
    }
}
