package rafter.app.arrival.chat;

import static rafter.database.Tables.CHAT_SITE;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.chat.Site;
import rafter.core.id.PersonId;
import rafter.database.tables.records.ChatSiteRecord;

/** The websites with the panel on them. */
@Component
public class ChatSites {

    private static final String KEPT = " Nothing was saved; what you typed is still here.";
    private static final int LONGEST = 60;

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<List<ChatSite>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::look);

    ChatSites(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** All of them; a change of another node's is seen within a second. */
    public List<ChatSite> all() {
        return current.get();
    }

    private List<ChatSite> look() {
        return sql.selectFrom(CHAT_SITE)
                .where(CHAT_SITE.REMOVED_AT.isNull())
                .orderBy(CHAT_SITE.NAME)
                .fetch(ChatSites::site);
    }

    private static ChatSite site(ChatSiteRecord r) {
        return new ChatSite(
                r.getId(),
                r.getName(),
                r.getWord(),
                Arrays.stream(r.getOrigins()).map(Site::new).toList(),
                Optional.ofNullable(r.getTeamId()),
                r.getCalendar(),
                r.getVersion());
    }

    /** The one that a script tag names. */
    public Optional<ChatSite> of(String word) {
        return all().stream().filter(site -> site.word().equals(word)).findFirst();
    }

    /** One of them, also when it is removed: its chats go on. */
    public Optional<ChatSite> of(long id) {
        return all().stream()
                .filter(site -> site.id() == id)
                .findFirst()
                .or(() -> sql.selectFrom(CHAT_SITE).where(CHAT_SITE.ID.eq(id)).fetchOptional(ChatSites::site));
    }

    /**
     * Saves a site.
     *
     * @param site id zero: a new one
     * @return its id
     * @throws Problem.Invalid when something is wrong with it
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public long save(ChatSite site, PersonId by) {
        guard.houseRules(by);
        check(site);
        var row = new ChatSiteRecord();
        row.setName(site.name().strip());
        row.setWord(site.word());
        row.setOrigins(site.origins().stream().map(Site::text).toArray(String[]::new));
        row.setTeamId(site.team().orElse(null));
        row.setCalendar(site.calendar());
        row.setVersion(site.version() + 1);
        try {
            long id = site.id() == 0 ? added(row) : changed(site, row);
            audit.note(by, "saved the chat on “" + site.name() + "”", "");
            current.forget();
            return id;
        } catch (DuplicateKeyException e) {
            throw new Problem.Invalid("Another site is called “" + site.word() + "” in its script tag." + KEPT);
        }
    }

    private long added(ChatSiteRecord row) {
        return sql.insertInto(CHAT_SITE).set(row).returning(CHAT_SITE.ID).fetchSingle(CHAT_SITE.ID);
    }

    private long changed(ChatSite site, ChatSiteRecord row) {
        int changed = sql.update(CHAT_SITE)
                .set(row)
                .where(CHAT_SITE.ID.eq(site.id()))
                .and(CHAT_SITE.VERSION.eq(site.version()))
                .and(CHAT_SITE.REMOVED_AT.isNull())
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this site while you were editing." + KEPT);
        }
        return site.id();
    }

    private static void check(ChatSite site) {
        if (site.name().isBlank() || site.name().strip().length() > LONGEST) {
            throw new Problem.Invalid("Give the site a name of at most " + LONGEST + " letters." + KEPT);
        }
        if (!site.word().matches("[a-z][a-z0-9-]{1,39}")) {
            throw new Problem.Invalid(
                    "The word in the script tag has two to forty small letters, figures and hyphens, a letter first."
                            + KEPT);
        }
        if (site.origins().isEmpty()) {
            throw new Problem.Invalid("Say which website may hold the panel, like https://ferries.example." + KEPT);
        }
    }

    /** Takes a site away: its panel stays closed, and chats that are going on go on. */
    @Transactional
    public void remove(long id, PersonId by, Instant now) {
        guard.houseRules(by);
        int gone = sql.update(CHAT_SITE)
                .set(CHAT_SITE.REMOVED_AT, now)
                .where(CHAT_SITE.ID.eq(id))
                .and(CHAT_SITE.REMOVED_AT.isNull())
                .execute();
        if (gone > 0) {
            audit.note(by, "removed the chat of a site", "");
            current.forget();
        }
    }

    /** Brings a site back that was taken away. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(CHAT_SITE)
                .setNull(CHAT_SITE.REMOVED_AT)
                .where(CHAT_SITE.ID.eq(id))
                .execute();
        audit.note(by, "brought the chat of a site back", "");
        current.forget();
    }
}
