package rafter.app.house.people;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.CONTACT_PHONE;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Say;
import rafter.app.platform.Trigrams;
import rafter.core.id.ContactId;
import rafter.core.people.SamePeople;
import rafter.core.people.SamePerson;
import rafter.core.text.MailAddress;
import rafter.core.text.Words;

/** Finds contacts that may be one and the same person. The database finds who comes into question, the core decides. */
@Component
public class Duplicates {

    /** So many of one sort are looked at for one contact. */
    private static final int MOST_OF_A_SORT = 30;

    /** How alike addresses are, of 1, before they are compared letter by letter. */
    private static final double ALIKE = 0.6;

    private static final int MOST_LOOKED_THROUGH = 200_000;

    /** More than these nobody looks through before some are joined. */
    private static final int MOST_FOUND = 200;

    private final DSLContext sql;
    private final Companies companies;
    private final ContactLines lines;
    /** Looking through all contacts takes a good part of a second, and hardly anything changes within one minute. */
    private final BrieflyCached<List<Pair>> known =
            new BrieflyCached<>(Duration.ofMinutes(1), () -> lookedFor(MOST_FOUND));

    Duplicates(DSLContext sql, Companies companies, ContactLines lines) {
        this.sql = sql;
        this.companies = companies;
        this.lines = lines;
    }

    /**
     * Somebody who may be the same person.
     *
     * @param detail by what they are told apart from their namesakes
     * @param why what says so, in words
     */
    public record Suggestion(ContactId id, String name, String detail, String why) {}

    /** A contact, with what they are shown by. */
    private record Found(SamePerson.Known known, String company) {
        String detail() {
            String addresses =
                    known.addresses().stream().map(MailAddress::toString).collect(Collectors.joining(", "));
            return company.isEmpty() ? addresses : addresses + ", " + company;
        }
    }

    /** Who may be the same person as a contact, those first for whom most speaks. */
    @Transactional(readOnly = true)
    public List<Suggestion> of(ContactId contact) {
        Found asked = load(List.of(contact)).get(contact);
        if (asked == null) {
            return List.of();
        }
        var candidates = new LinkedHashSet<ContactId>();
        candidates.addAll(byPhone(asked.known().phones()));
        candidates.addAll(byName(asked.known().name()));
        candidates.addAll(byAddress(asked.known().addresses()));
        candidates.remove(contact);
        var found = new ArrayList<Map.Entry<Integer, Suggestion>>();
        load(candidates).forEach((id, other) -> {
            Set<SamePerson.Sign> signs = SamePerson.signs(asked.known(), other.known(), companies::isPublic);
            if (!signs.isEmpty()) {
                found.add(Map.entry(signs.size(), suggestion(id, other, signs)));
            }
        });
        return found.stream()
                .sorted(Comparator.<Map.Entry<Integer, Suggestion>>comparingInt(Map.Entry::getKey)
                        .reversed()
                        .thenComparing(one -> one.getValue().id()))
                .map(Map.Entry::getValue)
                .toList();
    }

    /**
     * Two contacts that may be one person.
     *
     * @param kept the one that was there first
     */
    public record Pair(ContactId kept, String keptName, String keptDetail, Suggestion other) {}

    /**
     * Contacts that may be the same persons, over all there are. They are looked for at most once a minute; those that were joined since are
     * left out.
     *
     * @param most so many pairs at most
     */
    @Transactional(readOnly = true)
    public List<Pair> overAll(int most) {
        List<Pair> found = known.get();
        Set<ContactId> there = sql.select(CONTACT.ID)
                .from(CONTACT)
                .where(CONTACT.ID.in(found.stream()
                        .flatMap(pair -> Stream.of(pair.kept(), pair.other().id()))
                        .collect(Collectors.toSet())))
                .fetchSet(CONTACT.ID);
        return found.stream()
                .filter(pair -> there.contains(pair.kept())
                        && there.contains(pair.other().id()))
                .limit(most)
                .toList();
    }

    /** Looks through all contacts, of more than two hundred thousand through those that came last. */
    List<Pair> lookedFor(int most) {
        List<Map.Entry<ContactId, Found>> all = List.copyOf(load(CONTACT.ID.in(sql.select(CONTACT.ID)
                        .from(CONTACT)
                        .orderBy(CONTACT.ID.desc())
                        .limit(MOST_LOOKED_THROUGH)))
                .entrySet());
        List<SamePerson.Known> known =
                all.stream().map(one -> one.getValue().known()).toList();
        return SamePeople.among(known, companies::isPublic, most).stream()
                .map(pair -> pair(all.get(pair.one()), all.get(pair.other())))
                .toList();
    }

    private Pair pair(Map.Entry<ContactId, Found> one, Map.Entry<ContactId, Found> other) {
        Found first = one.getValue();
        Found second = other.getValue();
        Set<SamePerson.Sign> signs = SamePerson.signs(first.known(), second.known(), companies::isPublic);
        return new Pair(one.getKey(), first.known().name(), first.detail(), suggestion(other.getKey(), second, signs));
    }

    private static Suggestion suggestion(ContactId id, Found found, Set<SamePerson.Sign> signs) {
        return new Suggestion(
                id,
                found.known().name(),
                found.detail(),
                signs.stream().map(SamePerson.Sign::words).collect(Collectors.joining(", ")));
    }

    private List<ContactId> byPhone(Set<String> phones) {
        List<String> ends = phones.stream()
                .filter(digits -> digits.length() >= ContactLines.END)
                .map(ContactLines::end)
                .toList();
        return ends.isEmpty()
                ? List.of()
                : sql.select(CONTACT_PHONE.CONTACT_ID)
                        .from(CONTACT_PHONE)
                        .where(ContactLines.end().in(ends))
                        .limit(MOST_OF_A_SORT)
                        .fetch(CONTACT_PHONE.CONTACT_ID);
    }

    /** By the words of the name in either order, for many write the family name first. */
    private List<ContactId> byName(String name) {
        List<String> words = Words.list(name);
        if (words.size() < 2) {
            return List.of();
        }
        var turned = new ArrayList<>(words.subList(1, words.size()));
        turned.add(words.getFirst());
        var back = new ArrayList<>(List.of(words.getLast()));
        back.addAll(words.subList(0, words.size() - 1));
        Set<String> orders = Set.copyOf(List.of(stored(words), stored(turned), stored(back)));
        return sql.select(CONTACT.ID)
                .from(CONTACT)
                .where(CONTACT.NAME_WORDS.in(orders))
                .limit(MOST_OF_A_SORT)
                .fetch(CONTACT.ID);
    }

    private static String stored(List<String> words) {
        return Words.of(String.join(" ", words)).stored();
    }

    private List<ContactId> byAddress(List<MailAddress> addresses) {
        if (addresses.isEmpty()) {
            return List.of();
        }
        sql.execute("set local pg_trgm.similarity_threshold = " + String.format(Locale.ROOT, "%.2f", ALIKE));
        List<Condition> alike = addresses.stream()
                .map(one -> DSL.condition("{0} % {1}", Trigrams.of(CONTACT_ADDRESS.ADDRESS), DSL.val(one.toString())))
                .toList();
        return sql.select(CONTACT_ADDRESS.CONTACT_ID)
                .from(CONTACT_ADDRESS)
                .where(DSL.or(alike))
                .limit(MOST_OF_A_SORT)
                .fetch(CONTACT_ADDRESS.CONTACT_ID);
    }

    private Map<ContactId, Found> load(Collection<ContactId> ids) {
        return ids.isEmpty() ? Map.of() : load(CONTACT.ID.in(ids));
    }

    /** Those of a condition, in the order in which they came. */
    private Map<ContactId, Found> load(Condition which) {
        var ids = sql.select(CONTACT.ID).from(CONTACT).where(which);
        Map<ContactId, List<String>> addresses = lines.addresses(CONTACT_ADDRESS.CONTACT_ID.in(ids));
        Map<ContactId, List<String>> phones = lines.phones(CONTACT_PHONE.DIGITS, CONTACT_PHONE.CONTACT_ID.in(ids));
        return sql.select(CONTACT.ID, CONTACT.NAME, COMPANY.NAME)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(which)
                .orderBy(CONTACT.ID)
                .fetchMap(
                        r -> r.value1(),
                        r -> new Found(
                                new SamePerson.Known(
                                        r.value2(),
                                        addresses.getOrDefault(r.value1(), List.of()).stream()
                                                .flatMap(one -> MailAddress.of(one).stream())
                                                .toList(),
                                        Set.copyOf(phones.getOrDefault(r.value1(), List.of()))),
                                Say.orBlank(r.value3())));
    }
}
