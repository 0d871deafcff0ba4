package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.SelectOption;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What stands beside a ticket, opened without leaving it, and the work of others on it, by keys. */
@ExtendWith(World.class)
class BesideBrowserTest {

    private static final LocatorAssertions.IsVisibleOptions PATIENT =
            new LocatorAssertions.IsVisibleOptions().setTimeout(20_000);

    private static Page ticket(String subject, String who) {
        return World.ticket("Lumi Halla", "lumi.halla@seamail.example", subject, "It is about a crate.", who);
    }

    /** Other tests look at the first part of the list, so nothing is left in it. */
    private static void close(Page page) {
        page.locator("#thead a.pick[href$='/state']").click();
        page.locator("#menu button", new Page.LocatorOptions().setHasText("Closed"))
                .click();
        assertThat(page.locator("#thead a.pick[href$='/state']")).containsText("Closed");
    }

    /** Presses, has something asked for anew meanwhile, and releases when its answer would have been drawn. */
    private static void pressWhile(Page page, Locator what, String asked, String news) {
        what.hover();
        page.mouse().down();
        page.waitForResponse(asked, () -> page.evaluate("what => document.dispatchEvent(new CustomEvent(what))", news));
        page.evaluate("() => new Promise(drawn => { setTimeout(drawn, 200); })");
        page.mouse().up();
    }

    @Test
    void a_press_counts_though_what_was_pressed_is_drawn_anew_meanwhile() {
        Page page = ticket("Crate of bells", "imani");
        pressWhile(page, page.locator(".cust a").first(), "**/tickets/*/live**", "rafter:all");
        assertThat(page.locator("#beside-body")).containsText("Lumi Halla");
        World.keys(page).press("Escape");
        assertThat(page.locator("#beside")).isHidden();

        // What htmx asks for by itself, such as how far a rehearsal is, a room, or a part of a page.
        page.evaluate("""
                () => {
                  const place = document.createElement("div");
                  place.id = "probe";
                  place.innerHTML = `<i hx-get="/people" hx-select="#found" hx-target="#probe" hx-trigger="rafter:asked from:document"></i>
                      <button id="pressed">Stop</button>`;
                  document.getElementById("main").prepend(place);
                  document.getElementById("pressed").addEventListener("click", () => { document.body.dataset.pressed = "once"; });
                  htmx.process(place);
                }""");
        pressWhile(page, page.locator("#pressed"), "**/people", "rafter:asked");
        assertThat(page.locator("body[data-pressed=once]")).hasCount(1);
        assertThat(page.locator("#pressed")).hasCount(0);
        assertThat(page.locator("#probe #found")).hasCount(1);
        assertThat(page.locator("#probe h1")).hasCount(0);
        close(page);
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void the_customer_opens_beside_the_ticket_and_escape_leads_back_to_where_one_was() {
        Page page = ticket("Crate of glass mugs", "imani");
        String address = page.url();
        World.keys(page).press("a");
        World.keys(page).type("Half a sentence");
        Locator customer = page.locator(".cust a").first();
        World.focus(customer);
        World.keys(page).press("Enter");
        Locator sheet = page.locator("#beside");
        assertThat(sheet).isVisible();
        assertThat(sheet).containsText("Their tickets");
        sheet.locator("input[name=zone]").fill("Europe/Helsinki");
        sheet.getByText("Save", new Locator.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator("#toasts")).containsText("is saved");
        World.focus(sheet);
        World.keys(page).press("Escape");
        assertThat(sheet).isHidden();
        assertThat(page.locator("#side")).containsText("Europe/Helsinki");
        assertThat(page.url()).isEqualTo(address);
        assertThat(page.locator("#pane-reply .ql-editor")).containsText("Half a sentence");
        close(page);
    }

    @Test
    void who_stands_on_a_link_by_keyboard_stays_there_when_news_arrives() {
        Page page = ticket("Crate of tin plates", "imani");
        World.focus(page.locator(".cust a").first());
        page.evaluate("() => { const a = document.activeElement; a.dataset.before = '1';"
                + " document.dispatchEvent(new CustomEvent('rafter:all')); }");
        page.waitForCondition(() -> page.locator(".cust a[data-before]").count() == 0);
        assertThat(page.locator(".cust a").first()).isFocused();
        World.keys(page).press("Enter");
        assertThat(page.locator("#beside")).containsText("Their tickets");
        World.keys(page).press("Escape");
        assertThat(page.locator(".cust a").first()).isFocused();
        close(page);
    }

    @Test
    void a_ticket_that_looks_alike_opens_beside_it() {
        Page first = ticket("Crate of brass lanterns lost", "imani");
        Page page = ticket("Lost: crate of brass lanterns", "imani");
        Locator alike = page.locator("#alike a.other").first();
        assertThat(alike).containsText("Crate of brass lanterns lost");
        alike.click();
        assertThat(page.locator("#beside")).containsText("Crate of brass lanterns lost");
        page.locator("#beside-close").click();
        assertThat(page.locator("#beside")).isHidden();
        close(page);
        close(first);
    }

    @Test
    void help_is_asked_for_and_stands_in_the_turn_of_who_is_asked() {
        Page page = ticket("Crate of compasses", "imani");
        String number = page.url().replaceAll(".*/tickets/(\\d+).*", "$1");
        World.focus(page.getByText("Ask for help"));
        World.keys(page).press("Enter");
        Locator menu = page.locator("#menu");
        menu.locator("select[name=whom]").selectOption(new SelectOption().setLabel("Sefa Tui"));
        menu.locator("textarea[name=text]").fill("Count the compasses");
        menu.locator("input[name=within]").fill("4 h");
        menu.getByText("Ask", new Locator.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator(".parts")).containsText("Count the compasses");
        Page other = World.signedIn("sefa");
        other.navigate(World.url("/worklist?view=my-turn"));
        assertThat(other.locator(".card-row", new Page.LocatorOptions().setHasText("Crate of compasses")))
                .isVisible(PATIENT);
        other.navigate(World.url("/tickets/" + number));
        World.focus(other.getByText("Hand back"));
        World.keys(other).press("Enter");
        assertThat(other.locator("#menu textarea[name=result]")).isVisible();
        other.locator("#menu textarea[name=result]").fill("There are twelve");
        other.locator("#menu").getByText("Hand it back").click();
        assertThat(other.locator(".parts")).containsText("There are twelve");
        close(page);
    }
}
