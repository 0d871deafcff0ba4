package rafter.core.social;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.core.text.Words;

/**
 * Finds the mood of a text by a list of words with weights. A word counts more after “very” and less after “a little”; a negation up to three
 * words before it, in the same part of the sentence, turns it around and takes a part of its force (after L. Polanyi and A. Zaenen, Contextual
 * Valence Shifters, 2006). The sum is brought between −1 and 1 by x / √(x² + 9), so that one light word alone decides nothing and many do not add up
 * without end. O(n).
 */
public final class Moods {

    private static final String SHIPPED = "mood-en.txt";
    private static final Pattern PART = Pattern.compile("[\\p{L}\\p{N}]+(?:['’][\\p{L}]+)?|[.,;:!?\\n]");
    private static final int REACH = 3;
    private static final double TURNED = -0.7;
    private static final double EVENED = 9;
    private static final Set<String> NEGATIONS =
            Set.of("not", "no", "never", "none", "nobody", "nothing", "neither", "nor", "without", "hardly", "cannot");
    private static final Map<String, Double> FORCE = Map.of(
            "very",
            1.5,
            "really",
            1.5,
            "so",
            1.3,
            "extremely",
            1.8,
            "totally",
            1.6,
            "quite",
            1.1,
            "slightly",
            0.6,
            "somewhat",
            0.7,
            "little",
            0.6);

    private final Map<String, Double> weights;

    private Moods(Map<String, Double> weights) {
        this.weights = Map.copyOf(weights);
    }

    /** With the list that ships with Rafter. */
    public static Moods shipped() {
        try (InputStream in = Moods.class.getResourceAsStream(SHIPPED)) {
            if (in == null) {
                throw new IllegalStateException(SHIPPED + " is missing");
            }
            return of(new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .toList());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * With a list of lines like {@code late -1.5}, each word in all its regular forms; what begins with # is skipped.
     *
     * @throws IllegalArgumentException when a line is none
     */
    public static Moods of(List<String> lines) {
        var weights = new HashMap<String, Double>();
        for (String line : lines) {
            if (line.isBlank() || line.startsWith("#")) {
                continue;
            }
            String[] parts = line.strip().split("\\s+");
            if (parts.length != 2 || !parts[1].matches("-?\\d(\\.\\d)?")) {
                throw new IllegalArgumentException("no word with a weight: " + line);
            }
            double weight = Double.parseDouble(parts[1]);
            Words.forms(Words.fold(parts[0])).forEach(form -> weights.putIfAbsent(form, weight));
        }
        return new Moods(weights);
    }

    /** The mood of a text. */
    public Mood of(String text) {
        var signs = new ArrayList<Mood.Sign>();
        int sinceNegation = REACH + 1;
        double force = 1;
        for (Matcher part = PART.matcher(text); part.find(); ) {
            String word = Words.fold(part.group()).toLowerCase(Locale.ROOT).replace('’', '\'');
            if (!Character.isLetterOrDigit(word.codePointAt(0)) || word.equals("but")) {
                sinceNegation = REACH + 1;
                force = 1;
                continue;
            }
            Optional<Double> weight = Optional.ofNullable(weights.get(word));
            boolean turned = sinceNegation <= REACH;
            if (weight.isPresent()) {
                signs.add(new Mood.Sign(word, weight.get() * force * (turned ? TURNED : 1), turned));
            }
            force = FORCE.getOrDefault(word, 1.0);
            sinceNegation = NEGATIONS.contains(word) || word.endsWith("n't") ? 1 : sinceNegation + 1;
        }
        double sum = signs.stream().mapToDouble(Mood.Sign::weight).sum();
        return new Mood(sum / Math.sqrt(sum * sum + EVENED), signs);
    }
}
