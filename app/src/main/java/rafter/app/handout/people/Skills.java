package rafter.app.handout.people;

import static rafter.database.Tables.PERSON_SKILL;
import static rafter.database.Tables.SKILL;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;

/** The catalogue of skills, and who has them. */
@Component
public class Skills {

    /** A skill as it is kept; {@code version} rises with every change, and {@code people} have it. */
    public record Kept(Skill skill, int version, int people) {}

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    Skills(DSLContext sql, Audit audit, Guard guard, ApplicationEventPublisher events, Clock clock) {
        this.clock = clock;
        this.events = events;
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** All skills, by name. */
    public List<Skill> all() {
        return kept().stream().map(Kept::skill).toList();
    }

    /** All skills with who has them, by name. */
    public List<Kept> kept() {
        var people = DSL.field(DSL.select(DSL.count()).from(PERSON_SKILL).where(PERSON_SKILL.SKILL_ID.eq(SKILL.ID)));
        return sql.select(SKILL.asterisk(), people)
                .from(SKILL)
                .where(SKILL.REMOVED_AT.isNull())
                .orderBy(DSL.lower(SKILL.NAME))
                .fetch(r -> new Kept(
                        new Skill(
                                new SkillId(r.get(SKILL.ID)),
                                r.get(SKILL.NAME),
                                r.get(SKILL.DESCRIPTION),
                                List.of(r.get(SKILL.WORDS)),
                                List.of(r.get(SKILL.TOPICS))),
                        r.get(SKILL.VERSION),
                        r.get(people)));
    }

    /** The one of this id. */
    public Optional<Kept> find(SkillId id) {
        return kept().stream().filter(one -> one.skill().id().equals(id)).findFirst();
    }

    /**
     * Adds one, or changes the one of this id.
     *
     * @throws Problem.Invalid when something is wrong with it, or another one has its name
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public void save(Skill skill, int version, PersonId by) {
        guard.houseRules(by);
        List<String> faults = skill.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        boolean taken = all().stream()
                .anyMatch(one -> one.name().equalsIgnoreCase(skill.name().strip())
                        && !one.id().equals(skill.id()));
        if (taken) {
            throw new Problem.Invalid("There is a skill of this name already.");
        }
        if (!written(skill, version)) {
            throw new Problem.Stale(
                    "Somebody changed or removed this skill while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        audit.note(by, "changed a skill", skill.name());
        events.publishEvent(new HandoutChanged());
    }

    /** Writes one down; false: it is not of that version any more. */
    private boolean written(Skill skill, int version) {
        String[] words = skill.words().toArray(String[]::new);
        String[] topics = skill.topics().toArray(String[]::new);
        int changed = skill.id().none()
                ? sql.insertInto(SKILL)
                        .set(SKILL.NAME, skill.name().strip())
                        .set(SKILL.DESCRIPTION, skill.description())
                        .set(SKILL.WORDS, words)
                        .set(SKILL.TOPICS, topics)
                        .execute()
                : sql.update(SKILL)
                        .set(SKILL.NAME, skill.name().strip())
                        .set(SKILL.DESCRIPTION, skill.description())
                        .set(SKILL.WORDS, words)
                        .set(SKILL.TOPICS, topics)
                        .set(SKILL.VERSION, SKILL.VERSION.plus(1))
                        .where(SKILL.ID.eq(skill.id().value()))
                        .and(SKILL.VERSION.eq(version))
                        .execute();
        return changed > 0;
    }

    /** Removes one: nobody has it and no ticket needs it until it is brought back. */
    @Transactional
    public void remove(SkillId id, PersonId by) {
        guard.houseRules(by);
        Kept gone = find(id).orElseThrow(() -> new Problem.NotFound("There is no such skill any more."));
        sql.update(SKILL)
                .set(SKILL.REMOVED_AT, clock.instant())
                .where(SKILL.ID.eq(id.value()))
                .execute();
        audit.note(by, "removed a skill", gone.skill().name());
        events.publishEvent(new HandoutChanged());
    }

    /**
     * Brings one back that was removed, with those who had it.
     *
     * @throws Problem.Stale when it is there already, or another one has its name now
     */
    @Transactional
    public void bringBack(SkillId id, PersonId by) {
        guard.houseRules(by);
        String name = sql.select(SKILL.NAME)
                .from(SKILL)
                .where(SKILL.ID.eq(id.value()))
                .and(SKILL.REMOVED_AT.isNotNull())
                .fetchOptional(SKILL.NAME)
                .orElseThrow(() -> new Problem.Stale("That skill is there already. Nothing was changed."));
        if (all().stream().anyMatch(one -> one.name().equalsIgnoreCase(name))) {
            throw new Problem.Stale("There is another skill of this name by now. Nothing was changed.");
        }
        sql.update(SKILL)
                .setNull(SKILL.REMOVED_AT)
                .where(SKILL.ID.eq(id.value()))
                .execute();
        audit.note(by, "brought a skill back", name);
        events.publishEvent(new HandoutChanged());
    }

    // ------------------------------------------------------------------ who has them

    /** Who has which skill, by person. */
    public Map<PersonId, Map<SkillId, SkillLevel>> levels() {
        var all = new HashMap<PersonId, Map<SkillId, SkillLevel>>();
        sql.selectFrom(PERSON_SKILL)
                .where(PERSON_SKILL.SKILL_ID.in(DSL.select(SKILL.ID).from(SKILL).where(SKILL.REMOVED_AT.isNull())))
                .forEach(r -> all.computeIfAbsent(r.getPersonId(), id -> new HashMap<>())
                        .put(new SkillId(r.getSkillId()), SkillLevel.valueOf(r.getLevel())));
        return all;
    }

    /** Says what somebody can. */
    @Transactional
    public void level(PersonId person, Map<SkillId, SkillLevel> levels, PersonId by) {
        guard.houseRules(by);
        sql.deleteFrom(PERSON_SKILL).where(PERSON_SKILL.PERSON_ID.eq(person)).execute();
        levels.forEach((skill, level) -> sql.insertInto(PERSON_SKILL)
                .set(PERSON_SKILL.PERSON_ID, person)
                .set(PERSON_SKILL.SKILL_ID, skill.value())
                .set(PERSON_SKILL.LEVEL, level.name())
                .execute());
        audit.note(by, "changed what somebody can", person.toString());
    }
}
