package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.SelectOption;
import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Others are asked in: one declines by a key, an expert from outside takes by mail and speaks in the room, and what came of it stays. */
@ExtendWith(World.class)
class ConsultBrowserTest {

    private static final LocatorAssertions.ContainsTextOptions SOON =
            new LocatorAssertions.ContainsTextOptions().setTimeout(30_000);

    private static Locator button(Page page, String words) {
        return page.locator("main")
                .getByText(words, new Locator.GetByTextOptions().setExact(true))
                .last();
    }

    private static void settle(Page ravi) {
        ravi.navigate(World.url("/house-rules/skills/0"));
        ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Winches");
        ravi.getByLabel("Words by which").fill("winch");
        button(ravi, "Save").click();
        assertThat(ravi.locator(".said")).containsText("is saved");
        ravi.getByLabel("Winches: Jonas Weir").selectOption("EXPERT");
        ravi.getByLabel("Save Jonas Weir").click();
        assertThat(ravi.locator(".said")).containsText("Saved");
        ravi.navigate(World.url("/house-rules/consults/experts/0"));
        ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Ilse Varga");
        ravi.getByLabel("Mail address").fill("ilse@quaycustoms.example");
        ravi.getByLabel("Winches").selectOption("ABLE");
        button(ravi, "Save").click();
        assertThat(ravi.locator(".said")).containsText("is saved");
    }

    private static void here(Page page, String presence) {
        page.navigate(World.url("/floor"));
        page.getByLabel("Where you are").first().selectOption(new SelectOption().setLabel(presence));
        button(page, "Say so").click();
        assertThat(page.locator(".said")).containsText("You are " + presence);
    }

    @Test
    void a_consult_is_called_declined_by_a_key_taken_by_mail_and_closed_with_an_outcome() throws IOException {
        Page ravi = World.signedIn("ravi");
        settle(ravi);
        Page jonas = World.signedIn("jonas");
        here(jonas, "at work");
        Page imani = World.ticket(
                "Una Fell", "una.fell@seamail.example", "The ramp does not move", "It stands still", "imani");
        String ticket = imani.url();

        World.focus(imani.getByText("Ask others in"));
        World.keys(imani).press("Enter");
        imani.getByLabel("What do you need?").fill("The winch of the ramp does not answer");
        assertThat(imani.locator("#proposal")).containsText("by your words");
        assertThat(imani.locator("#proposal")).containsText("Jonas Weir");
        World.focus(button(imani, "Open the room and ask them"));
        World.keys(imani).press("Enter");
        assertThat(imani.locator(".room-people")).containsText("Jonas Weir asked");

        assertThat(jonas.locator("#offer")).containsText("The winch of the ramp", SOON);
        jonas.locator("body").click();
        World.keys(jonas).press("n");
        assertThat(jonas.locator("#offer")).not().containsText("The winch of the ramp");
        assertThat(imani.locator(".room-people")).containsText("Ilse Varga", SOON);
        assertThat(imani.locator(".room-lines")).containsText("Jonas Weir declined.");

        Page ilse = World.page();
        ilse.navigate(World.outsideUrl("/?who=ilse@quaycustoms.example"));
        Locator mail =
                ilse.getByText("Can you help with “The ramp does not move”?").first();
        for (int i = 0; i < 30 && mail.count() == 0; i++) {
            ilse.waitForTimeout(1_000);
            ilse.reload();
        }
        mail.click();
        String words = ilse.locator("pre").innerText();
        ilse.click("text=Answer");
        ilse.fill("textarea", "Yes, gladly.\n\n" + ilse.inputValue("textarea"));
        ilse.click("form#write button");
        assertThat(ilse.locator(".sent")).isVisible();
        assertThat(imani.locator(".room-people")).containsText("Ilse Varga here", SOON);
        assertThat(imani.locator(".room-lines")).containsText("Yes, gladly.");

        assertThat(AccessibilityTest.problems(imani)).as("the room").isEmpty();
        // The link in the mail leads into the room, without signing in.
        ilse.navigate(World.url(words.replaceAll("(?s).*?http://[^/]+(/room/\\S+).*", "$1")));
        assertThat(ilse.locator("main")).containsText("It stands still");
        assertThat(AccessibilityTest.problems(ilse)).as("the room from outside").isEmpty();
        ilse.getByLabel("Say something").fill("Turn the fuse of the winch");
        World.keys(ilse).press("Enter");
        assertThat(imani.locator(".room-lines")).containsText("Turn the fuse of the winch", SOON);
        imani.getByLabel("Say something").fill("Typed meanwhile");
        ilse.getByLabel("Say something").fill("It is behind the panel");
        World.keys(ilse).press("Enter");
        assertThat(imani.locator(".room-lines")).containsText("behind the panel", SOON);
        assertThat(imani.getByLabel("Say something")).hasValue("Typed meanwhile");

        imani.getByText("Close with what came of it").click();
        button(imani, "Close the room").click();
        assertThat(imani.locator(".trouble").first()).containsText("Say what was found");
        imani.locator("[name=found]").fill("The fuse of the winch");
        imani.locator("[name=did]").fill("It was turned");
        ilse.getByLabel("Say something").fill("Half a thought");
        World.focus(button(imani, "Close the room"));
        World.keys(imani).press("Enter");
        assertThat(ilse.locator("#room-live")).containsText("This room is closed", SOON);
        assertThat(ilse.getByLabel("Say something")).hasValue("Half a thought");
        assertThat(imani.locator("main").first()).containsText("What came of it");
        imani.navigate(ticket);
        assertThat(imani.locator(".entry.note").last()).containsText("The fuse of the winch");
        assertThat(imani.locator("#side")).containsText("closed");
        ilse.reload();
        assertThat(ilse.locator("main")).containsText("This room is closed");
        here(jonas, "off");
        imani.navigate(ticket.replaceAll("[#?].*", "") + "/choose/state");
        imani.locator("button[value=closed]").click();
        assertThat(imani.locator("#toasts")).containsText("is now");
        ravi.navigate(World.url("/house-rules/skills"));
        ravi.getByLabel("Remove Winches").click();
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void a_lead_writes_to_somebody_who_reads_it_on_whatever_page_and_answers() {
        Page odile = World.signedIn("odile");
        Page sefa = World.signedIn("sefa");
        sefa.navigate(World.url("/worklist?view=open"));
        odile.navigate(World.url("/floor"));
        World.focus(odile.getByLabel("Sefa Tui: write, or say where they are"));
        World.keys(odile).press("Enter");
        odile.getByLabel("Write to them").fill("Please look at the pier first");
        odile.getByText("Send it", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(odile.locator(".said")).containsText("until it was read");
        assertThat(sefa.locator("#offer")).containsText("Please look at the pier first", SOON);
        sefa.getByLabel("Your answer").fill("On my way");
        World.keys(sefa).press("Enter");
        assertThat(sefa.locator("#offer")).not().containsText("the pier");
        assertThat(odile.locator("#offer")).containsText("On my way", SOON);
        odile.locator("#main h1").click();
        World.keys(odile).press("y");
        assertThat(odile.locator("#offer")).not().containsText("On my way");
        assertThat(World.complaints()).isEmpty();
    }
}
