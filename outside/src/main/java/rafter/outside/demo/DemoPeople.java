package rafter.outside.demo;

import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.mail.MailServer;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.people.Companies;
import rafter.app.house.people.ContactCards;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Guard;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Settles the people of the ferry line: who works there, in which teams and hours, and with which mailboxes. */
final class DemoPeople {

    private final ApplicationContext context;
    private final int smtp;
    private final int imap;
    private final Map<String, Viewer> byName = new HashMap<>();
    private Optional<DemoFields> fields = Optional.empty();

    DemoPeople(ApplicationContext context, int smtp, int imap) {
        this.context = context;
        this.smtp = smtp;
        this.imap = imap;
    }

    void settle(Instant now, boolean full) {
        context.getBean(TransactionTemplate.class).executeWithoutResult(status -> {
            Workspaces workspaces = context.getBean(Workspaces.class);
            Workspace made = workspaces.current();
            workspaces.change(Cast.LINE, true, 7, made.version(), Guard.ITSELF);
            Persons persons = context.getBean(Persons.class);
            Map<String, TeamId> teams =
                    Cast.TEAMS.stream().collect(Collectors.toMap(t -> t, t -> persons.addTeam(t, Guard.ITSELF)));
            Cast.WORKERS.forEach(w -> persons.save(
                    Optional.empty(),
                    w.name(),
                    w.address(),
                    Role.valueOf(w.role()),
                    true,
                    Cast.PASSWORD,
                    w.teams().stream().map(teams::get).collect(Collectors.toSet()),
                    new PersonId(0)));
            Viewers viewers = context.getBean(Viewers.class);
            persons.all().forEach(person -> byName.put(person.name(), viewers.of(person)));
            Companies companies = context.getBean(Companies.class);
            if (full) {
                fields = Optional.of(new DemoFields(
                        context.getBean(FieldSetup.class), named("Ravi Nand").id()));
            }
            for (int i = 0; i < Cast.FIRMS.size(); i++) {
                Cast.Firm firm = Cast.FIRMS.get(i);
                int place = i;
                companies.save(
                        Optional.empty(),
                        firm.name(),
                        firm.plan(),
                        firm.domain(),
                        fields.map(f -> f.ofFirm(place)).orElse(Map.of()),
                        Guard.ITSELF);
            }
            Cast.MAILBOXES.stream().limit(full ? Cast.MAILBOXES.size() : 1).forEach(box -> mailbox(box, teams));
            DemoBook.putIntoForce(context, now, named("Ravi Nand").id());
        });
    }

    private void mailbox(Cast.Box box, Map<String, TeamId> teams) {
        var server = new MailServer(
                "127.0.0.1", imap, MailServer.Security.NONE, box.address(), rafter.outside.MailWorld.PASSWORD);
        var out = new MailServer("127.0.0.1", smtp, MailServer.Security.NONE, "", "");
        context.getBean(Mailboxes.class)
                .save(
                        new Mailbox(
                                0,
                                box.name(),
                                box.address(),
                                Optional.ofNullable(teams.get(box.team())),
                                true,
                                true,
                                Mailbox.AfterFetch.MARK_READ,
                                server,
                                "INBOX",
                                out,
                                Optional.empty(),
                                0,
                                new Mailbox.Status(Mailbox.Health.NEW, "", Optional.empty()),
                                0),
                        new PersonId(0));
    }

    /** What was written down, in the course of time, of those who belong to a firm and have written. */
    void writeDownContacts() {
        ContactCards cards = context.getBean(ContactCards.class);
        for (int i = 0; i < Cast.PEOPLE.size(); i++) {
            Cast.Someone someone = Cast.PEOPLE.get(i);
            int place = i;
            if (!someone.firm().isEmpty()) {
                context.getBean(Contacts.class)
                        .find(someone.address())
                        .ifPresent(contact -> cards.save(
                                fields().known(cards.get(contact.id()), place),
                                named("Odile Bran").id()));
            }
        }
    }

    DemoFields fields() {
        return fields.orElseThrow();
    }

    Viewer named(String name) {
        return Optional.ofNullable(byName.get(name)).orElseThrow();
    }
}
