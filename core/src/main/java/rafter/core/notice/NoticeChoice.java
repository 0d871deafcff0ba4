package rafter.core.notice;

import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import rafter.core.criteria.Criteria;
import rafter.core.rule.Deed;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;

/**
 * Whether an audience is told of an event, and in which words. It is kept as a rule of a section of its own, so that whatever holds for rules
 * holds for it, too: it is explained, rehearsed, capped and counted like any other.
 *
 * @param subject of the mail to the customer; of no use to others
 */
public record NoticeChoice(NoticeEvent event, Audience audience, boolean on, String subject, String words) {

    /** The section that these rules stand in. */
    public static final String SECTION = "notices";

    private static final String NAME = "Notices";

    /** All choices that there are, as a book has them; what was never chosen is off and has words to begin with. */
    public static List<NoticeChoice> of(RuleBook book) {
        return Arrays.stream(NoticeEvent.values())
                .flatMap(event -> Arrays.stream(Audience.values())
                        .filter(event.audiences()::contains)
                        .map(audience -> of(book, event, audience)))
                .toList();
    }

    /** One choice, as a book has it. */
    public static NoticeChoice of(RuleBook book, NoticeEvent event, Audience audience) {
        Optional<Rule> rule = book.rule(id(event, audience));
        Optional<Deed> deed = rule.flatMap(one -> one.deeds().stream().findFirst());
        NoticeChoice first = first(event, audience);
        return deed.map(one -> new NoticeChoice(
                        event, audience, rule.orElseThrow().on(), one.typed("subject"), one.typed("text")))
                .orElse(first);
    }

    private static String id(NoticeEvent event, Audience audience) {
        return "notice-" + event.key() + "-" + audience.key();
    }

    /** What it says before anybody chose otherwise. */
    static NoticeChoice first(NoticeEvent event, Audience audience) {
        if (audience == Audience.CUSTOMER) {
            String what = switch (event) {
                case OWNER -> "{owner} looks after your request “{subject}” from now on.";
                case TEAM -> "your request “{subject}” was handed to our team {team}, who know most about it.";
                case PRIORITY -> "we have given your request “{subject}” another priority.";
                case RESOLVED ->
                    "your request “{subject}” is resolved. If something is still open, just answer this mail; that opens it again.";
                default -> "there is news of your request “{subject}”.";
            };
            return new NoticeChoice(
                    event,
                    audience,
                    false,
                    "Your request {ticket}: {subject}",
                    "Hello {first name},\n\n" + what + "\n\n{workspace}");
        }
        return new NoticeChoice(event, audience, false, "", event.words() + ": {ticket}, {subject}");
    }

    /** A book with this choice in it. */
    public RuleBook in(RuleBook book) {
        RuleBook there = book.sections().stream().anyMatch(one -> one.id().equals(SECTION))
                ? book
                : book.withSection(SECTION, NAME);
        return there.with(rule(there), SECTION);
    }

    private Rule rule(RuleBook book) {
        Optional<Rule> was = book.rule(id(event, audience));
        var typed = new HashMap<String, String>();
        typed.put("text", words);
        audience.whom().ifPresent(whom -> typed.put("whom", whom.name()));
        if (audience.whom().isEmpty()) {
            typed.put("subject", subject);
        }
        Deed deed = Deed.of(audience.whom().isEmpty() ? Deed.Special.MAIL.key() : "notify", Map.copyOf(typed));
        return new Rule(
                id(event, audience),
                event.words() + ": tell " + audience.words().substring(0, 1).toLowerCase(Locale.ROOT)
                        + audience.words().substring(1),
                "Chosen on the page of notices.",
                on,
                event.occasion(),
                // Somebody may have narrowed it in the rulebook.
                was.map(Rule::criteria).orElse(event.criteria()),
                List.of(deed),
                true,
                was.map(Rule::since).orElse(Instant.EPOCH));
    }

    /** For which tickets besides, when somebody narrowed it in the rulebook. */
    public static Optional<Criteria> narrowed(RuleBook book, NoticeEvent event, Audience audience) {
        return book.rule(id(event, audience)).map(Rule::criteria).filter(one -> !one.equals(event.criteria()));
    }
}
