package rafter.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.FilePayload;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;

@ExtendWith(World.class)
class LoopBrowserTest {

    private static final LocatorAssertions.IsVisibleOptions PATIENT =
            new LocatorAssertions.IsVisibleOptions().setTimeout(20_000);

    @TempDir
    private Path folder;

    private static Locator card(Page page, String subject) {
        return page.locator(".card-row", new Page.LocatorOptions().setHasText(subject));
    }

    /** A new ticket either stands in the list or waits behind the button. */
    private static void awaitCard(Page page, String subject) {
        Locator arrived = page.locator("#arrived button:visible");
        assertThat(card(page, subject).or(arrived).first()).isVisible(PATIENT);
        if (arrived.count() > 0) {
            arrived.click();
        }
        assertThat(card(page, subject)).isVisible();
    }

    private static void write(Page page, String text) {
        page.locator("#pane-reply .ql-editor").click();
        World.keys(page).type(text);
    }

    @Test
    void a_mail_arrives_live_is_answered_read_by_the_customer_and_their_answer_joins() {
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist?view=unowned&sort=-age"));
        World.mail("Noor Haddad", "noor.haddad@post.example", "Wheelchair boarding at Skelby", "Is the lift working?");
        awaitCard(agent, "Wheelchair boarding at Skelby");
        card(agent, "Wheelchair boarding at Skelby").locator(".title").click();
        assertThat(agent.locator(".entry.customer")).containsText("Is the lift working?");
        write(agent, "The lift works again.");
        assertThat(agent.locator("#pane-reply .kept")).containsText("Draft saved");
        agent.click("#pane-reply button[type=submit]");
        assertThat(agent.locator(".entry.public")).containsText("The lift works again.");
        assertThat(agent.locator(".entry.public .delivery.sent").last()).isVisible(PATIENT);
        assertThat(agent.locator("#thead")).containsText("With customer");

        Page noor = World.page();
        noor.navigate(World.outsideUrl("/?who=noor.haddad@post.example"));
        noor.click("text=Re: Wheelchair boarding at Skelby");
        assertThat(noor.locator("pre")).containsText("The lift works again.");
        noor.click("text=Answer");
        noor.fill("textarea", "Thank you, that is a relief.\n\n" + noor.inputValue("textarea"));
        noor.click("form#write button");
        assertThat(noor.locator(".sent")).isVisible();

        assertThat(agent.locator(".entry.customer").last())
                .containsText("that is a relief", new LocatorAssertions.ContainsTextOptions().setTimeout(20_000));
        assertThat(agent.locator("#thead")).containsText("In hand");
        assertThat(agent.locator(".entry.customer").last().locator("details.fold"))
                .hasCount(1);
    }

    @Test
    void a_session_that_ends_in_the_middle_of_typing_loses_nothing() throws Exception {
        World.mail("Wen Zhao", "wen.zhao@letterbox.example", "Session in the middle", "Hello");
        Page agent = World.signedIn("sefa");
        agent.navigate(World.url("/worklist?view=unowned&sort=-age"));
        awaitCard(agent, "Session in the middle");
        card(agent, "Session in the middle").locator(".title").click();
        write(agent, "First half");
        assertThat(agent.locator("#pane-reply .kept")).containsText("Draft saved");
        try (var connection = java.sql.DriverManager.getConnection(World.database(), "rafter", "rafter");
                var statement = connection.createStatement()) {
            statement.execute(
                    "delete from spring_session where principal_name = (select 'person-' || id from person where address = 'sefa@ternpassage.example')");
        }
        World.keys(agent).type(", second half", new com.microsoft.playwright.Keyboard.TypeOptions().setDelay(120));
        assertThat(agent.locator("#over")).isVisible(PATIENT);
        agent.fill("#over-form [name=password]", "wrong");
        agent.click("#over-form button");
        assertThat(agent.locator("#over-wrong")).isVisible();
        agent.fill("#over-form [name=password]", "high-water-mark");
        agent.click("#over-form button");
        assertThat(agent.locator("#over")).isHidden();
        assertThat(agent.locator("#pane-reply .kept")).containsText("Draft saved");
        agent.reload();
        assertThat(agent.locator("#pane-reply .ql-editor")).containsText("First half, second half");
    }

    @Test
    void a_colleagues_change_shows_without_a_reload_and_undo_takes_an_act_back() {
        World.mail("Greta Moen", "greta.moen@letterbox.example", "Seen by two", "Hello");
        Page imani = World.signedIn("imani");
        Page sefa = World.signedIn("sefa");
        for (Page page : new Page[] {imani, sefa}) {
            page.navigate(World.url("/worklist?view=open&sort=-age"));
            awaitCard(page, "Seen by two");
        }
        card(sefa, "Seen by two").locator("a.pick[href$='/priority']").click();
        sefa.locator("#menu button", new Page.LocatorOptions().setHasText("Critical"))
                .click();
        assertThat(card(imani, "Seen by two").locator(".pri-mark")).hasText("P1");
        sefa.locator("#toasts button", new Page.LocatorOptions().setHasText("Undo"))
                .click();
        assertThat(card(imani, "Seen by two").locator(".pri-mark")).hasText("P3");
        card(sefa, "Seen by two").hover();
        card(sefa, "Seen by two").locator(".take").click();
        assertThat(card(imani, "Seen by two").locator(".avatar")).hasText("ST");
    }

    @Test
    void what_the_reader_looks_at_does_not_move_when_a_ticket_arrives() {
        Page agent = World.signedIn("imani");
        World.mail("Oskar Dahl", "oskar.dahl@seamail.example", "Stays where it is", "Hello");
        agent.navigate(World.url("/worklist?view=open"));
        awaitCard(agent, "Stays where it is");
        double before = top(agent, "Stays where it is");
        World.mail("Tomas Vik", "tomas.vik@post.example", "Comes meanwhile", "Hello");
        assertThat(agent.locator("#arrived button:visible")
                        .or(card(agent, "Comes meanwhile"))
                        .first())
                .isVisible(PATIENT);
        assertThat(top(agent, "Stays where it is")).isEqualTo(before);
    }

    /** Where a ticket's card begins, found and measured in one step, for it may be drawn anew between two. */
    private static double top(Page page, String subject) {
        return ((Number) page.evaluate(
                        "subject => [...document.querySelectorAll('.card-row')].find(row => row.textContent.includes(subject)).getBoundingClientRect().top",
                        subject))
                .doubleValue();
    }

    @Test
    void a_contact_gets_a_telephone_from_the_ticket_and_is_found_by_it() {
        World.mail("Signe Rask", "signe.rask@seamail.example", "Who am I", "Hello");
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist?view=open&sort=-age"));
        awaitCard(agent, "Who am I");
        card(agent, "Who am I").locator(".title").click();
        Locator customer = agent.locator(".cust a.fw-bold");
        // What is not shown yet takes no focus.
        assertThat(customer).isVisible();
        World.focus(customer);
        World.keys(agent).press("Enter");
        agent.getByLabel("Telephones, one a line").fill("ask the office");
        World.keys(agent).press("Tab");
        World.keys(agent).press("Tab");
        World.keys(agent).press("Enter");
        assertThat(agent.locator("p.trouble[role=alert]").first()).containsText("is not a telephone number");
        assertThat(agent.getByLabel("Telephones, one a line")).hasValue("ask the office");
        agent.getByLabel("Telephones, one a line").fill("+999 55 77 31");
        agent.getByText("Save", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(agent.locator(".said")).containsText("Signe Rask is saved");
        World.keys(agent).press("Control+k");
        World.keys(agent).type("557731");
        assertThat(agent.locator("[role=option], .palette a, dialog a")
                        .filter(new Locator.FilterOptions().setHasText("Signe Rask"))
                        .first())
                .isVisible(PATIENT);
    }

    @Test
    void two_people_answering_at_once_are_told_and_the_text_is_kept() {
        World.mail("Ilse Brandt", "ilse.brandt@seamail.example", "Answered twice", "Hello");
        Page imani = World.signedIn("imani");
        imani.navigate(World.url("/worklist?view=unowned&sort=-age"));
        awaitCard(imani, "Answered twice");
        card(imani, "Answered twice").locator(".title").click();
        imani.waitForURL("**/tickets/**");
        Page sefa = World.signedIn("sefa");
        sefa.navigate(imani.url());
        write(sefa, "From Sefa");
        assertThat(imani.locator("#writing"))
                .containsText("Sefa Tui is writing", new LocatorAssertions.ContainsTextOptions().setTimeout(20_000));
        write(imani, "From Imani");
        assertThat(imani.locator("#pane-reply .kept")).containsText("Draft saved");
        sefa.click("#pane-reply button[type=submit]");
        assertThat(sefa.locator(".entry.public")).containsText("From Sefa");
        assertThat(imani.locator("#meanwhile")).isVisible(PATIENT);
        imani.click("#pane-reply button[type=submit]");
        assertThat(imani.locator("#main .trouble")).containsText("Sefa Tui answered");
        assertThat(imani.locator(".entry.public")).containsText("From Imani");
        imani.locator("button", new Page.LocatorOptions().setHasText("Send all the same"))
                .click();
        assertThat(imani.locator(".entry.public").last()).containsText("From Imani");
    }

    @Test
    void everything_goes_by_keyboard() {
        World.mail("Rowan Pell", "rowan.pell@post.example", "By keyboard", "Hello");
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist?view=open"));
        awaitCard(agent, "By keyboard");
        World.keys(agent).press("?");
        assertThat(agent.locator("#keys")).isVisible();
        World.keys(agent).press("Escape");
        World.keys(agent).press("ArrowDown");
        assertThat(agent.locator(".card-row.at")).hasCount(1);
        World.keys(agent).press("s");
        assertThat(agent.locator("#menu")).isVisible();
        World.keys(agent).press("Escape");
        World.keys(agent).press("Enter");
        agent.waitForURL("**/tickets/**");
        World.keys(agent).press("w");
        World.keys(agent).type("A note by keyboard");
        World.keys(agent).press("Control+Enter");
        assertThat(agent.locator(".entry.note").last()).containsText("A note by keyboard");
        World.keys(agent).press("Control+k");
        World.keys(agent).type("everything");
        World.keys(agent).press("Escape");
        World.keys(agent).press("Control+k");
        World.keys(agent).type("worklist");
        World.keys(agent).press("Enter");
        agent.waitForURL("**/worklist");
    }

    @Test
    void files_can_be_attached_and_taken_off_and_a_too_large_one_is_refused_in_words() throws IOException {
        World.mail("Salma Idris", "salma.idris@post.example", "With a file", "Hello");
        Page agent = World.signedIn("imani");
        agent.navigate(World.url("/worklist?view=unowned&sort=-age"));
        awaitCard(agent, "With a file");
        card(agent, "With a file").locator(".title").click();
        assertThat(agent.locator("#pane-reply .ql-editor")).isVisible();
        var small = new FilePayload("plan.txt", "text/plain", "Lane 4".getBytes());
        agent.setInputFiles("#pane-reply input[type=file]", small);
        assertThat(agent.locator("#pane-reply .file")).containsText("plan.txt");
        agent.setInputFiles("#pane-reply input[type=file]", fileOf(26_000_000));
        assertThat(agent.locator(".toast-line.bad")).containsText("larger than 25 MB");
        agent.click("#pane-reply .file button");
        assertThat(agent.locator("#pane-reply .file")).hasCount(0);
    }

    /** A file on disk: bytes handed to the browser in a message are slower than any wait on a busy machine. */
    private Path fileOf(int bytes) throws IOException {
        Path file = folder.resolve("big.bin");
        try (var out = new RandomAccessFile(file.toFile(), "rw")) {
            out.setLength(bytes);
        }
        return file;
    }

    @Test
    void no_browser_complained_about_scripts_or_the_policy() {
        a_mail_arrives_live_is_answered_read_by_the_customer_and_their_answer_joins();
        assertThat(World.complaints()).isEmpty();
    }
}
