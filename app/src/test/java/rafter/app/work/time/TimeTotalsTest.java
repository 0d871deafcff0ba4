package rafter.app.work.time;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.OptionalInt;
import org.assertj.core.groups.Tuple;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Work;

/** Time adds up, by whatever it is grouped, and people see no more of it than they may. */
@ExtendWith(RunningApp.class)
class TimeTotalsTest extends Browsing {

    private final TimeTotals totals = bean(TimeTotals.class);
    private final Instant day = Instant.parse("2031-01-10T08:00:00Z").plus(Duration.ofDays(unique()));
    private final TimeTotals.Asked asked =
            new TimeTotals.Asked(day.minus(Duration.ofHours(1)), day.plus(Duration.ofHours(8)), false);

    @BeforeEach
    void some_time() {
        clock().set(day);
        TicketNumber one = mailed();
        TicketNumber other = mailed();
        spend(one, imani(), 30, "call", true);
        spend(one, sefa(), 15, "", false);
        spend(other, imani(), 60, "call", false);
    }

    private static TicketNumber mailed() {
        int n = unique();
        String raw = "From: T <t" + n + "@time" + n + ".example>\nMessage-ID: <ti" + n
                + "@post.example>\nSubject: =SUM(" + n + ")\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private void spend(TicketNumber number, Viewer who, int minutes, String kind, boolean billable) {
        var spent = new Work.Spent(who.id(), day, Duration.ofMinutes(minutes), kind, billable, "");
        bean(Acts.class).perform(number, new Act.SpendTime(OptionalInt.empty(), spent), who);
    }

    @Test
    void it_adds_up_to_the_same_by_whatever_it_is_grouped() {
        assertThat(totals.total(asked, odile()).minutes()).isEqualTo(105);
        for (TimeTotals.By by : TimeTotals.By.values()) {
            List<TimeTotals.Group> groups = totals.totals(by, asked, odile());
            assertThat(groups.stream().mapToLong(TimeTotals.Group::minutes).sum())
                    .as(by.words())
                    .isEqualTo(105);
            assertThat(groups.stream().mapToLong(TimeTotals.Group::billable).sum())
                    .isEqualTo(30);
        }
        assertThat(totals.totals(TimeTotals.By.PERSON_WHO, asked, odile()))
                .extracting(TimeTotals.Group::name, TimeTotals.Group::minutes)
                .startsWith(Tuple.tuple("Imani Okoro", 90L));
    }

    @Test
    void an_agent_sees_their_own_and_a_lead_everybodys() throws Exception {
        String path = "/reports/time?from=" + day.toString().substring(0, 10) + "&to="
                + day.toString().substring(0, 10);
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get(path).body()).contains("1 h 30 m").doesNotContain("Sefa Tui</th>");
        assertThat(get(path.replace("time?", "time/csv?")).body().lines()).hasSize(3);
    }

    @Test
    void its_table_holds_no_formula_and_a_date_that_is_none_says_so() throws Exception {
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        String csv = get("/reports/time/csv?from=" + day.toString().substring(0, 10) + "&to="
                        + day.toString().substring(0, 10))
                .body();
        assertThat(csv.lines()).hasSize(4);
        assertThat(csv).contains("'=SUM(");
        assertThat(get("/reports/time?from=soon").body()).contains("“soon” is no date");
        assertThat(get("/reports/time?from=2031-02-01&to=2031-01-01").body()).contains("comes before the last");
    }
}
