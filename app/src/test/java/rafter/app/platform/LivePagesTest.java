package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.unique;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;

/** What an open page is told, and what it missed while it was made. */
@ExtendWith(RunningApp.class)
class LivePagesTest extends Browsing {

    private static final Pattern MARK = Pattern.compile("<meta name=\"heard\" content=\"([^\"]+)\"");

    private final LiveNews news = bean(LiveNews.class);
    private final long call = 9_000_000L + unique();

    @BeforeEach
    void somebody_is_here() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
    }

    /** What a page is told that listens while something happens, until this call is named. */
    private List<String> told(String since, Runnable happens) throws IOException, InterruptedException {
        HttpResponse<InputStream> live = browser.send(
                HttpRequest.newBuilder(uri("/live?since=" + since))
                        .header("Accept", "text/event-stream")
                        .build(),
                HttpResponse.BodyHandlers.ofInputStream());
        happens.run();
        var told = new ArrayList<String>();
        try (var lines = new BufferedReader(new InputStreamReader(live.body(), StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                told.add(line);
                if (line.equals("data:" + call)) {
                    break;
                }
            }
        }
        return told;
    }

    @Test
    void what_happens_between_the_making_of_a_page_and_its_listening_is_told_when_it_listens() throws Exception {
        Matcher mark = MARK.matcher(get("/worklist").body());
        assertThat(mark.find()).isTrue();
        news.call(call);
        RecentNews recent = bean(RecentNews.class);
        while (!recent.since(mark.group(1)).orElseThrow().contains(new News("call", call))) {
            Thread.sleep(5);
        }
        assertThat(told(mark.group(1), () -> {})).contains("data:told").doesNotContain("data:missed");
    }

    @Test
    void a_page_that_cannot_know_what_it_missed_is_told_so() throws Exception {
        for (String since : List.of("", "00000000-1", "nonsense")) {
            assertThat(told(since, () -> news.call(call)))
                    .contains("data:missed")
                    .doesNotContain("data:told");
        }
    }
}
