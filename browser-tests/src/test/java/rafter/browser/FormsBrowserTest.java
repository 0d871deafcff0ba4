package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Own fields, the forms that ask for them, and what else is new beside the conversation: by keys, as somebody works who never takes the mouse. */
@ExtendWith(World.class)
class FormsBrowserTest {

    private static Page ticket(String subject) {
        return World.ticket("Tova Lind", "tova.lind@seamail.example", subject, "It is about a cabin.", "imani");
    }

    private static void close(Page page) {
        page.locator("#thead a.pick[href$='/state']").click();
        page.locator("#menu button", new Page.LocatorOptions().setHasText("Closed"))
                .click();
        assertThat(page.locator("#thead a.pick[href$='/state']")).containsText("Closed");
    }

    private static void field(Page ravi, String name, String kind, String choices) {
        ravi.navigate(World.url("/house-rules/fields/0"));
        ravi.getByLabel("Name").fill(name);
        ravi.getByLabel(kind, new Page.GetByLabelOptions().setExact(true)).check();
        ravi.locator("textarea[name=choices]").fill(choices);
        ravi.locator("main button.pri").last().click();
        assertThat(ravi.locator(".said")).containsText(name + " is saved");
    }

    private static void takeAway(Page ravi, String name) {
        ravi.navigate(World.url("/house-rules/fields"));
        ravi.getByLabel("Where " + name + " is used").click();
        ravi.locator("main button", new Page.LocatorOptions().setHasText("Take it out of use"))
                .click();
        assertThat(ravi.locator(".said")).containsText("not asked for any more");
    }

    /** A rule that shows the cabin only for services below Cabins, put together in the sentence of the page. */
    private static void rule(Page ravi) {
        ravi.navigate(World.url("/house-rules/forms/rules/0"));
        ravi.locator("select[name=field]").selectOption(new SelectOption().setLabel("Cabin number"));
        ravi.locator("button", new Page.LocatorOptions().setHasText("Add a part"))
                .click();
        Locator asked = ravi.locator("select[name='n.0.0.field']");
        assertThat(asked).isVisible();
        asked.selectOption(new SelectOption().setLabel("Service wanted"));
        Locator value = ravi.locator("select[name='n.0.0.v']");
        assertThat(value.last()).containsText("Cabins");
        value.last().selectOption("Crossing / Cabins");
        assertThat(ravi.locator(".reads")).containsText("Crossing / Cabins");
        ravi.locator("main button.pri").last().click();
        assertThat(ravi.locator(".said")).containsText("The rule is saved");
    }

    @Test
    void a_service_is_found_by_name_or_walked_to_and_asks_for_what_belongs_to_it() {
        Page ravi = World.signedIn("ravi");
        field(
                ravi,
                "Service wanted",
                "a choice in a tree, such as a service",
                "Crossing\n  Cabins\n    Upgrade\n  Meals\nFreight");
        field(ravi, "Cabin number", "a short text", "");
        rule(ravi);
        Page page = ticket("A larger cabin");
        World.focus(page.locator("a[href$='/choose/about']"));
        World.keys(page).press("Enter");
        Locator menu = page.locator("#menu");
        assertThat(menu).not().containsText("Cabin number");
        Locator search = menu.getByLabel("Service wanted: look for it by name");
        World.focus(search);
        World.keys(page).type("upgrade");
        World.keys(page).press("Tab");
        assertThat(menu.getByLabel("Service wanted, level 3")).hasValue("Crossing / Cabins / Upgrade");
        assertThat(menu).containsText("Cabin number");
        menu.getByLabel("Service wanted, level 2").selectOption(new SelectOption().setLabel("Meals"));
        assertThat(menu).not().containsText("Cabin number");
        menu.getByLabel("Service wanted, level 2").selectOption(new SelectOption().setLabel("Cabins"));
        menu.getByLabel("Cabin number").fill("207");
        World.focus(menu.getByText("Save", new Locator.GetByTextOptions().setExact(true)));
        World.keys(page).press("Enter");
        assertThat(page.locator("#side")).containsText("Crossing / Cabins");
        assertThat(page.locator("#side")).containsText("207");
        close(page);
        ravi.navigate(World.url("/house-rules/forms"));
        ravi.getByLabel("Take away the rule of Cabin number").click();
        takeAway(ravi, "Cabin number");
        takeAway(ravi, "Service wanted");
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void a_press_that_is_not_over_when_the_form_is_drawn_anew_is_not_lost() {
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/forms/rules/0"));
        ravi.locator("button", new Page.LocatorOptions().setHasText("Add a part"))
                .hover();
        ravi.waitForResponse("**/forms/rules/save", () -> {
            ravi.mouse().down();
            ravi.locator("select[name=effect]").selectOption("REQUIRE");
        });
        // Long enough for the page to be drawn.
        ravi.waitForTimeout(500);
        ravi.mouse().up();
        assertThat(ravi.locator("select[name='n.0.0.field']")).isVisible();
        assertThat(ravi.locator("select[name=effect]")).hasValue("REQUIRE");
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void the_lines_of_a_form_are_moved_by_keys_and_by_drag_and_stay_so() {
        Page ravi = World.signedIn("ravi");
        field(ravi, "Deck wanted", "a short text", "");
        field(ravi, "Lane wanted", "a short text", "");
        ravi.navigate(World.url("/house-rules/forms/0"));
        ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("For nobody");
        Locator lines = ravi.locator(".form-items > li");
        int there = 0;
        for (String line : new String[] {"Add a section", "+ Deck wanted", "+ Lane wanted"}) {
            ravi.locator("main button", new Page.LocatorOptions().setHasText(line))
                    .click();
            assertThat(lines).hasCount(++there);
        }
        World.focus(lines.nth(2).locator("button").first());
        World.keys(ravi).press("Alt+ArrowUp");
        assertThat(lines.nth(1)).containsText("Lane wanted");
        lines.nth(2).dragTo(lines.nth(1), new Locator.DragToOptions().setTargetPosition(200, 3));
        assertThat(lines.nth(1)).containsText("Deck wanted");
        assertThat(lines.nth(2)).containsText("Lane wanted");
        lines.nth(1).locator("button[value^='down:']").click();
        assertThat(lines.nth(1)).containsText("Lane wanted");
        ravi.getByLabel("Name of the section").fill("Where it stands");
        ravi.locator("main button.pri").last().click();
        assertThat(ravi.locator("main")).containsText("Where it stands: Lane wanted, Deck wanted");
        ravi.getByLabel("Take away For nobody").click();
        assertThat(ravi.locator(".said")).containsText("is taken away");
        takeAway(ravi, "Deck wanted");
        takeAway(ravi, "Lane wanted");
    }

    @Test
    void a_colleague_is_asked_beside_the_ticket_and_the_customer_sees_what_is_for_them() {
        Page page = ticket("Ask beside");
        World.focus(page.getByText("Ask a colleague"));
        World.keys(page).press("Enter");
        Locator menu = page.locator("#menu");
        menu.locator("select[name=whom]").selectOption(new SelectOption().setLabel("Sefa Tui"));
        menu.locator("textarea[name=text]").fill("Is cabin 207 free?");
        menu.getByText("Ask", new Locator.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator(".parts")).containsText("Is cabin 207 free?");
        Page sefa = World.signedIn("sefa");
        sefa.navigate(World.url("/today"));
        sefa.locator("a.notice", new Page.LocatorOptions().setHasText("Is cabin 207 free?"))
                .click();
        sefa.getByLabel("Your answer").fill("From Friday on");
        World.keys(sefa).press("Enter");
        assertThat(sefa.locator(".parts")).containsText("Sefa Tui: From Friday on");
        assertThat(page.locator(".parts")).containsText("Sefa Tui: From Friday on");
        page.locator("#thead h1").click();
        World.keys(page).press("w");
        World.keys(page).type("Your cabin is free from Friday on.");
        page.locator("#pane-note input[name=seen]").check();
        Page customer = World.page();
        customer.navigate(
                World.url(page.locator("#pane-note a").getAttribute("href").replaceFirst("https?://[^/]+", "")));
        assertThat(customer.locator("main")).containsText("Ask beside");
        page.locator("#pane-note button[type=submit]").click();
        assertThat(page.locator(".entry.public_note")).containsText("Your cabin is free");
        customer.reload();
        assertThat(customer.locator("main")).containsText("Your cabin is free from Friday on.");
        assertThat(customer.locator("main")).not().containsText("207");
        close(page);
    }

    @Test
    void a_letter_outside_is_written_beside_the_ticket_and_is_there_again_after_the_page_was_left() {
        Page page = ticket("A letter begun");
        String address = page.url();
        Locator to = page.locator("#letter [name=to]");
        Locator text = page.locator("#letter .ql-editor");
        World.focus(page.getByText("Write outside"));
        World.keys(page).press("Enter");
        to.fill("office@quay.example");
        text.click();
        World.keys(page).type("Is there room on Friday?");
        assertThat(page.locator("#letter .kept")).containsText(Pattern.compile("Draft saved"));
        World.keys(page).press("Escape");
        assertThat(page.locator("#beside")).isHidden();
        page.navigate(address);
        page.getByText("Write outside").click();
        assertThat(text).containsText("Is there room on Friday?");
        assertThat(to).hasValue("office@quay.example");
        page.getByText("Throw it away").click();
        assertThat(text).not().containsText("Is there room");

        to.fill("office@quay.example");
        text.click();
        World.keys(page).type("And on Saturday?");
        World.focus(page.getByText("Send outside"));
        World.keys(page).press("Enter");
        assertThat(page.locator("#beside")).isHidden();
        assertThat(page.locator("[aria-label='Outside conversations']")).containsText("office@quay.example");
        assertThat(page).hasURL(address);
        page.locator("[aria-label='Outside conversations'] a:text-is('office@quay.example')")
                .click();
        assertThat(page.locator("#letter [name=thread]")).not().hasValue("");
        page.getByText("Cancel").click();
        assertThat(page.locator("#beside")).isHidden();
        close(page);
    }

    @Test
    void why_a_time_is_due_opens_beside_the_ticket() {
        Page page = ticket("Due when");
        String address = page.url();
        World.focus(page.locator("a[href*='/clocks#']").first());
        World.keys(page).press("Enter");
        assertThat(page.locator("#beside-body")).containsText("Why is");
        assertThat(page).hasURL(address);
        World.keys(page).press("Escape");
        assertThat(page.locator("#beside")).isHidden();
        close(page);
    }
}
