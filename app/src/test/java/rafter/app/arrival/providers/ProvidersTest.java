package rafter.app.arrival.providers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.ERRAND;
import static rafter.database.Tables.TOLD;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import tools.jackson.databind.json.JsonMapper;

/** Setting providers up, and what is kept of what they tell and are told. */
@ExtendWith(RunningApp.class)
class ProvidersTest extends Browsing {

    private final Providers providers = bean(Providers.class);
    private final OurLines lines = bean(OurLines.class);
    private final ToldBook book = bean(ToldBook.class);
    private final Errands errands = bean(Errands.class);
    private final String word = "p" + unique();
    private final List<Long> made = new ArrayList<>();

    @AfterEach
    void as_it_was() {
        made.forEach(id -> providers.remove(id, ravi().id()));
        sql().update(ERRAND).set(ERRAND.STATE, "SENT").execute();
    }

    private Provider made(Provider.Kind kind) {
        long id = providers.save(new Provider(0, kind, word, word, "", 0, "", Optional.empty()), ravi().id());
        made.add(id);
        return providers.of(id).orElseThrow();
    }

    private OurLine line(Provider provider, String address) {
        return new OurLine(0, provider.id(), address, "Line", Optional.empty(), Set.of(), Duration.ZERO, 0);
    }

    // ------------------------------------------------------------------ setting up

    @Test
    void only_who_sets_house_rules_sees_and_saves_providers() throws Exception {
        Provider one = made(Provider.Kind.TELEPHONE);
        assertThatThrownBy(() -> providers.save(one, imani().id())).isInstanceOf(Problem.NoRight.class);
        assertThatThrownBy(() -> providers.secret(one.id(), imani().id())).isInstanceOf(Problem.NoRight.class);
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/house-rules/telephone").statusCode()).isEqualTo(403);
        assertThat(get("/house-rules/telephone/providers/" + one.id()).body())
                .doesNotContain(providers.secret(one.id(), ravi().id()));
    }

    @Test
    void what_is_wrong_with_one_is_said_and_what_was_typed_stays() throws Exception {
        signIn(ravi().person().address(), RunningApp.PASSWORD);
        String token = token(get("/house-rules/social"));
        for (String[] wrong : new String[][] {
            {"name", ""}, {"word", "No Word"}, {"address", "ftp://x"}, {"address", "http://u:p@x"}, {"secret", "short"}
        }) {
            var fields = new ArrayList<>(List.of("name", "Net " + word, "word", word, "address", "", "secret", ""));
            fields.set(fields.indexOf(wrong[0]) + 1, wrong[1]);
            String page = post("/house-rules/social/providers/0", token, fields.toArray(String[]::new))
                    .body();
            assertThat(page)
                    .as(wrong[0] + " " + wrong[1])
                    .contains("Nothing was saved")
                    .contains(word.equals(wrong[1]) ? "" : "trouble");
        }
        assertThat(providers.of(word)).isEmpty();
    }

    @Test
    void two_who_change_one_at_once_do_not_overwrite_each_other() {
        Provider one = made(Provider.Kind.SOCIAL);
        providers.save(one, ravi().id());
        assertThatThrownBy(() -> providers.save(one, ravi().id())).isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> made(Provider.Kind.SOCIAL))
                .isInstanceOf(Problem.Invalid.class)
                .extracting(e -> ((Problem) e).words())
                .asString()
                .contains("Another provider is called");
    }

    @Test
    void a_line_is_what_its_provider_has_and_each_once() {
        Provider exchange = made(Provider.Kind.TELEPHONE);
        assertThatThrownBy(() -> lines.save(line(exchange, "@ferries"), ravi().id()))
                .isInstanceOf(Problem.Invalid.class);
        long id = lines.save(line(exchange, "+999 1 " + unique()), ravi().id());
        OurLine there = lines.of(id).orElseThrow();
        assertThatThrownBy(() -> lines.save(line(exchange, there.address()), ravi().id()))
                .isInstanceOf(Problem.Invalid.class);
        assertThat(lines.at(exchange.id(), there.address().replace(" ", "")))
                .as("spaces aside")
                .contains(there);
        lines.remove(id, ravi().id());
        assertThat(lines.at(exchange.id())).isEmpty();
        assertThat(lines.of(id)).as("what came by it stays").isPresent();
        lines.bringBack(id, ravi().id());
        assertThat(lines.at(exchange.id())).hasSize(1);
        assertThatThrownBy(() -> lines.save(
                        new OurLine(
                                id,
                                exchange.id(),
                                there.address(),
                                "x".repeat(61),
                                Optional.empty(),
                                Set.of(),
                                Duration.ofHours(1),
                                there.version()),
                        ravi().id()))
                .isInstanceOf(Problem.Invalid.class);
    }

    // ------------------------------------------------------------------ what they tell

    private static Told told(Map<String, Object> event) {
        return new Told(
                (String) event.get("id"),
                (String) event.get("subject"),
                java.time.Instant.parse((String) event.get("at")),
                JsonMapper.shared().valueToTree(event));
    }

    @Test
    void the_same_told_by_four_at_once_is_kept_once() throws Exception {
        Provider one = made(Provider.Kind.SOCIAL);
        Told event = told(event("e", "s", clock().instant(), "liked", "people", 1));
        try (var four = Executors.newFixedThreadPool(4)) {
            four.invokeAll(java.util.Collections.nCopies(8, (Callable<Void>) () -> {
                book.keep(one, List.of(event));
                return null;
            }));
        }
        assertThat(sql().fetchCount(TOLD, TOLD.PROVIDER_ID.eq(one.id()))).isEqualTo(1);
        book.takeAll();
        assertThat(sql().select(TOLD.STATE)
                        .from(TOLD)
                        .where(TOLD.PROVIDER_ID.eq(one.id()))
                        .fetch(TOLD.STATE))
                .as("nobody has told that it was written")
                .containsExactly("IDLE");
    }

    @Test
    void what_came_to_nothing_is_forgotten_after_three_days_and_what_could_not_be_read_is_not() throws Exception {
        Provider one = made(Provider.Kind.SOCIAL);
        book.keep(
                one,
                List.of(
                        told(event("idle", "a", clock().instant(), "liked", "people", 1)),
                        told(event("odd", "b", clock().instant(), "sang"))));
        book.takeAll();
        assertThat(book.failed(Provider.Kind.SOCIAL))
                .filteredOn(failed -> failed.provider().equals(word))
                .singleElement()
                .satisfies(failed -> {
                    assertThat(failed.reason()).contains("sang");
                    book.again(failed.id(), ravi().id());
                });
        book.takeAll();
        clock().tick(Duration.ofDays(4));
        book.forget(1000);
        assertThat(sql().select(TOLD.OUTSIDE_ID)
                        .from(TOLD)
                        .where(TOLD.PROVIDER_ID.eq(one.id()))
                        .fetch(TOLD.OUTSIDE_ID))
                .containsExactly("odd");
        signIn(ravi().person().address(), RunningApp.PASSWORD);
        assertThat(get("/house-rules/social").body())
                .contains("Could not be read")
                .contains("sang");
    }

    @Test
    void a_provider_that_is_removed_tells_nothing_any_more() throws Exception {
        try (var far = new FarSide(Provider.Kind.SOCIAL, uri("/"))) {
            providers.remove(far.provider().id(), ravi().id());
            assertThat(far.send("{\"told\":[]}", far.secret(), clock().instant())
                            .statusCode())
                    .isEqualTo(401);
            providers.bringBack(far.provider().id(), ravi().id());
            assertThat(far.send("{\"told\":[]}", far.secret(), clock().instant())
                            .statusCode())
                    .isEqualTo(202);
        }
    }

    // ------------------------------------------------------------------ what they are told

    private void put(Provider provider, String key) {
        bean(TransactionTemplate.class)
                .executeWithoutResult(status -> errands.put(new Errands.Errand(
                        provider.id(), key, "POST", "/posts", Map.of(), Optional.empty(), Optional.empty())));
    }

    private String state(String key) {
        return sql().select(ERRAND.STATE).from(ERRAND).where(ERRAND.KEY.eq(key)).fetchSingle(ERRAND.STATE);
    }

    @Test
    void what_a_provider_refuses_is_given_up_and_what_it_does_not_answer_is_tried_for_a_day() throws Exception {
        try (var far = new FarSide(Provider.Kind.SOCIAL, uri("/"))) {
            far.answers(422);
            put(far.provider(), word + "refused");
            assertThat(errands.doOne()).isTrue();
            assertThat(state(word + "refused")).isEqualTo("FAILED");
            far.answers(500);
            put(far.provider(), word + "silent");
            put(far.provider(), word + "silent");
            for (int i = 0; i < 8; i++) {
                errands.doOne();
                clock().tick(Duration.ofMinutes(31));
            }
            assertThat(state(word + "silent")).isEqualTo("QUEUED");
            assertThat(errands.waiting(far.provider().id()))
                    .as("the same key once")
                    .isEqualTo(1);
            assertThat(providers.of(far.provider().word()).orElseThrow().trouble())
                    .isNotEmpty();
            clock().tick(Duration.ofHours(25));
            errands.doOne();
            assertThat(state(word + "silent")).isEqualTo("FAILED");
            far.answers(200);
            far.asked();
            errands.again(
                    sql().select(ERRAND.ID)
                            .from(ERRAND)
                            .where(ERRAND.KEY.eq(word + "silent"))
                            .fetchSingle(ERRAND.ID),
                    ravi().id());
            assertThat(errands.doOne()).isTrue();
            assertThat(state(word + "silent")).isEqualTo("SENT");
            assertThat(far.asked()).hasSize(1);
        }
    }
}
