package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The worklist in each of its shapes, with the keyboard alone. */
@ExtendWith(World.class)
class WorklistBrowserTest {

    private static final LocatorAssertions.IsVisibleOptions PATIENT =
            new LocatorAssertions.IsVisibleOptions().setTimeout(20_000);
    private static final String WORD = "albatrossy";

    @BeforeAll
    static void three_tickets() {
        Page agent = World.signedIn("imani");
        // One after the other: those that arrive together get their numbers in any order.
        for (int i = 1; i <= 3; i++) {
            World.mail("Wanda Tern", "wanda.tern@post.example", "Worklist " + WORD + " " + i, "Message " + i);
            for (int tries = 0; tries < 60 && agent.locator(".card-row").count() < i; tries++) {
                agent.navigate(list("cards"));
                agent.waitForTimeout(300);
            }
            assertThat(agent.locator(".card-row")).hasCount(i);
        }
        agent.close();
    }

    /** A list of these three alone, whatever else the world holds. */
    private static String list(String shape) {
        return World.url("/worklist?view=open&sort=number&shape=" + shape
                + "&q=%7B%22field%22%3A%22subject%22%2C%22has-any%22%3A%5B%22" + WORD
                + "%22%5D%2C%22version%22%3A1%7D");
    }

    private static Page open(String shape) {
        Page agent = World.signedIn("imani");
        agent.navigate(list(shape));
        assertThat(agent.locator(".card-row, .clock-mark").first()).isVisible();
        return agent;
    }

    private static int height(Page page) {
        // In one step: between finding a row and measuring it the row may be drawn anew.
        return ((Number) page.evaluate("() => document.querySelector('.card-row').offsetHeight")).intValue();
    }

    private static void press(Page page, String... keys) {
        for (String key : keys) {
            World.keys(page).press(key);
        }
    }

    @Test
    void a_click_counts_though_the_row_was_to_be_renewed_while_it_was_pressed() {
        Page agent = open("cards");
        Locator title = agent.locator(".card-row .title").first();
        title.hover();
        agent.mouse().down();
        agent.waitForResponse(
                "**/worklist/cards?**",
                () -> agent.evaluate("() => document.dispatchEvent(new CustomEvent('rafter:ticket',"
                        + " { detail: Number(document.querySelector('.card-row').dataset.number) }))"));
        agent.evaluate("() => new Promise(drawn => { setTimeout(drawn, 100); })");
        agent.mouse().up();
        agent.waitForURL("**/tickets/**");
        assertThat(agent.locator("#main")).containsText(WORD);
    }

    @Test
    void a_glance_unfolds_in_place_and_a_note_is_written_from_it() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "Space");
        Locator glance = agent.locator("#glance");
        assertThat(glance).containsText("Message 1");
        World.focus(glance.getByLabel("Note here"));
        World.keys(agent).type("Noted from the list");
        press(agent, "Control+Enter");
        assertThat(agent.locator(".toast-line")).containsText("The note is there");
        assertThat(glance).hasCount(0);
        press(agent, "Space");
        assertThat(agent.locator("#glance")).containsText("Noted from the list");
        press(agent, "Escape");
        assertThat(agent.locator("#glance")).hasCount(0);
        assertThat(agent.locator(".card-row.at")).hasCount(1);
    }

    @Test
    void lines_show_twice_as_many_and_are_parted_with_counts() {
        Page agent = open("cards");
        int card = height(agent);
        agent.navigate(list("lines") + "&group=state");
        assertThat(agent.locator(".group-head").first()).isVisible();
        assertThat(height(agent) * 2).isLessThanOrEqualTo(card + 2);
    }

    @Test
    void the_grid_is_ordered_by_its_headers_and_its_columns_are_moved_and_widened_by_keys() {
        Page agent = open("grid");
        World.focus(agent.locator("th[data-col=subject] a"));
        press(agent, "Enter");
        agent.waitForURL("**sort=subject**");
        assertThat(agent.locator("th[data-col=subject]")).hasAttribute("aria-sort", "ascending");
        agent.locator("th[data-col=priority] a")
                .click(new Locator.ClickOptions()
                        .setModifiers(java.util.List.of(com.microsoft.playwright.options.KeyboardModifier.SHIFT)));
        agent.waitForURL("**sort=subject%2Cpriority**");
        World.focus(agent.locator("th[data-col=subject] a"));
        press(agent, "Alt+ArrowRight");
        agent.waitForURL("**cols=**");
        assertThat(agent.locator("th[data-col]").nth(1)).hasAttribute("data-col", "customer");
        World.focus(agent.locator("th[data-col=subject] a"));
        press(agent, "Alt+Shift+ArrowRight");
        // The header is that wide at once; the list comes anew after it.
        agent.waitForURL("**subject%3A340**");
        assertThat(agent.locator("th[data-col=subject]")).hasAttribute("data-width", "340");
        press(agent, "ArrowDown", "p");
        agent.locator("#menu button.choice", new Page.LocatorOptions().setHasText("P2"))
                .click();
        assertThat(agent.locator(".card-row").first()).containsText("P2");
    }

    @Test
    void in_lanes_a_ticket_is_laid_into_the_next_lane_by_keys_and_a_limit_is_told() {
        Page agent = open("lanes");
        World.focus(agent.locator(".lane[data-lane=new] .title").first());
        press(agent, "Shift+ArrowRight");
        assertThat(agent.locator(".lane[data-lane=in-hand] .card-row")).hasCount(1);
        World.focus(agent.locator(".lane[data-lane=new] .limit"));
        press(agent, "Enter");
        World.keys(agent).type("1");
        press(agent, "Enter");
        agent.waitForURL("**limits=**");
        assertThat(agent.locator(".lane[data-lane=new]")).containsText("1 more than it should hold");
        World.focus(agent.locator(".lane[data-lane=in-hand] .title").first());
        press(agent, "Shift+ArrowLeft");
        assertThat(agent.locator(".lane[data-lane=new] .card-row")).hasCount(3);
    }

    @Test
    void lanes_beyond_the_screen_come_by_walking_and_stay_when_the_list_is_drawn_anew() {
        Page agent = World.signedIn("imani");
        agent.navigate(list("lanes") + "&group=owner");
        assertThat(agent.locator(".lane")).hasCount(6);
        assertThat(agent.locator(".more-lanes")).hasCount(1);
        World.focus(agent.locator(".lane .title").first());
        // There are three tickets at most to walk over before the lanes that are not drawn yet are looked through.
        press(agent, "ArrowRight", "ArrowRight", "ArrowRight");
        assertThat(agent.locator(".more-lanes")).hasCount(0);
        int all = agent.locator(".lane").count();
        assertThat(all).isGreaterThan(6);
        agent.evaluate("() => { document.querySelector('#lanes .card-row').dataset.before = 'yes';"
                + " document.dispatchEvent(new Event('rafter:all')); }");
        assertThat(agent.locator("#lanes [data-before]")).hasCount(0);
        assertThat(agent.locator(".lane")).hasCount(all);
    }

    @Test
    void on_the_clock_a_ticket_is_handed_over_and_taken_back() {
        Page agent = open("clock");
        // Nobody owns them, and their mailbox gave them to a team: that has a lane of its own.
        String lane = ".clock-lane[data-lane='"
                + agent.locator(".clock-lane:has(.clock-mark)").first().getAttribute("data-lane") + "'] .clock-mark";
        assertThat(agent.locator(lane)).hasCount(3);
        World.focus(agent.locator(lane).first());
        press(agent, "Shift+ArrowRight");
        assertThat(agent.locator(lane)).hasCount(2, new LocatorAssertions.HasCountOptions().setTimeout(10_000));
        agent.locator(".toast-line button").first().click();
        assertThat(agent.locator(lane)).hasCount(3, new LocatorAssertions.HasCountOptions().setTimeout(10_000));
    }

    @Test
    void several_are_chosen_by_keys_acted_on_and_it_is_taken_back() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "x", "ArrowDown", "ArrowDown", "Shift+x");
        assertThat(agent.locator("#chosen")).containsText("3 chosen");
        press(agent, "b");
        agent.waitForURL("**/batches/new");
        assertThat(agent.locator("[name=act]:checked")).isFocused();
        assertThat(agent.locator("[name=tag]")).isHidden();
        World.keys(agent).press("g");
        assertThat(agent.locator("[name=tag]")).isFocused();
        World.keys(agent).type("gale");
        World.keys(agent).press("Enter");
        assertThat(agent.locator("#progress"))
                .containsText("Done.", new LocatorAssertions.ContainsTextOptions().setTimeout(20_000));
        agent.getByText("Back to the list").click();
        assertThat(agent.locator(".card-row .chip", new Page.LocatorOptions().setHasText("gale")))
                .hasCount(3);
        agent.goBack();
        String done = agent.url();
        agent.getByText("Undo").click();
        agent.waitForURL(url -> !url.equals(done));
        assertThat(agent.locator("#progress"))
                .containsText("Done.", new LocatorAssertions.ContainsTextOptions().setTimeout(20_000));
        agent.getByText("Back to the list").click();
        assertThat(agent.locator(".card-row .chip", new Page.LocatorOptions().setHasText("gale")))
                .hasCount(0);
    }

    @Test
    void an_answer_to_all_is_seen_for_each_before_it_goes() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "x", "b");
        agent.waitForURL("**/batches/new");
        assertThat(agent.getByText("See the words for each")).isHidden();
        agent.getByLabel("Answer all").check();
        agent.getByLabel("Words").fill("Dear {first name}, thank you.");
        agent.getByText("See the words for each").click();
        assertThat(agent.locator(".preview pre")).containsText("Dear Wanda, thank you.");
        assertThat(agent.getByLabel("Words")).hasValue("Dear {first name}, thank you.");
    }

    @Test
    void from_a_ticket_the_keys_lead_on_through_its_list_and_back_to_the_place_in_it() {
        Page agent = open("cards");
        press(agent, "ArrowDown");
        assertThat(agent.locator(".card-row.at")).hasCount(1);
        press(agent, "Enter");
        assertThat(agent.locator("#walk [data-walk=place]")).hasText("1 of 3 in it");
        assertThat(agent.locator("#walk [data-walk=previous]")).isHidden();
        press(agent, "ArrowRight");
        assertThat(agent.locator("#walk [data-walk=place]")).hasText("2 of 3 in it");
        agent.getByText("Next ticket").click();
        assertThat(agent.locator("#walk [data-walk=place]")).hasText("3 of 3 in it");
        assertThat(agent.locator("#walk [data-walk=next]")).isHidden();
        press(agent, "l");
        assertThat(agent.locator(".card-row")).hasCount(3);
        assertThat(agent.locator(".card-row.at")).hasCount(1);
    }

    @Test
    void what_was_typed_in_a_glance_is_there_again_after_it_was_closed() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "Space");
        agent.locator("#glance").getByLabel("Answer here").fill("Half a thought");
        press(agent, "Escape");
        assertThat(agent.locator("#glance")).hasCount(0);
        assertThat(agent.locator(".toast-line")).containsText("is saved");
        press(agent, "Space");
        assertThat(agent.locator("#glance").getByLabel("Answer here")).hasValue("Half a thought");
    }

    @Test
    void the_horizon_is_one_stop_for_the_tab_key_with_arrows_inside() {
        Page agent = open("cards");
        Locator marks = agent.locator("svg.strip a");
        assertThat(agent.locator("svg.strip a[tabindex='0']")).hasCount(1);
        World.focus(marks.first());
        press(agent, "ArrowRight");
        assertThat(marks.nth(1)).isFocused();
        assertThat(agent.locator("svg.strip a[tabindex='0']")).hasCount(1);
    }

    @Test
    void a_list_is_changed_for_the_moment_and_kept_as_a_view_with_a_tab() {
        Page agent = open("lines");
        agent.getByText("Save as a view").click();
        agent.getByLabel("Name").fill("My albatrosses");
        agent.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save as a new view"))
                .click();
        Locator tab = agent.locator(".tabs a[aria-current]");
        assertThat(tab).containsText("My albatrosses");
        assertThat(tab.locator("span")).hasText("3");
        assertThat(agent.locator(".card-row")).hasCount(3);
        agent.locator(".more-views > summary").click();
        agent.getByText("Delete “").click();
        agent.getByText("Delete it").click();
        assertThat(agent.locator(".tabs")).not().containsText("My albatrosses");
    }

    @Test
    void the_sentence_is_changed_word_by_word() {
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist/sentence?view=open"));
        agent.locator("button[value='add:0']").click();
        agent.locator("select[name='n.0.0.field']").selectOption("subject");
        agent.locator("input[name='n.0.0.v']").last().fill(WORD);
        agent.locator(".bottom button").click();
        agent.waitForURL("**/worklist?**q=**");
        assertThat(agent.locator(".sentence-link")).containsText("the subject has one of “" + WORD + "”");
        assertThat(agent.locator(".card-row")).hasCount(3);
    }

    @Test
    void two_readers_see_each_others_changes_live() {
        Page imani = open("cards");
        Page odile = World.signedIn("odile");
        odile.navigate(list("lanes") + "&group=priority");
        assertThat(odile.locator(".lane[data-lane=P3] .card-row").first()).isVisible();
        press(imani, "ArrowDown", "p");
        imani.locator("#menu button.choice", new Page.LocatorOptions().setHasText("P4"))
                .click();
        assertThat(odile.locator(".lane[data-lane=P4] .card-row").first()).isVisible(PATIENT);
    }

    @Test
    void words_are_found_from_the_palette() {
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/today"));
        press(agent, "Control+k");
        World.keys(agent).type(WORD);
        assertThat(agent.locator("#palette-list li").first())
                .containsText("Worklist " + WORD, new LocatorAssertions.ContainsTextOptions().setTimeout(10_000));
        World.keys(agent).press("ArrowUp");
        World.keys(agent).press("Enter");
        agent.waitForURL("**/search?q=**");
        assertThat(agent.locator(".hit")).hasCount(3);
        assertThat(agent.locator(".hit mark").first()).hasText(WORD);
    }

    @Test
    void a_ticket_is_made_to_come_back_by_keys_and_not_any_more() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "d");
        Locator menu = agent.locator("#menu");
        assertThat(menu).containsText("Have it come back");
        World.focus(menu.locator("button.choice", new Locator.LocatorOptions().setHasText("In a week")));
        press(agent, "Enter");
        assertThat(agent.locator(".toast-line")).containsText("comes back");
        assertThat(agent.locator(".card-row .back").first()).isVisible();
        press(agent, "d");
        menu.locator("button", new Locator.LocatorOptions().setHasText("Not any more"))
                .click();
        assertThat(agent.locator(".card-row .back")).hasCount(0);
    }

    @Test
    void another_time_is_agreed_from_the_row_and_taken_back() {
        Page agent = open("cards");
        press(agent, "ArrowDown", "d");
        agent.locator("#menu input[name=due]").fill(java.time.LocalDate.now().plusDays(200) + "T11:00");
        agent.locator("#menu input[name=why]").fill("they are away");
        press(agent, "Enter");
        assertThat(agent.locator(".toast-line")).containsText("is due");
        agent.locator(".toast-line button").first().click();
        // The menu is not renewed while it is open, so it is opened once the undo has come through.
        assertThat(agent.locator(".toast-line", new Page.LocatorOptions().setHasText("Taken back")))
                .isVisible();
        press(agent, "ArrowDown", "ArrowUp", "d");
        assertThat(agent.locator("#menu")).not().containsText("Take back");
    }

    @Test
    void the_horizon_is_read_in_words_and_each_line_opens_its_tickets() {
        Page agent = open("cards");
        agent.getByText("in words").click();
        assertThat(agent.locator("#menu table")).isVisible();
        agent.locator("#menu tbody a").first().click();
        agent.waitForURL("**due=**");
        assertThat(agent.locator(".brushed")).isVisible();
    }

    @Test
    void a_glance_tells_why_the_ticket_is_in_the_list() {
        Page agent = open("lines");
        press(agent, "ArrowDown", "Space");
        agent.getByText("Why it is in this list").click();
        assertThat(agent.locator(".why")).containsText("the subject has one of “" + WORD + "”");
    }

    @Test
    void an_own_field_is_added_filled_in_its_cell_and_ordered_by() {
        Page ravi = World.signedIn("ravi");
        ravi.navigate(World.url("/house-rules/fields"));
        ravi.getByText("Add a field").click();
        ravi.getByLabel("Name").fill("Booking number");
        ravi.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(ravi.locator(".said")).containsText("Booking number is saved");
        Page agent = open("grid");
        agent.getByText("Columns").click();
        agent.locator("#columns").getByLabel("Booking number").check();
        agent.getByText("Show these").click();
        agent.waitForURL("**cols=**");
        assertThat(agent.locator("th[data-col^=own-]")).containsText("Booking number");
        agent.locator(".card-row td[class^=c-own-] a").first().click();
        agent.locator("#menu").getByLabel("Booking number").fill("BK 4471");
        press(agent, "Enter");
        assertThat(agent.locator(".card-row td[class^=c-own-]").first()).containsText("BK 4471");
        agent.locator("th[data-col^=own-] a").click();
        agent.waitForURL("**sort=own-**");
        assertThat(agent.locator(".card-row td[class^=c-own-]").first()).containsText("BK 4471");
    }
}
