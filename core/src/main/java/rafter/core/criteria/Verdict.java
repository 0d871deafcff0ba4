package rafter.core.criteria;

import java.util.List;
import java.util.stream.IntStream;

/**
 * The answer to criteria, and how it came about.
 *
 * @param criteria what was asked
 * @param parts the answers of its parts
 * @param found what the ticket has in the field that was asked about
 */
public record Verdict(Criteria criteria, boolean matches, List<Verdict> parts, List<String> found) {

    /**
     * The same answer to the question as it was written, before it was {@linkplain Asking#resolve resolved}: "due within 4 h" reads
     * better than the instant that this meant.
     */
    public Verdict asWritten(Criteria written) {
        return new Verdict(written, matches, zip(partsOf(written)), found);
    }

    private List<Verdict> zip(List<Criteria> written) {
        return IntStream.range(0, parts.size())
                .mapToObj(i -> parts.get(i).asWritten(written.get(i)))
                .toList();
    }

    private static List<Criteria> partsOf(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts;
            case Criteria.Any(List<Criteria> parts) -> parts;
            case Criteria.Not(Criteria part) -> List.of(part);
            case Criteria.Test test -> List.of();
            case Criteria.Expert expert -> List.of();
        };
    }
}
