package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.COMPANY_DOMAIN;
import static rafter.database.Tables.MESSAGE;

import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.core.id.CompanyId;

/** Writes that wait, and those that do not. */
@ExtendWith(RunningApp.class)
class WritesTest {

    private static final Writes.Form FIRM = Writes.form(
            Writes.Stage.TICKETS,
            sql -> sql.query(
                    "insert into company (id, name, plan) overriding system value values ({0}, {1}, {2})",
                    DSL.val(null, COMPANY.ID), DSL.val(null, COMPANY.NAME), DSL.val(null, COMPANY.PLAN)));
    private static final Writes.Form DOMAIN = Writes.insertIfNew(
            Writes.Stage.DEPENDENTS, COMPANY_DOMAIN, COMPANY_DOMAIN.DOMAIN, COMPANY_DOMAIN.COMPANY_ID);
    private static final Writes.Form FORGET = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> sql.deleteFrom(COMPANY_DOMAIN)
                    .where(COMPANY_DOMAIN.DOMAIN.eq(DSL.val(null, COMPANY_DOMAIN.DOMAIN))));

    private final Writes writes = bean(Writes.class);

    /** In a transaction that leaves nothing behind. */
    private static <T> T undone(Supplier<T> work) {
        return bean(TransactionTemplate.class).execute(status -> {
            status.setRollbackOnly();
            return work.get();
        });
    }

    private void write(Writes.Form form, Object... values) {
        writes.write(form, values);
    }

    private static boolean there(String domain) {
        return sql().fetchExists(COMPANY_DOMAIN, COMPANY_DOMAIN.DOMAIN.eq(domain));
    }

    /** An id that no company has; it is an identity, so it is taken from where the table takes it. */
    private static long id() {
        return sql().fetchSingle("select nextval('company_id_seq')").get(0, Long.class);
    }

    @Test
    void elsewhere_a_write_goes_at_once() {
        CompanyId brightwater =
                sql().select(DSL.min(COMPANY.ID)).from(COMPANY).fetchSingle().value1();
        assertThat(undone(() -> {
                    write(DOMAIN, "at-once.example", brightwater);
                    return there("at-once.example");
                }))
                .isTrue();
    }

    @Test
    void gathered_writes_wait_until_the_work_ends() {
        CompanyId brightwater =
                sql().select(DSL.min(COMPANY.ID)).from(COMPANY).fetchSingle().value1();
        undone(() -> {
            boolean meanwhile = writes.gather(() -> {
                write(DOMAIN, "waits.example", brightwater);
                write(DOMAIN, "waits.example", brightwater);
                assertThat(writes.waiting(DOMAIN, "waits.example")).isEqualTo(2);
                return there("waits.example");
            });
            assertThat(meanwhile).isFalse();
            assertThat(there("waits.example")).isTrue();
            return writes.waiting(DOMAIN, "waits.example");
        });
    }

    @Test
    void what_is_concerned_goes_when_it_is_settled_and_nothing_else_makes_it_go() {
        CompanyId brightwater =
                sql().select(DSL.min(COMPANY.ID)).from(COMPANY).fetchSingle().value1();
        undone(() -> writes.gather(() -> {
            write(DOMAIN, "settled.example", brightwater);
            writes.pendingFor(4711L);
            writes.settle(List.of(4712L));
            assertThat(there("settled.example")).isFalse();
            writes.settle(List.of(4712L, 4711L));
            assertThat(there("settled.example")).isTrue();
            return true;
        }));
    }

    @Test
    void what_others_refer_to_goes_before_them_in_whatever_order_it_was_written() {
        undone(() -> {
            long id = id();
            writes.gather(() -> {
                write(DOMAIN, "refers.example", id);
                write(FIRM, id, "Refers and Sons", "");
                return true;
            });
            return assertThat(there("refers.example")).isTrue();
        });
    }

    @Test
    void forms_of_one_stage_go_in_the_order_in_which_they_came_first() {
        CompanyId brightwater =
                sql().select(DSL.min(COMPANY.ID)).from(COMPANY).fetchSingle().value1();
        undone(() -> {
            write(DOMAIN, "anew.example", brightwater);
            writes.gather(() -> {
                write(FORGET, "anew.example");
                write(DOMAIN, "anew.example", brightwater);
                return true;
            });
            return assertThat(there("anew.example")).isTrue();
        });
    }

    @Test
    void gathering_within_gathering_is_a_part_of_it() {
        CompanyId brightwater =
                sql().select(DSL.min(COMPANY.ID)).from(COMPANY).fetchSingle().value1();
        undone(() -> writes.gather(() -> {
            writes.gather(() -> {
                write(DOMAIN, "within.example", brightwater);
                return true;
            });
            return assertThat(there("within.example")).isFalse();
        }));
    }

    @Test
    void work_that_fails_leaves_nothing_waiting_for_the_next() {
        undone(() -> {
            assertThatThrownBy(() -> writes.gather(() -> {
                        write(DOMAIN, "fails.example", Long.MAX_VALUE);
                        throw new Problem.Invalid("It fails.");
                    }))
                    .isInstanceOf(Problem.Invalid.class);
            writes.gather(() -> true);
            return assertThat(there("fails.example")).isFalse();
        });
    }

    @Test
    void a_row_that_the_database_does_not_take_is_told_to_who_gathered() {
        assertThatThrownBy(() -> undone(() -> writes.gather(() -> {
                    write(DOMAIN, "nobodys.example", Long.MAX_VALUE);
                    return true;
                })))
                .isInstanceOf(DataIntegrityViolationException.class);
    }

    @Test
    void numbers_are_given_once_whether_gathered_or_not_and_also_to_many_at_once() {
        List<Long> given = Stream.generate(() -> 0)
                .limit(40)
                .parallel()
                .flatMap(zero -> undone(() -> {
                    long before = writes.number(MESSAGE);
                    return writes.gather(() -> Stream.of(before, writes.number(MESSAGE), writes.number(MESSAGE)));
                }))
                .toList();
        assertThat(given).hasSize(120).doesNotHaveDuplicates();
    }
}
