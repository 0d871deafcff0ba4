package rafter.app.tickets.wording;

import static rafter.database.Tables.MAIL_TEMPLATE;
import static rafter.database.Tables.MAIL_WORDS;

import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.criteria.CriteriaJson;
import rafter.core.id.PersonId;
import rafter.core.order.Ordered;
import rafter.core.text.Placeholders;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** The templates of all mails that Rafter writes by itself. */
@Component
public class Templates {

    private static final String STALE =
            "Somebody changed this template while you were editing. Nothing of yours was saved; it is still in the form.";

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<List<Template>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    Templates(DSLContext sql, Audit audit, Guard guard) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** A mail with its placeholders filled in. */
    public record Filled(String subject, String body) {

        /** A version filled in; what has no value is left out. */
        public static Filled of(Template.Version words, Map<String, String> values) {
            return new Filled(
                    Placeholders.fill(words.subject(), values).strip(),
                    Placeholders.fill(words.body(), values)
                            .replaceAll("\n{3,}", "\n\n")
                            .strip());
        }
    }

    /** All of them, by purpose and in the order in which they are chosen; a change of another node's is seen within a second. */
    public List<Template> all() {
        return current.get();
    }

    private List<Template> read() {
        Map<Long, List<Template.Version>> words = sql.selectFrom(MAIL_WORDS)
                .orderBy(MAIL_WORDS.TEMPLATE_ID, MAIL_WORDS.LANGUAGE)
                .fetchGroups(
                        MAIL_WORDS.TEMPLATE_ID,
                        r -> new Template.Version(r.getLanguage(), r.getSubject(), r.getBody()));
        return sql
                .selectFrom(MAIL_TEMPLATE)
                .where(MAIL_TEMPLATE.REMOVED.isFalse())
                .orderBy(MAIL_TEMPLATE.POSITION, MAIL_TEMPLATE.ID)
                .fetch(r -> template(r, words.getOrDefault(r.getId(), List.of())))
                .stream()
                .sorted(Comparator.comparing(Template::purpose))
                .toList();
    }

    private static Template template(Record r, List<Template.Version> versions) {
        return new Template(
                r.get(MAIL_TEMPLATE.ID),
                Purpose.valueOf(r.get(MAIL_TEMPLATE.PURPOSE)),
                r.get(MAIL_TEMPLATE.NAME),
                r.get(MAIL_TEMPLATE.ACTIVE),
                Template.Open.valueOf(r.get(MAIL_TEMPLATE.OPEN)),
                CriteriaJson.read(r.get(MAIL_TEMPLATE.CRITERIA).data()),
                versions,
                r.get(MAIL_TEMPLATE.VERSION));
    }

    /** Those for a purpose. */
    public List<Template> of(Purpose purpose) {
        return all().stream().filter(one -> one.purpose() == purpose).toList();
    }

    /** The one for a purpose that has but one. */
    public Template the(Purpose purpose) {
        return of(purpose).getFirst();
    }

    /** The one of this id. */
    public Optional<Template> find(long id) {
        return all().stream().filter(one -> one.id() == id).findFirst();
    }

    /** The one of this id, looked up now. */
    public Template get(long id) {
        return read().stream()
                .filter(one -> one.id() == id)
                .findFirst()
                .orElseThrow(() -> new Problem.NotFound("There is no such template any more."));
    }

    // ------------------------------------------------------------------ changing them

    /**
     * Saves one.
     *
     * @param template of id 0 it is new and goes before all others of its purpose, so that what is special is looked at first
     * @return its id
     * @throws Problem.Stale when somebody changed it since its version
     * @throws Problem.Invalid when something is wrong with it
     */
    @Transactional
    public long save(Template template, PersonId by) {
        guard.houseRules(by);
        List<String> faults = template.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        if (template.id() == 0 && !template.purpose().several()) {
            throw new Problem.Invalid("There is one of these, and no second one.");
        }
        long id = template.id() == 0 ? add(template) : change(template);
        sql.deleteFrom(MAIL_WORDS).where(MAIL_WORDS.TEMPLATE_ID.eq(id)).execute();
        template.versions()
                .forEach(one -> sql.insertInto(MAIL_WORDS)
                        .set(MAIL_WORDS.TEMPLATE_ID, id)
                        .set(MAIL_WORDS.LANGUAGE, one.language())
                        .set(MAIL_WORDS.SUBJECT, one.subject())
                        .set(MAIL_WORDS.BODY, one.body())
                        .execute());
        audit.note(by, "changed an automatic mail", template.name());
        current.forget();
        return id;
    }

    private long add(Template template) {
        int first = sql.select(DSL.coalesce(DSL.min(MAIL_TEMPLATE.POSITION), DSL.inline(0)))
                .from(MAIL_TEMPLATE)
                .where(MAIL_TEMPLATE.PURPOSE.eq(template.purpose().name()))
                .fetchSingle(r -> r.value1());
        return sql.insertInto(MAIL_TEMPLATE)
                .set(MAIL_TEMPLATE.PURPOSE, template.purpose().name())
                .set(MAIL_TEMPLATE.NAME, template.name())
                .set(MAIL_TEMPLATE.ACTIVE, template.on())
                .set(MAIL_TEMPLATE.OPEN, template.open().name())
                .set(MAIL_TEMPLATE.CRITERIA, JSONB.valueOf(CriteriaJson.write(template.criteria())))
                .set(MAIL_TEMPLATE.POSITION, first - 1)
                .returning(MAIL_TEMPLATE.ID)
                .fetchSingle(MAIL_TEMPLATE.ID);
    }

    private long change(Template template) {
        int changed = sql.update(MAIL_TEMPLATE)
                .set(MAIL_TEMPLATE.NAME, template.name())
                .set(MAIL_TEMPLATE.ACTIVE, template.on())
                .set(MAIL_TEMPLATE.OPEN, template.open().name())
                .set(MAIL_TEMPLATE.CRITERIA, JSONB.valueOf(CriteriaJson.write(template.criteria())))
                .set(MAIL_TEMPLATE.VERSION, MAIL_TEMPLATE.VERSION.plus(1))
                .where(MAIL_TEMPLATE.ID.eq(template.id()))
                .and(MAIL_TEMPLATE.VERSION.eq(template.version()))
                .execute();
        if (changed == 0) {
            get(template.id());
            throw new Problem.Stale(STALE);
        }
        return template.id();
    }

    /** Puts one so many places further down among those of its purpose; up for less than nothing. */
    @Transactional
    public void move(long id, int by, PersonId person) {
        guard.houseRules(person);
        Template moved = get(id);
        List<Long> before = read().stream()
                .filter(one -> one.purpose() == moved.purpose())
                .map(Template::id)
                .toList();
        List<Long> ids = Ordered.moved(before, before.indexOf(id), by);
        for (int i = 0; i < ids.size(); i++) {
            sql.update(MAIL_TEMPLATE)
                    .set(MAIL_TEMPLATE.POSITION, i)
                    .where(MAIL_TEMPLATE.ID.eq(ids.get(i)))
                    .execute();
        }
        audit.note(person, "changed the order of automatic mails", moved.name());
        current.forget();
    }

    /**
     * Removes one of which there may be several.
     *
     * @param used whether something still names it
     * @throws Problem.Invalid when it is used
     */
    @Transactional
    public Template remove(long id, Predicate<Template> used, PersonId by) {
        guard.houseRules(by);
        Template gone = get(id);
        if (!gone.purpose().several()) {
            throw new Problem.Invalid("This one is needed; it can be reworded, but not removed.");
        }
        if (used.test(gone)) {
            throw new Problem.Invalid("A rule writes by this template. Take it out of the rule first.");
        }
        removed(id, true);
        audit.note(by, "removed an automatic mail", gone.name());
        return gone;
    }

    /** Brings one back that was removed. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        removed(id, false);
        audit.note(by, "brought an automatic mail back", get(id).name());
    }

    private void removed(long id, boolean gone) {
        sql.update(MAIL_TEMPLATE)
                .set(MAIL_TEMPLATE.REMOVED, gone)
                .where(MAIL_TEMPLATE.ID.eq(id))
                .execute();
        current.forget();
    }
}
