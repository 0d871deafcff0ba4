package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.sql;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;

/** Each index of tickets costs every change of one, so each says which query it serves. */
@ExtendWith(RunningApp.class)
class IndexesTest {

    @Test
    void what_each_index_of_tickets_serves_is_written_down() throws IOException {
        List<String> there = sql().fetch("select indexname from pg_indexes where tablename = 'ticket'")
                .into(String.class);
        List<String> told = Pattern.compile("(?m)^\\| `(ticket_\\w+)` \\|")
                .matcher(Files.readString(Path.of("../docs/performance.md")))
                .results()
                .map((MatchResult line) -> line.group(1))
                .toList();
        assertThat(told).containsExactlyInAnyOrderElementsOf(there);
    }

    /** Such an index answers equality, too, and the planner takes it for cheaper than that of the column itself. */
    @Test
    void no_index_of_trigrams_can_be_read_for_a_whole_text() {
        List<String> bare = sql().fetch("""
                        select i.indexrelid::regclass::text from pg_index i, unnest(i.indkey, i.indclass) as part (col, class)
                        join pg_opclass o on o.oid = part.class where o.opcname = 'gin_trgm_ops' and part.col <> 0""").into(String.class);
        // Words are looked for by their beginning and by likeness alone.
        assertThat(bare).containsExactly("known_word_trigrams");
    }
}
