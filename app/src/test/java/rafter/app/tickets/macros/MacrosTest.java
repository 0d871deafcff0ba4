package rafter.app.tickets.macros;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.BATCH;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Holder;
import rafter.app.house.fields.AddedField;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Foresight;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Drafts;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Macros: made step by step, previewed, run on one ticket and on those that are a part of it, and taken back. */
@ExtendWith(RunningApp.class)
class MacrosTest extends Browsing {

    private final Macros macros = bean(Macros.class);
    private final Acts acts = bean(Acts.class);
    private final Tickets tickets = bean(Tickets.class);
    private final int nth = unique();

    private TicketNumber mail() {
        int one = unique();
        String raw = "From: Ida <ida" + one + "@macro" + one + ".example>\nMessage-ID: <m" + one
                + "@post.example>\nSubject: Macro " + one + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket(TicketNumber number) {
        return tickets.find(number, imani()).orElseThrow();
    }

    private static Macro.Step always(String form, String... typed) {
        return step(false, form, typed);
    }

    private static Macro.Step step(boolean offered, String form, String... typed) {
        var map = new java.util.HashMap<String, String>();
        for (int i = 0; i < typed.length; i += 2) {
            map.put(typed[i], typed[i + 1]);
        }
        return new Macro.Step(form, map, offered);
    }

    private Macro saved(Optional<Long> linked, Macro.Step... steps) {
        long id = macros.save(
                new Macro(0, "Macro " + unique(), "", "", new Holder.One(imani().id()), List.of(steps), linked, 0, 0),
                imani());
        return macros.get(id, imani());
    }

    private Macro saved(Macro.Step... steps) {
        return saved(Optional.empty(), steps);
    }

    @Test
    void its_acts_are_done_in_their_order_and_all_are_taken_back_at_once() {
        TicketNumber number = mail();
        Ticket before = ticket(number);
        Macro macro = saved(
                always("topic", "topic", "refunds"),
                always("tag", "tag", "Refund"),
                always("priority", "priority", "P2"),
                always("person", "person", "me"),
                always("task", "task", "Ring them", "by", "2 d"),
                always("time", "amount", "5 m", "kind", "reading"),
                always("conclude", "was", "A refund", "cause", "cancelled"),
                always("note", "text", "For {customer}, by {agent}"),
                always("state", "state", "with-customer"));
        Macros.Ran ran = macros.run(macro, number, Set.of(), imani());
        Ticket after = ticket(number);
        assertThat(after.topic()).isEqualTo("refunds");
        assertThat(after.tags()).contains("refund");
        assertThat(after.priority()).isEqualTo(Priority.P2);
        assertThat(after.owner()).contains(imani().id());
        assertThat(after.turn()).isEqualTo(Turn.CUSTOMER);
        assertThat(after.work().total()).hasMinutes(5);
        assertThat(after.work().shownTasks().getFirst().due().orElseThrow())
                .isAfter(RunningApp.clock().instant().plus(Duration.ofDays(2).minusMinutes(1)));
        assertThat(after.messages()).isEqualTo(before.messages() + 1);
        acts.perform(number, ran.undo().orElseThrow().act(), imani());
        Ticket back = ticket(number);
        assertThat(back.topic()).isEqualTo(before.topic());
        assertThat(back.tags()).isEqualTo(before.tags());
        assertThat(back.priority()).isEqualTo(before.priority());
        assertThat(back.owner()).isEqualTo(before.owner());
        assertThat(back.state()).isEqualTo(before.state());
        assertThat(back.work().total()).isZero();
        assertThat(back.messages()).isEqualTo(before.messages());
        assertThat(macros.get(macro.id(), imani()).used()).isEqualTo(1);
    }

    @Test
    void one_act_that_cannot_be_done_leaves_everything_as_it_was() {
        TicketNumber number = mail();
        acts.perform(number, new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        Macro macro = saved(always("topic", "topic", "refunds"), always("person", "person", ""));
        assertThatThrownBy(() -> macros.run(macro, number, Set.of(), imani())).isInstanceOf(Problem.NoRight.class);
        assertThat(ticket(number).topic()).isEmpty();
        assertThat(macros.get(macro.id(), imani()).used()).isZero();
    }

    @Test
    void an_offered_act_is_done_where_it_is_ticked_and_an_offered_answer_goes_into_the_composer() {
        TicketNumber number = mail();
        Macro macro = saved(
                step(true, "answer", "text", "Dear {first name}, yes.", "then", "NOBODY"),
                step(true, "topic", "topic", "ticked"));
        int seen = ticket(number).lastPublicSeq();
        macros.run(macro, number, Set.of(), imani());
        assertThat(ticket(number).topic()).isEmpty();
        Macros.Ran ran = macros.run(macro, number, Set.of(0, 1), imani());
        assertThat(ran.drafted()).isTrue();
        assertThat(ticket(number).topic()).isEqualTo("ticked");
        Drafts.Draft draft = bean(Drafts.class).find(number, Drafts.Kind.REPLY, imani());
        assertThat(draft.html()).contains("Dear Ida, yes.");
        assertThat(draft.then()).isEqualTo(Turn.NOBODY);
        assertThat(ticket(number).lastPublicSeq()).isEqualTo(seen);
    }

    @Test
    void what_it_would_do_is_told_before_and_nothing_is_done_by_telling() {
        TicketNumber number = mail();
        acts.perform(number, new Act.SetTopic("refunds"), imani());
        Macro macro = saved(always("topic", "topic", "refunds"), always("state", "state", "resolved"));
        List<Foresight.Foreseen> lines = macros.foresee(macro, number, imani());
        assertThat(lines).extracting(Foresight.Foreseen::changes).containsExactly(false, true);
        assertThat(ticket(number).open()).isTrue();
    }

    @Test
    void the_linked_one_runs_on_the_open_parts_each_by_itself() {
        TicketNumber outage = mail();
        TicketNumber one = mail();
        TicketNumber theirs = mail();
        TicketNumber over = mail();
        for (TicketNumber part : List.of(one, theirs, over)) {
            acts.perform(part, new Act.PutUnder(Optional.of(outage)), imani());
        }
        acts.perform(theirs, new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        acts.perform(over, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        Macro onParts = saved(always("person", "person", "me"), always("team", "team", teamOf()));
        Macro macro = saved(Optional.of(onParts.id()), always("state", "state", "resolved"));
        Macros.Ran ran = macros.run(macro, outage, Set.of(), imani());
        assertThat(ran.parts() + ran.failures().size()).isEqualTo(2);
        assertThat(ran.parts()).isGreaterThanOrEqualTo(1);
        assertThat(ticket(over).owner()).isEmpty();
    }

    @Test
    void a_linked_one_that_is_gone_is_said_and_what_was_done_stays_done() throws Exception {
        TicketNumber outage = mail();
        acts.perform(mail(), new Act.PutUnder(Optional.of(outage)), imani());
        assertThat(bean(Traces.class).of(outage).may(OwnTrace.CHILDREN)).isTrue();
        Macro linked = saved(always("topic", "topic", "x"));
        Macro macro = saved(Optional.of(linked.id()), always("topic", "topic", "outage"));
        macros.remove(linked.id(), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + outage + "/macros/" + macro.id()).statusCode())
                .isEqualTo(200);
        Macros.Ran ran = macros.run(macro, outage, Set.of(), imani());
        assertThat(ran.failures()).hasSize(1).first().asString().contains("no such macro");
        assertThatThrownBy(() -> macros.save(macros.get(macro.id(), imani()), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("is gone");
        assertThat(ticket(outage).topic()).isEqualTo("outage");
    }

    private String teamOf() {
        return bean(rafter.app.house.access.Persons.class)
                .addTeam("Macro team " + unique(), RunningApp.ravi().id())
                .toString();
    }

    @Test
    void what_is_wrong_is_said_when_it_is_saved_and_when_it_is_run() {
        assertThatThrownBy(() -> saved(always("state", "state", "nowhere")))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("no such state");
        assertThatThrownBy(() -> saved(always("note", "text", "{nobody}"))).hasMessageContaining("{nobody}");
        assertThatThrownBy(() -> saved(always("delete"))).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> saved(always("time", "amount", "soon"))).hasMessageContaining("25 m");
        Macro[] many = {null};
        assertThatThrownBy(() -> many[0] = saved(IntStream.range(0, 21)
                        .mapToObj(i -> always("topic", "topic", "t" + i))
                        .toArray(Macro.Step[]::new)))
                .hasMessageContaining("twenty");
        Macro mine = saved(always("topic", "topic", "x"));
        assertThatThrownBy(() -> macros.get(mine.id(), sefa())).isInstanceOf(Problem.NotFound.class);
        macros.remove(mine.id(), imani());
        assertThatThrownBy(() -> macros.get(mine.id(), imani())).isInstanceOf(Problem.NotFound.class);
        assertThat(macros.restore(mine.id(), imani()).name()).isEqualTo(mine.name());
    }

    @Test
    void it_is_made_run_and_taken_back_by_plain_forms_and_two_people_do_not_overwrite_each_other() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        TicketNumber number = mail();
        String page = post("/macros/save", token, "id", "0", "name", "By hand " + nth, "whose", "me", "version", "0")
                .body();
        assertThat(page).contains("By hand " + nth).contains("Now add what it does");
        long id = macros.of(imani()).stream()
                .filter(one -> one.name().equals("By hand " + nth))
                .findFirst()
                .orElseThrow()
                .id();
        String at = "/macros/" + id + "/steps";
        post(at, token, "version", "1", "act", "topic", "topic", "by hand");
        assertThat(post(at, token, "version", "1", "act", "topic", "topic", "late")
                        .body())
                .contains("Somebody changed this macro meanwhile");
        post(at, token, "version", "2", "act", "priority", "priority", "P1");
        post(at + "/1/up", token, "version", "3");
        assertThat(macros.get(id, imani()).steps()).extracting(Macro.Step::form).containsExactly("priority", "topic");
        assertThat(get("/tickets/" + number + "/macros/" + id).body()).contains("Set topic “by hand”");
        String done = post("/tickets/" + number + "/macros/" + id, token).body();
        assertThat(done).contains("“By hand " + nth + "” is done.");
        assertThat(ticket(number).topic()).isEqualTo("by hand");
        String undo = done.replaceAll("(?s).*name=\"undo\" value=\"([^\"]*)\".*", "$1")
                .replace("&quot;", "\"");
        post("/tickets/" + number + "/macros/undo", token, "undo", undo);
        assertThat(ticket(number).topic()).isEmpty();
    }

    @Test
    void a_batch_runs_a_macro_on_many() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        TicketNumber one = mail();
        TicketNumber two = mail();
        Macro macro = saved(always("topic", "topic", "batched"), always("tag", "tag", "many"));
        var page = post(
                "/batches", token, "list", "", "numbers", one + "," + two, "act", "macro", "macro", "" + macro.id());
        assertThat(page.statusCode()).isEqualTo(200);
        long id = Long.parseLong(page.uri().getPath().replace("/batches/", ""));
        assertThat(sql().select(BATCH.DOES)
                        .from(BATCH)
                        .where(BATCH.ID.eq(id))
                        .fetchSingle(BATCH.DOES)
                        .data())
                .contains("batched")
                .contains("several");
        assertThat(post("/batches", token, "list", "", "numbers", "" + one, "act", "macro", "macro", "x")
                        .body())
                .contains("Choose a macro");
    }

    private AddedField field(OwnField.Kind kind, String choices) {
        return RunningApp.field(OwnField.Bearer.TICKET, kind, kind + " " + unique(), choices);
    }

    @Test
    void a_field_is_chosen_from_what_it_offers_and_what_cannot_stand_there_is_said_and_stays_in_the_form()
            throws Exception {
        String animals = field(OwnField.Kind.SEVERAL, "Dogs\nCats\nParrots").key();
        AddedField seats = field(OwnField.Kind.NUMBER, "");
        AddedField whose = field(OwnField.Kind.PERSON, "");
        long id = saved().id();
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        String at = "/macros/" + id + "/steps";
        assertThat(get("/macros/" + id).body())
                .contains("data-own=\"" + animals, "value=\"Parrots\"")
                .contains("<select class=\"form-select\" name=\"" + whose.key());
        String refused = post(at, token, "version", "1", "act", "field", "field", seats.key(), seats.key(), "many")
                .body();
        assertThat(refused).contains("many", "Nothing was saved");
        assertThat(refused).containsPattern("name=\"" + seats.key() + "\"[^>]*value=\"many\"");
        post(
                at, token, "version", "1", "act", "field", "field", animals, animals, "", animals, "Cats", animals,
                "Dogs");
        post(at, token, "version", "2", "act", "field", "field", seats.key(), animals, "Parrots", seats.key(), " 007 ");
        String sefa = sefa().id().toString();
        post(at, token, "version", "3", "act", "field", "field", whose.key(), whose.key(), sefa);
        String page = get("/macros/" + id).body();
        assertThat(page).contains("to Cats, Dogs", "to Sefa Tui");
        TicketNumber number = mail();
        macros.run(macros.get(id, imani()), number, Set.of(), imani());
        assertThat(ticket(number).own())
                .containsEntry(animals, "Cats\nDogs")
                .containsEntry(whose.key(), sefa)
                .containsEntry(seats.key(), "7");
    }
}
