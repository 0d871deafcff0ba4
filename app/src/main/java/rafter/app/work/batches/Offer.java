package rafter.app.work.batches;

import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;
import rafter.core.ticket.ActForm;

/** The acts that a batch offers, each with the key that chooses it on the page. */
enum Offer {
    PERSON(ActForm.PERSON, "o"),
    TEAM(ActForm.TEAM, "e"),
    STATE(ActForm.STATE, "s"),
    PRIORITY(ActForm.PRIORITY, "p"),
    TOPIC(ActForm.TOPIC, "t"),
    TAG(ActForm.TAG, "g"),
    UNTAG(ActForm.UNTAG, "u"),
    FIELD(ActForm.FIELD, "f"),
    DUE(ActForm.DUE, "d"),
    BACK(ActForm.BACK, "k"),
    NOTE(ActForm.NOTE, "n"),
    ANSWER(ActForm.ANSWER, "a"),
    JOIN(ActForm.JOIN, "j"),
    NO_REQUEST(ActForm.NO_REQUEST, "q"),
    DELETE(ActForm.DELETE, "x"),
    TASK(ActForm.TASK, "i"),
    WATCH(ActForm.WATCH, "w"),
    RESTORE(ActForm.RESTORE, "r"),
    QUEUE(ActForm.QUEUE, "y"),
    SKILL(ActForm.SKILL, "l"),
    POLICY(ActForm.POLICY, "b");

    private final ActForm form;
    private final String letter;

    Offer(ActForm form, String letter) {
        this.form = form;
        this.letter = letter;
    }

    /** How it is filled in. */
    public ActForm form() {
        return form;
    }

    /** The key that chooses it on the page. */
    public String letter() {
        return letter;
    }

    /** As the form names it. */
    public String key() {
        return form.key();
    }

    /** What a person chooses by. */
    public String words() {
        return this == ANSWER ? "Answer all" : form.words();
    }

    /** Those of which something holds. */
    static List<Offer> where(Predicate<ActForm> wanted) {
        return Arrays.stream(values()).filter(one -> wanted.test(one.form)).toList();
    }
}
