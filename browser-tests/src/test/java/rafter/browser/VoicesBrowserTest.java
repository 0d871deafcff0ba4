package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.SelectOption;
import java.io.IOException;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.outside.demo.Cast;

/** Somebody calls, and somebody writes on a network; one of us takes it, with the keyboard, in another browser. */
@ExtendWith(World.class)
class VoicesBrowserTest {

    private static final LocatorAssertions.ContainsTextOptions PATIENT =
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

    @BeforeAll
    static void an_exchange_and_a_network() {
        Page ravi = World.signedIn("ravi");
        provider(ravi, "telephone", "Harbour exchange", "exchange", "/telephones/api", Cast.EXCHANGE_SECRET);
        line(ravi, "telephone", "Add a line", Cast.LINES.getFirst(), "a call whose caller waited and gave up");
        provider(ravi, "social", "Gangway", "gangway", "/network/api", Cast.NETWORK_SECRET);
        line(ravi, "social", "Add an account", Cast.ACCOUNTS.getFirst(), "private messages");
        ravi.context().close();
    }

    private static void provider(Page ravi, String kind, String name, String word, String path, String secret) {
        ravi.navigate(World.url("/house-rules/" + kind + "/providers/0"));
        ravi.fill("[name=name]", name);
        ravi.fill("[name=word]", word);
        ravi.fill("[name=address]", "no address");
        ravi.fill("[name=secret]", secret);
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator("#main .trouble")).containsText("Nothing was saved");
        assertThat(ravi.locator("[name=word]")).hasValue(word);
        ravi.fill("[name=address]", World.outsideUrl(path));
        ravi.fill("[name=secret]", secret);
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator(".said")).containsText("The provider is saved");
    }

    private static void line(Page ravi, String kind, String button, Cast.Line line, String wish) {
        ravi.navigate(World.url("/house-rules/" + kind));
        ravi.getByText(button, new Page.GetByTextOptions().setExact(true))
                .first()
                .click();
        ravi.fill("[name=address]", "nothing of the kind");
        ravi.fill("[name=name]", line.name());
        ravi.getByLabel(wish).check();
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator("#main .trouble")).isVisible();
        ravi.fill("[name=address]", line.number());
        ravi.click("button:text-is('Save')");
        assertThat(ravi.locator(".said")).containsText("is saved");
    }

    private static void press(Page page, Locator what) {
        assertThat(what).isVisible();
        World.focus(what);
        World.keys(page).press("Enter");
    }

    private static Page caller(String number) {
        Page caller = World.page();
        caller.navigate(World.outsideUrl("/telephones"));
        caller.fill("[name=other]", number);
        caller.locator("button:text-is('Call')").click();
        return caller;
    }

    @Test
    void a_call_is_taken_into_a_ticket_by_keyboard_survives_a_closed_browser_and_a_killed_node() throws Exception {
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/calls"));
        assertThat(imani.locator("#calls")).containsText("Nobody is on the telephone");
        Page caller = caller("+999 32 960 707");
        Locator take = imani.locator("button[aria-label='Take the call of +999 32 960 707']");
        assertThat(take).isVisible();
        press(imani, take);
        imani.waitForURL("**/calls/*");
        assertThat(imani.locator(".call-state")).containsText("talking");
        assertThat(caller.locator("tr", new Page.LocatorOptions().setHasText("talking")))
                .hasCount(1);
        assertThat(AccessibilityTest.problems(imani)).isEmpty();
        World.focus(imani.locator("#notes"));
        World.keys(imani).type("Two bicycles on Saturday");
        assertThat(imani.locator("#notes-kept")).hasText("Saved");
        World.focus(imani.locator("#call-caller [name=name]"));
        World.keys(imani).type("Runa Solberg");
        press(imani, imani.getByText("Write down as somebody new"));
        assertThat(imani.locator(".call-name")).containsText("Runa Solberg");
        assertThat(imani.locator("#notes")).hasValue("Two bicycles on Saturday");
        press(imani, imani.locator("button:text-is('Hold')"));
        assertThat(imani.locator(".call-state")).containsText("on hold");

        // The browser is closed while they wait, and Rafter is killed; the call goes on at the exchange.
        imani.context().close();
        World.kill();
        World.startAgain();
        Page again = World.signedIn("imani");
        again.navigate(World.url("/calls"));
        press(again, again.getByText("My call"));
        assertThat(again.locator(".call-state")).containsText("on hold");
        assertThat(again.locator("#notes")).hasValue("Two bicycles on Saturday");
        press(again, again.locator("button:text-is('Speak again')"));
        assertThat(again.locator(".call-state")).containsText("talking");
        again.locator("#call-about [name=topic]").fill("bicycles");
        press(again, again.locator("#call-about button:text-is('Save')"));
        assertThat(again.locator(".said")).containsText("is saved");
        String ticket = again.locator("#call-about a.mono").getAttribute("href");

        // What is told while nobody listens is told once somebody does.
        World.kill();
        caller.locator("button:text-is('Hang up')").click();
        World.startAgain();
        again.navigate(World.url("/calls"));
        assertThat(again.locator("#calls")).containsText("answered by Imani", PATIENT);
        press(again, again.getByText("Runa Solberg").first());
        again.locator("#call-finish select").selectOption(new SelectOption().setLabel("resolved"));
        press(again, again.locator("#call-finish button"));
        assertThat(again.locator(".said")).containsText("you are free");
        again.navigate(World.url(ticket));
        assertThat(again.locator("#main")).containsText("Imani Okoro spoke with them for");
        assertThat(again.locator("#main")).containsText("Two bicycles on Saturday");
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void who_gives_up_is_called_back_from_the_ticket_while_the_exchange_tells_everything_twice() {
        Page caller = World.page();
        caller.navigate(World.outsideUrl("/telephones"));
        caller.locator("select[name=manner]").selectOption("TWICE");
        caller.locator("button:text-is('Change')").click();
        caller.fill("[name=other]", "+999 32 960 808");
        caller.locator("button:text-is('Call')").click();
        caller.waitForTimeout(6_000);
        caller.locator("button:text-is('Hang up')").first().click();
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/calls?unanswered=true"));
        Locator row = imani.locator("tr", new Page.LocatorOptions().setHasText("+999 32 960 808"));
        assertThat(row).containsText("gave up waiting", PATIENT);
        assertThat(row).hasCount(1);
        imani.navigate(World.url(row.locator("a.mono").getAttribute("href")));
        assertThat(imani.locator("#main")).containsText("call back");
        assertThat(imani.locator(".unwritten")).containsText("Nothing can be written by telephone");
        press(imani, imani.locator(".unwritten a"));
        imani.locator("[name=number]").fill("not a number");
        press(imani, imani.locator("button:text-is('Call')"));
        assertThat(imani.locator("#main .trouble")).containsText("is no telephone number");
        assertThat(imani.locator("[name=number]")).hasValue("not a number");
        imani.locator("[name=number]").fill("+999 32 960 808");
        press(imani, imani.locator("button:text-is('Call')"));
        assertThat(imani.locator(".call-state")).containsText("ringing there");
        caller.locator("button:text-is('Pick up')").click();
        assertThat(imani.locator(".call-state")).containsText("talking");
        press(imani, imani.locator("button:text-is('Hang up')"));
        assertThat(imani.locator("#call-live")).containsText("answered");
        imani.locator("#call-finish select").selectOption(new SelectOption().setLabel("resolved"));
        press(imani, imani.locator("#call-finish button"));
        caller.navigate(World.outsideUrl("/telephones"));
        caller.locator("select[name=manner]").selectOption("WELL");
        caller.locator("button:text-is('Change')").click();
    }

    private static Page writer(String as, String text, String to) {
        Page writer = World.page();
        writer.navigate(World.outsideUrl("/network"));
        writer.locator("select[name=who]").selectOption(as);
        writer.locator("textarea[name=text]").fill(text);
        writer.locator("select[name=account]").selectOption(new SelectOption().setLabel(to));
        press(writer, writer.locator("button:text-is('Write')"));
        return writer;
    }

    private static void answer(Page page, String text, String how) {
        World.focus(page.locator(".social-answer textarea"));
        World.keys(page).type(text);
        page.locator(".social-answer").getByLabel(how).check();
        press(page, page.locator(".social-answer button:text-is('Answer')"));
        assertThat(page.locator(".said")).containsText("Answered, in ticket");
    }

    @Test
    void a_post_is_answered_publicly_and_privately_also_while_the_network_is_down() throws IOException {
        Page writer = writer("@kaisan", "@ternpassage may I bring a <b>kayak</b>?", "everybody");
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/social"));
        Locator card = imani.locator(".social-card", new Page.LocatorOptions().setHasText("<b>kayak</b>"));
        assertThat(card).isVisible();
        press(imani, card);
        assertThat(imani.locator(".social-detail .social-words").first())
                .hasText("@ternpassage may I bring a <b>kayak</b>?");
        assertThat(AccessibilityTest.problems(imani)).isEmpty();
        answer(imani, "You may, by the lower deck.", "Public, everybody reads it");
        writer.navigate(World.outsideUrl("/network"));
        Locator ours = writer.locator("article", new Page.LocatorOptions().setHasText("by the lower deck"));
        for (int i = 0; i < 20 && ours.count() == 0; i++) {
            writer.waitForTimeout(500);
            writer.navigate(World.outsideUrl("/network"));
        }
        assertThat(ours).hasCount(1);
        assertThat(ours).containsText("answers another");

        press(writer, writer.locator("button:text-is('It works. Put it out of order')"));
        imani.navigate(World.url("/social?state=ticket"));
        press(imani, card);
        answer(imani, "Write us its length, please.", "Private");
        imani.navigate(World.url("/social?state=ticket"));
        press(imani, card);
        imani.navigate(World.url(imani.locator(".social-detail a.mono").first().getAttribute("href")));
        assertThat(imani.locator("#main")).containsText("out of order", PATIENT);
        writer.navigate(World.outsideUrl("/network"));
        press(writer, writer.locator("button:text-is('It is out of order. Mend it')"));
        Locator later = writer.locator("article", new Page.LocatorOptions().setHasText("Write us its length"));
        for (int i = 0; i < 60 && later.count() == 0; i++) {
            writer.waitForTimeout(500);
            writer.navigate(World.outsideUrl("/network"));
        }
        assertThat(later).hasCount(1);
        assertThat(later).containsText("privately, to @kaisan");

        // Who wrote it writes it otherwise, and takes it away.
        Locator post = writer.locator("article", new Page.LocatorOptions().setHasText("<b>kayak</b>"));
        post.locator("[name=text]").fill("@ternpassage may I bring a canoe?");
        press(writer, post.locator("button:text-is('Write it so instead')"));
        assertThat(imani.locator("#main")).containsText("may I bring a canoe?", PATIENT);
        press(
                writer,
                writer.locator("article", new Page.LocatorOptions().setHasText("may I bring a canoe"))
                        .locator("button:text-is('Delete')"));
        assertThat(imani.locator("#main")).containsText("This was deleted by whoever wrote it", PATIENT);
        assertThat(imani.content()).doesNotContain("canoe");
        assertThat(World.complaints()).isEmpty();
    }

    @Test
    void noise_is_set_aside_next_time_and_taken_back() {
        writer("@harbourlottery", "@ternpassage win a free cruise with our lottery today", "everybody");
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/social"));
        press(imani, imani.locator(".social-card", new Page.LocatorOptions().setHasText("free cruise")));
        press(imani, imani.locator(".social-noise summary"));
        press(imani, imani.locator("button[value=sender]"));
        assertThat(imani.locator(".said")).containsText("It is noise");
        writer("@harbourlottery", "@ternpassage last chance for the harbour lottery", "everybody");
        imani.navigate(World.url("/social?state=aside"));
        Locator aside = imani.locator(".social-card", new Page.LocatorOptions().setHasText("last chance"));
        for (int i = 0; i < 20 && aside.count() == 0; i++) {
            imani.waitForTimeout(500);
            imani.reload();
        }
        assertThat(aside).containsText("what @harbourlottery writes");
        press(imani, aside);
        press(imani, imani.locator("button:text-is('Look at it again')"));
        assertThat(imani.locator(".said")).containsText("to look at again");
        imani.navigate(World.url("/social"));
        assertThat(imani.locator(".social-card", new Page.LocatorOptions().setHasText("last chance")))
                .isVisible();
        press(imani, imani.locator(".social-card", new Page.LocatorOptions().setHasText("last chance")));
        press(imani, imani.locator("button:text-is('Archive')"));
        press(imani, imani.locator(".said button:text-is('Undo')"));
        assertThat(imani.locator(".said")).containsText("to look at again");
    }
}
