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
}
