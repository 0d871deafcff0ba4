package rafter.app.tickets.macros;

import static rafter.database.Tables.MACRO;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.access.Access;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Holders;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Foresight;
import rafter.app.tickets.writing.Offering;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Decision;
import rafter.database.tables.records.MacroRecord;
import tools.jackson.databind.json.JsonMapper;

/** The macros of this workspace, and running them. */
@Component
public class Macros {

    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";
    private static final int LONGEST_NAME = 80;
    private static final int LONGEST_TEXT = 500;
    private static final int MOST_STEPS = 20;
    private static final int MOST_PARTS = 200;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    /**
     * What came of running a macro.
     *
     * @param drafted whether an answer of it stands in the composer now
     * @param parts on how many of the tickets that are parts of it the linked one was run
     * @param failures of which of them not, and why
     */
    public record Ran(
            Optional<Decision.Undo> undo, boolean changed, boolean drafted, int parts, List<String> failures) {}

    private final DSLContext sql;
    private final Holders holders;
    private final Steps steps;
    private final Acts acts;
    private final Foresight foresight;
    private final Offering offering;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Macros(
            DSLContext sql,
            Holders holders,
            Steps steps,
            Acts acts,
            Foresight foresight,
            Offering offering,
            TransactionTemplate transaction,
            Clock clock) {
        this.sql = sql;
        this.holders = holders;
        this.steps = steps;
        this.acts = acts;
        this.foresight = foresight;
        this.offering = offering;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Those that a person can run, by folder and name. */
    public List<Macro> of(Viewer me) {
        Access.require(me, Right.WORK);
        return sql.selectFrom(MACRO)
                .where(holders.sees(MACRO.PERSON_ID, MACRO.TEAM_ID, me))
                .and(MACRO.REMOVED_AT.isNull())
                .orderBy(MACRO.FOLDER, MACRO.NAME, MACRO.ID)
                .fetch(Macros::macro);
    }

    /**
     * One that a person can run.
     *
     * @throws Problem.NotFound when there is none of this id, or not for them
     */
    public Macro get(long id, Viewer me) {
        return find(id, me, false);
    }

    private Macro find(long id, Viewer me, boolean removed) {
        Access.require(me, Right.WORK);
        return sql.selectFrom(MACRO)
                .where(MACRO.ID.eq(id))
                .and(holders.sees(MACRO.PERSON_ID, MACRO.TEAM_ID, me))
                .and(removed ? MACRO.REMOVED_AT.isNotNull() : MACRO.REMOVED_AT.isNull())
                .fetchOptional(Macros::macro)
                .orElseThrow(() -> new Problem.NotFound("There is no such macro, or it is not shared with you."));
    }

    /**
     * Saves a macro with its steps.
     *
     * @param macro with the version that was seen; id zero: a new one
     * @return its id
     */
    @Transactional
    public long save(Macro macro, Viewer me) {
        Access.require(me, Right.WORK);
        check(macro, me);
        holders.insist(macro.holder(), me);
        var row = new MacroRecord();
        row.setName(macro.name().strip());
        row.setDescription(macro.description().strip());
        row.setFolder(macro.folder().strip());
        row.setPersonId(macro.holder().ofPerson().orElse(null));
        row.setTeamId(macro.holder().ofTeam().orElse(null));
        row.setSteps(JSONB.valueOf(JSON.writeValueAsString(macro.steps())));
        row.setLinked(macro.linked().orElse(null));
        row.setChangedBy(me.id());
        row.setChangedAt(clock.instant());
        if (macro.id() == 0) {
            return sql.insertInto(MACRO).set(row).returning(MACRO.ID).fetchSingle(MACRO.ID);
        }
        holders.insist(get(macro.id(), me).holder(), me);
        row.setVersion(macro.version() + 1);
        int changed = sql.update(MACRO)
                .set(row)
                .where(MACRO.ID.eq(macro.id()))
                .and(MACRO.VERSION.eq(macro.version()))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this macro meanwhile." + KEPT);
        }
        return macro.id();
    }

    private void check(Macro macro, Viewer me) {
        if (macro.name().isBlank() || macro.name().strip().length() > LONGEST_NAME) {
            throw new Problem.Invalid("A macro needs a name of at most eighty letters." + KEPT);
        }
        if (macro.description().length() > LONGEST_TEXT || macro.folder().length() > LONGEST_TEXT) {
            throw new Problem.Invalid("A description and a folder have at most 500 letters each." + KEPT);
        }
        if (macro.steps().size() > MOST_STEPS) {
            throw new Problem.Invalid("A macro has at most twenty acts." + KEPT);
        }
        if (macro.linked().filter(id -> id == macro.id()).isPresent()) {
            throw new Problem.Invalid("A macro cannot be linked to itself." + KEPT);
        }
        if (macro.linked().isPresent()
                && of(me).stream().noneMatch(one -> one.id() == macro.linked().get())) {
            throw new Problem.Invalid(
                    "The macro that is run on its parts is gone. Choose another one, or nothing, and save." + KEPT);
        }
        for (Macro.Step step : macro.steps()) {
            foresight.hindrance(steps.act(step, me), me).ifPresent(refused -> {
                throw new Problem.Invalid(refused.words() + KEPT);
            });
        }
    }

    /** Takes a macro away; it can be put back. */
    @Transactional
    public Macro remove(long id, Viewer me) {
        Macro macro = get(id, me);
        holders.insist(macro.holder(), me);
        sql.update(MACRO)
                .set(MACRO.REMOVED_AT, clock.instant())
                .where(MACRO.ID.eq(id))
                .execute();
        return macro;
    }

    /** Puts a macro back that was taken away. */
    @Transactional
    public Macro restore(long id, Viewer me) {
        Macro macro = find(id, me, true);
        holders.insist(macro.holder(), me);
        sql.update(MACRO).setNull(MACRO.REMOVED_AT).where(MACRO.ID.eq(id)).execute();
        return macro;
    }

    /** A macro that is not one person's alone, for what runs it by itself; nothing when it is gone or became somebody's own. */
    @Transactional(readOnly = true)
    public Optional<Macro> shared(long id) {
        return shared().stream().filter(macro -> macro.id() == id).findFirst();
    }

    /** The macros that are not one person's alone. */
    @Transactional(readOnly = true)
    public List<Macro> shared() {
        return sql.selectFrom(MACRO).where(MACRO.REMOVED_AT.isNull()).orderBy(MACRO.NAME).fetch(Macros::macro).stream()
                .filter(macro -> !(macro.holder() instanceof Holder.One))
                .toList();
    }

    /** A step in words. */
    public String words(Macro.Step step, Viewer me) {
        try {
            return foresight.words(steps.act(step, me));
        } catch (Problem.Invalid e) {
            return e.words();
        }
    }

    // ------------------------------------------------------------------ running

    /** What each step would do to a ticket, if all were done in order. */
    public List<Foresight.Foreseen> foresee(Macro macro, TicketNumber number, Viewer me) {
        return foresight.foresee(number, steps.acts(macro.steps(), me), me);
    }

    /** The acts that are always done, as one act. */
    public Act always(Macro macro, Viewer me) {
        List<Act> always = steps.acts(
                macro.steps().stream().filter(step -> !step.offered()).toList(), me);
        if (always.isEmpty()) {
            throw new Problem.Invalid("“" + macro.name() + "” has no act that is done without being ticked.");
        }
        return Act.Several.of(always);
    }

    /**
     * Runs a macro on a ticket: its acts in their order, all of them or none; an answer that was ticked goes into the composer, so that it is
     * read before it goes out. Then the linked one on each ticket that is a part of it, each by itself.
     *
     * @param ticked the places of the offered steps that are wanted
     */
    public Ran run(Macro macro, TicketNumber number, Set<Integer> ticked, Viewer me) {
        List<Macro.Step> wanted = IntStream.range(0, macro.steps().size())
                .filter(i -> !macro.steps().get(i).offered() || ticked.contains(i))
                .mapToObj(macro.steps()::get)
                .toList();
        Ran ran = transaction.execute(status -> {
            Ran done = onOne(wanted, number, me);
            sql.update(MACRO)
                    .set(MACRO.USED, MACRO.USED.plus(1))
                    .set(MACRO.LAST_USED, clock.instant())
                    .where(MACRO.ID.eq(macro.id()))
                    .execute();
            return done;
        });
        return macro.linked().isEmpty() ? ran : onParts(ran, macro.linked().get(), number, me);
    }

    private Ran onOne(List<Macro.Step> wanted, TicketNumber number, Viewer me) {
        var now = new ArrayList<Act>();
        boolean drafted = false;
        for (Macro.Step step : wanted) {
            Act act = steps.act(step, me);
            if (step.offered() && act instanceof Act.Answer answer) {
                offering.intoComposer(number, answer, me);
                drafted = true;
            } else {
                now.add(act);
            }
        }
        Acts.Outcome outcome = acts.perform(number, Act.Several.of(now), me);
        return new Ran(outcome.undo(), outcome.changed(), drafted, 0, List.of());
    }

    /** What was done to the ticket itself stays done, whatever becomes of the linked one. */
    private Ran onParts(Ran ran, long linked, TicketNumber number, Viewer me) {
        Act act;
        try {
            act = always(get(linked, me), me);
        } catch (Problem e) {
            return new Ran(ran.undo(), ran.changed(), ran.drafted(), 0, List.of("its parts: " + e.words()));
        }
        List<TicketNumber> parts = sql.select(TICKET.NUMBER)
                .from(me.tickets())
                .where(TICKET.PARENT.eq(number))
                .and(TICKET.OPEN)
                .orderBy(TICKET.NUMBER)
                .limit(MOST_PARTS)
                .fetch(TICKET.NUMBER);
        var failures = new ArrayList<String>();
        int done = 0;
        for (TicketNumber part : parts) {
            try {
                acts.perform(part, act, me);
                done++;
            } catch (Problem e) {
                failures.add(part + ": " + e.words());
            }
        }
        return new Ran(ran.undo(), ran.changed(), ran.drafted(), done, failures);
    }

    private static Macro macro(MacroRecord r) {
        return new Macro(
                r.getId(),
                r.getName(),
                r.getDescription(),
                r.getFolder(),
                Holder.of(r.getPersonId(), r.getTeamId()),
                Arrays.asList(JSON.readValue(r.getSteps().data(), Macro.Step[].class)),
                Optional.ofNullable(r.getLinked()),
                r.getUsed(),
                r.getVersion());
    }
}
