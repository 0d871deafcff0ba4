package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Every main view is clean by axe-core, in the light and in the dark. */
@ExtendWith(World.class)
class AccessibilityTest {

    private static String axe() throws IOException {
        try (InputStream in = AccessibilityTest.class.getResourceAsStream("/axe.min.js")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    static List<String> problems(Page page) throws IOException {
        return problems(
                page,
                "{type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']}, rules: {'label-content-name-mismatch': {enabled: true}}");
    }

    /** Reads the page once its colours stand: while a transition goes on, they are neither the old nor the new. */
    @SuppressWarnings("unchecked")
    private static List<String> problems(Page page, String rules) throws IOException {
        if (page.evaluate("() => typeof axe").equals("undefined")) {
            page.evaluate(axe());
        }
        var found = (List<Map<String, Object>>)
                page.evaluate(
                        "() => Promise.all(document.getAnimations()"
                                + ".filter(a => a.effect.getComputedTiming().endTime !== Infinity)"
                                + ".map(a => a.finished.catch(() => null)))"
                                + ".then(() => axe.run(document, {preload: {assets: ['media']}, resultTypes: ['violations'], runOnly: "
                                + rules
                                + "}))"
                                + ".then(r => r.violations.map(v => ({id: v.id, at: v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' ' + (n.any[0] ? n.any[0].message : '')).join(' | ')})))");
        return found.stream().map(v -> v.get("id") + ": " + v.get("at")).toList();
    }

    private static void check(Page page, String path) throws IOException {
        checkInTheLight(page, path);
        darken(page);
        assertThat(inTheDark(page)).as("%s, dark", path).isEmpty();
    }

    static void darken(Page page) {
        page.evaluate("() => document.documentElement.setAttribute('data-bs-theme', 'dark')");
    }

    /** The dark changes colours and nothing else. */
    private static List<String> inTheDark(Page page) throws IOException {
        return problems(page, "{type: 'rule', values: ['color-contrast', 'link-in-text-block']}");
    }

    /** For small forms, which are made of nothing that a main view does not have in the dark, too. */
    private static void checkInTheLight(Page page, String path) throws IOException {
        page.navigate(World.url(path));
        page.waitForFunction("() => !document.querySelector('[hx-trigger=load]')");
        assertThat(problems(page)).as("%s, light", path).isEmpty();
    }

    @Test
    void the_sign_in_is_clean() throws IOException {
        check(World.page(), "/sign-in?wrong");
    }

    @Test
    void the_worklist_and_the_ticket_are_clean() throws IOException {
        World.mail(
                "Hanna Lund", "hanna.lund@seamail.example", "For the check", "Hello\n\nOn Monday Help wrote:\n> old");
        Page page = World.signedIn("imani");
        page.navigate(World.url("/worklist?view=open"));
        page.locator(".card-row, #arrived button:visible").first().waitFor();
        for (String view : List.of("my-turn", "unowned", "open", "closed")) {
            check(page, "/worklist?view=" + view);
        }
        for (String shape : List.of("lines&group=team", "grid&sort=priority,-age", "lanes&group=owner", "clock")) {
            check(page, "/worklist?view=open&shape=" + shape);
        }
        for (String path : List.of(
                "/today",
                "/worklist/sentence?view=my-turn",
                "/worklist/keep?view=open&shape=lines",
                "/search?q=check",
                "/notices/choices")) {
            check(page, path);
        }
        page.navigate(World.url("/worklist?view=open"));
        World.keys(page).press("ArrowDown");
        World.keys(page).press("Space");
        page.locator("#glance").waitFor();
        assertThat(problems(page)).as("glance").isEmpty();
        World.keys(page).press("Escape");
        World.keys(page).press("x");
        World.keys(page).press("b");
        page.waitForURL("**/batches/new");
        assertThat(problems(page)).as("batch").isEmpty();
        page.navigate(World.url("/worklist?view=open"));
        String ticket = page.locator(".card-row .title").first().getAttribute("href");
        check(page, ticket);
        page.navigate(World.url(ticket));
        check(page, page.locator(".cust a.fw-bold").getAttribute("href"));
        check(page, ticket + "/choose/owner");
        check(page, ticket + "/clocks");
        for (String more : List.of(
                "/history",
                "/outside",
                "/files",
                "/alike",
                "/parts/task",
                "/parts/time",
                "/parts/resolution",
                "/parts/help",
                "/parts/question",
                "/parts/watchers",
                "/choose/times",
                "/choose/about",
                "/parts/call",
                "/parts/meeting",
                "/choose/queue",
                "/fit",
                "/consult",
                "/macros")) {
            checkInTheLight(page, ticket + more);
        }
        for (String path : List.of(
                "/calls",
                "/calls/out",
                "/social",
                "/phrases",
                "/phrases/0",
                "/macros",
                "/macros/0",
                "/requests/new",
                "/stopwatch",
                "/answers/drafts")) {
            check(page, path);
        }
        check(page, "/tickets/99999999");
        page.navigate(World.url("/worklist?view=open"));
        World.keys(page).press("?");
        assertThat(problems(page)).as("keys").isEmpty();
        World.keys(page).press("Escape");
        World.keys(page).press("Control+k");
        assertThat(problems(page)).as("palette").isEmpty();
    }

    @Test
    void the_house_rules_are_clean() throws IOException {
        Page page = World.signedIn("ravi");
        for (String path : List.of(
                "email",
                "email/1",
                "telephone",
                "telephone/providers/0",
                "telephone/lines/0",
                "social",
                "social/lines/0",
                "social/watching",
                "acknowledgement",
                "rating",
                "states",
                "set-aside",
                "people",
                "people/1",
                "companies",
                "companies/1",
                "fields",
                "fields/0",
                "forms",
                "forms/0",
                "forms/rules/0",
                "salutations",
                "hours",
                "holidays/new",
                "targets",
                "targets/new",
                "targets/changes",
                "queues",
                "handing-out",
                "skills",
                "consults",
                "consults/experts/0")) {
            checkInTheLight(page, "/house-rules/" + path);
        }
        page.navigate(World.url("/house-rules/hours"));
        String calendar = page.locator("table a").first().getAttribute("href");
        check(page, calendar);
        check(page, calendar + "/entries/new");
        page.navigate(World.url("/house-rules/targets"));
        check(page, page.locator(".policy h2 a").first().getAttribute("href"));
        check(page, "/reports/targets");
        check(page, "/reports/time");
        check(page, "/people/import");
        check(page, "/house-rules/states/new");
        check(page, "/house-rules/states/in-hand");
        check(page, "/rate/none");
        check(page, "/notices");
        check(page, "/people");
        check(page, "/people?q=nobody-of-that-name");
        check(page, "/people/companies");
        check(page, "/people/companies/1");
    }

    @Test
    void the_rulebook_is_clean() throws IOException {
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/rules"));
        if (ravi.locator("[data-rule-section]").count() == 0) {
            ravi.getByLabel("A new section").fill("Sort");
            World.keys(ravi).press("Enter");
            ravi.locator(".said").waitFor();
        }
        for (String name : List.of("Lamps", "Brass lamps")) {
            ravi.navigate(World.url("/house-rules/rules/new"));
            ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
            ravi.getByLabel("On; switch it off to keep a draft").uncheck();
            ravi.locator("#rule-form button.pri").click();
            ravi.locator(".said").waitFor();
        }
        check(ravi, "/house-rules/rules");
        for (String path : List.of("/new", "/try", "/versions", "/import")) {
            checkInTheLight(ravi, "/house-rules/rules" + path);
        }
        ravi.navigate(World.url("/house-rules/rules"));
        ravi.getByText("Discard", new Page.GetByTextOptions().setExact(true)).click();
        ravi.locator(".said").waitFor();
    }

    @Test
    void arriving_mail_automatic_mails_notices_queues_and_the_floor_are_clean() throws IOException {
        Page ravi = World.signedIn("ravi");
        check(ravi, "/house-rules/arriving");
        check(ravi, "/house-rules/notices");
        check(ravi, "/floor");
        check(ravi, "/floor/anew");
        check(ravi, "/floor/then");
        for (String path : List.of(
                "/arriving/new", "/mails", "/mails/1", "/notices/resolved/customer", "/queues/0", "/skills/0")) {
            checkInTheLight(ravi, "/house-rules" + path);
        }
    }
}
