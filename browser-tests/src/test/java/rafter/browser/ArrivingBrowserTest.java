package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What becomes of arriving mail, and how automatic mails are worded: by keys, with what is wrong said where it is typed. */
@ExtendWith(World.class)
class ArrivingBrowserTest {

    private static void press(Page page, String button) {
        World.focus(page.locator("main")
                .getByText(button, new Locator.GetByTextOptions().setExact(true))
                .last());
        World.keys(page).press("Enter");
    }

    @Test
    void mail_is_set_aside_by_a_rule_that_was_written_and_tried_by_keys() {
        World.mail("Lene Aas", "lene.aas@seamail.example", "Flags at half price", "Buy flags");
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/arriving"));
        press(ravi, "Add a rule");
        World.focus(ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)));
        World.keys(ravi).type("Flags");
        Locator asked = ravi.locator("select[name='n.0.0.field']");
        asked.selectOption(new SelectOption().setLabel("the subject"));
        assertThat(ravi.locator("select[name='n.0.0.op']")).containsText("has one of");
        Locator words = ravi.locator("input[name='n.0.0.v']").last();
        World.focus(words);
        World.keys(ravi).type("half price");
        press(ravi, "Try it on the last mail");
        assertThat(ravi.locator("main")).containsText("It would take 1 of the last 200 mails");
        assertThat(ravi.locator("main")).containsText("lene.aas@seamail.example");
        assertThat(ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("Flags");
        press(ravi, "Save");
        assertThat(ravi.locator(".said")).containsText("“Flags” is saved and in force");
        World.mail("Lene Aas", "lene.aas@seamail.example", "Flags at half price again", "Buy more flags");
        ravi.navigate(World.url("/house-rules/set-aside"));
        Locator aside = ravi.locator("tr", new Page.LocatorOptions().setHasText("Flags at half price again"));
        for (int i = 0; i < 60 && aside.count() == 0; i++) {
            ravi.waitForTimeout(250);
            ravi.reload();
        }
        assertThat(aside).containsText("“Flags” says so");
        aside.getByText("Dismiss", new Locator.GetByTextOptions().setExact(true))
                .click();
        ravi.navigate(World.url("/house-rules/arriving"));
        assertThat(ravi.locator(".rule-card")).containsText("1 in 90 days");
        ravi.locator(".rule-card summary").click();
        press(ravi, "Remove");
        assertThat(ravi.locator(".said")).containsText("The rule is removed");
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void an_automatic_mail_is_worded_in_another_language_and_what_is_wrong_is_said_beside_it() {
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/mails"));
        ravi.getByText("Add a template", new Page.GetByTextOptions().setExact(true))
                .click();
        ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Late sailing");
        ravi.locator("input[name='v.0.subject']").fill("Late: {ticket}");
        ravi.locator("textarea[name='v.0.body']").fill("Hello {nobody}");
        World.keys(ravi).press("Tab");
        assertThat(ravi.locator("main")).containsText("There is no placeholder {nobody}");
        ravi.locator("textarea[name='v.0.body']").fill("Hello {customer}");
        press(ravi, "Add a language");
        Locator language = ravi.locator("input[name='v.1.language']");
        assertThat(language).isFocused();
        World.keys(ravi).type("german");
        press(ravi, "Save");
        assertThat(ravi.locator("p.trouble").first()).containsText("“german” is no language");
        assertThat(ravi.locator("textarea[name='v.0.body']")).hasValue("Hello {customer}");
        ravi.locator("input[name='v.1.language']").fill("de");
        press(ravi, "Save");
        assertThat(ravi.locator(".said")).containsText("“Late sailing” is saved");
        assertThat(ravi.locator(".rule-card", new Page.LocatorOptions().setHasText("Late sailing")))
                .containsText("also in de");
        ravi.getByLabel("Remove Late sailing").click();
        assertThat(ravi.locator(".said")).containsText("is removed");
        ravi.getByText("Undo", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(ravi.locator(".said")).containsText("It is there again");
        ravi.getByLabel("Remove Late sailing").click();
        assertThat(World.complaints()).isEmpty();
    }
}
