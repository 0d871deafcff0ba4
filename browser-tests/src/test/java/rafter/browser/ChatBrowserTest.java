package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.FrameLocator;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.SelectOption;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A customer on a website and somebody of ours at the desk, in two browsers. */
@ExtendWith(World.class)
class ChatBrowserTest {

    private static final LocatorAssertions.IsVisibleOptions PATIENT =
            new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);

    @BeforeAll
    static void a_site_and_somebody_who_takes_work() {
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/chat/sites/0"));
        ravi.fill("[name=name]", "Ferries site");
        ravi.fill("[name=word]", "ferries");
        ravi.fill("[name=origins]", "not a website");
        ravi.locator("select[name=calendar]").selectOption(new SelectOption().setLabel("Around the clock"));
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator("#main .trouble")).containsText("is no website");
        ravi.fill("[name=origins]", World.outsideUrl(""));
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator(".said")).containsText("The site is saved");
        Page imani = World.signedIn("imani");
        here(imani, "at work");
        imani.context().close();
        ravi.context().close();
    }

    @AfterAll
    static void nobody_takes_work() {
        Page imani = World.signedIn("imani");
        here(imani, "off");
        imani.context().close();
    }

    private static void here(Page page, String presence) {
        page.navigate(World.url("/floor"));
        page.getByLabel("Where you are").first().selectOption(new SelectOption().setLabel(presence));
        page.getByText("Say so").first().click();
        assertThat(page.locator(".said")).containsText("You are " + presence);
    }

    private static FrameLocator panel(Page customer) {
        return customer.frameLocator("#rafter-panel-frame");
    }

    private static Page customer(String path) {
        Page customer = World.page();
        customer.navigate(World.outsideUrl(path));
        Locator button = customer.locator("#rafter-panel > button");
        assertThat(button).hasText("Chat");
        World.focus(button);
        World.keys(customer).press("Enter");
        assertThat(panel(customer).locator("#text")).isVisible();
        return customer;
    }

    private static void write(Page customer, String text) {
        World.focus(panel(customer).locator("#text"));
        World.keys(customer).type(text);
        World.keys(customer).press("Enter");
    }

    private static Locator line(Page customer, String text) {
        return panel(customer).locator(".line[data-seq]").filter(new Locator.FilterOptions().setHasText(text));
    }

    private static Locator taken(Page imani, String first) {
        Locator waiting = imani.locator(".desk-waiting li").last();
        assertThat(waiting).isVisible();
        World.focus(waiting.locator("button"));
        World.keys(imani).press("Enter");
        Locator column = imani.locator(".desk-chat").filter(new Locator.FilterOptions().setHasText(first));
        assertThat(column).isVisible();
        return column;
    }

    private static void end(Page imani, Locator column) {
        World.focus(column.locator("summary", new Locator.LocatorOptions().setHasText("End")));
        World.keys(imani).press("Enter");
        World.focus(column.getByText("End, it is resolved"));
        World.keys(imani).press("Enter");
        assertThat(column).hasCount(0);
    }

    @Test
    void two_people_chat_through_a_node_that_is_killed_and_nothing_is_lost_or_said_twice() throws Exception {
        Page customer = customer("/site/timetable");
        write(customer, "Does the late boat run on the holiday?");
        assertThat(line(customer, "Does the late boat run")).hasCount(1);
        assertThat(panel(customer).locator("#waiting")).containsText("You are next");
        assertThat(line(customer, "What is your name?")).containsText("Rafter, automatic");
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/chats"));
        Locator column = taken(imani, "Does the late boat run");
        World.focus(column.locator("textarea[name=text]"));
        World.keys(imani).type("It does, at 22:10.");
        World.keys(imani).press("Enter");
        assertThat(line(customer, "It does, at 22:10.")).hasCount(1);
        assertThat(panel(customer).locator("#with")).containsText("Imani");
        assertThat(column.locator(".desk-seen")).isVisible();
        World.focus(panel(customer).locator("#text"));
        World.keys(customer).type("And");
        assertThat(column.locator(".desk-clock")).containsText("is typing");
        World.keys(customer).type(" on the way back?");

        World.kill();
        World.keys(customer).press("Enter");
        assertThat(panel(customer).locator(".line.waits")).containsText("And on the way back?");
        assertThat(panel(customer).locator("#lost")).isVisible();
        World.focus(column.locator("textarea[name=text]"));
        World.keys(imani).type("That one, too.");
        World.keys(imani).press("Enter");
        assertThat(column.locator(".desk-say .trouble")).containsText("does not answer");
        World.startAgain();

        assertThat(line(customer, "And on the way back?")).isVisible(PATIENT);
        assertThat(column.locator(".desk-line.customer").last())
                .containsText("And on the way back?", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        assertThat(column.locator("textarea[name=text]")).hasValue("That one, too.");
        World.focus(column.locator("textarea[name=text]"));
        World.keys(imani).press("Enter");
        assertThat(line(customer, "That one, too.")).isVisible(PATIENT);
        for (String once :
                List.of("Does the late boat", "It does, at 22:10.", "And on the way back?", "That one, too.")) {
            assertThat(line(customer, once)).hasCount(1);
        }
        customer.navigate(World.outsideUrl("/site/lost"));
        assertThat(line(customer, "That one, too.")).hasCount(1);
        end(imani, column);
        assertThat(panel(customer).locator("#after")).isVisible();
        World.focus(panel(customer).getByText("Good", new FrameLocator.GetByTextOptions().setExact(true)));
        World.keys(customer).press("Enter");
        assertThat(panel(customer).locator("#rate")).isHidden();
        assertThat(World.complaints()).isEmpty();
    }

    /** A macro that answers, as an opener of the pages about lost things. */
    private static void opener() throws SQLException {
        try (var sql = DriverManager.getConnection(World.database(), "rafter", "rafter");
                var statement = sql.createStatement()) {
            statement.execute("""
                    with made as (
                        insert into macro (name, steps, changed_by, changed_at)
                        values ('Where are found things kept?',
                            '[{"form":"answer","typed":{"text":"At Aldermouth, for sixty days.","then":"CUSTOMER"},"offered":false},
                              {"form":"tag","typed":{"tag":"found"},"offered":false}]',
                            (select min(id) from person), now())
                        returning id)
                    insert into opener (macro_id, pages, position) select id, '/site/lost*', 1 from made""");
        }
    }

    @Test
    void a_ready_question_is_answered_at_once_and_who_is_not_helped_reaches_somebody() throws Exception {
        opener();
        Page customer = customer("/site/lost");
        Locator opener = panel(customer).getByText("Where are found things kept?");
        assertThat(opener).isEnabled();
        World.focus(opener);
        World.keys(customer).press("Enter");
        assertThat(line(customer, "At Aldermouth, for sixty days.")).containsText("Rafter, automatic");
        World.focus(panel(customer).getByText("No", new FrameLocator.GetByTextOptions().setExact(true)));
        World.keys(customer).press("Enter");
        assertThat(line(customer, "No, that did not help.")).hasCount(1);
        write(customer, "My umbrella <b>is</b> lost");
        assertThat(line(customer, "My umbrella <b>is</b> lost")).hasCount(1);
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/chats"));
        Locator column = taken(imani, "My umbrella");
        assertThat(column.locator(".desk-line.customer").last()).containsText("My umbrella <b>is</b> lost");
        end(imani, column);
    }

    @Test
    void a_website_that_is_not_listed_shows_nothing() {
        Page page = World.page();
        var warnings = new ArrayList<String>();
        page.onConsoleMessage(message -> {
            if (message.type().equals("warning")) {
                warnings.add(message.text());
            }
        });
        page.navigate(World.outsideUrl("/site/lost").replace("127.0.0.1", "localhost"));
        page.waitForCondition(() -> warnings.stream().anyMatch(text -> text.contains("may not hold the panel")));
        assertThat(page.locator("#rafter-panel")).hasCount(0);
    }

    @Test
    void the_panel_is_clean_small_and_works_at_the_width_of_a_small_telephone() throws Exception {
        Page customer = customer("/site/");
        write(customer, "Hello");
        assertThat(line(customer, "What is your name?")).isVisible();
        Page alone = World.page();
        alone.setViewportSize(320, 640);
        alone.navigate(customer.frames()
                .get(1)
                .evaluate("() => document.getElementById('elsewhere').href")
                .toString());
        assertThat(alone.locator(".line[data-seq]").first()).containsText("Hello");
        assertThat((Boolean) alone.evaluate("() => document.documentElement.scrollWidth <= innerWidth"))
                .isTrue();
        assertThat(AccessibilityTest.problems(alone)).isEmpty();
        alone.navigate(World.url("/panel/ferries"));
        assertThat(alone.locator("#text")).isVisible();
        assertThat(AccessibilityTest.problems(alone)).isEmpty();
        alone.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        assertThat(AccessibilityTest.problems(alone)).isEmpty();
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/chats"));
        Locator column = taken(imani, "Hello");
        assertThat(AccessibilityTest.problems(imani)).isEmpty();
        AccessibilityTest.darken(imani);
        assertThat(AccessibilityTest.problems(imani)).isEmpty();
        end(imani, column);
        Page ravi = World.signedIn("ravi");
        for (String path : List.of("/house-rules/chat", "/house-rules/chat/sites/0")) {
            ravi.navigate(World.url(path));
            assertThat(AccessibilityTest.problems(ravi)).as(path).isEmpty();
        }
    }
}
