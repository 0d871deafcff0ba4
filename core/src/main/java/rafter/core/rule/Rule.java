package rafter.core.rule;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import rafter.core.criteria.Criteria;

/**
 * What is done by itself, when, and to which tickets.
 *
 * @param id stays, whatever of it is changed
 * @param description why there is it
 * @param on whether it is read
 * @param deeds what it does, in this order
 * @param carriesOn whether the rules below it in its section are read after it did something
 * @param since from when on it is in force as it is; nothing that was due before is made up for
 */
public record Rule(
        String id,
        String name,
        String description,
        boolean on,
        Occasion occasion,
        Criteria criteria,
        List<Deed> deeds,
        boolean carriesOn,
        Instant since) {

    /** More deeds nobody reads. */
    public static final int MOST_DEEDS = 20;

    public Rule {
        deeds = List.copyOf(deeds);
    }

    /** What is wrong with it, in words, as far as it can be told without the house; nothing is wrong with a draft that is off. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (name.isBlank()) {
            faults.add("A rule lacks a name.");
        }
        if (description.isBlank()) {
            faults.add("Say in a sentence what it is for.");
        }
        faults.addAll(occasion.faults());
        faults.addAll(Criteria.faults(criteria));
        if (deeds.isEmpty()) {
            faults.add("It does nothing yet. Add what it does.");
        }
        if (deeds.size() > MOST_DEEDS) {
            faults.add("A rule does at most " + MOST_DEEDS + " things.");
        }
        deeds.stream()
                .filter(deed -> !deed.known())
                .forEach(deed -> faults.add("“" + deed.form() + "” is nothing that a rule can do."));
        return faults;
    }

    /** Whether it does the same at the same times, whatever it is called and wherever it stands. */
    public boolean worksLike(Rule other) {
        return on == other.on
                && occasion.equals(other.occasion)
                && criteria.equals(other.criteria)
                && deeds.equals(other.deeds);
    }

    /** The same, in force from then on. */
    public Rule since(Instant from) {
        return new Rule(id, name, description, on, occasion, criteria, deeds, carriesOn, from);
    }

    /** The same, read or not. */
    public Rule on(boolean read) {
        return new Rule(id, name, description, read, occasion, criteria, deeds, carriesOn, since);
    }
}
