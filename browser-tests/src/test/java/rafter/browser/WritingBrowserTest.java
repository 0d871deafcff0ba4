package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The core road by keys alone: open a ticket, put a phrase in, fill a placeholder, send; and the acts beside it. */
@ExtendWith(World.class)
class WritingBrowserTest {

    private static Page ticket(String subject, String who) {
        return World.ticket("Kaisa Nurmi", "kaisa.nurmi@seamail.example", subject, "Is there room for a bicycle?", who);
    }

    private static void phrase(Page page, String name, String text) {
        String back = page.url();
        page.navigate(World.url("/phrases/0"));
        page.getByLabel("Name").fill(name);
        page.locator(".ql-editor").click();
        World.keys(page).type(text);
        page.getByText("Save", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator(".said")).containsText("is in the phrasebook");
        page.navigate(back);
    }

    /** What of the text is coloured as having no value. */
    private static String coloured(Page page) {
        return page.evaluate("() => Array.from(CSS.highlights.get('no-value'),"
                        + " range => range.startContainer.data.slice(range.startOffset, range.endOffset)).join()")
                .toString();
    }

    @Test
    void a_phrase_and_a_placeholder_are_put_in_and_sent_by_keys_alone() {
        Page page = ticket("Room for a bicycle", "imani");
        phrase(page, "Bicycles on board", "There is room for your bicycle, {first name}.");
        World.keys(page).press("a");
        Locator editor = page.locator("#pane-reply .ql-editor");
        assertThat(editor).containsText("Dear Kaisa Nurmi,");
        assertThat(editor).containsText("Kind regards");
        World.keys(page).type(",,bicy");
        assertThat(page.locator("#pane-reply .phrases li").first()).containsText("Bicycles on board");
        World.keys(page).press("Enter");
        assertThat(editor).containsText("There is room for your bicycle, Kaisa.");
        World.keys(page).type(" It is ticket {ticket}");
        String number = page.url().replaceAll(".*/tickets/(\\d+).*", "$1");
        assertThat(editor).containsText("It is ticket " + number);
        World.keys(page).type(" {compnay}");
        assertThat(page.locator("#pane-reply .gaps")).containsText("Nobody knows what {compnay} stands for.");
        assertThat(coloured(page)).isEqualTo("{compnay}");
        for (int i = 0; i < " {compnay}".length(); i++) {
            World.keys(page).press("Backspace");
        }
        assertThat(page.locator("#pane-reply .gaps")).isHidden();
        assertThat(coloured(page)).isEmpty();
        World.keys(page).press("Control+Enter");
        assertThat(page.locator(".entry.public").last()).containsText("There is room for your bicycle, Kaisa.");
        assertThat(page.locator(".entry.public").last()).containsText("Imani Okoro");
    }

    /** All in one step of the browser, so that nothing it does by and by comes between the focus and the first letters. */
    @Test
    void letters_that_follow_at_once_on_the_focus_stand_between_greeting_and_closing() {
        Page page = ticket("Letters at once", "imani");
        Locator editor = page.locator("#pane-reply .ql-editor");
        editor.evaluate("""
                editor => {
                  editor.focus();
                  editor.dispatchEvent(new KeyboardEvent("keydown", { key: "H", bubbles: true }));
                  document.execCommand("insertText", false, "Half a sentence");
                }""");
        assertThat(editor.locator("p").nth(0)).hasText("Dear Kaisa Nurmi,");
        assertThat(editor.locator("p").nth(1)).hasText("Half a sentence");
        World.keys(page).type(" and the rest");
        assertThat(editor.locator("p").nth(1)).hasText("Half a sentence and the rest");
    }

    @Test
    void a_reply_with_its_greeting_alone_is_no_reply() {
        Page page = ticket("Greeting alone", "imani");
        World.keys(page).press("a");
        assertThat(page.locator("#pane-reply .ql-editor")).containsText("Dear Kaisa Nurmi,");
        World.keys(page).press("Control+Enter");
        assertThat(page.locator("#pane-reply .kept")).containsText("There are no words in it yet");
        page.locator("#thead h1").click();
        assertThat(page.locator("#pane-reply .ql-editor")).not().containsText("Dear");
    }

    @Test
    void tasks_time_and_a_macro_are_a_few_keys_and_each_can_be_taken_back() {
        Page page = ticket("A few keys", "sefa");
        World.focus(page.getByLabel("Add a task"));
        World.keys(page).press("Enter");
        assertThat(page.locator("#menu input[name=what]")).isFocused();
        World.keys(page).type("Ask the crew");
        World.keys(page).press("Enter");
        assertThat(page.locator(".tasks")).containsText("Ask the crew");
        World.focus(page.locator(".tickbox"));
        World.keys(page).press("Enter");
        assertThat(page.locator(".parts")).containsText("1 of 1 done");
        page.locator("#toasts button", new Page.LocatorOptions().setHasText("Undo"))
                .last()
                .click();
        assertThat(page.locator(".parts")).containsText("0 of 1 done");
        World.focus(page.getByText("Start the watch"));
        World.keys(page).press("Enter");
        assertThat(page.locator(".stopwatch summary")).isVisible();
        page.navigate(World.url("/today"));
        assertThat(page.locator(".stopwatch summary")).isVisible();
        World.focus(page.locator(".stopwatch summary"));
        World.keys(page).press("Enter");
        page.getByText("Throw away").click();
        assertThat(page.locator(".stopwatch")).hasCount(0);
        page.goBack();
        World.keys(page).press("m");
        assertThat(page.locator("#menu [role=menuitem]").last()).isVisible();
        assertThat(page.locator("#menu").innerText()).contains("All macros");
    }
}
