package rafter.core.form;

import java.util.List;
import rafter.core.criteria.Criteria;

/**
 * Which fields tickets of one kind ask for, and in which order.
 *
 * @param when the tickets that it is for
 */
public record TicketForm(String name, Criteria when, List<Section> sections) {

    public TicketForm {
        sections = List.copyOf(sections);
    }

    /**
     * Fields that belong together.
     *
     * @param name what stands above them; may be blank
     * @param fields their numbers, in order
     */
    public record Section(String name, List<Long> fields) {

        public Section {
            fields = List.copyOf(fields);
        }
    }
}
