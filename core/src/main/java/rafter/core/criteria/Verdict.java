package rafter.core.criteria;

import java.util.List;

/**
 * The answer to criteria, and how it came about.
 *
 * @param criteria what was asked
 * @param parts the answers of its parts
 * @param found what the ticket has in the field that was asked about
 */
public record Verdict(Criteria criteria, boolean matches, List<Verdict> parts, List<String> found) {}
