package rafter.app.arrival.mail;

import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MAILBOX;
import static rafter.database.Tables.OUTBOX;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.Secrets;
import rafter.core.id.PersonId;

/** The mailboxes of this workspace. */
@Component
public class Mailboxes {

    private final DSLContext sql;
    private final Secrets secrets;
    private final Audit audit;
    private final LiveNews news;
    private final Clock clock;
    private final BrieflyCached<List<String>> addresses =
            new BrieflyCached<>(Duration.ofSeconds(1), this::readAddresses);
    private final BrieflyCached<List<Mailbox>> settings = new BrieflyCached<>(Duration.ofSeconds(1), this::all);
    private final Guard guard;

    Mailboxes(DSLContext sql, Secrets secrets, Audit audit, LiveNews news, Clock clock, Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.secrets = secrets;
        this.audit = audit;
        this.news = news;
        this.clock = clock;
    }

    /** All mailboxes, by name. */
    public List<Mailbox> all() {
        return sql.selectFrom(MAILBOX).orderBy(MAILBOX.NAME).fetch(this::mailbox);
    }

    public Optional<Mailbox> find(long id) {
        return sql.selectFrom(MAILBOX).where(MAILBOX.ID.eq(id)).fetchOptional(this::mailbox);
    }

    /** Our own addresses, in lower case; a change of another node's is seen within a second. */
    public List<String> addresses() {
        return addresses.get();
    }

    /** A mailbox's settings, without what changes with each message; a change of another node's is seen within a second. */
    public Optional<Mailbox> settings(long id) {
        return settings.get().stream().filter(mailbox -> mailbox.id() == id).findFirst();
    }

    private List<String> readAddresses() {
        return sql.select(DSL.lower(MAILBOX.ADDRESS)).from(MAILBOX).fetch(r -> r.value1());
    }

    /**
     * Adds a mailbox (with id zero) or changes one. An empty password leaves the one there is.
     *
     * @throws Problem.Invalid when something is missing or wrong
     * @throws Problem.Stale when somebody changed it since the version given
     */
    @Transactional
    public long save(Mailbox wanted, PersonId by) {
        guard.houseRules(by);
        check(wanted);
        Optional<Mailbox> old = wanted.id() == 0 ? Optional.empty() : find(wanted.id());
        long id = old.isPresent() ? change(wanted, old.get()) : add(wanted);
        if (!by.none()) {
            audit.note(by, old.isPresent() ? "changed mailbox" : "added mailbox", wanted.address());
        }
        changed();
        return id;
    }

    private void check(Mailbox m) {
        require(!m.name().isBlank(), "The mailbox needs a name; customers see it as the sender.");
        require(m.address().matches("[^@\\s]+@[^@\\s]+"), "“" + m.address() + "” is not a mail address.");
        require(!m.imap().host().isBlank(), "The IMAP server is missing.");
        require(!m.smtp().host().isBlank(), "The SMTP server is missing.");
        require(isPort(m.imap().port()) && isPort(m.smtp().port()), "A port is a number from 1 to 65535.");
        require(!m.folder().isBlank(), "The folder is missing; it is usually INBOX.");
        boolean taken = sql.fetchExists(
                MAILBOX,
                DSL.lower(MAILBOX.ADDRESS)
                        .eq(m.address().toLowerCase(Locale.ROOT))
                        .and(MAILBOX.ID.ne(m.id())));
        require(!taken, m.address() + " is set up already.");
    }

    private static boolean isPort(int port) {
        return port > 0 && port < 65_536;
    }

    private static void require(boolean fine, String message) {
        if (!fine) {
            throw new Problem.Invalid(message);
        }
    }

    private long add(Mailbox m) {
        return sql.insertInto(MAILBOX)
                .set(values(m))
                .set(MAILBOX.IMAP_PASSWORD, secrets.seal(m.imap().password()))
                .set(MAILBOX.SMTP_PASSWORD, secrets.seal(m.smtp().password()))
                .returning(MAILBOX.ID)
                .fetchSingle(MAILBOX.ID);
    }

    private long change(Mailbox m, Mailbox old) {
        // Another server or folder counts its messages anew.
        requirePassword(m.imap(), old.imap(), "IMAP");
        requirePassword(m.smtp(), old.smtp(), "SMTP");
        boolean elsewhere = !m.imap().host().equals(old.imap().host())
                || !m.imap().login().equals(old.imap().login())
                || !m.folder().equals(old.folder());
        var update = sql.update(MAILBOX).set(values(m)).set(MAILBOX.VERSION, MAILBOX.VERSION.plus(1));
        if (elsewhere) {
            update = update.set(MAILBOX.LAST_UID, 0L).setNull(MAILBOX.UID_VALIDITY);
        }
        if (!m.imap().password().isEmpty()) {
            update = update.set(MAILBOX.IMAP_PASSWORD, secrets.seal(m.imap().password()));
        }
        if (!m.smtp().password().isEmpty()) {
            update = update.set(MAILBOX.SMTP_PASSWORD, secrets.seal(m.smtp().password()));
        }
        int changed = update.where(MAILBOX.ID.eq(m.id()))
                .and(MAILBOX.VERSION.eq(m.version()))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody changed this mailbox while you were editing. What you typed is still in the form.");
        }
        return m.id();
    }

    /** A saved password is not sent to another server than the one it was saved for. */
    private static void requirePassword(MailServer now, MailServer old, String what) {
        boolean elsewhere = !now.host().strip().equalsIgnoreCase(old.host())
                || !now.login().strip().equals(old.login());
        require(
                !elsewhere || !now.password().isEmpty() || now.login().isBlank(),
                "The " + what + " server or login is another one, so its password must be entered again.");
    }

    private static Record values(Mailbox m) {
        var r = MAILBOX.newRecord();
        r.setName(m.name().strip());
        r.setAddress(m.address().strip());
        r.setTeamId(m.team().orElse(null));
        r.setWatched(m.watched());
        r.setPlusAddressing(m.plusAddressing());
        r.setAfterFetch(m.afterFetch().name());
        r.setImapHost(m.imap().host().strip());
        r.setImapPort(m.imap().port());
        r.setImapSecurity(m.imap().security().name());
        r.setImapLogin(m.imap().login().strip());
        r.setImapFolder(m.folder().strip());
        r.setSmtpHost(m.smtp().host().strip());
        r.setSmtpPort(m.smtp().port());
        r.setSmtpSecurity(m.smtp().security().name());
        r.setSmtpLogin(m.smtp().login().strip());
        return r;
    }

    /**
     * Takes a mailbox away that nothing came through yet.
     *
     * @throws Problem.Invalid when tickets or mail belong to it; it can be left unwatched then
     */
    @Transactional
    public void remove(long id, PersonId by) {
        guard.houseRules(by);
        boolean used = sql.fetchExists(INBOUND, INBOUND.MAILBOX_ID.eq(id))
                || sql.fetchExists(TICKET, TICKET.MAILBOX_ID.eq(id))
                || sql.fetchExists(OUTBOX, OUTBOX.MAILBOX_ID.eq(id));
        require(!used, "Mail came through this mailbox, so it stays. Untick “watched” to stop fetching from it.");
        sql.deleteFrom(MAILBOX).where(MAILBOX.ID.eq(id)).execute();
        audit.note(by, "removed mailbox", Long.toString(id));
        changed();
    }

    private void changed() {
        addresses.forget();
        settings.forget();
        news.mailboxesChanged();
    }

    /** Notes how a look into the mailbox went. */
    @Transactional
    public void noteStatus(long id, Mailbox.Health health, String reason) {
        sql.update(MAILBOX)
                .set(MAILBOX.STATUS, health.name())
                .set(MAILBOX.STATUS_REASON, reason)
                .set(MAILBOX.STATUS_AT, clock.instant())
                .where(MAILBOX.ID.eq(id))
                .execute();
    }

    /** Notes up to where mail was fetched. */
    @Transactional
    public void noteFetched(long id, long uidValidity, long lastUid) {
        sql.update(MAILBOX)
                .set(MAILBOX.UID_VALIDITY, uidValidity)
                .set(MAILBOX.LAST_UID, lastUid)
                .where(MAILBOX.ID.eq(id))
                .execute();
    }

    private Mailbox mailbox(Record r) {
        return new Mailbox(
                r.get(MAILBOX.ID),
                r.get(MAILBOX.NAME),
                r.get(MAILBOX.ADDRESS),
                Optional.ofNullable(r.get(MAILBOX.TEAM_ID)),
                r.get(MAILBOX.WATCHED),
                r.get(MAILBOX.PLUS_ADDRESSING),
                Mailbox.AfterFetch.valueOf(r.get(MAILBOX.AFTER_FETCH)),
                new MailServer(
                        r.get(MAILBOX.IMAP_HOST),
                        r.get(MAILBOX.IMAP_PORT),
                        MailServer.Security.valueOf(r.get(MAILBOX.IMAP_SECURITY)),
                        r.get(MAILBOX.IMAP_LOGIN),
                        ""),
                r.get(MAILBOX.IMAP_FOLDER),
                new MailServer(
                        r.get(MAILBOX.SMTP_HOST),
                        r.get(MAILBOX.SMTP_PORT),
                        MailServer.Security.valueOf(r.get(MAILBOX.SMTP_SECURITY)),
                        r.get(MAILBOX.SMTP_LOGIN),
                        ""),
                Optional.ofNullable(r.get(MAILBOX.UID_VALIDITY)),
                r.get(MAILBOX.LAST_UID),
                new Mailbox.Status(
                        Mailbox.Health.valueOf(r.get(MAILBOX.STATUS)),
                        r.get(MAILBOX.STATUS_REASON),
                        Optional.ofNullable(r.get(MAILBOX.STATUS_AT))),
                r.get(MAILBOX.VERSION));
    }

    /** The IMAP server of a mailbox, with its password. */
    public MailServer imap(Mailbox m) {
        return withPassword(m.imap(), MAILBOX.IMAP_PASSWORD, m.id());
    }

    /** The SMTP server of a mailbox, with its password. */
    public MailServer smtp(Mailbox m) {
        return withPassword(m.smtp(), MAILBOX.SMTP_PASSWORD, m.id());
    }

    private MailServer withPassword(MailServer s, org.jooq.Field<byte[]> password, long mailbox) {
        byte[] sealed =
                sql.select(password).from(MAILBOX).where(MAILBOX.ID.eq(mailbox)).fetchSingle(password);
        return new MailServer(s.host(), s.port(), s.security(), s.login(), secrets.open(sealed));
    }
}
