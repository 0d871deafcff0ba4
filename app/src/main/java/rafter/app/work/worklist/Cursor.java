package rafter.app.work.worklist;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import rafter.core.id.TicketNumber;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * A place in a list: after this ticket.
 *
 * @param values what the ticket has in each of the orders of the list; nothing where it lacks one
 */
record Cursor(List<Optional<String>> values, TicketNumber number) {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** As it stands in an address. */
    public String written() {
        var parts = new ArrayList<Object>();
        parts.add(number.toString());
        values.forEach(value -> parts.add(value.map(List::of).orElse(List.of())));
        return Base64.getUrlEncoder()
                .withoutPadding()
                .encodeToString(JSON.writeValueAsString(parts).getBytes(StandardCharsets.UTF_8));
    }

    /** Reads a cursor of a list in these orders; nothing when it is none. */
    static Optional<Cursor> read(String written, List<Sorting> sorting) {
        try {
            var parts = JSON.readTree(new String(Base64.getUrlDecoder().decode(written), StandardCharsets.UTF_8));
            if (parts.size() != sorting.size() + 1 || !parts.get(0).asString("").matches("\\d{1,18}")) {
                return Optional.empty();
            }
            var values = new ArrayList<Optional<String>>();
            for (int i = 0; i < sorting.size(); i++) {
                var value = parts.get(i + 1);
                Optional<String> one = value.isEmpty()
                        ? Optional.empty()
                        : Optional.of(value.get(0).asString(""));
                Order order = sorting.get(i).order();
                if (one.isPresent() ? !order.readable(one.get()) : !order.mayLack()) {
                    return Optional.empty();
                }
                values.add(one);
            }
            return Optional.of(new Cursor(
                    values, new TicketNumber(Long.parseLong(parts.get(0).asString("")))));
        } catch (IllegalArgumentException | JacksonException e) {
            return Optional.empty();
        }
    }
}
