package rafter.app.handout.consults;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Waiting;
import rafter.app.platform.Problem;
import rafter.core.consult.Who;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.Presence;

/** Asking others in: who is asked, in which order, and what becomes of it. */
class ConsultsTest extends ConsultsAtWork {

    private static boolean ticked(String html, SkillId skill) {
        return Pattern.compile("<input[^>]*id=\"skill-" + skill + "\"[^>]*>")
                .matcher(html)
                .results()
                .anyMatch(found -> found.group().contains("checked"));
    }

    @Test
    void the_one_who_knows_all_of_it_is_asked_comes_in_and_the_room_counts_as_load() {
        knows(imani(), customs);
        knows(sefa(), customs, reefer);
        double before = used(sefa());

        long room = ask(customs, reefer);

        Guests.Guest asked = only(room);
        assertThat(asked.person()).contains(sefa().id());
        assertThat(asked.why()).contains("Customs").contains("Reefer");
        assertThat(used(sefa())).isEqualTo(before);
        consults.take(asked.id());
        assertThat(used(sefa())).isEqualTo(before + 1);
        assertThatThrownBy(() -> consults.take(asked.id())).isInstanceOf(Problem.Stale.class);
        consults.decline(asked.id(), "");
        assertThat(used(sefa())).isEqualTo(before);
    }

    @Test
    void who_declines_is_followed_by_the_next_at_once_and_never_asked_twice() {
        knows(imani(), customs);
        knows(sefa(), customs);
        long room = ask(customs);
        Guests.Guest first = only(room);

        consults.decline(first.id(), "lunch");

        assertThat(states(room))
                .containsEntry(first.name(), Guests.State.DECLINED)
                .containsValue(Guests.State.ASKED)
                .hasSize(2);
        Guests.Guest second = guests.of(room).getLast();
        consults.decline(second.id(), "");
        assertThat(guests.of(room)).hasSize(2).noneMatch(one -> one.state() == Guests.State.ASKED);
        assertThat(bean(Rooms.class).live(room, Optional.empty()).missing())
                .singleElement()
                .asString()
                .contains(first.name() + " was asked already");
    }

    @Test
    void who_does_not_answer_in_time_is_followed_by_the_next_and_can_still_come() {
        knows(imani(), customs);
        knows(sefa(), customs);
        long room = ask(customs);
        Guests.Guest first = only(room);

        clock().tick(Duration.ofMinutes(9));
        consults.lookThrough(room);
        assertThat(guests.of(room)).hasSize(1);
        clock().tick(Duration.ofMinutes(2));
        List.of(imani(), sefa()).forEach(one -> whereabouts.say(Presence.HERE, "", true, one));
        consults.lookThrough(room);

        assertThat(states(room))
                .containsEntry(first.name(), Guests.State.LAPSED)
                .hasSize(2);
        consults.take(first.id());
        assertThat(states(room)).containsEntry(first.name(), Guests.State.TAKEN);
    }

    @Test
    void what_nobody_knows_who_is_here_is_said_and_they_are_asked_when_they_are_back() {
        knows(sefa(), customs);
        whereabouts.say(Presence.AWAY, "lunch", true, sefa());

        long room = ask(customs, reefer);

        assertThat(guests.of(room)).isEmpty();
        assertThat(bean(Rooms.class).live(room, Optional.empty()).missing())
                .hasSize(2)
                .anyMatch(one -> one.contains(sefa().name() + " is away"))
                .anyMatch(one -> one.contains("nobody knows it"));
        whereabouts.say(Presence.HERE, "", true, sefa());
        consults.lookThrough(room);
        assertThat(only(room).person()).contains(sefa().id());
    }

    @Test
    void a_room_that_asks_nobody_or_says_nothing_is_not_opened() {
        assertThatThrownBy(() -> consults.open(ticket, " ", Set.of(customs), List.of(), odile()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> consults.open(ticket, "Who?", Set.of(), List.of(), odile()))
                .isInstanceOf(Problem.Invalid.class);
        assertThat(consults.of(ticket)).isEmpty();
    }

    @Test
    void a_guest_is_asked_for_being_who_they_are_and_nobody_instead() {
        knows(imani(), customs);
        long room = consults.open(ticket, "Who?", Set.of(), List.of(sefa().id()), odile());
        consults.decline(only(room).id(), "");
        assertThat(guests.of(room)).hasSize(1);
    }

    @Test
    void two_who_answer_at_once_for_the_same_person_are_counted_once() throws InterruptedException, ExecutionException {
        knows(sefa(), customs);
        long room = ask(customs);
        long guest = only(room).id();
        Callable<Boolean> take = () -> {
            try {
                consults.take(guest);
                return true;
            } catch (Problem.Stale e) {
                return false;
            }
        };
        try (var both = Executors.newFixedThreadPool(2)) {
            var first = both.submit(take);
            var second = both.submit(take);
            assertThat(List.of(first.get(), second.get())).containsExactlyInAnyOrder(true, false);
        }
        assertThat(lines.of(room)).hasSize(1);
    }

    @Test
    void the_form_proposes_by_words_and_what_was_ticked_by_hand_stays() throws Exception {
        knows(sefa(), customs);
        knows(imani(), customs);
        bean(Workforce.class).limit(imani().id(), 0, ravi().id());
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        String at = "/tickets/" + ticket + "/consult";
        String token = token(get(at));

        String by = post(at + "/propose", token, "question", "A customs" + word + " paper", "skill", reefer.toString())
                .body();

        assertThat(by).contains("by your words").contains(sefa().name()).contains("nobody knows it");
        assertThat(by).contains("Know it, too, and cannot come now").contains("has no room");
        assertThat(ticked(by, customs)).isTrue();
        assertThat(ticked(by, reefer)).isTrue();
        String gone = post(
                        at + "/propose",
                        token,
                        "question",
                        "A paper",
                        "found",
                        customs.toString(),
                        "skill",
                        customs.toString(),
                        "skill",
                        reefer.toString())
                .body();
        assertThat(ticked(gone, customs)).isFalse();
        assertThat(ticked(gone, reefer)).isTrue();
        assertThat(post(at, token, "question", "").body()).contains("Say in at most");
        HttpResponse<String> opened = post(at, token, "question", "Which?", "skill", customs.toString());
        assertThat(opened.uri().getPath()).startsWith("/consults/");
        assertThat(opened.body()).contains("Which?").contains(sefa().name());
    }

    @Test
    void somebody_in_particular_can_be_asked_and_a_colleague_comes_by_themselves() {
        long room = ask(customs);
        consults.invite(room, new Who.Colleague(sefa().id()), odile());
        assertThatThrownBy(() -> consults.invite(room, new Who.Colleague(sefa().id()), odile()))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> consults.invite(room, new Who.Colleague(new PersonId(999_999)), odile()))
                .isInstanceOf(Problem.NotFound.class);
        consults.join(room, imani());
        assertThat(states(room))
                .containsEntry(imani().name(), Guests.State.TAKEN)
                .containsEntry(sefa().name(), Guests.State.ASKED);
        assertThat(bean(AskedIn.class).of(sefa()))
                .get()
                .satisfies(one -> assertThat(one.consult()).isEqualTo(room));
        assertThat(bean(Waiting.class).of(sefa())).containsEntry("rooms", 1);
        bean(AskedIn.class).decline(room, "", sefa());
        assertThat(bean(AskedIn.class).of(sefa())).isEmpty();
        assertThat(bean(Waiting.class).of(sefa())).containsEntry("rooms", 0);
    }
}
