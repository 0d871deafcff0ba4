package rafter.app.arrival.sorting;

import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Company;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.tickets.acts.Arrivals;
import rafter.core.arrival.Admission;
import rafter.core.arrival.ArrivalBook;
import rafter.core.arrival.JunkModel;
import rafter.core.arrival.JunkSigns;
import rafter.core.arrival.MailFacts;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;

/** Decides what becomes of a mail that belongs to no ticket yet. */
@Component
public class Sorting {

    private static final int WORDS_SHOWN = 5;

    /**
     * What becomes of a mail.
     *
     * @param by the id of the rule that decided, {@link Junk#DECIDED}, or blank when nothing took it
     * @param why in words
     */
    public record Decided(Admission then, String by, String why) {}

    /** A ticket, because nothing takes it. */
    public static final Decided LET_IN = new Decided(Admission.TICKET, "", "");

    private final ArrivalBooks books;
    private final Junk junk;
    private final Contacts contacts;
    private final Companies companies;
    private final Arrivals arrivals;

    Sorting(ArrivalBooks books, Junk junk, Contacts contacts, Companies companies, Arrivals arrivals) {
        this.books = books;
        this.junk = junk;
        this.contacts = contacts;
        this.companies = companies;
        this.arrivals = arrivals;
    }

    /** Whether anything is asked of mail at all; if not, nothing need be found out about it. */
    public boolean asks() {
        return books.current().any();
    }

    /** What becomes of a mail. */
    public Decided decide(MailFacts.Mail mail) {
        ArrivalBooks.InForce inForce = books.current();
        return said(inForce.book(), mail, facts(mail, inForce.asked()));
    }

    /** What a book would make of a mail that is no longer new; its sender is taken as they are known today. */
    Decided tried(ArrivalBook book, MailFacts.Mail mail) {
        return said(book, mail, facts(mail, ArrivalBooks.InForce.of(0, book).asked()));
    }

    private Decided said(ArrivalBook book, MailFacts.Mail mail, Facts facts) {
        ArrivalBook.Decision decision = book.decide(facts);
        return switch (decision.why()) {
            case ArrivalBook.Why.ByDefault nothing -> new Decided(decision.then(), "", "");
            case ArrivalBook.Why.ByRule(var rule) ->
                new Decided(decision.then(), rule.id(), "The rule of arriving mail “" + rule.name() + "” says so.");
            case ArrivalBook.Why.ByScore(int score) -> new Decided(decision.then(), Junk.DECIDED, scored(mail, score));
        };
    }

    /** A score with the signs that speak for it. */
    private String scored(MailFacts.Mail mail, int score) {
        String signs = junk.model().stream()
                .flatMap(model -> model.strongest(JunkSigns.of(mail), 3 * WORDS_SHOWN).stream())
                .filter(one -> one.weight() > 0)
                .limit(WORDS_SHOWN)
                .map(one -> JunkSigns.said(one.sign()))
                .collect(Collectors.joining(", "));
        return "It looks like junk, " + score + " of 100: " + signs + ".";
    }

    private Facts facts(MailFacts.Mail mail, Set<KnownField> asked) {
        Facts facts = MailFacts.of(mail);
        if (asked.contains(KnownField.JUNK_SCORE)) {
            Optional<JunkModel> model = junk.model();
            if (model.isPresent()) {
                facts = MailFacts.withScore(facts, model.get().score(JunkSigns.of(mail)));
            }
        }
        Optional<Contact> sender = contacts.find(mail.sender());
        int open = asked.contains(KnownField.OPEN_TICKETS)
                ? sender.map(contact -> arrivals.openOf(contact.id()).size()).orElse(0)
                : 0;
        facts = MailFacts.withSender(facts, sender.isPresent(), open);
        Optional<Company> company = asked.contains(KnownField.COMPANY) || asked.contains(KnownField.PLAN)
                ? sender.flatMap(Contact::company).flatMap(companies::find)
                : Optional.empty();
        return company.isEmpty()
                ? facts
                : facts.with(KnownField.COMPANY, company.get().id().toString())
                        .with(KnownField.PLAN, company.get().plan());
    }
}
