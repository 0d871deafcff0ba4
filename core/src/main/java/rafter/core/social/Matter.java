package rafter.core.social;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import rafter.core.text.Alike;
import rafter.core.text.Words;

/** What a post is about: its telling words, without the names of accounts and without words that every text has. */
final class Matter {

    private static final String SHIPPED = "plain-words-en.txt";
    private static final Pattern HANDLE = Pattern.compile("@\\S+");

    private final Set<String> plain;

    private Matter(Set<String> plain) {
        this.plain = Set.copyOf(plain);
    }

    /** With the list that ships with Rafter. */
    static Matter shipped() {
        try (InputStream in = Matter.class.getResourceAsStream(SHIPPED)) {
            if (in == null) {
                throw new IllegalStateException(SHIPPED + " is missing");
            }
            return new Matter(new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.startsWith("#"))
                    .flatMap(line -> Arrays.stream(line.strip().split("\\s+")))
                    .map(Words::fold)
                    .collect(Collectors.toSet()));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The words. */
    Set<String> of(String text) {
        return Alike.telling(HANDLE.matcher(text).replaceAll(" ")).stream()
                .filter(word -> !plain.contains(word))
                .collect(Collectors.toSet());
    }
}
