package rafter.app.arrival.chat;

import static rafter.database.Tables.INVITE;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.chat.Invite;
import rafter.core.chat.Pages;
import rafter.core.id.PersonId;

/** The invitations that show by themselves. */
@Component
public class Invites {

    private static final String KEPT = " Nothing was added; what you typed is still here.";
    private static final int MOST = 30;
    private static final int LONGEST = 200;
    private static final Duration LONGEST_AFTER = Duration.ofHours(1);
    private static final Duration LONGEST_EVERY = Duration.ofDays(90);

    /** One with how often it was shown, and how often a chat was begun from it. */
    public record Counted(Invite invite, int shown, int taken) {}

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;

    Invites(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** Those that there are, in their order. */
    public List<Counted> all() {
        return sql.selectFrom(INVITE)
                .where(INVITE.REMOVED_AT.isNull())
                .orderBy(INVITE.POSITION, INVITE.ID)
                .fetch(r -> new Counted(
                        new Invite(
                                r.getId(),
                                r.getWords(),
                                new Pages(r.getPages()),
                                Duration.ofSeconds(r.getAfterSeconds()),
                                r.getSearched(),
                                Duration.ofHours(r.getEveryHours())),
                        r.getShown(),
                        r.getTaken()));
    }

    /** One of them. */
    public Optional<Invite> find(long id) {
        return all().stream().map(Counted::invite).filter(one -> one.id() == id).findFirst();
    }

    /**
     * Adds one, at the end.
     *
     * @throws Problem.Invalid when something is wrong with it
     */
    @Transactional
    public void add(Invite invite, PersonId by) {
        guard.houseRules(by);
        check(invite);
        sql.insertInto(INVITE)
                .set(INVITE.WORDS, invite.words().strip())
                .set(INVITE.PAGES, invite.pages().typed().strip())
                .set(INVITE.AFTER_SECONDS, Math.toIntExact(invite.after().toSeconds()))
                .set(INVITE.SEARCHED, invite.searched().strip())
                .set(INVITE.EVERY_HOURS, Math.toIntExact(invite.every().toHours()))
                .set(
                        INVITE.POSITION,
                        DSL.select(DSL.coalesce(DSL.max(INVITE.POSITION), DSL.inline(0))
                                        .plus(1))
                                .from(INVITE))
                .execute();
        audit.note(by, "added an invitation to chat", invite.words());
    }

    private void check(Invite invite) {
        if (invite.words().isBlank() || invite.words().length() > LONGEST) {
            throw new Problem.Invalid("Write what the invitation says, in at most " + LONGEST + " letters." + KEPT);
        }
        if (invite.after().isNegative() || invite.after().compareTo(LONGEST_AFTER) > 0) {
            throw new Problem.Invalid("It is shown after an hour on the page at the latest." + KEPT);
        }
        if (invite.every().compareTo(Duration.ofHours(1)) < 0 || invite.every().compareTo(LONGEST_EVERY) > 0) {
            throw new Problem.Invalid(
                    "The same person is invited once an hour at most, and once in 90 days at least." + KEPT);
        }
        if (invite.pages().typed().length() > 500 || invite.searched().length() > 500) {
            throw new Problem.Invalid("Pages and words have at most 500 letters." + KEPT);
        }
        if (all().size() >= MOST) {
            throw new Problem.Invalid("There are " + MOST + " invitations already; take one away first." + KEPT);
        }
    }

    /** Takes one away. */
    @Transactional
    public void remove(long id, Instant now, PersonId by) {
        guard.houseRules(by);
        sql.update(INVITE).set(INVITE.REMOVED_AT, now).where(INVITE.ID.eq(id)).execute();
        audit.note(by, "removed an invitation to chat", "");
    }

    /** Brings one back. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(INVITE).setNull(INVITE.REMOVED_AT).where(INVITE.ID.eq(id)).execute();
        audit.note(by, "brought an invitation to chat back", "");
    }

    /** Counts that one was shown. */
    public void shown(long id) {
        count(id, INVITE.SHOWN);
    }

    /** Counts that a chat was begun from one. */
    void taken(long id) {
        count(id, INVITE.TAKEN);
    }

    private void count(long id, Field<Integer> field) {
        sql.update(INVITE).set(field, field.plus(1)).where(INVITE.ID.eq(id)).execute();
    }
}
