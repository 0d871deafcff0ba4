package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.SelectOption;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Who takes it, by keys: an offer is taken, one is passed and one runs out; who fits best; what a lead hands out anew and takes back. */
@ExtendWith(World.class)
class OffersBrowserTest {

    private static final LocatorAssertions.ContainsTextOptions SOON =
            new LocatorAssertions.ContainsTextOptions().setTimeout(30_000);

    private static void press(Page page, String button) {
        World.focus(page.locator("main")
                .getByText(button, new Locator.GetByTextOptions().setExact(true))
                .last());
        World.keys(page).press("Enter");
    }

    /** A queue for tickets with a word in their subject, of the team of the mailbox. */
    private static void queue(Page ravi, String name, String word, String way, String answer) {
        ravi.navigate(World.url("/house-rules/queues/0"));
        ravi.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
        ravi.locator("button", new Page.LocatorOptions().setHasText("Add a part"))
                .click();
        ravi.locator("select[name='n.0.0.field']").selectOption(new SelectOption().setLabel("the subject"));
        assertThat(ravi.locator("select[name='n.0.0.op']")).containsText("has one of");
        ravi.locator("input[name='n.0.0.v']").last().fill(word);
        ravi.getByLabel("Passengers", new Page.GetByLabelOptions().setExact(true))
                .check();
        ravi.locator("input[name=way][value=" + way + "]").check();
        ravi.getByLabel("How long somebody has to answer").fill(answer);
        press(ravi, "Save");
        assertThat(ravi.locator(".said")).containsText("is saved");
    }

    private static void here(Page page, String presence) {
        page.navigate(World.url("/floor"));
        page.getByLabel("Where you are").first().selectOption(new SelectOption().setLabel(presence));
        press(page, "Say so");
        assertThat(page.locator(".said")).containsText("You are " + presence);
    }

    @Test
    void an_offer_is_taken_by_a_key_one_is_passed_and_one_runs_out() {
        Page ravi = World.signedIn("ravi");
        queue(ravi, "Lanterns", "lantern", "OFFERS", "12 s");
        Page imani = World.signedIn("imani");
        here(imani, "at work");
        imani.navigate(World.url("/worklist?view=open"));
        World.mail("Una Fell", "una.fell@seamail.example", "A lantern is lost", "Red");
        Locator offer = imani.locator("#offer");
        assertThat(offer).containsText("A lantern is lost", SOON);
        assertThat(offer).containsText("fits best");
        World.keys(imani).press("y");
        imani.waitForURL("**/tickets/*");
        assertThat(imani.locator("#side")).containsText("Imani Okoro");
        assertThat(imani.locator("#offer")).not().containsText("Can you take this?");
        String first = imani.url();

        World.mail("Una Fell", "una.fell@seamail.example", "Another lantern", "Green");
        assertThat(offer).containsText("Another lantern", SOON);
        imani.getByLabel("Why you pass it").fill("no green ones");
        World.focus(imani.locator("[data-pass-offer]"));
        World.keys(imani).press("Enter");
        assertThat(offer).not().containsText("Another lantern");
        // A new round begins after a pause; that one runs out.
        assertThat(offer).containsText("Another lantern", SOON);
        assertThat(offer).not().containsText("Another lantern", SOON);
        here(imani, "off");
        Page odile = World.signedIn("odile");
        odile.navigate(World.url("/floor"));
        Locator row = odile.locator("[data-person]", new Page.LocatorOptions().setHasText("Imani Okoro"));
        assertThat(row).containsText("took 1, passed 1");
        closeAll(ravi, first);
    }

    /** Leaves nothing open behind, and no queue. */
    private static void closeAll(Page ravi, String... tickets) {
        ravi.navigate(World.url("/house-rules/queues"));
        Locator remove = ravi.locator("button[aria-label^='Remove ']");
        while (remove.count() > 0) {
            remove.first().click();
            assertThat(ravi.locator(".said")).containsText("The queue is removed");
        }
        for (String ticket : tickets) {
            close(ravi, ticket);
        }
        ravi.navigate(World.url("/search?q=lantern"));
        var links = (List<?>) ravi.locator("#main a[href^='/tickets/']").evaluateAll("all => all.map(a => a.href)");
        links.forEach(link -> close(ravi, link.toString()));
        assertThat(World.complaints()).isEmpty();
    }

    private static void close(Page page, String ticket) {
        page.navigate(ticket.replaceAll("[#?].*", "") + "/choose/state");
        Locator closed = page.locator("button[value=closed]");
        if (closed.count() > 0) {
            closed.click();
            assertThat(page.locator("#toasts")).containsText("is now");
        }
    }

    @Test
    void a_lead_hands_out_anew_takes_it_back_and_hands_over_to_who_fits_best_by_a_figure() {
        Page ravi = World.signedIn("ravi");
        queue(ravi, "Lanterns by hand", "lantern", "HAND", "1 m");
        Page imani = World.signedIn("imani");
        here(imani, "at work");
        World.mail("Una Fell", "una.fell@seamail.example", "A lantern to hand out", "Blue");
        Page odile = World.signedIn("odile");
        odile.navigate(World.url("/floor"));
        assertThat(odile.locator("[data-queue]", new Page.LocatorOptions().setHasText("Lanterns by hand")))
                .containsText("1 waits", SOON);
        odile.getByText("Hand out anew", new Page.GetByTextOptions().setExact(true))
                .click();
        Locator line =
                odile.locator("tr", new Page.LocatorOptions().setHasText("nobody has it, and Imani Okoro can take it"));
        assertThat(line.first()).isVisible();
        press(odile, "Hand out what is ticked");
        assertThat(odile.locator(".said")).containsText("changed hands");
        press(odile, "Take that back");
        assertThat(odile.locator(".said")).containsText("went back to where it was");
        Locator waits = odile.locator("[data-queue]", new Page.LocatorOptions().setHasText("Lanterns by hand"));
        assertThat(waits).containsText("1 waits", SOON);
        World.focus(waits.getByText("Hand over", new Locator.GetByTextOptions().setExact(true))
                .first());
        World.keys(odile).press("Enter");
        odile.waitForURL("**/fit");
        assertThat(odile.locator(".fit-lines li").first()).containsText("of 100");
        World.keys(odile).press("1");
        odile.waitForURL("**/tickets/*");
        assertThat(odile.locator("#side")).containsText("Owner");
        here(imani, "off");
        closeAll(ravi, odile.url());
    }
}
