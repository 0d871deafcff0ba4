package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.sql;

import java.util.List;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.platform.Trigrams;
import rafter.database.Tables;

/**
 * Parts of texts are looked for through trigrams, whole texts are not: such an index answers equality, too, and the planner takes it for
 * cheaper than the index of the column itself.
 */
@ExtendWith(RunningApp.class)
class TrigramsTest {

    private static final Pattern PAST_THE_INDEX = Pattern.compile(
            "(CONTACT_ADDRESS\\.ADDRESS|NAME_WORDS|CONTACT_PHONE\\.DIGITS)\\s*(\\.|::)\\s*(contains|endsWith|like)"
                    + "|%\\s*\\{1\\}\",\\s*(CONTACT|COMPANY)");

    private static String plan(Table<?> table, Condition condition) {
        return sql().transactionResult(inner -> {
            // So few rows are read quicker without any index.
            inner.dsl().execute("set local enable_seqscan = off");
            return inner.dsl()
                    .explain(inner.dsl().selectOne().from(table).where(condition))
                    .plan();
        });
    }

    @Test
    void no_index_of_trigrams_can_be_read_for_a_whole_text() {
        List<String> bare = sql().fetch("""
                        select i.indexrelid::regclass::text from pg_index i, unnest(i.indkey, i.indclass) as part (col, class)
                        join pg_opclass o on o.oid = part.class where o.opcname = 'gin_trgm_ops' and part.col <> 0""").into(String.class);
        // Words are looked for by their beginning and by likeness alone.
        assertThat(bare).containsExactly("known_word_trigrams");
    }

    @Test
    void a_whole_address_is_looked_for_by_its_own_index() {
        Field<String> address = Tables.CONTACT_ADDRESS.ADDRESS;
        assertThat(plan(Tables.CONTACT_ADDRESS, address.in("a@post.example", "b@post.example", "c@post.example")))
                .contains("contact_address_pkey")
                .doesNotContain("trigrams");
    }

    /** The planner reads an index of an expression for that expression alone, to the letter. */
    private static void assertRead(String index, Table<?> table, Field<String> text) {
        String laidOn = sql().fetch(
                        "select pg_get_expr(indexprs, indrelid) from pg_index where indexrelid = {0}::regclass",
                        DSL.inline(index))
                .getFirst()
                .get(0, String.class);
        assertThat(plan(table, Trigrams.of(text).contains("quay"))).contains(laidOn + " ~~ ");
        assertThat(plan(table, DSL.condition("{0} % {1}", Trigrams.of(text), DSL.val("quay"))))
                .contains(laidOn + " % ");
    }

    @Test
    void who_looks_for_a_part_of_a_text_asks_for_what_the_index_is_laid_on() {
        assertRead("contact_address_trigrams", Tables.CONTACT_ADDRESS, Tables.CONTACT_ADDRESS.ADDRESS);
        assertRead("contact_name_trigrams", Tables.CONTACT, Tables.CONTACT.NAME_WORDS);
        assertRead("company_name_trigrams", Tables.COMPANY, DSL.lower(Tables.COMPANY.NAME));
        assertRead("contact_phone_trigrams", Tables.CONTACT_PHONE, Tables.CONTACT_PHONE.DIGITS);
    }

    /** On the bare column such a question reads all rows. */
    @Test
    void nobody_looks_for_a_part_of_a_text_past_the_index() {
        var past = new TreeSet<String>();
        Sources.all().forEach((name, source) -> {
            if (PAST_THE_INDEX.matcher(source).find()) {
                past.add(name);
            }
        });
        assertThat(past).isEmpty();
    }
}
