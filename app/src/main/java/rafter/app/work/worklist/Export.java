package rafter.app.work.worklist;

import java.io.IOException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Csv;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;

/** Writes lists as files of comma-separated values (RFC 4180), in the order of the list and with the columns of its Grid. */
@Component
class Export {

    /** More nobody reads in one table, and writing on would hold a connection for minutes. */
    static final int MOST = 50_000;

    private static final int AT_ONCE = 500;

    private final Worklist worklist;
    private final WorklistStore store;
    private final Cells cells;
    private final Targets targets;
    private final Audit audit;

    Export(Worklist worklist, WorklistStore store, Cells cells, Targets targets, Audit audit) {
        this.worklist = worklist;
        this.store = store;
        this.cells = cells;
        this.targets = targets;
        this.audit = audit;
    }

    /**
     * Insists that a list can be exported, and notes that it is.
     *
     * @throws Problem.Invalid when it has too many tickets
     */
    void require(ListRequest asked, Viewer me) {
        if (store.count(worklist.among(asked, me), MOST + 1) > MOST) {
            throw new Problem.Invalid(
                    "This list has more than " + Say.number(MOST)
                            + " tickets, which is the most that can be exported. Choose fewer by its sentence; the list is as it was.");
        }
        audit.note(me.id(), "exported a list", asked.view().title());
    }

    /**
     * Writes a list.
     *
     * @param titles what own fields are called, by their keys
     */
    void write(ListRequest asked, Viewer me, Map<String, String> titles, Appendable out) throws IOException {
        List<Column> columns =
                asked.columns().stream().map(Column.Shown::column).toList();
        ZoneId zone = targets.zone();
        WorklistStore.Selection among = worklist.among(asked, me);
        var csv = new CSVPrinter(out, CSVFormat.RFC4180);
        csv.printRecord(columns.stream()
                .map(column -> titles.getOrDefault(column.key(), column.title()))
                .toList());
        Optional<Cursor> after = Optional.empty();
        List<WorklistStore.TicketRow> rows;
        do {
            rows = store.page(among, asked.sorting(), after, AT_ONCE);
            for (WorklistStore.TicketRow row : rows) {
                csv.printRecord(line(row, columns, zone));
            }
            after = rows.isEmpty()
                    ? Optional.empty()
                    : Optional.of(rows.getLast().cursor());
        } while (rows.size() == AT_ONCE);
        csv.flush();
    }

    private List<String> line(WorklistStore.TicketRow row, List<Column> columns, ZoneId zone) {
        var line = new ArrayList<String>();
        columns.forEach(column -> line.add(Csv.harmless(cells.exported(row, column, zone))));
        return line;
    }
}
