package rafter.app.promises.policies;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.promises.targets.TargetDrafts;

/** The pages of hours, promises and figures, asked for without scripts. Nothing here is put into force. */
@ExtendWith(RunningApp.class)
class PromisePagesTest extends Browsing {

    private String token = "";
    private String calendar = "";

    @BeforeEach
    void as_an_administrator_with_a_fresh_draft() throws Exception {
        TargetDrafts drafts = RunningApp.bean(TargetDrafts.class);
        drafts.discard(drafts.current().version(), RunningApp.ravi().id());
        calendar = drafts.current().book().defaultCalendar();
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        token = token(get("/house-rules/hours"));
    }

    private static String version() {
        return Integer.toString(RunningApp.bean(TargetDrafts.class).current().version());
    }

    private String hours() {
        return "/house-rules/hours/" + calendar;
    }

    @Test
    void an_entry_with_a_wrong_time_is_refused_and_kept_as_typed() throws Exception {
        HttpResponse<String> page = post(
                hours() + "/entries",
                token,
                "version",
                version(),
                "id",
                "new",
                "kind",
                "OPENING",
                "name",
                "Market day",
                "first",
                "2027-01-10",
                "from",
                "ten",
                "to",
                "14:00",
                "repeat",
                "weekly",
                "days",
                "SU");
        assertThat(page.body())
                .contains("is not a time of day")
                .contains("value=\"ten\"")
                .contains("Market day");
        page = post(
                hours() + "/entries",
                token,
                "version",
                version(),
                "id",
                "new",
                "kind",
                "OPENING",
                "name",
                "Market day",
                "first",
                "2027-01-10",
                "from",
                "10:00",
                "to",
                "14:00",
                "repeat",
                "weekly",
                "days",
                "SU");
        assertThat(page.body())
                .contains("Every week on Sunday from Sun 10 Jan 2027, 10:00 to 14:00: Market day")
                .contains("not in force yet");
    }

    @Test
    void a_form_of_yesterday_does_not_overwrite_what_somebody_changed_since() throws Exception {
        String old = version();
        post("/house-rules/hours/add", token, "version", old, "name", "Second desk", "like", calendar);
        HttpResponse<String> page = post("/house-rules/hours/add", token, "version", old, "name", "Third desk");
        assertThat(page.body())
                .contains("Somebody else changed hours or targets")
                .contains("Second desk")
                .doesNotContain("Third desk");
    }

    @Test
    void an_entry_form_of_yesterday_is_refused_and_gives_back_every_word_that_was_typed() throws Exception {
        String old = version();
        post("/house-rules/hours/add", token, "version", old, "name", "Third desk", "like", calendar);
        HttpResponse<String> page = post(
                hours() + "/entries",
                token,
                "version",
                old,
                "id",
                "new",
                "kind",
                "OPENING",
                "name",
                "Lantern evening",
                "first",
                "2027-01-11",
                "from",
                "18:15",
                "to",
                "21:45",
                "repeat",
                "weekly",
                "every",
                "3",
                "days",
                "MO",
                "days",
                "TH");
        assertThat(page.body())
                .contains("Somebody else changed hours or targets")
                .contains("value=\"Lantern evening\"")
                .contains("value=\"2027-01-11\"")
                .contains("value=\"18:15\"")
                .contains("value=\"21:45\"")
                .contains("value=\"3\"");
        assertThat(page.body())
                .containsPattern("value=\"MO\"[^>]*checked")
                .containsPattern("value=\"TH\"[^>]*checked")
                .doesNotContainPattern("value=\"TU\"[^>]*checked");
        HttpResponse<String> again = post(
                hours() + "/entries",
                token,
                "version",
                version(),
                "id",
                "new",
                "kind",
                "OPENING",
                "name",
                "Lantern evening",
                "first",
                "2027-01-11",
                "from",
                "18:15",
                "to",
                "21:45",
                "repeat",
                "weekly",
                "every",
                "3",
                "days",
                "MO",
                "days",
                "TH");
        assertThat(again.body()).contains("Lantern evening").contains("18:15 to 21:45");
    }

    @Test
    void a_calendar_goes_out_as_a_file_and_comes_back_in() throws Exception {
        HttpResponse<String> file = get(hours() + "/export");
        assertThat(file.headers().firstValue("Content-Type"))
                .hasValueSatisfying(type -> assertThat(type).startsWith("text/calendar"));
        assertThat(file.body()).startsWith("BEGIN:VCALENDAR").contains("RRULE:FREQ=WEEKLY");
        HttpResponse<String> page = upload(hours() + "/import", file.body());
        assertThat(page.body()).contains("Saved; not in force yet");
        var draft = RunningApp.bean(TargetDrafts.class).current();
        assertThat(draft.book().plan(calendar)).isEqualTo(draft.inForce().plan(calendar));
        assertThat(upload(hours() + "/import", "Dear sirs").body()).contains("That is not an iCalendar file");
    }

    private HttpResponse<String> upload(String path, String content) throws Exception {
        var body = new StringBuilder();
        for (String[] field :
                new String[][] {{"_csrf", token}, {"version", version()}, {"kind", "OPENING"}, {"instead", "true"}}) {
            body.append("--cut\r\nContent-Disposition: form-data; name=\"")
                    .append(field[0])
                    .append("\"\r\n\r\n")
                    .append(field[1])
                    .append("\r\n");
        }
        body.append(
                        "--cut\r\nContent-Disposition: form-data; name=\"file\"; filename=\"c.ics\"\r\nContent-Type: text/calendar\r\n\r\n")
                .append(content)
                .append("\r\n--cut--\r\n");
        return browser.send(
                HttpRequest.newBuilder(uri(path))
                        .header("Content-Type", "multipart/form-data; boundary=cut")
                        .header("Accept", "text/html")
                        .POST(HttpRequest.BodyPublishers.ofString(body.toString(), StandardCharsets.UTF_8))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    @Test
    void the_default_calendar_and_one_that_is_used_cannot_be_removed() throws Exception {
        assertThat(post(hours() + "/delete", token, "version", version()).body())
                .contains("is the default");
    }

    @Test
    void a_holiday_line_without_a_date_is_refused_and_everything_typed_is_kept() throws Exception {
        HttpResponse<String> page = post(
                "/house-rules/holidays/save",
                token,
                "id",
                "new",
                "version",
                version(),
                "name",
                "Line",
                "zone",
                "",
                "days",
                "2027-05-17 Day\nsoon Another");
        assertThat(page.body())
                .contains("does not begin with a date")
                .contains("soon Another")
                .contains("2027-05-17 Day");
        page = post(
                "/house-rules/holidays/fill",
                token,
                "id",
                "new",
                "version",
                version(),
                "name",
                "",
                "zone",
                "",
                "days",
                "2027-06-01 Own day",
                "country",
                "no",
                "firstYear",
                "2027",
                "lastYear",
                "2027");
        assertThat(page.body())
                .contains("2027-06-01 Own day")
                .contains("2027-05-17")
                .contains("Constitution Day")
                .contains("Holidays of Norway");
    }

    @Test
    void a_policy_takes_another_shape_without_losing_what_was_typed_also_without_scripts() throws Exception {
        HttpResponse<String> page = post(
                "/house-rules/targets/save",
                token,
                "id",
                "new",
                "version",
                version(),
                "name",
                "Half typed",
                "act",
                "add:0",
                "n.0.kind",
                "any",
                "g.FIRST_REPLY.P1",
                "soonish",
                "s.0.act",
                "tag",
                "s.0.target",
                "late",
                "s.0.objective",
                "FIRST_REPLY",
                "s.0.when",
                "after",
                "s.0.amount",
                "0");
        assertThat(page.body())
                .contains("value=\"Half typed\"")
                .contains("value=\"soonish\"")
                .contains("n.0.0.field")
                .contains("value=\"late\"");
        page = post(
                "/house-rules/targets/save",
                token,
                "id",
                "new",
                "version",
                version(),
                "name",
                "Half typed",
                "on",
                "true",
                "act",
                "save",
                "n.0.kind",
                "none",
                "n.0.0.kind",
                "test",
                "n.0.0.field",
                "subject",
                "n.0.0.was",
                "subject",
                "n.0.0.op",
                "has-any",
                "n.0.0.v",
                "lost",
                "n.0.0.v",
                "left behind",
                "g.FIRST_REPLY.P1",
                "1 h 30",
                "g.FIRST_REPLY.share",
                "90");
        assertThat(page.body())
                .contains("not (the subject has one of “lost” or “left behind”)")
                .contains("first reply 1 h 30 m, –, –, –, for 90 %");
    }

    @Test
    void the_changes_are_listed_in_words_and_can_be_thrown_away() throws Exception {
        post("/house-rules/hours/add", token, "version", version(), "name", "Night desk");
        assertThat(get("/house-rules/targets/changes").body()).contains("Calendar “Night desk” is new");
        assertThat(post("/house-rules/targets/discard", token, "version", version())
                        .body())
                .contains("The changes are discarded");
        assertThat(get("/house-rules/hours").body()).doesNotContain("Night desk");
        assertThat(post("/house-rules/targets/force", token, "version", version())
                        .body())
                .contains("Nothing was changed");
    }

    @Test
    void each_figure_of_the_board_opens_as_many_tickets_as_it_says() throws Exception {
        RunningApp.take("From: board@post.example\nMessage-ID: <board@post.example>\nSubject: For the board\n\nHello"
                .getBytes(StandardCharsets.UTF_8));
        String board = get("/reports/targets?from=2027-02-20&to=2027-03-10").body();
        Matcher running = Pattern.compile(
                        "href=\"(/reports/targets/tickets\\?kind=RUNNING&amp;by=POLICY[^\"]*)\"[^>]*>(\\d+)<")
                .matcher(board);
        assertThat(running.find()).isTrue();
        int said = Integer.parseInt(running.group(2));
        String list = get(running.group(1).replace("&amp;", "&")).body();
        int listed = list.split("<tr>\\s*<td class=\"mono\">", -1).length - 1;
        assertThat(listed).isEqualTo(Math.min(said, 50)).isPositive();
        assertThat(get("/reports/targets?from=soon").body()).contains("is not a date");
    }

    @Test
    void figures_of_single_agents_are_for_leads() throws Exception {
        assertThat(get("/reports/targets").body()).contains("By agent").contains("Reached late from others");
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/reports/targets").body()).doesNotContain("By agent");
        assertThat(get("/reports/targets/tickets?kind=MISSED&by=AGENT&key=1").statusCode())
                .isEqualTo(403);
        assertThat(get("/house-rules/targets").statusCode()).isEqualTo(403);
        assertThat(get("/notices").statusCode()).isEqualTo(200);
    }
}
