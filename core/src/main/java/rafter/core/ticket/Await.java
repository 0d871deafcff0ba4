package rafter.core.ticket;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What a ticket waits for before it comes back by itself, and what is to be remembered then.
 *
 * @param until what brings it back, whichever happens first; nothing: only the time that is set
 * @param note of whoever set it, to themselves; may be blank
 */
public record Await(Set<Happening> until, String note) {

    public Await {
        until = Set.copyOf(until);
    }

    /** What can bring a ticket back. */
    public enum Happening {
        CUSTOMER("the customer answers"),
        PARTNER("a partner answers"),
        TASK("a task is done"),
        HELP("help is handed back");

        private final String words;

        Happening(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** Whether an event is this. */
        boolean is(TicketEvent event) {
            return switch (this) {
                case CUSTOMER -> event instanceof TicketEvent.CustomerWrote wrote && !wrote.automatic();
                case PARTNER -> event instanceof TicketEvent.OutsideWrote wrote && !wrote.automatic();
                case TASK -> event instanceof TicketEvent.TaskTicked ticked && ticked.done();
                case HELP -> event instanceof TicketEvent.HelpEnded ended && !ended.withdrawn();
            };
        }
    }

    /** It in one text that is the same for the same, to tell whether somebody changed it meanwhile. */
    public String standing() {
        return until.stream().sorted().map(Enum::name).collect(Collectors.joining(" ")) + "|" + note;
    }

    /** Whether one of these events is what it waits for. */
    boolean comes(List<? extends TicketEvent> events) {
        return until.stream().anyMatch(one -> events.stream().anyMatch(one::is));
    }
}
