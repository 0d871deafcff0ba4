package rafter.app.tickets.phrases;

import static rafter.database.Tables.PHRASE;

import java.time.Clock;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Holders;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.core.text.PhraseMatch;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;
import rafter.database.tables.records.PhraseRecord;

/** The phrasebook: everybody has phrases of their own, shares those of their teams, and finds those of the house. */
@Component
public class Phrases {

    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";
    private static final int LONGEST_NAME = 80;
    private static final int LONGEST_FOLDER = 120;
    private static final int LONGEST_TEXT = 100_000;

    private final DSLContext sql;
    private final Holders holders;
    private final Clock clock;

    Phrases(DSLContext sql, Holders holders, Clock clock) {
        this.sql = sql;
        this.holders = holders;
        this.clock = clock;
    }

    /** Those that a person can use, by folder and name. */
    public List<Phrase> of(Viewer me) {
        Access.require(me, Right.WORK);
        return sql.selectFrom(PHRASE)
                .where(sees(me))
                .and(PHRASE.REMOVED_AT.isNull())
                .orderBy(PHRASE.FOLDER, PHRASE.NAME, PHRASE.ID)
                .fetch(Phrases::phrase);
    }

    private Condition sees(Viewer me) {
        return holders.sees(PHRASE.PERSON_ID, PHRASE.TEAM_ID, me);
    }

    /**
     * One that a person can use.
     *
     * @throws Problem.NotFound when there is none of this id, or not for them
     */
    public Phrase get(long id, Viewer me) {
        Access.require(me, Right.WORK);
        return sql.selectFrom(PHRASE)
                .where(PHRASE.ID.eq(id))
                .and(sees(me))
                .and(PHRASE.REMOVED_AT.isNull())
                .fetchOptional(Phrases::phrase)
                .orElseThrow(() -> new Problem.NotFound("There is no such phrase, or it is not shared with you."));
    }

    /**
     * Those that a few letters may mean, the best first.
     *
     * @param language what the customer is written to in: those in it and in no particular one come before others; blank: none is preferred
     */
    public List<Phrase> matching(String letters, String language, int most, Viewer me) {
        Comparator<Phrase> fit = Comparator.comparingInt(phrase -> fit(phrase.language(), language));
        return PhraseMatch.of(
                        of(me),
                        letters,
                        Phrase::name,
                        fit.thenComparing(Comparator.comparingInt(Phrase::used).reversed()))
                .stream()
                .limit(most)
                .toList();
    }

    private static int fit(String language, String wanted) {
        return wanted.isEmpty() || language.equals(wanted) ? 0 : language.isEmpty() ? 1 : 2;
    }

    /** Counts that a phrase was put into a text. */
    @Transactional
    public void used(long id, Viewer me) {
        get(id, me);
        sql.update(PHRASE)
                .set(PHRASE.USED, PHRASE.USED.plus(1))
                .set(PHRASE.LAST_USED, clock.instant())
                .where(PHRASE.ID.eq(id))
                .execute();
    }

    /**
     * Saves a phrase.
     *
     * @param phrase with the version that its writer saw; id zero: a new one
     * @return its id
     * @throws Problem when it cannot be saved so; nothing is
     */
    @Transactional
    public long save(Phrase phrase, Viewer me) {
        Access.require(me, Right.WORK);
        check(phrase);
        holders.insist(phrase.holder(), me);
        var row = new PhraseRecord();
        row.setName(phrase.name().strip());
        row.setFolder(folder(phrase.folder()));
        row.setLanguage(phrase.language());
        row.setHtml(SafeHtml.own(phrase.html()));
        row.setPersonId(phrase.holder().ofPerson().orElse(null));
        row.setTeamId(phrase.holder().ofTeam().orElse(null));
        row.setChangedBy(me.id());
        row.setChangedAt(clock.instant());
        if (phrase.id() == 0) {
            return sql.insertInto(PHRASE).set(row).returning(PHRASE.ID).fetchSingle(PHRASE.ID);
        }
        holders.insist(get(phrase.id(), me).holder(), me);
        row.setVersion(phrase.version() + 1);
        int changed = sql.update(PHRASE)
                .set(row)
                .where(PHRASE.ID.eq(phrase.id()))
                .and(PHRASE.VERSION.eq(phrase.version()))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this phrase meanwhile." + KEPT);
        }
        return phrase.id();
    }

    private static void check(Phrase phrase) {
        if (phrase.name().isBlank() || phrase.name().strip().length() > LONGEST_NAME) {
            throw new Problem.Invalid("A phrase needs a name of at most eighty letters." + KEPT);
        }
        if (phrase.folder().length() > LONGEST_FOLDER) {
            throw new Problem.Invalid("A folder has at most 120 letters." + KEPT);
        }
        if (!Languages.known(phrase.language())) {
            throw new Problem.Invalid("Choose one of the languages, or none." + KEPT);
        }
        if (SafeHtml.isBlank(phrase.html())) {
            throw new Problem.Invalid("There are no words in the phrase yet." + KEPT);
        }
        if (phrase.html().length() > LONGEST_TEXT) {
            throw new Problem.Invalid("A phrase has at most 100,000 letters." + KEPT);
        }
        var unknown = Placeholders.unknown(SafeHtml.toText(phrase.html()), Placeholder.names(Placeholder.forWriting()));
        if (!unknown.isEmpty()) {
            throw new Problem.Invalid("Nobody knows what {" + String.join("}, {", unknown)
                    + "} stands for. The list below has what can stand in braces." + KEPT);
        }
    }

    /** Levels without blanks around them; empty ones are none. */
    private static String folder(String typed) {
        return String.join(
                "/",
                Arrays.stream(typed.split("/"))
                        .map(String::strip)
                        .filter(level -> !level.isEmpty())
                        .toList());
    }

    /** Takes a phrase out of the phrasebook; it can be put back. */
    @Transactional
    public Phrase remove(long id, Viewer me) {
        Phrase phrase = get(id, me);
        holders.insist(phrase.holder(), me);
        sql.update(PHRASE)
                .set(PHRASE.REMOVED_AT, clock.instant())
                .where(PHRASE.ID.eq(id))
                .execute();
        return phrase;
    }

    /** Puts a phrase back that was taken out. */
    @Transactional
    public Phrase restore(long id, Viewer me) {
        Phrase phrase = sql.selectFrom(PHRASE)
                .where(PHRASE.ID.eq(id))
                .and(sees(me))
                .fetchOptional(Phrases::phrase)
                .orElseThrow(() -> new Problem.NotFound("There is no such phrase, or it is not shared with you."));
        holders.insist(phrase.holder(), me);
        sql.update(PHRASE).setNull(PHRASE.REMOVED_AT).where(PHRASE.ID.eq(id)).execute();
        return phrase;
    }

    private static Phrase phrase(PhraseRecord r) {
        return new Phrase(
                r.getId(),
                r.getName(),
                r.getFolder(),
                r.getLanguage(),
                Holder.of(r.getPersonId(), r.getTeamId()),
                r.getHtml(),
                r.getUsed(),
                r.getVersion());
    }
}
