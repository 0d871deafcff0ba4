package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.odile;

import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.app.RunningApp;
import rafter.app.arrival.intake.Inbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.arrival.mail.Outbox;
import rafter.app.house.fields.FieldSetup;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspaces;
import rafter.app.promises.policies.Rehearsals;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.criteria.OwnField;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;

/** Rights are asked where things are done, whoever calls: a lead sets no house rules, and who has left does nothing. */
@ExtendWith(RunningApp.class)
class RightsTest {

    static Stream<Arguments> acts() {
        PersonId lead = odile().id();
        PersonId gone = new PersonId(999_999);
        return Stream.of(
                act("mailbox saved", () -> bean(Mailboxes.class).save(RunningApp.help(), lead)),
                act(
                        "mailbox removed",
                        () -> bean(Mailboxes.class).remove(RunningApp.help().id(), lead)),
                act(
                        "field added",
                        () -> bean(FieldSetup.class)
                                .add(
                                        new FieldSetup.Typed("F", "", "", ""),
                                        OwnField.Bearer.TICKET,
                                        OwnField.Kind.TEXT,
                                        lead)),
                act(
                        "targets saved",
                        () -> bean(TargetDrafts.class)
                                .save(bean(TargetDrafts.class).current().book(), 0, lead, "x")),
                act("targets discarded", () -> bean(TargetDrafts.class).discard(0, lead)),
                act("targets brought back", () -> bean(TargetDrafts.class).bringBack(0, lead)),
                act("targets put into force", () -> bean(TargetDrafts.class).putIntoForce(0, lead)),
                act("rehearsal", () -> bean(Rehearsals.class).start(Instant.EPOCH, Instant.now(), lead)),
                act("set aside tried again", () -> bean(Inbox.class).tryAgain(1, false, lead)),
                act("set aside dismissed", () -> bean(Inbox.class).dismiss(1, lead)),
                act("set aside brought back", () -> bean(Inbox.class).bringBack(1, lead)),
                act("company", () -> bean(Companies.class).save(Optional.empty(), "C", "", "", Map.of(), lead)),
                act("public domains", () -> bean(Companies.class).savePublicDomains("post.example", lead)),
                act("workspace", () -> bean(Workspaces.class).change("W", true, 7, 0, lead)),
                act(
                        "person",
                        () -> bean(Persons.class)
                                .save(
                                        Optional.empty(),
                                        "P",
                                        "p@ternpassage.example",
                                        Role.AGENT,
                                        true,
                                        RunningApp.PASSWORD,
                                        java.util.Set.of(),
                                        lead)),
                act("team", () -> bean(Persons.class).addTeam("T", lead)),
                act("sender set aside", () -> bean(Contacts.class).unwanted(new ContactId(1), gone, Instant.now())),
                act("mail tried again", () -> bean(Outbox.class).retry(1, Instant.now(), gone)));
    }

    private static Arguments act(String name, ThrowingCallable what) {
        return Arguments.of(name, what);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("acts")
    void who_may_not_is_refused(String name, ThrowingCallable what) {
        assertThatThrownBy(what).isInstanceOf(Problem.NoRight.class);
    }
}
