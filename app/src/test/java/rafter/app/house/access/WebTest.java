package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;

/** What the pages answer to those who may not, and to what is wrong. */
@ExtendWith(RunningApp.class)
class WebTest extends Browsing {

    @Test
    void a_wrong_password_is_told_without_telling_which_half_is_wrong_and_the_address_is_kept() throws Exception {
        HttpResponse<String> page = signIn("imani@ternpassage.example", "wrong");
        assertThat(page.body()).contains("do not belong together").contains("imani@ternpassage.example");
    }

    @Test
    void many_wrong_passwords_make_even_the_right_one_wait_a_moment_however_the_path_is_spelled() throws Exception {
        for (int i = 0; i < 7; i++) {
            signIn("guess@ternpassage.example", "wrong");
        }
        assertThat(signIn("guess@ternpassage.example", RunningApp.PASSWORD).body())
                .contains("Too many wrong tries");
        HttpResponse<String> spelled = post(
                "/%73ign-in",
                token(get("/sign-in")), "address", "guess@ternpassage.example", "password", RunningApp.PASSWORD);
        assertThat(spelled.body()).doesNotContain("Sign out");
    }

    @Test
    void a_stranger_is_led_to_the_sign_in_and_then_to_the_page_they_wanted() throws Exception {
        HttpResponse<String> asked = get("/worklist?view=closed");
        assertThat(asked.uri().getPath()).isEqualTo("/sign-in");
        HttpResponse<String> page =
                post("/sign-in", token(asked), "address", "imani@ternpassage.example", "password", RunningApp.PASSWORD);
        assertThat(page.uri().toString()).contains("view=closed");
    }

    @Test
    void a_script_without_a_session_is_told_so_plainly() throws Exception {
        assertThat(get("/worklist/head?view=open", "X-Requested-With", "fetch").statusCode())
                .isEqualTo(401);
        assertThat(get("/live").statusCode()).isEqualTo(401);
    }

    @Test
    void an_address_that_leads_nowhere_says_so() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        for (String nowhere : List.of("/nowhere", "/style/nowhere.css", "/script/nowhere.js", "/nowhere.svg")) {
            assertThat(get(nowhere).statusCode()).as(nowhere).isEqualTo(404);
        }
    }

    @Test
    void what_one_session_does_on_many_pages_at_once_fails_on_none() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        HttpClient stays = staying();
        HttpRequest next = form("/floor/next", token(get("/worklist")));
        // Each is told something, which the session keeps until the page that says it is shown.
        List<CompletableFuture<HttpResponse<String>>> all = IntStream.range(0, 12)
                .mapToObj(i -> stays.sendAsync(next, HttpResponse.BodyHandlers.ofString()))
                .toList();
        assertThat(all.stream().map(CompletableFuture::join).map(HttpResponse::statusCode))
                .containsOnly(302);
    }

    @Test
    void a_form_from_an_old_session_leads_to_the_sign_in_with_a_word() throws Exception {
        HttpResponse<String> page = post("/tickets/1/note", "old-token", "html", "x");
        assertThat(page.body()).contains("Your session had ended");
    }

    @Test
    void an_agent_may_not_see_the_house_rules() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        for (String path : new String[] {
            "/house-rules/email",
            "/house-rules/set-aside",
            "/house-rules/people",
            "/house-rules/acknowledgement",
            "/house-rules/companies",
            "/house-rules/fields",
            "/house-rules/fields/0",
            "/house-rules/hours",
            "/house-rules/targets"
        }) {
            HttpResponse<String> page = get(path);
            assertThat(page.statusCode()).as(path).isEqualTo(403);
            assertThat(page.body()).contains("House rules are for administrators");
        }
        assertThat(get("/worklist").body()).doesNotContain("href=\"/house-rules\"");
    }

    @Test
    void the_palette_names_every_page_that_one_may_see_and_each_is_there() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(places())
                .contains("/today", "/worklist?view=my-turn", "/batches")
                .noneMatch(path -> path.startsWith("/house-rules"));
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        List<String> all = places();
        Matcher menu = Pattern.compile("href=\"(/house-rules/[a-z-]+)\"")
                .matcher(get("/house-rules/targets").body());
        while (menu.find()) {
            assertThat(all).contains(menu.group(1));
        }
        for (String path : all) {
            assertThat(get(path).statusCode()).as(path).isEqualTo(200);
        }
    }

    @Test
    void what_is_no_page_says_so_and_blames_nobody() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        HttpResponse<String> page = get("/search/places");
        assertThat(page.statusCode()).isEqualTo(406);
        assertThat(page.body()).contains("Not in this form").doesNotContain("Something broke");
    }

    private List<String> places() throws Exception {
        return Pattern.compile("\"go\":\"([^\"]+)\"")
                .matcher(get("/search/places", "Accept", "application/json").body())
                .results()
                .map(found -> found.group(1))
                .toList();
    }

    @Test
    void a_ticket_that_does_not_exist_has_a_page_of_our_own() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        HttpResponse<String> page = get("/tickets/99999999");
        assertThat(page.statusCode()).isEqualTo(404);
        assertThat(page.body()).contains("There is no ticket 99999999").contains("To the worklist");
        assertThat(get("/tickets/abc").body()).contains("<h1").doesNotContain("Whitelabel");
        assertThat(get("/nothing/at/all").statusCode()).isEqualTo(404);
        assertThat(get("/worklist?view=made-up").statusCode()).isEqualTo(404);
    }

    @Test
    void an_administrator_sees_every_page_and_wrong_input_comes_back_as_typed() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        for (String path : new String[] {
            "/house-rules/email",
            "/house-rules/email/0",
            "/house-rules/email/1",
            "/house-rules/set-aside",
            "/house-rules/people",
            "/house-rules/people/0",
            "/house-rules/people/1",
            "/house-rules/acknowledgement",
            "/house-rules/companies",
            "/house-rules/companies/0",
            "/house-rules/companies/1"
        }) {
            assertThat(get(path).statusCode()).as(path).isEqualTo(200);
        }
        String token = token(get("/house-rules/acknowledgement"));
        HttpResponse<String> page = post(
                "/house-rules/acknowledgement",
                token,
                "version",
                "0",
                "name",
                "Tern",
                "acknowledge",
                "true",
                "reopenDays",
                "a week");
        assertThat(page.body()).contains("The days of reopening are a number").contains("a week");
        HttpResponse<String> company = post(
                "/house-rules/companies/save",
                token,
                "id",
                "0",
                "name",
                "Everyone",
                "plan",
                "",
                "domains",
                "post.example");
        assertThat(company.body())
                .contains("Anybody can have an address at post.example")
                .contains("Everyone");
    }

    @Test
    void a_wrong_mailbox_password_and_an_unreachable_server_are_told_by_the_test_button() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/email/0"));
        var box = RunningApp.help();
        HttpResponse<String> page = post(
                "/house-rules/email/test",
                token,
                "id",
                "0",
                "version",
                "0",
                "name",
                "x",
                "address",
                "help@ternpassage.example",
                "team",
                "",
                "afterFetch",
                "MARK_READ",
                "imapHost",
                "127.0.0.1",
                "imapPort",
                Integer.toString(box.imap().port()),
                "imapSecurity",
                "NONE",
                "imapLogin",
                "help@ternpassage.example",
                "imapPassword",
                "wrong",
                "folder",
                "INBOX",
                "smtpHost",
                "127.0.0.1",
                "smtpPort",
                "1",
                "smtpSecurity",
                "NONE",
                "smtpLogin",
                "",
                "smtpPassword",
                "");
        assertThat(page.body())
                .contains("The login or the password is wrong")
                .contains("Nothing answers at 127.0.0.1, port 1");
    }

    @Test
    void every_page_forbids_inline_scripts_and_framing() throws Exception {
        String policy =
                get("/sign-in").headers().firstValue("Content-Security-Policy").orElse("");
        assertThat(policy)
                .contains("default-src 'none'")
                .contains("script-src 'self'")
                .contains("frame-ancestors 'none'")
                .doesNotContain("unsafe");
    }
}
