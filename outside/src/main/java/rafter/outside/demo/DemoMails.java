package rafter.outside.demo;

import java.util.List;
import java.util.Locale;
import org.springframework.context.ApplicationContext;
import rafter.app.arrival.sorting.ArrivalBooks;
import rafter.app.arrival.sorting.Junk;
import rafter.app.tickets.rules.RuleDesk;
import rafter.app.tickets.wording.Templates;
import rafter.core.arrival.Admission;
import rafter.core.arrival.ArrivalBook;
import rafter.core.arrival.ArrivalRule;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.notice.Audience;
import rafter.core.notice.NoticeChoice;
import rafter.core.notice.NoticeEvent;
import rafter.core.text.MailKind;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** What the demo world makes of arriving mail, how its automatic mails are worded, and who is told of what. */
final class DemoMails {

    private final ApplicationContext context;
    private final PersonId ravi;

    DemoMails(ApplicationContext context, PersonId ravi) {
        this.context = context;
        this.ravi = ravi;
    }

    /** What holds from the beginning of the history. */
    void settle() {
        save(new ArrivalBook(
                List.of(
                        rule(
                                "Newsletters are only saved",
                                Criteria.test(KnownField.WRITTEN_BY, Operator.IS, MailKind.LIST.name()),
                                Admission.SAVED),
                        rule(
                                "Systems of key customers add to what is open",
                                new Criteria.All(List.of(
                                        Criteria.test(
                                                KnownField.WRITTEN_BY, Operator.IS, MailKind.AUTO_GENERATED.name()),
                                        Criteria.test(KnownField.PLAN, Operator.IS, "Anchor"))),
                                Admission.NEWS),
                        rule(
                                "Very large mail is looked at first",
                                Criteria.test(KnownField.MAIL_SIZE, Operator.AT_LEAST, "15000"),
                                Admission.ASIDE)),
                false,
                90));
        word();
        RuleDesk rules = context.getBean(RuleDesk.class);
        rules.choose(
                new NoticeChoice(
                        NoticeEvent.RATED, Audience.LEADS, true, "", "Rated by {customer}: {ticket}, {subject}"),
                ravi);
    }

    private static ArrivalRule rule(String name, Criteria criteria, Admission then) {
        return new ArrivalRule(name.toLowerCase(Locale.ROOT).replaceAll("[^a-z]+", "-"), name, true, criteria, then);
    }

    private void save(ArrivalBook book) {
        ArrivalBooks books = context.getBean(ArrivalBooks.class);
        books.save(book, books.newest().version(), ravi, "rules for what arrives");
    }

    private void word() {
        Templates templates = context.getBean(Templates.class);
        Template first = templates.the(Purpose.ACKNOWLEDGEMENT);
        templates.save(
                new Template(
                        first.id(),
                        first.purpose(),
                        first.name(),
                        true,
                        first.open(),
                        first.criteria(),
                        List.of(
                                first.words(""),
                                new Template.Version(
                                        "de",
                                        "Ihre Anfrage hat die Nummer {ticket}",
                                        "Guten Tag {customer},\n\nIhre Anfrage „{subject}“ ist bei uns angekommen. Ein Mensch liest sie und antwortet Ihnen.\n\n{workspace}")),
                        first.version()),
                ravi);
        templates.save(
                new Template(
                        0,
                        Purpose.ACKNOWLEDGEMENT,
                        "While we are closed",
                        true,
                        Template.Open.CLOSED,
                        Criteria.everything(),
                        List.of(
                                new Template.Version(
                                        "",
                                        "We have your request, number {ticket}",
                                        "Hello {first name},\n\nthank you for writing to {workspace}. Nobody is here just now; we are open again {opens} and answer you then. Your request “{subject}” has the number {ticket}.\n\n{workspace}")),
                        0),
                ravi);
        templates.save(
                new Template(
                        0,
                        Purpose.OWN,
                        "A sailing is late",
                        true,
                        Template.Open.ANY,
                        Criteria.everything(),
                        List.of(
                                new Template.Version(
                                        "",
                                        "Your sailing is late",
                                        "Hello {first name},\n\nyour sailing leaves later than planned. We are sorry; your booking stays as it is.\n\n{workspace}")),
                        0),
                ravi);
    }

    /** What the months taught about junk, and from then on mail is set aside for its score. */
    void learn() {
        Junk junk = context.getBean(Junk.class);
        junk.run(junk.learn(ravi));
        ArrivalBooks books = context.getBean(ArrivalBooks.class);
        books.save(
                books.newest().book().withJunk(true, 90), books.newest().version(), ravi, "junk is set aside from 90");
    }
}
