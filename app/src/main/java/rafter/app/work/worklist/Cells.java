package rafter.app.work.worklist;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.house.criteria.ChannelNames;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Say;
import rafter.core.ticket.Turn;

/** Says what stands in the cells of a Grid, and of a file that is exported. */
@Component
class Cells {

    private final TicketStates states;
    private final ChannelNames channels;

    Cells(TicketStates states, ChannelNames channels) {
        this.states = states;
        this.channels = channels;
    }

    /** The texts of a row's cells, by the keys of these columns; of one that has nothing a dash. */
    Map<String, String> shown(WorklistStore.TicketRow row, List<Column.Shown> columns, Instant now, ZoneId zone) {
        var cells = new HashMap<String, String>();
        for (Column.Shown shown : columns) {
            Column column = shown.column();
            String text = switch (plain(column.value(row))) {
                case Instant at when column.amount() -> Say.amount(Duration.between(at, now));
                case Instant at -> Say.when(at, now, zone);
                case Object other -> words(column, other.toString());
            };
            cells.put(column.key(), text.isEmpty() ? "–" : text);
        }
        return cells;
    }

    /** A cell as a file has it: times in full, to the second, with their offset. */
    String exported(WorklistStore.TicketRow row, Column column, ZoneId zone) {
        return switch (plain(column.value(row))) {
            case Instant at ->
                DateTimeFormatter.ISO_OFFSET_DATE_TIME.format(
                        at.truncatedTo(ChronoUnit.SECONDS).atZone(zone));
            case Object other -> words(column, other.toString());
        };
    }

    private static Object plain(Object value) {
        return value instanceof Optional<?> some ? some.<Object>map(one -> one).orElse("") : value;
    }

    private String words(Column column, String value) {
        if (column == KnownColumn.STATE) {
            return states.name(value);
        }
        if (column == KnownColumn.TURN) {
            return GroupWords.turn(Turn.valueOf(value));
        }
        return column == KnownColumn.CHANNEL ? channel(value) : value;
    }

    /** The name of a channel; its key where it is not known any more. */
    String channel(String key) {
        return channels.channelNames().getOrDefault(key, key);
    }
}
