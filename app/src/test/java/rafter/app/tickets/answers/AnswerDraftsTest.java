package rafter.app.tickets.answers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.ANSWER_DRAFT;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Reach;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Work;

/** How a ticket was resolved becomes a draft answer in one step, once. */
@ExtendWith(RunningApp.class)
class AnswerDraftsTest extends Browsing {

    private final AnswerDrafts drafts = bean(AnswerDrafts.class);
    private final TicketNumber number = mailed();

    private static TicketNumber mailed() {
        int n = unique();
        String raw = "From: D <d" + n + "@drafts" + n + ".example>\nMessage-ID: <dr" + n
                + "@post.example>\nSubject: Crane " + n + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    @AfterEach
    void everybody_sees_everything_again() {
        sql().deleteFrom(ANSWER_DRAFT).where(ANSWER_DRAFT.TITLE.eq("Crowd")).execute();
        RunningApp.reach(odile(), new Reach.Everything());
    }

    private void resolve() {
        bean(Acts.class)
                .perform(
                        number,
                        new Act.Conclude(new Work.Resolution("It was stuck", "Turn it twice", "salt")),
                        imani());
    }

    /** So many younger drafts that the list does not show the others. */
    private static void crowd() {
        sql().insertInto(
                        ANSWER_DRAFT,
                        ANSWER_DRAFT.TITLE,
                        ANSWER_DRAFT.BODY,
                        ANSWER_DRAFT.PERSON_ID,
                        ANSWER_DRAFT.CHANGED_AT)
                .select(DSL.select(
                                DSL.val("Crowd"),
                                DSL.val("Words"),
                                DSL.val(imani().id()),
                                DSL.val(RunningApp.clock().instant().plusSeconds(9)))
                        .from(DSL.generateSeries(1, 500)))
                .execute();
    }

    @Test
    void it_takes_over_what_was_written_and_is_made_once() throws Exception {
        assertThatThrownBy(() -> drafts.of(number, imani())).hasMessageContaining("Nobody wrote down how");
        resolve();
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String page = post("/tickets/" + number + "/answer-draft", token(get("/today")))
                .body();
        assertThat(page).contains("It was stuck").contains("Turn it twice");
        assertThat(drafts.of(number, odile())).isEqualTo(drafts.of(number, imani()));
        assertThat(get("/answers/drafts").body()).contains("Crane");
    }

    @Test
    void two_who_write_at_once_lose_nothing_and_what_is_out_of_reach_is_not_there() throws Exception {
        resolve();
        long id = drafts.of(number, imani());
        drafts.save(id, "First", "One", 0, imani());
        assertThatThrownBy(() -> drafts.save(id, "Second", "Two", 0, odile())).isInstanceOf(Problem.Stale.class);
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(post("/answers/drafts/" + id, token(get("/today")), "title", "", "body", "Typed words")
                        .body())
                .contains("has a title")
                .contains("Typed words");
        RunningApp.reach(odile(), new Reach.Teams(Set.of()));
        assertThatThrownBy(() -> drafts.find(id, odile())).isInstanceOf(Problem.NotFound.class);
        crowd();
        assertThat(drafts.find(id, imani()).title()).isEqualTo("First");
        drafts.discard(id, imani());
        assertThat(drafts.all(imani())).noneMatch(one -> one.id() == id);
    }
}
