package rafter.app.house.forms;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.fields.AddedField;
import rafter.app.platform.Ids;
import rafter.app.platform.Say;
import rafter.core.criteria.Criteria;
import rafter.core.form.TicketForm;

/**
 * A form as it is typed. Its items are sections and fields in one row, so that they are moved alike.
 *
 * @param items {@code s:NAME} for the head of a section, {@code f:NUMBER} for a field
 */
record FormDraft(long id, String name, int version, Criteria when, List<String> items) {

    /** An item as the page draws it. */
    public record Item(String item, boolean head, String words, boolean gone) {}

    static FormDraft empty() {
        return new FormDraft(0, "", 0, Criteria.everything(), List.of());
    }

    static FormDraft of(FormStore.Kept kept) {
        var items = new ArrayList<String>();
        for (TicketForm.Section section : kept.form().sections()) {
            if (!section.name().isEmpty() || !items.isEmpty()) {
                items.add("s:" + section.name());
            }
            section.fields().forEach(field -> items.add("f:" + field));
        }
        return new FormDraft(
                kept.id(), kept.form().name(), kept.version(), kept.form().when(), items);
    }

    static FormDraft read(MultiValueMap<String, String> typed) {
        var items = new ArrayList<String>();
        List<String> heads = new ArrayList<>(typed.getOrDefault("head", List.of()));
        for (String item : typed.getOrDefault("item", List.of())) {
            if (item.startsWith("s:") && !heads.isEmpty()) {
                items.add("s:" + heads.removeFirst().strip());
            } else if (item.matches("f:\\d{1,18}")) {
                items.add(item);
            }
        }
        return new FormDraft(
                number(typed.getFirst("id")),
                Say.orBlank(typed.getFirst("name")),
                (int) number(typed.getFirst("version")),
                CriteriaForm.read(typed),
                items);
    }

    /** A number that a form holds; zero when it is none. */
    static long number(@Nullable String typed) {
        return Ids.number(Say.orBlank(typed)).orElse(0L);
    }

    boolean has(long field) {
        return items.contains("f:" + field);
    }

    List<Item> lines(List<AddedField> all) {
        Map<Long, String> called =
                all.stream().collect(Collectors.toMap(field -> field.field().id(), AddedField::name));
        return items.stream()
                .map(item -> item.startsWith("s:")
                        ? new Item("s:", true, item.substring(2), false)
                        : new Item(
                                item,
                                false,
                                called.getOrDefault(field(item), "a field that is not asked for any more"),
                                !called.containsKey(field(item))))
                .toList();
    }

    private static long field(String item) {
        return Long.parseLong(item.substring(2));
    }

    /** The form after a button: {@code section}, {@code field:NUMBER}, {@code up:PLACE}, {@code down:PLACE} or {@code out:PLACE}. */
    FormDraft after(String act) {
        var changed = new ArrayList<>(items);
        if (act.equals("section")) {
            changed.add("s:New section");
        } else if (act.matches("field:\\d{1,18}")) {
            changed.add("f:" + act.substring("field:".length()));
        } else if (act.matches("(up|down|out):\\d{1,3}")) {
            move(changed, act);
        }
        return new FormDraft(id, name, version, CriteriaForm.act(when, act), changed);
    }

    private static void move(List<String> items, String act) {
        int at = Integer.parseInt(act.substring(act.indexOf(':') + 1));
        if (at >= items.size()) {
            return;
        }
        String item = items.remove(at);
        if (!act.startsWith("out")) {
            items.add(Math.clamp(at + (act.startsWith("up") ? -1L : 1L), 0, items.size()), item);
        }
    }

    /** What it comes to: fields before the first head stand in a section without a name. */
    TicketForm form() {
        var sections = new ArrayList<TicketForm.Section>();
        String head = "";
        var within = new ArrayList<Long>();
        for (String item : items) {
            if (item.startsWith("f:")) {
                within.add(field(item));
            } else {
                add(sections, head, within);
                head = item.substring(2);
            }
        }
        add(sections, head, within);
        return new TicketForm(name.strip(), when, sections);
    }

    private static void add(List<TicketForm.Section> sections, String head, List<Long> within) {
        if (!within.isEmpty()) {
            sections.add(new TicketForm.Section(head, List.copyOf(within)));
            within.clear();
        }
    }
}
