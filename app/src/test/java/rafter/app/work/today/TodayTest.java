package rafter.app.work.today;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.house.notices.Notices;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.writing.Notes;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

@ExtendWith(RunningApp.class)
class TodayTest {

    private static TicketNumber ticket() {
        int n = unique();
        String raw = "From: t" + n + "@post.example\nMessage-ID: <t" + n + "@post.example>\nSubject: Today " + n
                + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static int count(List<Today.Tile> tiles, String title) {
        return tiles.stream()
                .filter(t -> t.title().equals(title))
                .findFirst()
                .orElseThrow()
                .count();
    }

    @Test
    void a_ticket_that_i_take_waits_for_me_and_the_tile_opens_it() {
        int before = count(bean(Today.class).mine(imani()).tiles(), "wait for me");
        bean(Acts.class).perform(ticket(), new Act.HandToPerson(Optional.of(imani().id())), imani());
        Today.Mine mine = bean(Today.class).mine(imani());
        assertThat(count(mine.tiles(), "wait for me")).isEqualTo(before + 1);
        assertThat(mine.tiles().getFirst().address())
                .startsWith("/worklist?view=open&q=")
                .contains("me");
        assertThat(mine.longest()).isNotEmpty().hasSizeLessThanOrEqualTo(6);
    }

    @Test
    void a_lead_sees_who_has_what_and_every_unowned_ticket_in_one_age() {
        bean(Acts.class).perform(ticket(), new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        Today.Floor floor = bean(Floors.class).floor(odile());
        assertThat(floor.loads())
                .filteredOn(l -> l.name().equals("Sefa Tui"))
                .allMatch(l -> l.open() > 0 && l.ours() <= l.open());
        assertThat(floor.unowned().stream().mapToInt(Today.Tile::count).sum())
                .isEqualTo(count(floor.tiles(), "nobody owns"));
        assertThat(floor.yesterday())
                .extracting(Today.Figure::words)
                .containsExactly("requests", "answers", "resolved");
    }

    @Test
    void people_are_told_what_they_want_to_be_told() {
        var notices = bean(Notices.class);
        TicketNumber number = ticket();
        int before = notices.unread(sefa());
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(sefa().id())), odile());
        bean(Notes.class).note(number, "<p>Look here, @Sefa, and you too @imani. Not sefa@sefa.example.</p>", odile());
        assertThat(notices.unread(sefa())).isEqualTo(before + 2);
        assertThat(notices.of(sefa(), Optional.empty(), 1).getFirst().words()).contains("Odile Bran mentions you");
        assertThat(bean(Today.class).mine(imani()).mentions())
                .extracting(Today.Line::number)
                .contains(number);
        notices.choose(
                sefa().id(),
                List.of(
                        new Notices.Choice(Notices.Kind.MENTION, false, false),
                        new Notices.Choice(Notices.Kind.ASSIGNED, true, true)));
        bean(Notes.class).note(number, "<p>@Sefa again</p>", odile());
        assertThat(notices.unread(sefa())).isEqualTo(before + 2);
        assertThat(notices.forBrowser(sefa()))
                .as("the latest is a mention, which the browser need not show")
                .isEmpty();
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.empty()), odile());
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(sefa().id())), odile());
        assertThat(notices.forBrowser(sefa()))
                .hasValueSatisfying(told -> assertThat(told.ticket()).isEqualTo(number));
        notices.choose(
                sefa().id(),
                List.of(
                        new Notices.Choice(Notices.Kind.MENTION, true, false),
                        new Notices.Choice(Notices.Kind.ASSIGNED, true, false)));
    }
}
