package rafter.app.tickets.rules;

import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.notice.NoticeChoice;
import rafter.core.rule.RuleBook;

/** What others do with rules as a whole: put a book into force, have it read, have it rehearsed. */
@Component
public class RuleDesk {

    private static final int AT_ONCE = 500;

    private final RuleBooks books;
    private final RuleWords words;
    private final RuleFiring firing;
    private final RuleRehearsals rehearsals;

    RuleDesk(RuleBooks books, RuleWords words, RuleFiring firing, RuleRehearsals rehearsals) {
        this.books = books;
        this.words = words;
        this.firing = firing;
        this.rehearsals = rehearsals;
    }

    /**
     * Puts a book into force in place of the one that is.
     *
     * @throws Problem.Invalid when something in it cannot be done
     */
    @Transactional
    public void putIntoForce(RuleBook book, PersonId by) {
        int version = books.draft().version();
        books.save(book, version, by, "wrote rules");
        books.putIntoForce(version + 1, words.faults(book), by);
    }

    /** Chooses at once who is told of something. */
    public void choose(NoticeChoice choice, PersonId by) {
        books.choose(choice, books.newest().edition(), by);
    }

    /** Reads the rules for all that happened and came due until now; how much that was. */
    public int readAll() {
        int all = 0;
        int some = firing.readDue(AT_ONCE);
        while (some > 0) {
            all += some;
            some = firing.readDue(AT_ONCE);
        }
        return all;
    }

    /** Reads the book as it stands for the tickets of the last ninety days, so that what is wrong with it can be told. */
    public void rehearse(PersonId by) {
        rehearse("", by);
    }

    /**
     * Reads the book, or one rule of it, for the tickets of the last ninety days.
     *
     * @param rule its id; blank: the whole book
     * @return how many tickets were looked at
     */
    public long rehearse(String rule, PersonId by) {
        long id = rehearsals.start(rule, by);
        rehearsals.run(id);
        return rehearsals.find(id).kept().map(kept -> kept.result().tickets()).orElse(0L);
    }
}
