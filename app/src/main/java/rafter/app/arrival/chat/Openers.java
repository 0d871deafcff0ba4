package rafter.app.arrival.chat;

import static rafter.database.Tables.OPENER;
import static rafter.database.Tables.OPENER_PRESS;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.core.chat.Opener;
import rafter.core.chat.Pages;
import rafter.core.id.PersonId;
import rafter.core.ticket.ActForm;

/** The ready questions that customers can press. Each is worded as its macro is called, wherever it is shown. */
@Component
public class Openers {

    /** How often one was pressed, and what was said of its answer. */
    public record Count(int pressed, int helped, int not) {
        static final Count NONE = new Count(0, 0, 0);
    }

    private static final int MOST = 60;
    private static final int LONGEST_PAGES = 500;

    private final DSLContext sql;
    private final Macros macros;
    private final Audit audit;
    private final Guard guard;

    Openers(DSLContext sql, Macros macros, Audit audit, Guard guard) {
        this.sql = sql;
        this.macros = macros;
        this.audit = audit;
        this.guard = guard;
    }

    /** Those that there are, in their order; one whose macro is gone is none any more. */
    public List<Opener> all() {
        Map<Long, Macro> shared = macros.shared().stream().collect(Collectors.toMap(Macro::id, Function.identity()));
        return sql
                .selectFrom(OPENER)
                .where(OPENER.REMOVED_AT.isNull())
                .orderBy(OPENER.POSITION, OPENER.ID)
                .fetch()
                .stream()
                .flatMap(r -> Optional.ofNullable(shared.get(r.getMacroId()))
                        .map(macro -> new Opener(
                                r.getId(), macro.id(), macro.name(), new Pages(r.getPages()), r.getLanguage()))
                        .stream())
                .toList();
    }

    /** One of them. */
    public Optional<Opener> find(long id) {
        return all().stream().filter(one -> one.id() == id).findFirst();
    }

    /** The macros that can answer: those that are shared, and always write an answer. */
    public List<Macro> answering() {
        return macros.shared().stream().filter(Openers::answers).toList();
    }

    private static boolean answers(Macro macro) {
        return macro.steps().stream()
                .anyMatch(step -> !step.offered() && step.form().equals(ActForm.ANSWER.key()));
    }

    /** How often each was pressed, by its id. */
    public Map<Long, Count> counts() {
        return sql.select(
                        OPENER_PRESS.OPENER_ID,
                        DSL.count(),
                        DSL.count().filterWhere(OPENER_PRESS.HELPED),
                        DSL.count().filterWhere(OPENER_PRESS.HELPED.isFalse()))
                .from(OPENER_PRESS)
                .groupBy(OPENER_PRESS.OPENER_ID)
                .fetchMap(r -> r.value1(), r -> new Count(r.value2(), r.value3(), r.value4()));
    }

    /**
     * Adds one, at the end.
     *
     * @throws Problem.Invalid when its macro writes no answer, or something else is wrong
     */
    @Transactional
    public void add(long macro, String pages, String language, PersonId by) {
        guard.houseRules(by);
        Macro one = answering().stream()
                .filter(known -> known.id() == macro)
                .findFirst()
                .orElseThrow(
                        () -> new Problem.Invalid(
                                "Choose a shared macro that always answers the customer. Nothing was added; what you typed is still here."));
        if (pages.length() > LONGEST_PAGES || !language.matches("([a-z]{2,3})?")) {
            throw new Problem.Invalid(
                    "Write paths like /lost* in at most 500 letters, and a language as its code, like de. Nothing was added.");
        }
        if (sql.fetchCount(OPENER, OPENER.REMOVED_AT.isNull()) >= MOST) {
            throw new Problem.Invalid(
                    "There are " + MOST + " openers already; take one away first. Nothing was added.");
        }
        sql.insertInto(OPENER)
                .set(OPENER.MACRO_ID, macro)
                .set(OPENER.PAGES, pages.strip())
                .set(OPENER.LANGUAGE, language)
                .set(
                        OPENER.POSITION,
                        DSL.select(DSL.coalesce(DSL.max(OPENER.POSITION), DSL.inline(0))
                                        .plus(1))
                                .from(OPENER))
                .execute();
        audit.note(by, "added the opener “" + one.name() + "”", "");
    }

    /** Takes one away; what was counted of it stays. */
    @Transactional
    public void remove(long id, Instant now, PersonId by) {
        guard.houseRules(by);
        sql.update(OPENER).set(OPENER.REMOVED_AT, now).where(OPENER.ID.eq(id)).execute();
        audit.note(by, "removed an opener", "");
    }

    /** Brings one back. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        sql.update(OPENER).setNull(OPENER.REMOVED_AT).where(OPENER.ID.eq(id)).execute();
        audit.note(by, "brought an opener back", "");
    }

    /** Counts that one was pressed. */
    @Transactional(propagation = Propagation.MANDATORY)
    long pressed(Opener opener, long chat, Instant now) {
        return sql.insertInto(OPENER_PRESS)
                .set(OPENER_PRESS.OPENER_ID, opener.id())
                .set(OPENER_PRESS.CHAT_ID, chat)
                .set(OPENER_PRESS.AT, now)
                .returning(OPENER_PRESS.ID)
                .fetchSingle(OPENER_PRESS.ID);
    }

    /** Keeps whether an answer helped; false: it was said already, or is none of this chat. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean helped(long press, long chat, boolean helped) {
        return sql.update(OPENER_PRESS)
                        .set(OPENER_PRESS.HELPED, helped)
                        .where(OPENER_PRESS.ID.eq(press))
                        .and(OPENER_PRESS.CHAT_ID.eq(chat))
                        .and(OPENER_PRESS.HELPED.isNull())
                        .execute()
                > 0;
    }
}
