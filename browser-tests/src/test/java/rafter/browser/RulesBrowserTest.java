package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A rule from its first word to what it did: written by keys, rehearsed, warned about, moved, put into force, and explained. */
@ExtendWith(World.class)
class RulesBrowserTest {

    private static void section(Page ravi) {
        ravi.navigate(World.url("/house-rules/rules"));
        ravi.getByLabel("A new section").fill("Sort");
        World.keys(ravi).press("Enter");
        assertThat(ravi.locator(".said")).containsText("The section is saved");
    }

    /** Writes a rule for what has a word in its subject, by keys alone from the button on. */
    private static void write(Page ravi, String name, String word, String tag, boolean ends) {
        ravi.navigate(World.url("/house-rules/rules"));
        World.focus(ravi.getByText("Add a rule", new Page.GetByTextOptions().setExact(true)));
        World.keys(ravi).press("Enter");
        World.focus(ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)));
        World.keys(ravi).type(name);
        World.keys(ravi).press("Tab");
        World.keys(ravi).type("For the test.");
        World.focus(ravi.getByText("Add a part", new Page.GetByTextOptions().setExact(true)));
        World.keys(ravi).press("Enter");
        Locator asked = ravi.locator("select[name='n.0.0.field']");
        assertThat(asked).isFocused();
        asked.selectOption(new SelectOption().setLabel("the subject"));
        Locator words = ravi.locator("input[name='n.0.0.v']").last();
        assertThat(words).isVisible();
        World.focus(words);
        World.keys(ravi).type(word);
        Locator deed = ravi.locator("select[name='d.0.form']");
        deed.selectOption(new SelectOption().setLabel("Add a tag"));
        Locator typed = ravi.locator("input[name='d.0.tag']");
        assertThat(typed).isVisible();
        World.focus(typed);
        World.keys(ravi).type(tag);
        if (ends) {
            ravi.getByLabel("the reading of its section ends").check();
        }
        World.focus(ravi.locator("#rule-form button.pri"));
        World.keys(ravi).press("Enter");
        assertThat(ravi.locator(".said")).containsText("“" + name + "” is saved; not in force yet");
    }

    private static void force(Page ravi) {
        ravi.getByText("Put into force", new Page.GetByTextOptions().setExact(true))
                .click();
        assertThat(ravi.locator(".said")).containsText("The rules are in force");
    }

    @Test
    void a_rule_is_written_rehearsed_warned_about_moved_and_put_into_force_and_explains_what_it_did() {
        Page ravi = World.signedIn("ravi");
        section(ravi);
        write(ravi, "Lamps", "lamp", "light", true);
        write(ravi, "Brass lamps", "brass lamp", "brass", true);
        Locator cards = ravi.locator(".rule-card");
        assertThat(cards).hasCount(2);
        assertThat(cards.nth(1)).containsText("“Lamps” takes every ticket that this rule would take");
        ravi.locator("main")
                .getByText("Rehearse", new Locator.GetByTextOptions().setExact(true))
                .last()
                .click();
        assertThat(ravi.locator("main")).containsText("tickets were looked at");
        ravi.navigate(World.url("/house-rules/rules"));
        World.focus(cards.nth(1).locator("h3 a"));
        World.keys(ravi).press("Alt+ArrowUp");
        assertThat(cards.first()).containsText("Brass lamps");
        assertThat(cards.first().locator("h3 a")).isFocused();
        assertThat(ravi.locator(".rule-card .warn")).hasCount(0);
        cards.nth(1).dragTo(cards.first().locator(".rule-says"));
        assertThat(cards.first().locator("h3 a")).hasText("Lamps");
        World.focus(cards.nth(1).locator("h3 a"));
        World.keys(ravi).press("Alt+ArrowUp");
        assertThat(cards.first()).containsText("Brass lamps");
        force(ravi);
        Page page = World.ticket("Tova Lind", "tova.lind@seamail.example", "A brass lamp", "It glows.", "imani");
        assertThat(page.locator("#side")).containsText("brass");
        String number = page.url().replaceAll(".*/tickets/(\\d+).*", "$1");
        page.navigate(World.url("/tickets/" + number + "/rules"));
        assertThat(page.locator("main")).containsText("Brass lamps");
        assertThat(page.locator("main")).containsText("matched: the subject has one of “brass lamp”");
        assertThat(page.locator("main")).containsText("“Brass lamps” ended the reading of this section");
        page.navigate(World.url("/tickets/" + number));
        page.locator("#thead a.pick[href$='/state']").click();
        page.locator("#menu button", new Page.LocatorOptions().setHasText("Closed"))
                .click();
        assertThat(page.locator("#thead a.pick[href$='/state']")).containsText("Closed");
        takeAway(ravi);
        assertThat(World.complaints()).isEmpty();
    }

    /** The other tests know nothing of rules. */
    private static void takeAway(Page ravi) {
        ravi.navigate(World.url("/house-rules/rules"));
        for (int i = 2; i > 0; i--) {
            Locator more = ravi.locator(".rule-card").first();
            more.locator("summary").click();
            more.getByText("Remove", new Locator.GetByTextOptions().setExact(true))
                    .click();
            assertThat(ravi.locator(".rule-card")).hasCount(i - 1);
        }
        force(ravi);
    }
}
