package rafter.core.notice;

import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.rule.Happening;
import rafter.core.rule.Occasion;
import rafter.core.ticket.TicketState;

/** What happens to a ticket and somebody may want to be told of. */
public enum NoticeEvent {
    ARRIVED(
            "A request arrives",
            new Occasion.Arrival(),
            Criteria.everything(),
            Audience.OWNER,
            Audience.TEAM,
            Audience.LEADS),
    CUSTOMER_WROTE("The customer writes", Happening.CUSTOMER_WROTE, Audience.TEAM, Audience.LEADS),
    PARTNER_WROTE("A partner answers", Happening.PARTNER_WROTE, Audience.TEAM, Audience.LEADS),
    OWNER("The owner changes", Happening.OWNER, Audience.CUSTOMER, Audience.TEAM, Audience.LEADS),
    TEAM("The team changes", Happening.TEAM, Audience.CUSTOMER, Audience.OWNER, Audience.TEAM, Audience.LEADS),
    PRIORITY(
            "The priority changes",
            Happening.PRIORITY,
            Audience.CUSTOMER,
            Audience.OWNER,
            Audience.TEAM,
            Audience.LEADS),
    RESOLVED(
            "It is resolved",
            new Occasion.Change(Set.of(Happening.STATE), ""),
            Criteria.test(KnownField.STATE, Operator.IS, TicketState.RESOLVED.key()),
            Audience.CUSTOMER,
            Audience.OWNER,
            Audience.TEAM,
            Audience.LEADS),
    BACK("It comes back", Happening.BACK, Audience.TEAM, Audience.LEADS),
    TARGET("A step of a target fires", Happening.TARGET_STEP, Audience.TEAM, Audience.LEADS),
    RATED("The customer rates it", Happening.RATED, Audience.TEAM, Audience.LEADS);

    private final String words;
    private final Occasion occasion;
    private final Criteria criteria;
    private final Set<Audience> audiences;

    NoticeEvent(String words, Happening happening, Audience first, Audience... others) {
        this(words, new Occasion.Change(Set.of(happening), ""), Criteria.everything(), first, others);
    }

    NoticeEvent(String words, Occasion occasion, Criteria criteria, Audience first, Audience... others) {
        this.words = words;
        this.occasion = occasion;
        this.criteria = criteria;
        this.audiences = Set.copyOf(EnumSet.of(first, others));
    }

    /** What happens, in words. */
    public String words() {
        return words;
    }

    /** When the rule of it is read. */
    public Occasion occasion() {
        return occasion;
    }

    /** Besides, for which tickets. */
    public Criteria criteria() {
        return criteria;
    }

    /** Who can be told by a choice of the workspace; others are told anyhow, or have no use for it. */
    public Set<Audience> audiences() {
        return EnumSet.copyOf(audiences);
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
