package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_RUN;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.core.rule.Deed;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.ticket.EventKind;

/** How much of the work rules did, and how much of that came back to people. */
@Component
class RuleShare {

    /** What a rule is for. */
    enum Kind {
        ANSWERS("answered", "the customer wrote again afterwards"),
        CLOSES("closed", "the customer wrote again afterwards"),
        SORTS("sorted", "a person changed its team or topic afterwards");

        private final String words;
        private final String back;

        Kind(String words, String back) {
            this.words = words;
            this.back = back;
        }

        public String words() {
            return words;
        }

        /** What counts as coming back. */
        public String back() {
            return back;
        }

        static Kind of(Rule rule) {
            Set<String> forms = new TreeSet<>();
            rule.deeds().forEach(deed -> forms.add(deed.form()));
            if (forms.contains(Deed.Special.CLOSE.key())) {
                return CLOSES;
            }
            return forms.contains(Deed.Special.MAIL.key()) ? ANSWERS : SORTS;
        }
    }

    /** So many tickets, and how many of them came back. */
    public record Line(String name, String link, Kind kind, long tickets, long back) {
        /** The share that came back, in percent. */
        public long percent() {
            return tickets == 0 ? 0 : Math.round(100.0 * back / tickets);
        }
    }

    /**
     * What rules did in a period.
     *
     * @param opened how many tickets came
     * @param touched on how many of these a rule did something
     */
    public record Shares(long opened, long touched, List<Line> kinds, List<Line> rules, List<Line> tags) {}

    private final DSLContext sql;
    private final RuleBooks books;

    RuleShare(DSLContext sql, RuleBooks books) {
        this.sql = sql;
        this.books = books;
    }

    /** What rules that are in force did on tickets that came in a period. */
    Shares of(Instant from, Instant to) {
        RuleBook book = books.current().book();
        var byKind = new TreeMap<Kind, List<Rule>>();
        var byTag = new TreeMap<String, List<Rule>>();
        var rules = new ArrayList<Line>();
        for (Rule rule : book.rules()) {
            Kind kind = Kind.of(rule);
            byKind.computeIfAbsent(kind, key -> new ArrayList<>()).add(rule);
            rule.deeds().stream()
                    .filter(deed -> deed.form().equals("tag"))
                    .map(deed -> deed.typed("tag").strip())
                    .forEach(tag ->
                            byTag.computeIfAbsent(tag, key -> new ArrayList<>()).add(rule));
            Line line = line(rule.name(), RulesController.HERE + "/" + rule.id(), kind, List.of(rule), from, to);
            if (line.tickets() > 0) {
                rules.add(line);
            }
        }
        var kinds = new ArrayList<Line>();
        byKind.forEach((kind, some) -> kinds.add(line(kind.words(), "", kind, some, from, to)));
        var tags = new ArrayList<Line>();
        byTag.forEach((tag, some) -> tags.add(line(tag, "", Kind.SORTS, some, from, to)));
        Condition came = TICKET.OPENED_AT.ge(from).and(TICKET.OPENED_AT.lt(to)).and(TICKET.DISCARDED.isFalse());
        return new Shares(
                sql.fetchCount(TICKET, came),
                sql.fetchCount(TICKET, came.and(DSL.exists(runs(DSL.trueCondition())))),
                kinds,
                rules,
                tags);
    }

    private static org.jooq.Select<?> runs(Condition which) {
        return DSL.selectOne()
                .from(RULE_RUN)
                .where(RULE_RUN.TICKET.eq(TICKET.NUMBER))
                .and(which);
    }

    private Line line(String name, String link, Kind kind, Collection<Rule> rules, Instant from, Instant to) {
        Condition ofThese =
                RULE_RUN.RULE_ID.eq(DSL.any(rules.stream().map(Rule::id).toArray(String[]::new)));
        Condition later = TICKET_EVENT.TICKET.eq(RULE_RUN.TICKET).and(TICKET_EVENT.SEQ.gt(RULE_RUN.AFTER_SEQ));
        Condition changed = kind == Kind.SORTS
                ? TICKET_EVENT
                        .KIND
                        .in(DSL.inline(EventKind.TEAM.word()), DSL.inline(EventKind.TOPIC.word()))
                        .and(TICKET_EVENT.ACTOR.like("person%"))
                : TICKET_EVENT.KIND.eq(DSL.inline(EventKind.CUSTOMER_WROTE.word()));
        Condition came = TICKET.OPENED_AT.ge(from).and(TICKET.OPENED_AT.lt(to)).and(TICKET.DISCARDED.isFalse());
        Condition back = ofThese.and(
                DSL.exists(DSL.selectOne().from(TICKET_EVENT).where(later).and(changed)));
        return new Line(
                name,
                link,
                kind,
                sql.fetchCount(TICKET, came.and(DSL.exists(runs(ofThese)))),
                sql.fetchCount(TICKET, came.and(DSL.exists(runs(back)))));
    }
}
