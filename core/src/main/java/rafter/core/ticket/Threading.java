package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.TicketNumber;

/**
 * Decides which ticket a message belongs to: by the signed mark in our reply address, by In-Reply-To and References, never
 * because the subject is alike.
 */
public final class Threading {

    /** What told that a message has to do with a ticket. */
    public enum Evidence {
        REPLY_MARK("the mark in our reply address"),
        REFERENCE("its reference to an earlier message");

        private final String words;

        Evidence(String words) {
            this.words = words;
        }

        /** The evidence in words. */
        public String words() {
            return words;
        }
    }

    /**
     * A ticket that a message points to.
     *
     * @param participants the addresses, in lower case, that take part in the ticket's mail
     */
    public record Candidate(
            TicketNumber ticket,
            Evidence evidence,
            TicketState state,
            Optional<Instant> resolvedAt,
            Set<String> participants) {}

    /** What is to become of a message. */
    public sealed interface Verdict {

        /** It joins a ticket. */
        record Joins(TicketNumber ticket, Evidence evidence) implements Verdict {}

        /**
         * It opens a ticket of its own.
         *
         * @param linkedTo the earlier ticket it has to do with, if any
         * @param why why it did not join that one; empty when there is none
         */
        record Opens(Optional<TicketNumber> linkedTo, String why) implements Verdict {}
    }

    private Threading() {}

    /**
     * Decides for a message written by a person.
     *
     * @param candidates the tickets it points to, the best evidence first
     * @param sender its author's addresses, in lower case
     * @param reopenFor how long a resolved ticket takes answers
     */
    public static Verdict decide(List<Candidate> candidates, Set<String> sender, Instant now, Duration reopenFor) {
        for (Candidate candidate : candidates) {
            if (isKnown(candidate, sender)
                    && Conduct.takesAnswers(candidate.state(), candidate.resolvedAt(), now, reopenFor)) {
                return new Verdict.Joins(candidate.ticket(), candidate.evidence());
            }
        }
        return candidates.stream()
                .findFirst()
                .map(first -> new Verdict.Opens(Optional.of(first.ticket()), reason(first, sender)))
                .orElse(new Verdict.Opens(Optional.empty(), ""));
    }

    /**
     * Decides for a message written by a machine: it joins what it points to, whatever the state, or nothing.
     *
     * @return the ticket whose mail it answers
     */
    public static Optional<TicketNumber> decideAutomatic(List<Candidate> candidates) {
        return candidates.stream().map(Candidate::ticket).findFirst();
    }

    private static boolean isKnown(Candidate candidate, Set<String> sender) {
        return sender.stream().anyMatch(candidate.participants()::contains);
    }

    private static String reason(Candidate candidate, Set<String> sender) {
        return isKnown(candidate, sender) ? "that ticket was over" : "its sender takes no part in that ticket";
    }
}
