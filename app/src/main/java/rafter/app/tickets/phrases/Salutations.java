package rafter.app.tickets.phrases;

import static rafter.database.Tables.SALUTATION;

import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/** How a reply begins and ends, in each language that one writes in. */
@Component
public class Salutations {

    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";
    private static final int LONGEST = 1_000;

    /**
     * How a reply begins and ends.
     *
     * @param language blank: for every language that has none of its own
     * @param greeting text with placeholders; blank: none
     * @param closing text with placeholders; blank: none
     */
    public record Salutation(String language, String greeting, String closing, int version) {

        /** What the language is called. */
        public String languageName() {
            return language.isEmpty() ? "All others" : Languages.name(language);
        }
    }

    private final DSLContext sql;
    private final Audit audit;
    private final BrieflyCached<List<Salutation>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    Salutations(DSLContext sql, Audit audit) {
        this.sql = sql;
        this.audit = audit;
    }

    /** All, the general one first; a change of another node's is seen within a second. */
    public List<Salutation> all() {
        return current.get();
    }

    private List<Salutation> read() {
        return sql.selectFrom(SALUTATION)
                .orderBy(SALUTATION.LANGUAGE)
                .fetch(r -> new Salutation(r.getLanguage(), r.getGreeting(), r.getClosing(), r.getVersion()));
    }

    /** The one for a language, or else the general one. */
    public Salutation of(String language) {
        List<Salutation> all = all();
        return all.stream()
                .filter(one -> one.language().equals(language))
                .findFirst()
                .orElseGet(all::getFirst);
    }

    /**
     * Saves one.
     *
     * @param one with the version that was seen; zero: it is a new one
     */
    @Transactional
    public void save(Salutation one, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        check(one);
        int changed = one.version() == 0
                ? sql.insertInto(SALUTATION)
                        .set(SALUTATION.LANGUAGE, one.language())
                        .set(SALUTATION.GREETING, one.greeting().strip())
                        .set(SALUTATION.CLOSING, one.closing().strip())
                        .onConflictDoNothing()
                        .execute()
                : sql.update(SALUTATION)
                        .set(SALUTATION.GREETING, one.greeting().strip())
                        .set(SALUTATION.CLOSING, one.closing().strip())
                        .set(SALUTATION.VERSION, one.version() + 1)
                        .where(SALUTATION.LANGUAGE.eq(one.language()))
                        .and(SALUTATION.VERSION.eq(one.version()))
                        .execute();
        current.forget();
        if (changed == 0) {
            throw new Problem.Stale(
                    one.version() == 0
                            ? "There is one for " + one.languageName() + " already." + KEPT
                            : "Somebody changed it meanwhile." + KEPT);
        }
        audit.note(me.id(), "saved the salutation", one.languageName());
    }

    private static void check(Salutation one) {
        if (!Languages.known(one.language())) {
            throw new Problem.Invalid("Choose one of the languages." + KEPT);
        }
        if (one.greeting().length() > LONGEST || one.closing().length() > LONGEST) {
            throw new Problem.Invalid("A greeting and a closing have at most 1,000 letters each." + KEPT);
        }
        var unknown = Placeholders.unknown(
                one.greeting() + "\n" + one.closing(), Placeholder.names(Placeholder.forWriting()));
        if (!unknown.isEmpty()) {
            throw new Problem.Invalid("Nobody knows what {" + String.join("}, {", unknown) + "} stands for." + KEPT);
        }
    }

    /** Takes one away; its language has the general one then. */
    @Transactional
    public void remove(String language, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        if (language.isEmpty()) {
            throw new Problem.Invalid("The one for all others stays; leave it blank to have none.");
        }
        sql.deleteFrom(SALUTATION).where(SALUTATION.LANGUAGE.eq(language)).execute();
        current.forget();
        audit.note(me.id(), "took away the salutation", Languages.name(language));
    }
}
