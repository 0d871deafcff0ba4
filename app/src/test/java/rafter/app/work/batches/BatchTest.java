package rafter.app.work.batches;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.BATCH;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Notes;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.id.MessageId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.target.ClockState;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

@ExtendWith(RunningApp.class)
class BatchTest extends Browsing {

    private final List<TicketNumber> numbers = new ArrayList<>();
    private final Tickets tickets = bean(Tickets.class);
    private final Batches batches = bean(Batches.class);

    @BeforeEach
    void some_tickets() {
        for (int i = 0; i < 6; i++) {
            numbers.add(ticket("batch" + unique() + "@post.example"));
        }
    }

    private static TicketNumber ticket(String from) {
        String raw =
                "From: Ann Lee <" + from + ">\nMessage-ID: <b" + unique() + "@post.example>\nSubject: Batch\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static Act act(ActForm form, Map<String, String> typed) {
        return BatchController.read(form, typed, bean(TicketTimes.class));
    }

    private Batches.Run run(ActForm kind, Map<String, String> args, List<TicketNumber> on, Viewer by) {
        long id = batches.start(act(kind, args), on, by);
        batches.run(id);
        return batches.find(id, by);
    }

    private Batches.Run undo(Batches.Run run, Viewer by) {
        long id = batches.undo(run.id(), by);
        batches.run(id);
        return batches.find(id, by);
    }

    private Ticket ticket(TicketNumber number) {
        return tickets.find(number, odile()).orElseThrow();
    }

    @Test
    void every_ticket_is_changed_and_the_change_is_taken_back() {
        bean(Acts.class).perform(numbers.get(0), new Act.SetPriority(Priority.P1), imani());
        Batches.Run run = run(ActForm.PRIORITY, Map.of("priority", "P1"), numbers, imani());
        assertThat(run.finished()).isTrue();
        assertThat(run.done()).isEqualTo(6);
        assertThat(run.same()).isEqualTo(1);
        assertThat(numbers).allMatch(n -> ticket(n).priority() == Priority.P1);
        undo(run, imani());
        assertThat(ticket(numbers.get(0)).priority()).isEqualTo(Priority.P1);
        assertThat(numbers.subList(1, 6)).allMatch(n -> ticket(n).priority() == Priority.P3);
        assertThat(batches.find(run.id(), imani()).mayUndo())
                .as("a second time")
                .isFalse();
    }

    @Test
    void what_cannot_be_done_says_why_and_keeps_no_other_from_it() {
        bean(Acts.class).perform(numbers.get(2), new Act.HandToPerson(Optional.of(odile().id())), odile());
        bean(Acts.class).perform(numbers.get(4), new Act.HandToPerson(Optional.of(odile().id())), odile());
        Batches.Run run = run(ActForm.PERSON, Map.of("person", sefa().id().toString()), numbers, imani());
        assertThat(run.done()).isEqualTo(4);
        assertThat(run.failed()).isEqualTo(2);
        assertThat(batches.failures(run.id(), odile()))
                .extracting(Batches.Failure::ticket)
                .containsExactly(numbers.get(2), numbers.get(4));
        assertThat(batches.failures(run.id(), odile()))
                .allMatch(failure -> failure.reason().contains("A colleague owns this ticket"));
        assertThat(ticket(numbers.get(5)).owner()).isEqualTo(Optional.of(sefa().id()));
        assertThat(ticket(numbers.get(2)).owner()).isEqualTo(Optional.of(odile().id()));
    }

    @Test
    void undo_leaves_alone_what_somebody_changed_since() {
        Batches.Run run = run(ActForm.STATE, Map.of("state", "with-partner"), numbers, imani());
        bean(Acts.class).perform(numbers.get(3), new Act.MoveTo(TicketState.RESOLVED.key()), odile());
        Batches.Run back = undo(run, imani());
        assertThat(back.failed()).isEqualTo(1);
        assertThat(ticket(numbers.get(3)).state()).isEqualTo(TicketState.RESOLVED);
        assertThat(ticket(numbers.get(0)).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void tags_and_topics_go_on_and_come_off_again() {
        run(ActForm.TAG, Map.of("tag", " Storm "), numbers, imani());
        assertThat(numbers).allMatch(n -> ticket(n).tags().contains("storm"));
        undo(run(ActForm.UNTAG, Map.of("tag", "storm"), numbers, imani()), imani());
        assertThat(numbers).allMatch(n -> ticket(n).tags().contains("storm"));
        undo(run(ActForm.TOPIC, Map.of("topic", "billing"), numbers, imani()), imani());
        assertThat(numbers).allMatch(n -> ticket(n).topic().isEmpty());
    }

    @Test
    void an_answer_to_all_greets_each_by_name_and_reaches_each() {
        run(
                ActForm.ANSWER,
                Map.of("text", "Dear {first name}, ticket {ticket} waits for the tide.", "then", "CUSTOMER"),
                numbers,
                imani());
        RunningApp.post();
        assertThat(numbers).allMatch(n -> ticket(n).state().equals(TicketState.WITH_CUSTOMER));
        String address = RunningApp.sql()
                .fetchSingle("select from_address from message where ticket = ? and kind = 'CUSTOMER'", numbers.get(0))
                .get(0, String.class);
        assertThat(RunningApp.mailOf(address))
                .anySatisfy(mail -> assertThat(com.icegreen.greenmail.util.GreenMailUtil.getBody(mail))
                        .contains("Dear Ann, ticket " + numbers.get(0)));
        assertThat(batches.previews(numbers, "Dear {first name}", 10, odile()))
                .hasSize(6)
                .allMatch(p -> p.text().equals("Dear Ann"));
        assertThatThrownBy(() -> batches.start(act(ActForm.ANSWER, Map.of("text", "{colour}")), numbers, imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void what_is_no_request_leaves_lists_and_figures_and_its_sender_is_set_aside() {
        String from = "spam" + unique() + "@post.example";
        TicketNumber spam = ticket(from);
        Batches.Run run = run(ActForm.NO_REQUEST, Map.of("sender", "true"), List.of(spam), imani());
        assertThat(ticket(spam).discarded()).isTrue();
        assertThat(bean(Contacts.class).isUnwanted(from)).isTrue();
        long next = RunningApp.take(
                        ("From: " + from + "\nMessage-ID: <n" + unique() + "@post.example>\nSubject: More\n\nBuy")
                                .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
        assertThat(RunningApp.sql()
                        .fetchSingle("select state from inbound where id = ?", next)
                        .get(0))
                .isEqualTo("ASIDE");
        undo(run, imani());
        assertThat(ticket(spam).discarded()).isFalse();
        assertThat(ticket(spam).state()).isEqualTo(TicketState.NEW);
        assertThat(bean(Contacts.class).isUnwanted(from)).isFalse();
        var clocks = bean(rafter.app.promises.targets.Targets.class)
                .reckon(
                        tickets.events(List.of(spam)).getOrDefault(spam, List.of()),
                        rafter.core.criteria.Facts.none(),
                        RunningApp.clock().instant());
        assertThat(clocks).anyMatch(clock -> clock.state() instanceof ClockState.Running);
    }

    @Test
    void deleting_is_a_right_of_few() {
        assertThatThrownBy(() -> batches.start(act(ActForm.DELETE, Map.of()), numbers, imani()))
                .isInstanceOf(Problem.NoRight.class);
        undo(run(ActForm.DELETE, Map.of(), numbers, ravi()), ravi());
        assertThat(numbers).noneMatch(n -> ticket(n).discarded());
        run(ActForm.DELETE, Map.of(), numbers, ravi());
        run(ActForm.RESTORE, Map.of(), numbers, ravi());
        assertThat(numbers).noneMatch(n -> ticket(n).discarded());
    }

    @Test
    void joined_tickets_end_and_answers_to_them_arrive_in_the_one_they_were_joined_into() {
        String from = "join" + unique() + "@post.example";
        String id = "<j" + unique() + "@post.example>";
        TicketNumber early = RunningApp.ticketOf(
                RunningApp.take(("From: " + from + "\nMessage-ID: " + id + "\nSubject: One\n\nFirst")
                                .getBytes(StandardCharsets.UTF_8))
                        .orElseThrow());
        TicketNumber into = ticket(from);
        Batches.Run run = run(ActForm.JOIN, Map.of("into", into.toString()), List.of(early, into), imani());
        assertThat(run.failed()).isZero();
        assertThat(ticket(early).joinedInto()).isEqualTo(Optional.of(into));
        assertThat(ticket(early).open()).isFalse();
        long answer = RunningApp.take(("From: " + from + "\nMessage-ID: <k" + unique() + "@post.example>\nIn-Reply-To: "
                                + id + "\nSubject: Re: One\n\nMore")
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
        assertThat(RunningApp.ticketOf(answer)).isEqualTo(into);
        assertThat(run(ActForm.TAG, Map.of("tag", "x"), List.of(early), imani()).failed())
                .as("what is joined is not acted on")
                .isEqualTo(1);
        Batches.Run back = undo(run, imani());
        assertThat(back.failed()).isZero();
        assertThat(ticket(early).joinedInto()).isEmpty();
        assertThat(ticket(early).state()).isEqualTo(TicketState.NEW);
        assertThat(ticket(into).linkedTo()).isEmpty();
        long later = RunningApp.take(("From: " + from + "\nMessage-ID: <l" + unique() + "@post.example>\nIn-Reply-To: "
                                + id + "\nSubject: Re: One\n\nAgain")
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
        assertThat(RunningApp.ticketOf(later))
                .as("what comes later finds the ticket that it answers")
                .isEqualTo(early);
    }

    @Test
    void what_was_taken_out_of_the_other_ticket_since_is_left_alone() {
        TicketNumber into = ticket("part" + unique() + "@post.example");
        Batches.Run run = run(ActForm.JOIN, Map.of("into", into.toString()), List.of(numbers.get(0)), imani());
        bean(Acts.class).perform(numbers.get(0), new Act.Part(into), odile());
        assertThat(undo(run, imani()).failed()).isEqualTo(1);
    }

    @Test
    void notes_are_taken_back_with_their_words_and_the_place_where_they_stood_tells_so() {
        Batches.Run run = run(ActForm.NOTE, Map.of("text", "quayside" + unique() + " for all"), numbers, imani());
        assertThat(ticket(numbers.get(0)).messages()).isEqualTo(3);
        Batches.Run back = undo(run, imani());
        assertThat(back.failed()).isZero();
        assertThat(ticket(numbers.get(0)).messages()).isEqualTo(2);
        assertThat(tickets.events(List.of(numbers.get(0))).get(numbers.get(0)))
                .anyMatch(TicketEvent.NoteTakenBack.class::isInstance);
        assertThat(RunningApp.sql()
                        .fetchCount(MESSAGE, MESSAGE.TICKET.in(numbers).and(MESSAGE.TEXT.contains("quayside"))))
                .isZero();
        assertThat(RunningApp.sql()
                        .fetchCount(MESSAGE, MESSAGE.TICKET.in(numbers).and(MESSAGE.TAKEN_BACK.contains("quayside"))))
                .isEqualTo(6);
    }

    @Test
    void nobody_takes_back_what_somebody_else_noted() {
        MessageId note = bean(Notes.class).note(numbers.get(0), "<p>Mine</p>", odile());
        assertThatThrownBy(() -> bean(Notes.class).takeNoteBack(numbers.get(0), note, imani()))
                .isInstanceOf(Problem.Stale.class);
        bean(Notes.class).takeNoteBack(numbers.get(0), note, odile());
        assertThatThrownBy(() -> bean(Notes.class).takeNoteBack(numbers.get(0), note, odile()))
                .isInstanceOf(Problem.Stale.class);
    }

    @Test
    void nothing_is_begun_without_what_it_needs_and_nobody_sees_anothers_batch() {
        assertThatThrownBy(() -> batches.start(act(ActForm.STATE, Map.of("state", "asleep")), numbers, imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> batches.start(act(ActForm.JOIN, Map.of("into", "99999999")), numbers, imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> batches.start(act(ActForm.TAG, Map.of("tag", "x")), List.of(), imani()))
                .isInstanceOf(Problem.Invalid.class);
        long id = batches.start(act(ActForm.TAG, Map.of("tag", "x")), numbers, imani());
        assertThatThrownBy(() -> batches.find(id, sefa())).isInstanceOf(Problem.NotFound.class);
        assertThatThrownBy(() -> batches.undo(id, imani())).as("while it runs").isInstanceOf(Problem.Invalid.class);
        batches.run(id);
        batches.run(id);
        assertThat(batches.find(id, imani()).done()).as("run twice, done once").isEqualTo(6);
    }

    @Test
    void a_field_is_filled_on_all_and_emptied_again_where_nobody_changed_it() {
        String key = RunningApp.field(
                        OwnField.Bearer.TICKET, OwnField.Kind.CHOICE, "Vessel " + unique(), "Kestrel Light\nSaltmarsh")
                .key();
        RunningApp.fill(numbers.get(0), Map.of(key, "Saltmarsh"), imani());
        Batches.Run run = run(ActForm.FIELD, Map.of("field", key, "value", "Kestrel Light"), numbers, imani());
        assertThat(numbers).allMatch(n -> ticket(n).own().getOrDefault(key, "").equals("Kestrel Light"));
        RunningApp.fill(numbers.get(1), Map.of(key, "Saltmarsh"), odile());
        Batches.Run back = undo(run, imani());
        assertThat(back.failed()).isEqualTo(1);
        assertThat(ticket(numbers.get(0)).own()).containsEntry(key, "Saltmarsh");
        assertThat(ticket(numbers.get(1)).own()).containsEntry(key, "Saltmarsh");
        assertThat(numbers.subList(2, 6)).allMatch(n -> !ticket(n).own().containsKey(key));
        assertThatThrownBy(() -> run(ActForm.FIELD, Map.of("field", key, "value", "Rowing boat"), numbers, imani()))
                .hasMessageContaining("Rowing boat");
    }

    @Test
    void times_are_set_on_all_and_taken_back() {
        String due = "2027-03-11T11:00";
        Batches.Run run = run(ActForm.DUE, Map.of("due", due, "why", "storm"), numbers, imani());
        assertThat(numbers).allMatch(n -> ticket(n).agreedDue().isPresent());
        undo(run, imani());
        assertThat(numbers).allMatch(n -> ticket(n).agreedDue().isEmpty());
        bean(Acts.class).perform(numbers.get(5), new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        Batches.Run back = run(ActForm.BACK, Map.of("back", due), numbers, imani());
        assertThat(back.failed()).isEqualTo(1);
        assertThat(batches.failures(back.id(), odile()))
                .singleElement()
                .satisfies(failure -> assertThat(failure.reason()).contains("resolved"));
        undo(back, imani());
        assertThat(numbers).allMatch(n -> ticket(n).bringBackAt().isEmpty());
    }

    @Test
    void an_act_that_lacks_what_it_needs_does_not_begin() {
        for (Map.Entry<ActForm, Map<String, String>> filled : List.<Map.Entry<ActForm, Map<String, String>>>of(
                Map.entry(ActForm.DUE, Map.of()), Map.entry(ActForm.BACK, Map.of("back", " ")),
                Map.entry(ActForm.FIELD, Map.of("field", "own-1-number", "value", "many")),
                        Map.entry(ActForm.FIELD, Map.of("field", "owner", "value", "1")),
                Map.entry(ActForm.TEAM, Map.of("team", "9".repeat(30))),
                        Map.entry(ActForm.PERSON, Map.of("person", "9".repeat(30))),
                Map.entry(ActForm.NOTE, Map.of("text", "x".repeat(60_000))),
                        Map.entry(ActForm.PRIORITY, Map.of("priority", "P9")))) {
            assertThatThrownBy(() -> batches.start(act(filled.getKey(), filled.getValue()), numbers, imani()))
                    .isInstanceOf(Problem.Invalid.class)
                    .hasMessageContaining("Nothing was done yet");
        }
    }

    @Test
    void a_cancelled_batch_leaves_the_rest_as_it_is_and_nobody_cancels_anothers() {
        long id = batches.start(act(ActForm.TAG, Map.of("tag", "gale")), numbers, imani());
        assertThatThrownBy(() -> batches.cancel(id, sefa())).isInstanceOf(Problem.NotFound.class);
        batches.cancel(id, imani());
        batches.run(id);
        Batches.Run run = batches.find(id, imani());
        assertThat(run.finished()).isTrue();
        assertThat(run.cancelled()).isTrue();
        assertThat(run.mayUndo()).as("there is nothing to undo").isFalse();
        assertThat(numbers).noneMatch(n -> ticket(n).tags().contains("gale"));
    }

    @Test
    void no_reason_keeps_a_batch_from_its_end() {
        long id = batches.start(act(ActForm.TAG, Map.of("tag", "x")), numbers, imani());
        // As though the team had been there when it began.
        sql().update(BATCH)
                .set(BATCH.DOES, org.jooq.JSONB.valueOf("{\"act\":\"hand-over\",\"team\":999999}"))
                .where(BATCH.ID.eq(id))
                .execute();
        batches.run(id);
        assertThat(batches.find(id, imani()).finished()).isTrue();
        assertThat(batches.find(id, imani()).failed()).isEqualTo(6);
    }

    @Test
    void handing_to_a_team_is_undone_with_the_owner_that_there_was() {
        TeamId team = bean(Persons.class).addTeam("Deck " + unique(), ravi().id());
        bean(Acts.class).perform(numbers.get(0), new Act.HandToPerson(Optional.of(imani().id())), imani());
        Optional<TeamId> before = ticket(numbers.get(1)).team();
        Batches.Run run = run(ActForm.TEAM, Map.of("team", team.toString()), numbers, imani());
        assertThat(ticket(numbers.get(0)).owner()).isEmpty();
        bean(Acts.class).perform(numbers.get(2), new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        Batches.Run back = undo(run, imani());
        assertThat(ticket(numbers.get(0)).owner()).isEqualTo(Optional.of(imani().id()));
        assertThat(ticket(numbers.get(1)).team()).isEqualTo(before);
        assertThat(ticket(numbers.get(2)).owner())
                .as("somebody took it meanwhile")
                .isEqualTo(Optional.of(sefa().id()));
        assertThat(back.finished()).isTrue();
    }

    @Test
    void an_agent_may_take_back_what_they_handed_over() {
        numbers.forEach(
                number -> bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani()));
        Batches.Run run = run(ActForm.PERSON, Map.of("person", sefa().id().toString()), numbers, imani());
        Batches.Run back = undo(run, imani());
        assertThat(back.failed()).isZero();
        assertThat(numbers).allMatch(n -> ticket(n).owner().equals(Optional.of(imani().id())));
    }

    @Test
    void tickets_of_several_customers_are_joined_only_when_that_is_meant() {
        assertThatThrownBy(() -> batches.requireOneCustomer(numbers, numbers.getFirst(), odile()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("several customers");
        batches.requireOneCustomer(numbers.subList(0, 1), numbers.get(0), odile());
        assertThatThrownBy(() -> batches.requireOneCustomer(numbers.subList(0, 1), numbers.get(1), odile()))
                .hasMessageContaining("Ann Lee");
    }

    @Test
    void ones_own_batches_are_listed_the_latest_first() {
        Batches.Run first = run(ActForm.TAG, Map.of("tag", "one"), numbers, imani());
        Batches.Run second = run(ActForm.TAG, Map.of("tag", "two"), numbers, imani());
        run(ActForm.TAG, Map.of("tag", "three"), numbers, odile());
        assertThat(batches.latest(imani())).extracting(mine -> mine.run().id()).startsWith(second.id(), first.id());
    }

    @Test
    void all_of_a_list_but_some_are_those_that_are_previewed_whatever_comes_into_it_meanwhile() throws Exception {
        String word = "gannet" + unique();
        List<TicketNumber> listed = new ArrayList<>();
        for (int i = 0; i < 3; i++) {
            listed.add(called(word));
        }
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/worklist"));
        var asked = Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, word);
        String list = ChosenTickets.openWhere(asked).substring("/worklist?".length());
        String form = post(
                        "/batches/new",
                        token,
                        "list",
                        list,
                        "all",
                        "true",
                        "except",
                        listed.get(1).toString())
                .body();
        String numbers = form.replaceAll("(?s).*name=\"numbers\" value=\"([^\"]*)\".*", "$1");
        assertThat(numbers.split(","))
                .containsExactlyInAnyOrder(
                        listed.get(0).toString(), listed.get(2).toString());
        TicketNumber late = called(word);
        post("/batches", token, "list", list, "numbers", numbers, "act", "tag", "tag", word);
        Batches.Run run = batches.latest(imani()).getFirst().run();
        batches.run(run.id());
        assertThat(List.of(listed.get(0), listed.get(2)))
                .allMatch(n -> ticket(n).tags().contains(word));
        assertThat(List.of(listed.get(1), late)).noneMatch(n -> ticket(n).tags().contains(word));
    }

    private static TicketNumber called(String subject) {
        String raw = "From: Ann Lee <ann" + unique() + "@post.example>\nMessage-ID: <c" + unique()
                + "@post.example>\nSubject: " + subject + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }
}
