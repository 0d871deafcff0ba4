package rafter.app.house.forms;

import static rafter.database.Tables.TICKET_FORM;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.criteria.CriteriaJson;
import rafter.core.form.TicketForm;
import rafter.core.id.PersonId;
import tools.jackson.databind.json.JsonMapper;

/** The forms of tickets; a change of another node's is seen within a second. */
@Component
public class FormStore {

    private static final int MOST = 50;
    private static final int MOST_SECTIONS = 20;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** A form as it is kept. */
    public record Kept(long id, TicketForm form, int position, int version) {}

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<List<Kept>> forms = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    FormStore(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** All forms, in the order in which tickets are matched with them. */
    public List<Kept> all() {
        return forms.get();
    }

    private List<Kept> read() {
        return sql.selectFrom(TICKET_FORM)
                .orderBy(TICKET_FORM.POSITION, TICKET_FORM.ID)
                .fetch(row -> new Kept(
                        row.getId(),
                        new TicketForm(
                                row.getName(),
                                CriteriaJson.read(row.getCriteria().data()),
                                sections(row.getSections())),
                        row.getPosition(),
                        row.getVersion()));
    }

    public Optional<Kept> find(long id) {
        return all().stream().filter(one -> one.id() == id).findFirst();
    }

    private static List<TicketForm.Section> sections(JSONB kept) {
        return List.of(JSON.readValue(kept.data(), TicketForm.Section[].class));
    }

    /**
     * Saves a form.
     *
     * @param id 0 for a new one, which stands behind the others
     * @return its number
     * @throws Problem.Invalid when it cannot be so
     * @throws Problem.Stale when somebody else changed it meanwhile
     */
    @Transactional
    public long save(long id, TicketForm form, int version, PersonId by) {
        guard.houseRules(by);
        String name = named(form.name(), id);
        Terms.check(form.when());
        List<TicketForm.Section> sections = sections(form.sections());
        JSONB criteria = JSONB.valueOf(CriteriaJson.write(form.when()));
        JSONB written = JSONB.valueOf(JSON.writeValueAsString(sections));
        long saved = id == 0 ? insert(name, criteria, written) : update(id, name, criteria, written, version);
        forms.forget();
        audit.note(by, "saved form", name);
        return saved;
    }

    private long insert(String name, JSONB criteria, JSONB sections) {
        if (sql.fetchCount(TICKET_FORM) >= MOST) {
            throw new Problem.Invalid("There are at most " + MOST + " forms." + Terms.KEPT);
        }
        return sql.insertInto(TICKET_FORM)
                .set(TICKET_FORM.NAME, name)
                .set(TICKET_FORM.CRITERIA, criteria)
                .set(TICKET_FORM.SECTIONS, sections)
                .set(
                        TICKET_FORM.POSITION,
                        DSL.select(DSL.coalesce(DSL.max(TICKET_FORM.POSITION), 0)
                                        .plus(1))
                                .from(TICKET_FORM)
                                .asField())
                .returning(TICKET_FORM.ID)
                .fetchSingle(TICKET_FORM.ID);
    }

    private long update(long id, String name, JSONB criteria, JSONB sections, int version) {
        int changed = sql.update(TICKET_FORM)
                .set(TICKET_FORM.NAME, name)
                .set(TICKET_FORM.CRITERIA, criteria)
                .set(TICKET_FORM.SECTIONS, sections)
                .set(TICKET_FORM.VERSION, version + 1)
                .where(TICKET_FORM.ID.eq(id))
                .and(TICKET_FORM.VERSION.eq(version))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody else changed this form meanwhile, or took it away." + Terms.KEPT);
        }
        return id;
    }

    private String named(String typed, long own) {
        String name = typed.strip();
        if (name.isEmpty() || name.length() > Terms.LONGEST_NAME) {
            throw new Problem.Invalid("A form has a name of at most " + Terms.LONGEST_NAME + " letters." + Terms.KEPT);
        }
        if (sql.fetchExists(
                TICKET_FORM,
                DSL.lower(TICKET_FORM.NAME).eq(DSL.lower(DSL.val(name))).and(TICKET_FORM.ID.ne(own)))) {
            throw new Problem.Invalid("There is a form of that name already." + Terms.KEPT);
        }
        return name;
    }

    /** The sections of a form, in which each field stands once and those that are there. */
    private List<TicketForm.Section> sections(List<TicketForm.Section> typed) {
        if (typed.size() > MOST_SECTIONS
                || typed.stream().anyMatch(one -> one.name().length() > Terms.LONGEST_NAME)) {
            throw new Problem.Invalid("A form has at most " + MOST_SECTIONS + " sections, with names of at most "
                    + Terms.LONGEST_NAME + " letters." + Terms.KEPT);
        }
        List<Long> all = typed.stream().flatMap(one -> one.fields().stream()).toList();
        if (all.isEmpty()) {
            throw new Problem.Invalid("A form asks for at least one field." + Terms.KEPT);
        }
        if (all.size() != Set.copyOf(all).size()) {
            throw new Problem.Invalid("A field stands in a form once." + Terms.KEPT);
        }
        return typed;
    }

    /** Moves a form before or behind its neighbour. */
    @Transactional
    public void move(long id, int by, PersonId me) {
        guard.houseRules(me);
        List<Long> order = new ArrayList<>(all().stream().map(Kept::id).toList());
        int at = order.indexOf(id);
        if (at < 0) {
            throw new Problem.NotFound("There is no such form any more.");
        }
        order.add(Math.clamp(at + by, 0, order.size() - 1), order.remove(at));
        for (int i = 0; i < order.size(); i++) {
            sql.update(TICKET_FORM)
                    .set(TICKET_FORM.POSITION, i)
                    .where(TICKET_FORM.ID.eq(order.get(i)))
                    .execute();
        }
        forms.forget();
        audit.note(me, "moved form", "");
    }

    /** Takes a form away; what stands in fields stays. */
    @Transactional
    public Kept remove(long id, PersonId by) {
        guard.houseRules(by);
        Kept was = find(id).orElseThrow(() -> new Problem.NotFound("There is no such form any more."));
        sql.deleteFrom(TICKET_FORM).where(TICKET_FORM.ID.eq(id)).execute();
        forms.forget();
        audit.note(by, "took form away", was.form().name());
        return was;
    }
}
