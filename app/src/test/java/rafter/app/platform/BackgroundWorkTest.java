package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.unique;

import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.LongConsumer;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.beans.factory.support.DefaultListableBeanFactory;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.database.Tables;

/** Work beside everything else, whatever is done in it. */
@ExtendWith(RunningApp.class)
class BackgroundWorkTest {

    private final long about = 9_000_000L + unique();
    private final List<Long> done = new ArrayList<>();
    private final List<String> reasons = new ArrayList<>();
    private LongConsumer doing = number -> {};

    /** Numbers up to ten, four in a part. */
    private final class Ten implements BackgroundWork.InParts {
        @Override
        public String key() {
            return "ten";
        }

        @Override
        public int size() {
            return 4;
        }

        @Override
        public BackgroundWork.Part part(BackgroundWork.Work work, int most) {
            long last = Math.min(10, work.position() + most);
            var some = new ArrayList<Long>();
            for (long number = work.position() + 1; number <= last; number++) {
                doing.accept(number);
                some.add(number);
            }
            done.addAll(some);
            return new BackgroundWork.Part(some.size(), last);
        }

        @Override
        public long failed(BackgroundWork.Work work, String reason) {
            reasons.add(work.position() + 1 + ": " + reason);
            return work.position() + 1;
        }
    }

    /** The same as a whole. */
    private final class Whole implements BackgroundWork.AtOnce {
        @Override
        public String key() {
            return "whole";
        }

        @Override
        public void whole(BackgroundWork.Work work, BackgroundWork.Progress progress) {
            for (long number = 1; number <= 10; number++) {
                doing.accept(number);
                done.add(number);
                progress.done(number);
            }
        }
    }

    private final BackgroundWork work = work();

    private BackgroundWork work() {
        var beans = new DefaultListableBeanFactory();
        beans.registerSingleton("ten", new Ten());
        beans.registerSingleton("whole", new Whole());
        return new BackgroundWork(
                bean(DSLContext.class),
                bean(Writes.class),
                bean(TransactionTemplate.class),
                beans.getBeanProvider(BackgroundWork.Kind.class),
                beans.getBeanProvider(com.github.kagkarlsson.scheduler.SchedulerClient.class),
                bean(Clock.class));
    }

    private BackgroundWork.Work run(String kind) {
        work.run(kind, about);
        return work.find(kind, about).orElseThrow();
    }

    private static List<Long> upTo(long last) {
        return LongStream.rangeClosed(1, last).boxed().toList();
    }

    @Test
    void all_of_it_is_done_once_however_often_it_is_run() {
        work.begin("ten", about, 10, Optional.empty());
        BackgroundWork.Work first = run("ten");
        BackgroundWork.Work second = run("ten");
        assertThat(done).isEqualTo(upTo(10));
        assertThat(first.finished()).isTrue();
        assertThat(second).isEqualTo(first);
        assertThat(first.done()).isEqualTo(10);
        assertThat(first.percent()).isEqualTo(100);
    }

    @Test
    void what_fails_keeps_its_reason_and_keeps_nothing_else_from_being_done() {
        doing = number -> {
            if (number == 3) {
                throw new Problem.Invalid("Three cannot be done.");
            }
            if (number == 6) {
                throw new IllegalStateException("broken");
            }
        };
        work.begin("ten", about, 10, Optional.empty());
        BackgroundWork.Work ended = run("ten");
        assertThat(ended.finished()).isTrue();
        assertThat(ended.failed()).isEqualTo(2);
        assertThat(ended.done()).isEqualTo(8);
        assertThat(new TreeSet<>(done)).containsExactly(1L, 2L, 4L, 5L, 7L, 8L, 9L, 10L);
        assertThat(reasons)
                .containsExactly("3: Three cannot be done.", "6: It could not be done: IllegalStateException.");
    }

    @Test
    void after_a_crash_it_goes_on_where_it_was() {
        doing = number -> {
            if (number == 6) {
                throw new DataAccessResourceFailureException("the database is away");
            }
        };
        work.begin("ten", about, 10, Optional.empty());
        assertThatThrownBy(() -> run("ten")).isInstanceOf(DataAccessResourceFailureException.class);
        assertThat(work.find("ten", about).orElseThrow().done()).isEqualTo(4);
        doing = number -> {};
        assertThat(run("ten").done()).isEqualTo(10);
        assertThat(done).isEqualTo(upTo(10));
    }

    @Test
    void cancelled_work_ends_with_the_part_it_is_at() {
        doing = number -> {
            if (number == 6) {
                throw new DataAccessResourceFailureException("the database is away");
            }
        };
        work.begin("ten", about, 10, Optional.empty());
        assertThatThrownBy(() -> run("ten")).isInstanceOf(DataAccessResourceFailureException.class);
        work.cancel("ten", about);
        assertThat(work.find("ten", about).orElseThrow().finished()).isFalse();
        BackgroundWork.Work ended = run("ten");
        assertThat(ended.finished()).isTrue();
        assertThat(ended.cancelled()).isTrue();
        assertThat(ended.total()).isEqualTo(10);
        assertThat(done).isEqualTo(upTo(4));
    }

    @Test
    void a_whole_is_cancelled_where_it_next_says_how_far_it_is() {
        doing = number -> {
            if (number == 4) {
                work.cancel("whole", about);
            }
        };
        work.begin("whole", about, 10, Optional.empty());
        BackgroundWork.Work ended = run("whole");
        assertThat(ended.cancelled()).isTrue();
        assertThat(ended.finished()).isTrue();
        assertThat(ended.failure()).isEmpty();
        assertThat(done).isEqualTo(upTo(4));
        assertThat(ended.done()).isEqualTo(3);
    }

    @Test
    void a_whole_that_fails_says_why_and_is_not_tried_again() {
        doing = number -> {
            throw new IllegalStateException("no such calendar");
        };
        work.begin("whole", about, 10, Optional.empty());
        assertThat(run("whole").failure()).isEqualTo("It could not be finished: no such calendar");
        run("whole");
        assertThat(done).isEmpty();
    }

    @Test
    void what_ended_cannot_be_cancelled() {
        work.begin("whole", about, 10, Optional.empty());
        run("whole");
        work.cancel("whole", about);
        assertThat(work.find("whole", about).orElseThrow().cancelled()).isFalse();
    }

    @Test
    void the_scheduler_does_it_as_a_caller_does() {
        bean(BackgroundWork.class).begin("rehearsal", about, 10, Optional.empty());
        BackgroundWork.Work waiting =
                bean(BackgroundWork.class).find("rehearsal", about).orElseThrow();
        assertThat(waiting.finished()).isFalse();
        long id = RunningApp.sql()
                .select(Tables.BACKGROUND_WORK.ID)
                .from(Tables.BACKGROUND_WORK)
                .where(Tables.BACKGROUND_WORK.KIND.eq("rehearsal"))
                .and(Tables.BACKGROUND_WORK.ABOUT.eq(about))
                .fetchSingle(Tables.BACKGROUND_WORK.ID);
        OneTimeTask<Void> task = new BackgroundWork.Job().backgroundWorkTask(bean(BackgroundWork.class));
        task.executeOnce(new TaskInstance<>("background-work", Long.toString(id)), null);
        // There is no such rehearsal, and that is said.
        assertThat(bean(BackgroundWork.class)
                        .find("rehearsal", about)
                        .orElseThrow()
                        .failure())
                .contains("no such rehearsal");
    }

    @Test
    void of_one_thing_there_is_one_work_of_a_kind() {
        work.begin("ten", about, 10, Optional.empty());
        assertThatThrownBy(() -> work.begin("ten", about, 10, Optional.empty()))
                .isInstanceOf(org.springframework.dao.DataIntegrityViolationException.class);
        assertThat(Stream.of("ten", "whole")
                        .filter(kind -> work.find(kind, about).isPresent()))
                .containsExactly("ten");
    }
}
