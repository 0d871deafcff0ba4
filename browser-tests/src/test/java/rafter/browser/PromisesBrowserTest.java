package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** An administrator says when the team is open and what is promised, rehearses it and puts it into force; an agent sees why. */
@ExtendWith(World.class)
class PromisesBrowserTest {

    private static final LocatorAssertions.ContainsTextOptions PATIENT =
            new LocatorAssertions.ContainsTextOptions().setTimeout(20_000);

    private static Locator button(Page page, String words) {
        return page.locator("button:visible", new Page.LocatorOptions().setHasText(words))
                .first();
    }

    @Test
    void hours_and_a_policy_are_set_up_rehearsed_put_into_force_and_explained() {
        World.mail("Dov Reiss", "dov.reiss@brightwater.example", "Under the new promise", "Hello");
        Page admin = World.signedIn("ravi");

        // A second Sunday, with the sentence read back while it is typed.
        admin.navigate(World.url("/house-rules/hours"));
        admin.click("table a >> nth=0");
        String calendar = admin.url();
        admin.click("text=Add an opening");
        admin.selectOption("[name=repeat]", "monthly-weekday");
        admin.fill("[name=name]", "Market day");
        admin.fill("[name=first]", "2027-01-01");
        for (String day : new String[] {"MO", "TU", "WE", "TH", "FR"}) {
            admin.uncheck("[name=days][value=" + day + "]");
        }
        admin.check("[name=days][value=SU]");
        admin.selectOption("[name=nth]", "2");
        admin.fill("[name=from]", "10:00");
        admin.fill("[name=to]", "14:00");
        assertThat(admin.locator("#reads"))
                .containsText("Every month on the second Sunday from Sun 10 Jan 2027, 10:00 to 14:00: Market day");
        admin.fill("[name=to]", "two");
        button(admin, "Save").click();
        assertThat(admin.locator(".trouble:visible")).containsText("is not a time of day");
        admin.fill("[name=to]", "14:00");
        button(admin, "Save").click();
        assertThat(admin.locator(".entry-list")).containsText("second Sunday");
        assertThat(admin.locator(".draft-bar")).isVisible();

        // A holiday set filled from a country, ticked in the calendar.
        admin.navigate(World.url("/house-rules/holidays/new"));
        admin.selectOption("[name=country]", new com.microsoft.playwright.options.SelectOption().setLabel("Norway"));
        admin.fill("[name=firstYear]", "2027");
        admin.fill("[name=lastYear]", "2027");
        button(admin, "Fill in").click();
        assertThat(admin.locator("[name=days]")).hasValue(java.util.regex.Pattern.compile("2027-05-17"));
        button(admin, "Save").click();
        admin.navigate(calendar);
        admin.locator("label.tick", new Page.LocatorOptions().setHasText("Holidays of Norway"))
                .locator("input")
                .check();
        admin.locator("form[action$=settings] button").click();
        admin.navigate(calendar + "?year=2027&hours=10&from=2027-05-14+12:00");
        assertThat(admin.locator(".next")).containsText("Constitution Day");

        // A policy for one plan, with a goal and a step.
        admin.navigate(World.url("/house-rules/targets/new"));
        admin.fill("[name=name]", "Anchor customers only");
        button(admin, "Add a part").click();
        admin.selectOption("select.more", "Anchor");
        assertThat(admin.locator(".reads")).containsText("the customer’s plan is Anchor");
        for (String priority : new String[] {"P1", "P2", "P3", "P4"}) {
            admin.fill("[name='g.FIRST_REPLY." + priority + "']", "1 h 15");
        }
        admin.fill("[name='g.FIRST_REPLY.share']", "90");
        button(admin, "Add a step").click();
        assertThat(admin.locator("[name='g.FIRST_REPLY.P3']")).hasValue("1 h 15");
        admin.fill("[name='g.FIRST_REPLY.P1']", "soon");
        admin.locator(".bottom button").first().click();
        assertThat(admin.locator(".trouble:visible")).containsText("is no duration");
        admin.fill("[name='g.FIRST_REPLY.P1']", "15 m");
        admin.locator(".bottom button").first().click();
        for (int i = 0; i < 2; i++) {
            admin.locator("[aria-label='Move up Anchor customers only']").click();
        }
        assertThat(admin.locator(".policy").nth(4)).containsText("Anchor customers only");
        assertThat(admin.locator(".policy").nth(4))
                .containsText("first reply 15 m, 1 h 15 m, 1 h 15 m, 1 h 15 m, for 90 %");

        // Rehearse, look, put into force.
        admin.click("text=Look, rehearse, put into force");
        assertThat(admin.locator("#main")).containsText("Policy “Anchor customers only” is new");
        button(admin, "Rehearse").click();
        assertThat(admin.locator("#rehearsal-state")).containsText("otherwise", PATIENT);
        button(admin, "Put into force").click();
        assertThat(admin.locator(".said")).containsText("In force from now on");
        assertThat(admin.locator("tbody tr").first()).containsText("done", PATIENT);

        // The agent sees why.
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist?view=open"));
        Locator card = agent.locator(".card-row", new Page.LocatorOptions().setHasText("Under the new promise"));
        card.locator(".title").click();
        agent.locator("a:has(text.link)").first().click();
        assertThat(agent.locator(".reckoning"))
                .containsText("“Anchor customers only” matched: the customer’s plan is Anchor");
        assertThat(agent.locator(".reckoning"))
                .containsText("another version of hours and targets came into force: 1 h 15 allowed");
        agent.navigate(World.url("/reports/targets"));
        assertThat(agent.locator("#main")).containsText("Anchor customers only");
        agent.locator(
                        "section[aria-labelledby=by-policy] tr",
                        new Page.LocatorOptions().setHasText("Anchor customers only"))
                .locator("a")
                .nth(2)
                .click();
        assertThat(agent.locator("#main")).containsText("Under the new promise");
    }

    @Test
    void an_agent_has_no_way_into_the_house_rules() {
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/house-rules/targets"));
        assertThat(agent.locator("#main")).containsText("House rules are for administrators");
    }
}
