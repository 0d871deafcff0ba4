package rafter.core.criteria;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;

/** What stands in one field, as the type of the field has it, ready for comparing. */
public sealed interface Fact {

    /** Nothing stands there. */
    Fact NOTHING = new Nothing();

    /** It as text, for saying why something matched; of several values each. */
    List<String> plain();

    /** The field is empty. */
    record Nothing() implements Fact {
        @Override
        public List<String> plain() {
            return List.of();
        }
    }

    /** One of several known things, by its key. */
    record Chosen(String key) implements Fact {
        @Override
        public List<String> plain() {
            return List.of(key);
        }
    }

    record Ranked(Priority priority) implements Fact {
        @Override
        public List<String> plain() {
            return List.of(priority.name());
        }
    }

    /** A set of short words. */
    record Several(Set<String> all) implements Fact {
        public Several {
            all = Set.copyOf(all);
        }

        @Override
        public List<String> plain() {
            return all.stream().sorted().toList();
        }
    }

    /**
     * Short texts, of which one is enough.
     *
     * @param folded the same, made ready for comparing
     */
    record Texts(List<String> plain, List<String> folded) implements Fact {}

    /** Running text. */
    record Running(List<String> plain, Words words) implements Fact {}

    record Amount(BigDecimal value) implements Fact {
        @Override
        public List<String> plain() {
            return List.of(value.toPlainString());
        }
    }

    record Day(LocalDate date) implements Fact {
        @Override
        public List<String> plain() {
            return List.of(date.toString());
        }
    }

    /** Since when something is so. */
    record Since(Instant at) implements Fact {
        @Override
        public List<String> plain() {
            return List.of(at.toString());
        }
    }

    /**
     * When something falls due or is to happen.
     *
     * @param riskFrom from when it is at risk; nothing when it never is
     */
    record Ahead(Instant at, Optional<Instant> riskFrom) implements Fact {
        @Override
        public List<String> plain() {
            return riskFrom.map(risk -> List.of(at.toString(), risk.toString()))
                    .orElseGet(() -> List.of(at.toString()));
        }
    }

    /** A choice; of a blank key nothing. */
    static Fact chosen(String key) {
        return key.isBlank() ? NOTHING : new Chosen(key);
    }

    /** Since an instant, if there is one. */
    static Fact since(Optional<Instant> at) {
        return at.<Fact>map(Since::new).orElse(NOTHING);
    }

    /**
     * Reads what is kept as text; blank values are left out, and what the type cannot hold is nothing.
     *
     * @param kept one value for most types, any number of a set or of texts; of {@link FieldType#DUE} and {@link FieldType#AHEAD} the time
     *     and, if there is one, from when it is at risk
     */
    static Fact read(FieldType type, List<String> kept) {
        List<String> plain = kept.stream().filter(value -> !value.isBlank()).toList();
        if (plain.isEmpty()) {
            return NOTHING;
        }
        String first = plain.getFirst();
        return switch (type) {
            case CHOICE -> new Chosen(first);
            case RANKED -> Priority.of(first).<Fact>map(Ranked::new).orElse(NOTHING);
            case SET -> new Several(Set.copyOf(plain));
            case TEXT -> new Texts(plain, plain.stream().map(Words::fold).toList());
            case WORDS -> new Running(plain, Words.of(plain));
            case NUMBER -> OwnField.number(first).<Fact>map(Amount::new).orElse(NOTHING);
            case DATE -> OwnField.date(first).<Fact>map(Day::new).orElse(NOTHING);
            case ELAPSED -> since(instant(first));
            case DUE, AHEAD ->
                instant(first)
                        .<Fact>map(at ->
                                new Ahead(at, plain.stream().skip(1).findFirst().flatMap(Fact::instant)))
                        .orElse(NOTHING);
        };
    }

    /** An instant written as ISO 8601 has it. */
    static Optional<Instant> instant(String text) {
        try {
            return Optional.of(Instant.parse(text));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }
}
