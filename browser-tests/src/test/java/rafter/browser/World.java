package rafter.browser;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Keyboard;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.Cookie;
import com.microsoft.playwright.options.RequestOptions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import rafter.outside.Letter;

/**
 * Rafter and the outside as they run in the demo, without its history, and a browser; started once for each process that runs tests, and
 * ended with it.
 */
public final class World implements BeforeAllCallback, AfterEachCallback {

    /** The pointer waits until a page stands, as people do: on a busy machine its scripts come a while after its words. */
    private static final String PATIENCE = """
            const root = document.documentElement;
            if (root) {
              root.style.pointerEvents = "none";
              addEventListener("load", () => root.style.removeProperty("pointer-events"));
            }
            """;

    private static final String PASSWORD = "high-water-mark";
    private static final LocatorAssertions.IsVisibleOptions PATIENT =
            new LocatorAssertions.IsVisibleOptions().setTimeout(20_000);

    private static World running;

    private final List<Process> processes = new ArrayList<>();
    private final List<String> complaints = new ArrayList<>();
    /** What tells Rafter who somebody is, from when they signed in first: checking a password takes long, and is meant to. */
    private final Map<String, List<Cookie>> known = new HashMap<>();

    private Playwright playwright;
    private Browser browser;
    private Process app;
    private int web;
    private int outside;
    private int smtp;
    private String database;

    @Override
    public void beforeAll(ExtensionContext context) throws Exception {
        if (running == null) {
            running = this;
            Runtime.getRuntime().addShutdownHook(new Thread(() -> processes.forEach(Process::destroy)));
            start();
        }
        // What an earlier class saw is told by that class alone.
        running.complaints.clear();
    }

    /**
     * Pages that stay open go on following every change, and by and by there are so many that nothing else gets its turn. Of a test that failed
     * each leaves a picture in target/failed.
     */
    @Override
    public void afterEach(ExtensionContext context) {
        for (BrowserContext one : List.copyOf(running.browser.contexts())) {
            if (context.getExecutionException().isPresent()) {
                one.pages()
                        .forEach(page -> picture(context.getRequiredTestMethod().getName(), page));
            }
            one.close();
        }
    }

    private static void picture(String test, Page page) {
        Path file = Path.of("target", "failed", test + "-" + page.hashCode() + ".png");
        try {
            page.screenshot(new Page.ScreenshotOptions().setPath(file).setTimeout(5000));
        } catch (PlaywrightException none) {
            // A page that cannot be drawn any more hides neither why the test failed nor keeps the others from being
            // closed.
            System.err.println("no picture of " + page.url() + ": " + none.getMessage());
        }
    }

    private void start() throws Exception {
        web = Processes.freePort();
        outside = Processes.freePort();
        smtp = Processes.freePort();
        int imap = Processes.freePort();
        database = Prepared.world("rafter_browser_test_" + Processes.FORK, smtp, imap);
        Path spool = Files.createTempDirectory("rafter-spool");
        Process mail = Processes.start(
                "outside",
                Prepared.classes(),
                "rafter.outside.OutsideApplication",
                List.of(
                        "--outside.smtp-port=" + smtp,
                        "--outside.imap-port=" + imap,
                        "--server.port=" + outside,
                        "--outside.spool=" + spool,
                        "--outside.rafter=http://127.0.0.1:" + web,
                        "--outside.tide=false"));
        processes.add(mail);
        Processes.awaitPort(outside, mail);
        startRafter();
        playwright = Playwright.create();
        browser = playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(chromium())
                        .setArgs(List.of(
                                "--no-sandbox",
                                "--disable-gpu",
                                "--disable-background-networking",
                                "--disable-component-update",
                                "--no-first-run")));
    }

    /** The part of Chromium that draws pages without a window of its own is quicker, where it is installed. */
    private static Path chromium() {
        Path shell = Path.of("/usr/bin/chromium-headless-shell");
        return Files.exists(shell) ? shell : Path.of("/usr/bin/chromium");
    }

    private void startRafter() throws Exception {
        app = Processes.rafter("rafter", database, web);
        processes.add(app);
        Processes.awaitPort(web, app);
    }

    /** Kills Rafter hard, as a machine that loses its power. */
    static void kill() throws InterruptedException {
        running.app.destroyForcibly().waitFor();
    }

    /** Starts it again where it was. */
    static void startAgain() throws Exception {
        running.startRafter();
    }

    static String url(String path) {
        return "http://127.0.0.1:" + running.web + path;
    }

    static String outsideUrl(String path) {
        return "http://127.0.0.1:" + running.outside + path;
    }

    static String database() {
        return running.database;
    }

    /** A page of a browser of its own; what its console complains about is kept. */
    static Page page() {
        BrowserContext context = running.browser.newContext(new Browser.NewContextOptions().setViewportSize(1280, 800));
        context.addInitScript(PATIENCE);
        Page page = context.newPage();
        page.setDefaultTimeout(15_000);
        page.setDefaultNavigationTimeout(30_000);
        // The machine of the tests may be busy for seconds; what is expected comes, or never does.
        PlaywrightAssertions.setDefaultAssertionTimeout(15_000);
        page.onConsoleMessage(message -> {
            // What a browser says of a server that is away is no fault of a page.
            boolean away =
                    message.text().contains("status of 4") || message.text().contains("net::ERR_");
            if (message.type().equals("error") && !away) {
                running.complaints.add(message.text());
            }
        });
        page.onPageError(error -> running.complaints.add(error));
        return page;
    }

    /** The keys of a page that stands, its scripts included: a key pressed while they are still on their way goes nowhere. */
    static Keyboard keys(Page page) {
        page.waitForLoadState();
        return page.keyboard();
    }

    /** Puts the focus on something of a page that stands: scripts of a page that comes set it, too. */
    static void focus(Locator what) {
        what.page().waitForLoadState();
        what.focus();
    }

    /** What browsers complained about so far, scripts and the content security policy among it. */
    static List<String> complaints() {
        return List.copyOf(running.complaints);
    }

    /** An empty page of a browser in which somebody is signed in. */
    static Page signedIn(String who) {
        Page page = page();
        Optional.ofNullable(running.known.get(who)).ifPresent(page.context()::addCookies);
        if (!signedIn(page)) {
            page.navigate(url("/today"));
            fillSignIn(page, who);
            page.waitForURL("**/today**");
            running.known.put(who, page.context().cookies());
        }
        return page;
    }

    /** Whoever is not signed in would be led there; asked without drawing a page that nobody looks at. */
    private static boolean signedIn(Page page) {
        var stays = RequestOptions.create().setMaxRedirects(0);
        return page.context().request().get(url("/today"), stays).status() == 200;
    }

    static void fillSignIn(Page page, String who) {
        page.fill("form[action='/sign-in'] [name=address]", who + "@ternpassage.example");
        page.fill("form[action='/sign-in'] [name=password]", PASSWORD);
        page.click("form[action='/sign-in'] button");
    }

    /** The page of a ticket that a made-up customer's mail became, as somebody has it open. */
    static Page ticket(String name, String from, String subject, String text, String who) {
        mail(name, from, subject, text);
        Page page = signedIn(who);
        page.navigate(url("/worklist?view=open&sort=-age"));
        Locator card = page.locator(".card-row", new Page.LocatorOptions().setHasText(subject));
        Locator arrived = page.locator("#arrived button:visible");
        PlaywrightAssertions.assertThat(card.or(arrived).first()).isVisible(PATIENT);
        if (arrived.count() > 0) {
            arrived.click();
        }
        page.navigate(url(card.locator(".title").getAttribute("href")));
        return page;
    }

    /** A made-up customer sends a mail. */
    static void mail(String name, String from, String subject, String text) {
        try {
            var letter = new Letter(
                    name,
                    from,
                    "help@ternpassage.example",
                    "",
                    subject,
                    text,
                    Optional.empty(),
                    List.of(),
                    List.of(),
                    Instant.now());
            var properties = new java.util.Properties();
            properties.put("mail.smtp.host", "127.0.0.1");
            properties.put("mail.smtp.port", Integer.toString(running.smtp));
            try (var transport = jakarta.mail.Session.getInstance(properties).getTransport("smtp")) {
                transport.connect();
                transport.sendMessage(letter.mime(), letter.mime().getAllRecipients());
            }
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }
}
