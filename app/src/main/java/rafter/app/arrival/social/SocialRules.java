package rafter.app.arrival.social;

import static rafter.database.Tables.KEPT_SEARCH;
import static rafter.database.Tables.NOISE;
import static rafter.database.Tables.SOCIAL_RULES;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.OneDocument;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.social.KeptSearch;
import rafter.core.social.Wording;

/** How the workspace watches networks: what it looks for, what is noise, and what becomes of what others delete. */
@Component
public class SocialRules {

    /** What is looked for; {@code found} counts how often it was. */
    public record Search(long id, String name, KeptSearch search, boolean opens, int found, int version) {}

    /**
     * A mark of noise.
     *
     * @param handle whose posts it takes away; blank: whoever writes so
     * @param wording what is worded so; blank: whatever they write
     * @param aside how many it has taken away
     */
    public record Mark(
            long id, Optional<Long> provider, String handle, String wording, Set<String> words, Instant at, int aside) {

        /** In words. */
        public String said() {
            return handle.isEmpty() ? "what is worded like this" : "what " + handle + " writes";
        }
    }

    /** The rules: whether the text of a post that others delete stays, and how many posts in how long are a wave. */
    public record Rules(boolean keepsDeleted, int waveOf, int waveMinutes) {
        static final Rules USUAL = new Rules(false, 4, 180);

        Duration waveWithin() {
            return Duration.ofMinutes(waveMinutes);
        }
    }

    private static final int MOST_SEARCHES = 50;
    private static final int LONGEST_NAME = 60;
    private static final int MOST_POSTS = 100;
    private static final int LONGEST_MINUTES = 1440;
    private static final String KEPT = " Nothing was saved; what you typed is still here.";

    private final DSLContext sql;
    private final OneDocument<Rules> document;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;
    private final BrieflyCached<List<Search>> searches =
            new BrieflyCached<>(Duration.ofSeconds(1), this::lookForSearches);
    private final BrieflyCached<List<Mark>> marks = new BrieflyCached<>(Duration.ofSeconds(1), this::lookForMarks);
    private final BrieflyCached<Rules> rules = new BrieflyCached<>(Duration.ofSeconds(1), this::lookForRules);

    SocialRules(DSLContext sql, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.document = OneDocument.rowOf(sql, SOCIAL_RULES, Rules.class);
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ searches

    /** What is looked for; a change of another node’s is seen within a second. */
    public List<Search> searches() {
        return searches.get();
    }

    /** The same, looked up now. */
    List<Search> lookForSearches() {
        return sql.selectFrom(KEPT_SEARCH)
                .where(KEPT_SEARCH.REMOVED_AT.isNull())
                .orderBy(KEPT_SEARCH.NAME)
                .fetch(r -> new Search(
                        r.getId(),
                        r.getName(),
                        new KeptSearch(r.getId(), r.getWords()),
                        r.getOpens(),
                        r.getFound(),
                        r.getVersion()));
    }

    /**
     * Saves one; id zero: a new one.
     *
     * @throws Problem.Invalid when something is wrong with it
     */
    @Transactional
    public void save(long id, String name, String words, boolean opens, PersonId by) {
        guard.houseRules(by);
        if (name.isBlank() || name.strip().length() > LONGEST_NAME) {
            throw new Problem.Invalid("Give the search a name of at most " + LONGEST_NAME + " letters." + KEPT);
        }
        List<String> faults = new KeptSearch(id, words).faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults) + KEPT);
        }
        if (id == 0 && lookForSearches().size() >= MOST_SEARCHES) {
            throw new Problem.Invalid("There are " + MOST_SEARCHES + " searches; remove one first." + KEPT);
        }
        if (id == 0) {
            sql.insertInto(KEPT_SEARCH)
                    .set(KEPT_SEARCH.NAME, name.strip())
                    .set(KEPT_SEARCH.WORDS, words.strip())
                    .set(KEPT_SEARCH.OPENS, opens)
                    .execute();
        } else {
            sql.update(KEPT_SEARCH)
                    .set(KEPT_SEARCH.NAME, name.strip())
                    .set(KEPT_SEARCH.WORDS, words.strip())
                    .set(KEPT_SEARCH.OPENS, opens)
                    .set(KEPT_SEARCH.VERSION, KEPT_SEARCH.VERSION.plus(1))
                    .where(KEPT_SEARCH.ID.eq(id))
                    .execute();
        }
        audit.note(by, "saved the search “" + name.strip() + "”", words);
        searches.forget();
    }

    /** Looks for it no more, or does again; what it found stays. */
    @Transactional
    public void remove(long id, boolean gone, PersonId by) {
        guard.houseRules(by);
        sql.update(KEPT_SEARCH)
                .set(KEPT_SEARCH.REMOVED_AT, gone ? clock.instant() : null)
                .where(KEPT_SEARCH.ID.eq(id))
                .execute();
        audit.note(by, gone ? "removed a search" : "brought a search back", Long.toString(id));
        searches.forget();
    }

    /** Searches found something. */
    @Transactional(propagation = Propagation.MANDATORY)
    void found(Set<Long> which) {
        sql.update(KEPT_SEARCH)
                .set(KEPT_SEARCH.FOUND, KEPT_SEARCH.FOUND.plus(1))
                .where(KEPT_SEARCH.ID.in(which))
                .execute();
    }

    // ------------------------------------------------------------------ noise

    /** What is noise, the latest first. */
    public List<Mark> marks() {
        return marks.get();
    }

    /** The same, looked up now. */
    List<Mark> lookForMarks() {
        return sql.selectFrom(NOISE)
                .where(NOISE.REMOVED_AT.isNull())
                .orderBy(NOISE.ID.desc())
                .fetch(r -> {
                    String wording = Optional.ofNullable(r.getWording()).orElse("");
                    return new Mark(
                            r.getId(),
                            Optional.ofNullable(r.getProviderId()),
                            Optional.ofNullable(r.getHandle()).orElse(""),
                            wording,
                            Wording.of(wording),
                            r.getAt(),
                            r.getAside());
                });
    }

    /** What takes a post away, if anything does. */
    Optional<Mark> noise(long provider, String handle, String text) {
        Set<String> words = Wording.of(text);
        return marks().stream()
                .filter(mark -> mark.handle().isEmpty()
                        ? Wording.same(mark.words(), words)
                        : mark.handle().equals(handle)
                                && mark.provider()
                                        .filter(one -> one == provider)
                                        .isPresent())
                .findFirst();
    }

    /** Marks a sender, or a wording, as noise; the mark. */
    @Transactional(propagation = Propagation.MANDATORY)
    long mark(long provider, Optional<String> handle, Optional<String> wording, PersonId by) {
        long id = sql.insertInto(NOISE)
                .set(NOISE.PROVIDER_ID, provider)
                .set(NOISE.HANDLE, handle.orElse(null))
                .set(NOISE.WORDING, wording.orElse(null))
                .set(NOISE.PERSON_ID, by)
                .set(NOISE.AT, clock.instant())
                .returning(NOISE.ID)
                .fetchSingle(NOISE.ID);
        audit.note(by, "marked noise", handle.or(() -> wording).orElse(""));
        marks.forget();
        return id;
    }

    /** A mark counts no more, or does again. */
    @Transactional
    public void unmark(long id, boolean gone, PersonId by) {
        guard.work(by);
        sql.update(NOISE)
                .set(NOISE.REMOVED_AT, gone ? clock.instant() : null)
                .where(NOISE.ID.eq(id))
                .execute();
        audit.note(by, gone ? "took a mark of noise back" : "set a mark of noise again", Long.toString(id));
        marks.forget();
    }

    /** A mark took something away. */
    @Transactional(propagation = Propagation.MANDATORY)
    void tookAside(long mark) {
        sql.update(NOISE)
                .set(NOISE.ASIDE, NOISE.ASIDE.plus(1))
                .where(NOISE.ID.eq(mark))
                .execute();
    }

    // ------------------------------------------------------------------ rules

    /** The rules; a change of another node’s is seen within a second. */
    public Rules rules() {
        return rules.get();
    }

    private Rules lookForRules() {
        return document.kept().map(OneDocument.Kept::document).orElse(Rules.USUAL);
    }

    /** Which state of the rules is seen. */
    int version() {
        return document.kept().map(OneDocument.Kept::version).orElse(0);
    }

    /**
     * Changes them.
     *
     * @throws Problem.Invalid when something is wrong with them
     * @throws Problem.Stale when somebody changed them since
     */
    @Transactional
    public void save(Rules typed, int version, PersonId by) {
        guard.houseRules(by);
        if (typed.waveOf() < 2 || typed.waveOf() > MOST_POSTS) {
            throw new Problem.Invalid("From 2 to " + MOST_POSTS + " posts are a wave." + KEPT);
        }
        if (typed.waveMinutes() < 1 || typed.waveMinutes() > LONGEST_MINUTES) {
            throw new Problem.Invalid("Posts of a wave are a minute to a day apart." + KEPT);
        }
        document.save(typed, version);
        audit.note(by, "changed how networks are watched", "");
        rules.forget();
    }
}
