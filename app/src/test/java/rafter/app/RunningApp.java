package rafter.app;

import com.icegreen.greenmail.store.StoredMessage;
import com.icegreen.greenmail.user.GreenMailUser;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.sql.DriverManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import org.jooq.DSLContext;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.arrival.intake.Inbox;
import rafter.app.arrival.intake.MailboxWatch;
import rafter.app.arrival.intake.Processor;
import rafter.app.arrival.mail.MailServer;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.arrival.mail.Outbox;
import rafter.app.arrival.mail.SendMail;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Reach;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Guard;
import rafter.app.tickets.acts.Acts;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.database.Tables;

/**
 * The real application, started once for a test run on a database of its own, with mail servers in this process and a clock
 * that stands where tests set it. Nothing happens by itself: tests fetch, process and send by hand.
 */
public final class RunningApp implements BeforeAllCallback {

    /** A Monday morning within opening hours. */
    public static final Instant MONDAY = Instant.parse("2027-03-01T09:00:00Z");

    public static final String PASSWORD = "high-water-mark";

    private static final AtomicInteger COUNT = new AtomicInteger();
    private static final AtomicInteger MINUTE = new AtomicInteger();
    private static final Map<PersonId, Reach> REACHES = new ConcurrentHashMap<>();
    private static ConfigurableApplicationContext context;
    private static GreenMail servers;
    private static SettableClock clock;
    private static Mailbox help;
    private static Person imani;
    private static Person odile;
    private static Person sefa;

    /** A clock that stands still until it is set. */
    public static final class SettableClock extends Clock {
        private volatile Instant now = MONDAY;

        public void set(Instant at) {
            now = at;
        }

        public void tick(Duration by) {
            now = now.plus(by);
        }

        @Override
        public Instant instant() {
            return now;
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }
    }

    @Override
    public synchronized void beforeAll(ExtensionContext extension) throws Exception {
        if (context == null) {
            start();
        }
        clock.set(MONDAY);
        MINUTE.set(0);
        REACHES.clear();
        forgetTickets();
    }

    /**
     * Each class begins without the tickets of others, with their mails, clocks and calls, and with nobody at work: which classes run before it,
     * and in which of two processes, changes nothing for it.
     */
    private static void forgetTickets() {
        sql().execute("truncate ticket, presence, presence_log cascade");
    }

    private static void start() throws Exception {
        String build = System.getProperty("rafter.test.db.url");
        String name = "rafter_app_test_" + System.getProperty("rafter.test.fork", "1");
        try (var connection = DriverManager.getConnection(build, "rafter", "rafter");
                var statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name);
        }
        servers = new GreenMail(new ServerSetup[] {
            new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP),
            new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_IMAP)
        });
        servers.start();
        servers.getUserManager()
                .setMessageDeliveryHandler((mail, to) -> user(to.getEmail().replaceFirst("\\+[^@]*@", "@")));
        clock = new SettableClock();
        var application = new SpringApplication(RafterApplication.class);
        application.addInitializers(c -> c.getBeanFactory().registerSingleton("clock", clock));
        Reach.Granting granting = person -> REACHES.getOrDefault(person.id(), new Reach.Everything());
        application.addInitializers(c -> c.getBeanFactory().registerSingleton("granting", granting));
        context = application.run(
                "--server.port=0",
                "--spring.datasource.url=" + build.replaceFirst("/[^/]*$", "/" + name),
                "--spring.datasource.username=rafter",
                "--spring.datasource.password=rafter",
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--rafter.steps.enabled=false",
                "--rafter.errands.enabled=false",
                "--rafter.rules.enabled=false",
                "--rafter.sending.enabled=false",
                "--rafter.sending.hold=0s",
                "--rafter.scanner=simulated",
                "--db-scheduler.enabled=false",
                "--rafter.secret-key=test",
                "--rafter.first-administrator=ravi@ternpassage.example",
                "--rafter.first-password=" + PASSWORD);
        settle();
    }

    private static void settle() {
        Persons persons = bean(Persons.class);
        imani = person(persons, "Imani Okoro", Role.AGENT);
        sefa = person(persons, "Sefa Tui", Role.AGENT);
        odile = person(persons, "Odile Bran", Role.LEAD);
        bean(rafter.app.house.people.Companies.class)
                .save(Optional.empty(), "Brightwater Produce", "Anchor", "brightwater.example", Map.of(), Guard.ITSELF);
        help = bean(Mailboxes.class)
                .find(bean(Mailboxes.class).save(mailbox("help@ternpassage.example"), Guard.ITSELF))
                .orElseThrow();
        bean(Mailboxes.class).save(mailbox("freight@ternpassage.example"), Guard.ITSELF);
    }

    private static Person person(Persons persons, String name, Role role) {
        String address = name.split(" ")[0].toLowerCase() + "@ternpassage.example";
        return persons.find(persons.save(Optional.empty(), name, address, role, true, PASSWORD, Set.of(), Guard.ITSELF))
                .orElseThrow();
    }

    public static Mailbox mailbox(String address) {
        user(address);
        return new Mailbox(
                0,
                "Tern Passage Ferries",
                address,
                Optional.empty(),
                true,
                true,
                Mailbox.AfterFetch.MARK_READ,
                new MailServer("127.0.0.1", servers.getImap().getPort(), MailServer.Security.NONE, address, "tide"),
                "INBOX",
                new MailServer("127.0.0.1", servers.getSmtp().getPort(), MailServer.Security.NONE, "", ""),
                Optional.empty(),
                0,
                new Mailbox.Status(Mailbox.Health.NEW, "", Optional.empty()),
                0);
    }

    private static GreenMailUser user(String address) {
        GreenMailUser known = servers.getUserManager().getUserByEmail(address);
        return known != null ? known : servers.setUser(address, address, "tide");
    }

    public static <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    public static SettableClock clock() {
        return clock;
    }

    public static Mailbox help() {
        return help;
    }

    private static Viewer viewer(Person person) {
        return bean(Viewers.class).of(person);
    }

    /** Lets a person see other tickets than all, until the next test class begins. */
    public static void reach(Viewer person, Reach reach) {
        REACHES.put(person.id(), reach);
    }

    public static Viewer imani() {
        return viewer(imani);
    }

    public static Viewer sefa() {
        return viewer(sefa);
    }

    /** A field of this kind, added by an administrator; choices are one a line. */
    public static AddedField field(OwnField.Bearer bearer, OwnField.Kind kind, String name, String choices) {
        return field(bearer, kind, new FieldSetup.Typed(name, choices, "", ""));
    }

    public static AddedField field(OwnField.Bearer bearer, OwnField.Kind kind, FieldSetup.Typed typed) {
        long id = bean(FieldSetup.class).add(typed, bearer, kind, ravi().id());
        return bean(OwnFields.class).find(id).orElseThrow();
    }

    /** Fills own fields of a ticket, all or none of them. */
    public static void fill(TicketNumber ticket, Map<String, String> values, Viewer by) {
        bean(Acts.class)
                .performAll(
                        ticket,
                        values.entrySet().stream()
                                .map(one -> new Act.Fill(one.getKey(), one.getValue()))
                                .toList(),
                        by);
    }

    /** The administrator. */
    public static Viewer ravi() {
        return bean(Persons.class).all().stream()
                .filter(person -> person.address().startsWith("ravi@"))
                .findFirst()
                .map(RunningApp::viewer)
                .orElseThrow();
    }

    public static Viewer odile() {
        return viewer(odile);
    }

    public static DSLContext sql() {
        return bean(DSLContext.class);
    }

    public static int port() {
        return context.getEnvironment().getProperty("local.server.port", Integer.class, 0);
    }

    /** Something that no other test uses. */
    public static int unique() {
        return COUNT.incrementAndGet();
    }

    /** Sets the clock to the next minute of Monday that no other test of this class has, and says which. */
    public static Instant nextMinute() {
        Instant at = MONDAY.plus(Duration.ofMinutes(MINUTE.incrementAndGet()));
        clock.set(at);
        return at;
    }

    /** Lays a raw message into our mailbox, as a mail server would. */
    public static void deliver(String raw) {
        try {
            user("help@ternpassage.example")
                    .deliver(new MimeMessage(
                            Session.getInstance(new Properties()),
                            new ByteArrayInputStream(raw.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8))));
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Fetches, processes and sends all there is. */
    public static void pump() {
        try {
            bean(MailboxWatch.class).fetchOnce(help);
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
        bean(Processor.class).processAll();
        post();
    }

    public static void post() {
        bean(Outbox.class).queued().forEach(bean(SendMail.class)::send);
    }

    /** Takes raw bytes in as if they had been fetched, and processes them. */
    public static Optional<Long> take(byte[] raw) {
        Optional<Long> id = bean(Inbox.class).receive(help.id(), Optional.empty(), raw);
        bean(Processor.class).processAll();
        return id;
    }

    /** The ticket that a received message became an entry of. */
    public static TicketNumber ticketOf(long inbound) {
        return sql().select(Tables.INBOUND.TICKET)
                .from(Tables.INBOUND)
                .where(Tables.INBOUND.ID.eq(inbound))
                .fetchSingle(Tables.INBOUND.TICKET);
    }

    /** The mails in a customer's mailbox, oldest first. */
    public static List<MimeMessage> mailOf(String address) {
        try {
            return servers.getManagers().getImapHostManager().getInbox(user(address)).getMessages().stream()
                    .map(StoredMessage::getMimeMessage)
                    .toList();
        } catch (com.icegreen.greenmail.store.FolderException e) {
            throw new IllegalStateException(e);
        }
    }
}
