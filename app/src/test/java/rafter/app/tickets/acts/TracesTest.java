package rafter.app.tickets.acts;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;

import java.util.regex.Pattern;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.core.id.TicketNumber;

/** What there is about one ticket is found without reading what hangs on others. */
@ExtendWith(RunningApp.class)
class TracesTest {

    /** An index that is read from its beginning to its end. */
    private static final Pattern WHOLE_INDEX =
            Pattern.compile("Index(?: Only)? Scan using[^\\n]*\\n[|\\s]*+(?!Index Cond)");

    /** How the database would look, were there so much of it that reading all of a table is out of the question. */
    private static String plan(Trace trace) {
        return sql().transactionResult(running -> {
            running.dsl().execute("set local enable_seqscan = off");
            return running.dsl()
                    .explain(DSL.select(DSL.field(trace.there(Traces.number(new TicketNumber(1))))))
                    .plan();
        });
    }

    @Test
    void each_kind_is_found_by_an_index() {
        assertThat(bean(Traces.class).all()).hasSizeGreaterThan(OwnTrace.values().length);
        for (Trace trace : bean(Traces.class).all()) {
            assertThat(plan(trace))
                    .as(trace.key())
                    .contains("Scan")
                    .doesNotContain("Seq Scan")
                    .doesNotContainPattern(WHOLE_INDEX);
        }
    }
}
