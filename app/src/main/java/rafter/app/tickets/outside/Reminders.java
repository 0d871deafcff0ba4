package rafter.app.tickets.outside;

import static rafter.database.Tables.OUTSIDE_THREAD;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.wording.Templates;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.wording.Purpose;
import rafter.database.tables.records.OutsideThreadRecord;

/** Reminds third parties of whom an answer is wanted, after working time, so often and no more. */
@Component
public class Reminders {

    private static final Pattern RE = Pattern.compile("^(re:\\s*)+", Pattern.CASE_INSENSITIVE);

    private final DSLContext sql;
    private final TicketStore store;
    private final Post post;
    private final Channels channels;
    private final Targets targets;
    private final Templates templates;
    private final Workspaces workspaces;
    private final Viewers viewers;

    Reminders(
            DSLContext sql,
            TicketStore store,
            Post post,
            Channels channels,
            Targets targets,
            Templates templates,
            Workspaces workspaces,
            Viewers viewers) {
        this.templates = templates;
        this.workspaces = workspaces;
        this.sql = sql;
        this.store = store;
        this.post = post;
        this.channels = channels;
        this.targets = targets;
        this.viewers = viewers;
    }

    /** When somebody is to be reminded who is given so much working time. */
    Optional<Instant> at(Instant from, Duration working) {
        return targets.terms().hours().add(from, working);
    }

    /**
     * Reminds those of whom an answer is wanted and whose time has come.
     *
     * @param most so many at once
     * @return how many were looked at
     */
    @Transactional
    public int nudge(Instant now, int most) {
        List<OutsideThreadRecord> due = sql.selectFrom(OUTSIDE_THREAD)
                .where(OUTSIDE_THREAD.NEXT_NUDGE.le(now))
                .orderBy(OUTSIDE_THREAD.NEXT_NUDGE)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch();
        due.forEach(row -> nudge(row, now));
        return due.size();
    }

    private void nudge(OutsideThreadRecord row, Instant now) {
        TicketStore.Held held = store.hold(row.getTicket());
        boolean wanted = held.ticket().open() && row.getNudgesLeft() > 0 && !row.getAnswered();
        if (wanted) {
            remind(held, row, now);
        }
        int left = wanted ? row.getNudgesLeft() - 1 : 0;
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.NUDGES_LEFT, left)
                .set(
                        OUTSIDE_THREAD.NEXT_NUDGE,
                        left > 0 && row.getNudgeMinutes() != null
                                ? at(now, Duration.ofMinutes(row.getNudgeMinutes()))
                                        .orElse(null)
                                : null)
                .where(OUTSIDE_THREAD.ID.eq(row.getId()))
                .execute();
    }

    /** Writes a reminder; the ticket after it. */
    TicketStore.Held remind(TicketStore.Held held, OutsideThreadRecord row, Instant now) {
        Templates.Filled words = Templates.Filled.of(
                templates.the(Purpose.REMINDER).words(""),
                Placeholder.named(Map.of(
                        Placeholder.SUBJECT, RE.matcher(row.getSubject()).replaceFirst(""),
                        Placeholder.TICKET, held.number().toString(),
                        Placeholder.WORKSPACE, workspaces.current().name())));
        MessageId sent = post.send(
                held,
                row.getId(),
                Arrays.asList(row.getAddresses()),
                words.subject(),
                SafeHtml.fromText(words.body()),
                channels.letters(held.ticket().way())
                        .map(sender -> sender.ours().name())
                        .orElse("Rafter"),
                Optional.empty(),
                List.of(),
                now);
        return store.append(
                held, Conduct.wroteOutside(held.ticket(), now, Actor.system(), sent, row.getId(), false), now);
    }

    /** Reminds nobody of a conversation any more. */
    @Transactional
    public void remindNoMore(TicketNumber number, long thread, Viewer me) {
        Access.require(me, Right.WORK);
        viewers.insist(me, number);
        sql.update(OUTSIDE_THREAD)
                .setNull(OUTSIDE_THREAD.NEXT_NUDGE)
                .where(OUTSIDE_THREAD.ID.eq(thread))
                .and(OUTSIDE_THREAD.TICKET.eq(number))
                .execute();
    }
}
