package rafter.core.chat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.core.text.MailAddress;

/**
 * What the helper asks while somebody waits for a person: fixed questions, one after the other, each once, and once more when the answer
 * cannot stand where it is to stand.
 *
 * @param questions in the order in which they are asked
 */
public record Gathering(List<Question> questions) {

    public Gathering {
        questions = List.copyOf(questions);
    }

    private static final int LONGEST_NAME = 80;
    private static final int LONGEST_TOPIC = 60;
    private static final int FEW_WORDS = 3;
    private static final int MOST_WORDS = 200;
    private static final Pattern WORD = Pattern.compile("[^\\s,;:()\"“”]+");
    private static final Pattern END = Pattern.compile("[.!?]+$");

    /** Into what an answer goes. */
    public sealed interface Into {
        /** Who they are. */
        record Name() implements Into {}

        /** Where a mail reaches them. */
        record Address() implements Into {}

        /** What it is about. */
        record Topic() implements Into {}

        /** An own field of tickets, by its key. */
        record Field(String key) implements Into {}
    }

    /**
     * One question.
     *
     * @param key by which it is known
     * @param ask as it is asked
     * @param choices what can be answered, where that is fixed; empty: anything that fits
     */
    public record Question(String key, String ask, Into into, List<String> choices) {
        public Question {
            choices = List.copyOf(choices);
        }
    }

    /**
     * How far it has come.
     *
     * @param asked the key of what was asked last and has no answer yet; empty: nothing is
     * @param again whether that was asked a second time
     * @param done the keys of what was answered, is known otherwise, or was given up
     */
    public record Progress(Optional<String> asked, boolean again, Set<String> done) {
        public Progress {
            done = Set.copyOf(done);
        }

        /** Nothing was asked yet. */
        public static final Progress NONE = new Progress(Optional.empty(), false, Set.of());

        private Progress having(String key) {
            var more = new HashSet<>(done);
            more.add(key);
            return new Progress(Optional.empty(), false, more);
        }
    }

    /** Finds in words what a question wants. */
    public interface Reader {
        /** What is kept of a text in an own field; nothing when it cannot stand there. */
        Optional<String> field(String key, String text);
    }

    /**
     * What follows from what somebody wrote.
     *
     * @param value what was understood, and of which question
     * @param next the question that is asked now; nothing: no more is asked
     */
    public record Step(Progress progress, Optional<Value> value, Optional<Question> next, boolean unclear) {}

    /** What was understood. */
    public record Value(Question question, String text) {}

    /**
     * Reads what somebody wrote while they wait, and says what is asked next. O(questions + words).
     *
     * @param known the keys of questions whose answer is known without asking
     */
    public Step after(Progress progress, String words, Set<String> known, Reader reader) {
        Progress now = progress;
        for (String key : known) {
            now = now.asked().equals(Optional.of(key))
                    ? now.having(key)
                    : new Progress(now.asked(), now.again(), plus(now.done(), key));
        }
        Optional<Question> open = now.asked().flatMap(this::question);
        Optional<Value> value =
                open.flatMap(question -> read(question, words, reader).map(text -> new Value(question, text)));
        if (value.isPresent()) {
            now = now.having(value.get().question().key());
        } else if (open.isPresent()) {
            if (!now.again()) {
                return new Step(new Progress(now.asked(), true, now.done()), Optional.empty(), open, true);
            }
            now = now.having(open.get().key());
        }
        Set<String> done = now.done();
        Optional<Question> next =
                questions.stream().filter(one -> !done.contains(one.key())).findFirst();
        return new Step(new Progress(next.map(Question::key), false, done), value, next, false);
    }

    private static Set<String> plus(Set<String> done, String key) {
        var more = new HashSet<>(done);
        more.add(key);
        return more;
    }

    private Optional<Question> question(String key) {
        return questions.stream().filter(one -> one.key().equals(key)).findFirst();
    }

    private static Optional<String> read(Question question, String words, Reader reader) {
        if (!question.choices().isEmpty()) {
            return question.choices().stream()
                    .filter(choice -> choice.equalsIgnoreCase(plain(words)))
                    .findFirst();
        }
        return switch (question.into()) {
            case Into.Name name ->
                Optional.of(plain(words))
                        .filter(text -> !text.isEmpty()
                                && text.length() <= LONGEST_NAME
                                && !text.contains("@")
                                && text.codePoints().anyMatch(Character::isLetter)
                                && words.lines().count() == 1);
            case Into.Address address ->
                candidates(words).stream()
                        .flatMap(text -> MailAddress.of(text).stream())
                        .filter(found -> found.writable() && found.domain().contains("."))
                        .map(MailAddress::toString)
                        .findFirst();
            case Into.Topic topic ->
                Optional.of(plain(words)).filter(text -> !text.isEmpty() && text.length() <= LONGEST_TOPIC);
            case Into.Field field ->
                candidates(words).stream()
                        .flatMap(text -> reader.field(field.key(), text).filter(kept -> !kept.isBlank()).stream())
                        .findFirst();
        };
    }

    private static String plain(String words) {
        return END.matcher(words.strip()).replaceAll("");
    }

    /**
     * The whole first, then each of its words: somebody writes a number and then what it is about. Of more than a few words those with figures
     * come before the whole, for a booking is asked for and not a story.
     */
    private static List<String> candidates(String words) {
        var each = new ArrayList<String>();
        for (Matcher word = WORD.matcher(words); word.find() && each.size() < MOST_WORDS; ) {
            each.add(plain(word.group()));
        }
        var all = new ArrayList<String>();
        if (each.size() > FEW_WORDS) {
            each.stream()
                    .filter(word -> word.codePoints().anyMatch(Character::isDigit))
                    .forEach(all::add);
        }
        all.add(plain(words));
        all.addAll(each);
        return all.stream().filter(text -> !text.isEmpty()).toList();
    }
}
