package rafter.app.handout.consults;

import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.EXPERT;
import static rafter.database.Tables.EXPERT_SKILL;
import static rafter.database.Tables.SKILL;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.SkillLevel;
import rafter.core.text.MailAddress;

/** People from outside who know what colleagues do not. */
@Component
public class Experts {

    static final int LONGEST_NAME = 80;

    /**
     * One of them.
     *
     * @param calendar of their hours; blank: around the clock
     */
    public record Expert(
            ExpertId id, String name, String address, String calendar, Map<SkillId, SkillLevel> skills, int version) {
        public Expert {
            skills = Map.copyOf(skills);
        }
    }

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;

    Experts(DSLContext sql, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    /** All of them, by name. */
    List<Expert> all() {
        return read(EXPERT.REMOVED_AT.isNull());
    }

    /** One of them, also one who was removed. */
    Optional<Expert> find(ExpertId id) {
        return read(EXPERT.ID.eq(id.value())).stream().findFirst();
    }

    private List<Expert> read(Condition which) {
        Map<Long, Map<SkillId, SkillLevel>> skills = new HashMap<>();
        sql.selectFrom(EXPERT_SKILL)
                .where(EXPERT_SKILL.SKILL_ID.in(DSL.select(SKILL.ID).from(SKILL).where(SKILL.REMOVED_AT.isNull())))
                .forEach(r -> skills.computeIfAbsent(r.getExpertId(), id -> new HashMap<>())
                        .put(new SkillId(r.getSkillId()), SkillLevel.valueOf(r.getLevel())));
        return sql.selectFrom(EXPERT)
                .where(which)
                .orderBy(DSL.lower(EXPERT.NAME), EXPERT.ID)
                .fetch(r -> new Expert(
                        new ExpertId(r.getId()),
                        r.getName(),
                        r.getAddress(),
                        r.getCalendar(),
                        skills.getOrDefault(r.getId(), Map.of()),
                        r.getVersion()));
    }

    /** In how many rooms each is just now. */
    Map<ExpertId, Integer> rooms() {
        return sql.select(CONSULT_GUEST.EXPERT_ID, DSL.count())
                .from(CONSULT_GUEST)
                .join(CONSULT)
                .on(CONSULT.ID.eq(CONSULT_GUEST.CONSULT_ID))
                .where(CONSULT.STATE.eq("OPEN"))
                .and(CONSULT_GUEST.STATE.eq("TAKEN"))
                .and(CONSULT_GUEST.EXPERT_ID.isNotNull())
                .groupBy(CONSULT_GUEST.EXPERT_ID)
                .fetchMap(r -> new ExpertId(r.value1()), r -> r.value2());
    }

    /**
     * Adds one, or changes the one of this id.
     *
     * @throws Problem.Invalid when the name or the address is wrong, or another one has that address
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public void save(Expert expert, PersonId by) {
        guard.houseRules(by);
        String name = expert.name().strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw new Problem.Invalid("An expert has a name of at most " + LONGEST_NAME + " letters.");
        }
        String address = address(expert);
        long id = expert.id().none()
                ? sql.insertInto(EXPERT)
                        .set(EXPERT.NAME, name)
                        .set(EXPERT.ADDRESS, address)
                        .set(EXPERT.CALENDAR, expert.calendar())
                        .returning(EXPERT.ID)
                        .fetchSingle(EXPERT.ID)
                : change(expert, name, address);
        sql.deleteFrom(EXPERT_SKILL).where(EXPERT_SKILL.EXPERT_ID.eq(id)).execute();
        expert.skills()
                .forEach((skill, level) -> sql.insertInto(EXPERT_SKILL)
                        .set(EXPERT_SKILL.EXPERT_ID, id)
                        .set(EXPERT_SKILL.SKILL_ID, skill.value())
                        .set(EXPERT_SKILL.LEVEL, level.name())
                        .execute());
        audit.note(by, "changed an expert from outside", name);
    }

    /** The address, which only one of them has. */
    private String address(Expert expert) {
        String address = MailAddress.of(expert.address().strip())
                .filter(MailAddress::writable)
                .map(MailAddress::toString)
                .orElseThrow(() -> new Problem.Invalid("“" + expert.address() + "” is not a mail address."));
        boolean taken = all().stream()
                .anyMatch(one ->
                        one.address().equalsIgnoreCase(address) && !one.id().equals(expert.id()));
        if (taken) {
            throw new Problem.Invalid("There is an expert with that address already.");
        }
        return address;
    }

    private long change(Expert expert, String name, String address) {
        return sql.update(EXPERT)
                .set(EXPERT.NAME, name)
                .set(EXPERT.ADDRESS, address)
                .set(EXPERT.CALENDAR, expert.calendar())
                .set(EXPERT.VERSION, EXPERT.VERSION.plus(1))
                .where(EXPERT.ID.eq(expert.id().value()))
                .and(EXPERT.VERSION.eq(expert.version()))
                .and(EXPERT.REMOVED_AT.isNull())
                .returning(EXPERT.ID)
                .fetchOptional(EXPERT.ID)
                .orElseThrow(
                        () -> new Problem.Stale(
                                "Somebody changed or removed this expert while you were editing. Nothing of yours was saved; it is still in the form."));
    }

    /** Removes one: they are asked no more, and their links work no more. */
    @Transactional
    public void remove(ExpertId id, PersonId by) {
        guard.houseRules(by);
        Expert gone = find(id).orElseThrow(() -> new Problem.NotFound("There is no such expert."));
        sql.update(EXPERT)
                .set(EXPERT.REMOVED_AT, clock.instant())
                .where(EXPERT.ID.eq(id.value()))
                .execute();
        audit.note(by, "removed an expert from outside", gone.name());
    }

    /**
     * Brings one back who was removed.
     *
     * @throws Problem.Stale when another one has their address now
     */
    @Transactional
    public void bringBack(ExpertId id, PersonId by) {
        guard.houseRules(by);
        Expert back = find(id).orElseThrow(() -> new Problem.NotFound("There is no such expert."));
        if (all().stream().anyMatch(one -> one.address().equalsIgnoreCase(back.address()))) {
            throw new Problem.Stale("There is an expert with that address by now. Nothing was changed.");
        }
        sql.update(EXPERT)
                .setNull(EXPERT.REMOVED_AT)
                .where(EXPERT.ID.eq(id.value()))
                .execute();
        audit.note(by, "brought an expert from outside back", back.name());
    }
}
