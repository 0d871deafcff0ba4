package rafter.app.handout.people;

import static rafter.database.Tables.HANDOUT_RULES;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.OneDocument;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.SkillLevel;

/** How this workspace hands out, whatever the queue. */
@Component
public class HandOutSettings {

    /** The rules as they are kept; {@code version} rises with every change. */
    public record Kept(HandOutRules rules, int version) {}

    /** The document; a factor that it does not know yet counts what it usually does. */
    private record Document(
            Map<String, Integer> weights,
            Map<String, Double> units,
            long idleMinutes,
            List<String> reasons,
            boolean passAsksWhy,
            boolean floorForAll,
            @Nullable Map<String, Integer> shares) {

        static Document of(HandOutRules rules) {
            var weights = new TreeMap<String, Integer>();
            rules.weights().forEach((factor, weight) -> weights.put(factor.name(), weight));
            return new Document(
                    weights,
                    new TreeMap<>(rules.units()),
                    rules.idleAfter().map(Duration::toMinutes).orElse(0L),
                    rules.reasons(),
                    rules.passAsksWhy(),
                    rules.floorForAll(),
                    shares(rules));
        }

        private static Map<String, Integer> shares(HandOutRules rules) {
            var shares = new TreeMap<String, Integer>();
            rules.shares().forEach((level, share) -> shares.put(level.name(), share));
            return shares;
        }

        HandOutRules rules() {
            Map<Factor, Integer> all = new TreeMap<>(Factor.weights());
            all.replaceAll((factor, usual) -> weights.getOrDefault(factor.name(), usual));
            return new HandOutRules(
                    all,
                    units,
                    idleMinutes == 0 ? Optional.empty() : Optional.of(Duration.ofMinutes(idleMinutes)),
                    reasons,
                    passAsksWhy,
                    floorForAll,
                    byLevel());
        }

        /** Documents of before people took more or less by their level say nothing of it. */
        private Map<SkillLevel, Integer> byLevel() {
            var all = new TreeMap<SkillLevel, Integer>();
            Optional.ofNullable(shares)
                    .orElse(Map.of())
                    .forEach((level, share) -> all.put(SkillLevel.valueOf(level), share));
            return all;
        }
    }

    private final OneDocument<Document> document;
    private final Audit audit;
    private final Guard guard;
    private final ApplicationEventPublisher events;
    private final BrieflyCached<HandOutRules> current =
            new BrieflyCached<>(Duration.ofSeconds(1), () -> kept().rules());

    HandOutSettings(DSLContext sql, Audit audit, Guard guard, ApplicationEventPublisher events) {
        this.document = OneDocument.rowOf(sql, HANDOUT_RULES, Document.class);
        this.audit = audit;
        this.guard = guard;
        this.events = events;
    }

    /** The rules; a change of another node's is seen within a second. */
    public HandOutRules rules() {
        return current.get();
    }

    /** The rules as they are kept, looked up now. */
    public Kept kept() {
        return document.kept()
                .map(kept -> new Kept(kept.document().rules(), kept.version()))
                .orElse(new Kept(HandOutRules.usual(), 0));
    }

    /**
     * Changes them.
     *
     * @throws Problem.Invalid when something is wrong with them
     * @throws Problem.Stale when somebody changed them since
     */
    @Transactional
    public void save(HandOutRules rules, int version, PersonId by) {
        guard.houseRules(by);
        List<String> faults = rules.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        document.save(Document.of(rules), version);
        audit.note(by, "changed how tickets are handed out", "");
        current.forget();
        events.publishEvent(new HandoutChanged());
    }
}
