package rafter.core.criteria;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelOptions;
import dev.cel.common.CelValidationException;
import dev.cel.common.types.CelType;
import dev.cel.common.types.ListType;
import dev.cel.common.types.MapType;
import dev.cel.common.types.SimpleType;
import dev.cel.compiler.CelCompiler;
import dev.cel.compiler.CelCompilerBuilder;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A question in the Common Expression Language, for what a sentence cannot say: {@code priority <= 2 && tags.exists(t,
 * t.startsWith("vip"))}. It knows the {@linkplain Name names} and nothing else, has no effects, and its cost is bounded by its length and by
 * what a comprehension may walk through. What fails while it is evaluated does not match.
 */
public final class Formula {

    /** Longer ones are refused. */
    public static final int LONGEST = 1_000;

    /** So many steps all comprehensions of one evaluation may take together. */
    private static final int MOST_STEPS = 10_000;

    /** What a formula can name. */
    public enum Name {
        SUBJECT("subject", SimpleType.STRING, "the subject", text(KnownField.SUBJECT)),
        FIRST_MESSAGE("first_message", SimpleType.STRING, "the first message", text(KnownField.FIRST_MESSAGE)),
        STATE("state", SimpleType.STRING, "the key of its state, such as \"new\"", text(KnownField.STATE)),
        TURN("turn", SimpleType.STRING, "\"OURS\", \"CUSTOMER\", \"PARTNER\" or \"NOBODY\"", text(KnownField.TURN)),
        TOPIC("topic", SimpleType.STRING, "the topic; empty for none", text(KnownField.TOPIC)),
        TEAM("team", SimpleType.STRING, "the number of its team; empty for none", text(KnownField.TEAM)),
        OWNER("owner", SimpleType.STRING, "the number of its owner; empty for nobody", text(KnownField.OWNER)),
        PLAN("plan", SimpleType.STRING, "the customer’s plan; empty for none", text(KnownField.PLAN)),
        COMPANY("company", SimpleType.STRING, "the number of the company; empty for none", text(KnownField.COMPANY)),
        CHANNEL("channel", SimpleType.STRING, "the channel, such as \"email\"", text(KnownField.CHANNEL)),
        CONTACT("contact_name", SimpleType.STRING, "the contact’s name", text(KnownField.CONTACT_NAME)),
        ADDRESSES(
                "contact_addresses",
                ListType.create(SimpleType.STRING),
                "the contact’s addresses",
                facts -> facts.of(KnownField.CONTACT_ADDRESS).plain()),
        PRIORITY(
                "priority",
                SimpleType.INT,
                "1 for P1 to 4 for P4",
                facts -> facts.of(KnownField.PRIORITY, Fact.Ranked.class)
                        .map(ranked -> ranked.priority().ordinal() + 1L)
                        .orElse(0L)),
        TAGS(
                "tags",
                ListType.create(SimpleType.STRING),
                "its tags",
                facts -> facts.of(KnownField.TAGS).plain()),
        FROM_CUSTOMER(
                "customer_messages",
                SimpleType.INT,
                "how often the customer wrote",
                number(KnownField.CUSTOMER_MESSAGES)),
        FROM_US("our_messages", SimpleType.INT, "how often one of us wrote", number(KnownField.OUR_MESSAGES)),
        REOPENINGS("reopenings", SimpleType.INT, "how often it was reopened", number(KnownField.REOPENINGS)),
        EARLIER(
                "earlier_tickets",
                SimpleType.INT,
                "this customer’s tickets of the 30 days before it came",
                number(KnownField.EARLIER_TICKETS)),
        TASKS("open_tasks", SimpleType.INT, "how many tasks are open", number(KnownField.OPEN_TASKS)),
        MINUTES("minutes_spent", SimpleType.INT, "the minutes spent", number(KnownField.TIME_SPENT)),
        OWN(
                "own",
                MapType.create(SimpleType.STRING, SimpleType.STRING),
                "what stands in own fields, by their key, such as own[\"own-7-text\"]",
                facts -> facts.own().entrySet().stream()
                        .collect(Collectors.toMap(
                                entry -> entry.getKey().key(),
                                entry -> String.join(", ", entry.getValue().plain()))));

        private final String word;
        private final CelType type;
        private final String meaning;
        private final Function<Facts, Object> value;

        Name(String word, CelType type, String meaning, Function<Facts, Object> value) {
            this.word = word;
            this.type = type;
            this.meaning = meaning;
            this.value = value;
        }

        /** As a formula writes it. */
        public String word() {
            return word;
        }

        /** What it stands for. */
        public String meaning() {
            return meaning;
        }

        private static Function<Facts, Object> text(KnownField field) {
            return facts -> String.join("\n", facts.of(field).plain());
        }

        private static Function<Facts, Object> number(KnownField field) {
            return facts -> facts.of(field, Fact.Amount.class)
                    .map(Fact.Amount::value)
                    .map(BigDecimal::longValue)
                    .orElse(0L);
        }
    }

    private static final CelOptions OPTIONS = CelOptions.current()
            .enableHeterogeneousNumericComparisons(true)
            .comprehensionMaxIterations(MOST_STEPS)
            .maxExpressionCodePointSize(LONGEST)
            .maxParseRecursionDepth(50)
            .build();

    /** Making one takes a tenth of a second, and it has no state. */
    private static final class Language {
        static final CelCompiler COMPILER = compiler();
        static final CelRuntime RUNTIME =
                CelRuntimeFactory.plannerRuntimeBuilder().setOptions(OPTIONS).build();

        private static CelCompiler compiler() {
            CelCompilerBuilder builder = CelCompilerFactory.standardCelCompilerBuilder()
                    .setOptions(OPTIONS)
                    .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
                    .setResultType(SimpleType.BOOL);
            Stream.of(Name.values()).forEach(name -> builder.addVar(name.word, name.type));
            return builder.build();
        }
    }

    /** Either what evaluates it, or what is wrong with it. */
    private record Compiled(Optional<CelRuntime.Program> program, String fault) {}

    private final String text;
    private volatile @Nullable Compiled compiled;

    private Formula(String text) {
        this.text = text;
    }

    /** The formula that was typed; whether it is one, {@link #fault} says. */
    public static Formula of(String text) {
        return new Formula(text.strip());
    }

    /** As it was typed. */
    public String text() {
        return text;
    }

    /** What is wrong with it, in words; nothing when it can be used. */
    public Optional<String> fault() {
        return Optional.of(compiled().fault()).filter(words -> !words.isEmpty());
    }

    /** Whether facts match it; never when it cannot be evaluated. */
    public boolean matches(Facts facts) {
        return compiled().program().filter(program -> evaluate(program, facts)).isPresent();
    }

    private static boolean evaluate(CelRuntime.Program program, Facts facts) {
        var values = new HashMap<String, Object>();
        for (Name name : Name.values()) {
            values.put(name.word, name.value.apply(facts));
        }
        try {
            return Boolean.TRUE.equals(program.eval(Map.copyOf(values)));
        } catch (CelEvaluationException e) {
            return false;
        }
    }

    private Compiled compiled() {
        Compiled known = compiled;
        if (known == null) {
            known = compile(text);
            compiled = known;
        }
        return known;
    }

    private static Compiled compile(String text) {
        if (text.isEmpty()) {
            return new Compiled(Optional.empty(), "The formula is empty.");
        }
        if (text.length() > LONGEST) {
            return new Compiled(Optional.empty(), "A formula has at most " + LONGEST + " letters.");
        }
        try {
            CelAbstractSyntaxTree tree = Language.COMPILER.compile(text).getAst();
            return new Compiled(Optional.of(Language.RUNTIME.createProgram(tree)), "");
        } catch (CelValidationException e) {
            return new Compiled(Optional.empty(), "The formula cannot be read: " + first(e));
        } catch (CelEvaluationException e) {
            return new Compiled(Optional.empty(), "The formula cannot be evaluated.");
        }
    }

    /** The first fault with its place in the line, without the drawing below it. */
    private static String first(CelValidationException e) {
        return e.getErrors().stream()
                .findFirst()
                .map(issue -> issue.getMessage().lines().findFirst().orElse("") + " (at letter "
                        + (issue.getSourceLocation().getColumn() + 1) + ")")
                .orElse("nobody knows why");
    }

    /** The names and what they stand for, for who writes a formula. */
    public static List<Name> names() {
        return List.of(Name.values());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Formula formula && formula.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }

    @Override
    public String toString() {
        return text;
    }
}
