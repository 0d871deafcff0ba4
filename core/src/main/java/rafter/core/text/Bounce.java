package rafter.core.text;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A report that a mail was not delivered.
 *
 * @param failures to whom it was not delivered and why, in order; may be empty when the report does not say
 * @param messageIds the Message-IDs that the report names, the likeliest one of the returned mail first
 * @param delayed whether delivery is still being tried
 */
public record Bounce(List<Failure> failures, List<String> messageIds, boolean delayed) {

    public Bounce {
        failures = List.copyOf(failures);
        messageIds = List.copyOf(messageIds);
    }

    /**
     * One receiver whom the mail did not reach.
     *
     * @param code what the server answered: a reply code, an enhanced status code (RFC 3463), or both; empty when it told none
     * @param reason in the server's own words; may be empty
     */
    public record Failure(String address, String code, String reason) {

        /** The failure in words, such as "kim@x.example: there is no such mailbox (550 5.1.1)". */
        public String words() {
            String meaning = meaning().orElse(reason.isBlank() ? "the mail server gave no reason" : "“" + reason + "”");
            String who = address.isEmpty() ? "" : address + ": ";
            return who + meaning + (code.isEmpty() ? "" : " (" + code + ")");
        }

        private Optional<String> meaning() {
            String status = code.replaceFirst("^[245]\\d\\d ", "");
            if (status.matches("[245]\\.\\d+\\.\\d+")) {
                return ofStatus(status.substring(2));
            }
            return Optional.empty();
        }

        private static Optional<String> ofStatus(String detail) {
            return Optional.ofNullable(
                    switch (detail) {
                        case "1.1", "1.3", "1.6", "1.10" -> "there is no such mailbox";
                        case "1.2", "4.4" -> "there is no such mail domain, or it takes no mail";
                        case "2.0", "2.1" -> "the mailbox is switched off";
                        case "2.2" -> "the mailbox is full";
                        case "2.3", "3.4" -> "the mail is too large for the mailbox";
                        case "4.1", "4.2", "4.3", "4.5", "4.6", "4.7" -> "the other mail server could not be reached";
                        case "7.1", "7.0", "7.25", "7.26", "7.27" ->
                            "the other mail server refused the mail by its rules";
                        default -> null;
                    });
        }
    }

    /** The whole report in words for the people of the ticket. */
    public String words() {
        String what = delayed
                ? "This mail of ours is delayed; its server goes on trying."
                : "This mail of ours was not delivered.";
        return failures.isEmpty()
                ? what
                : what + " " + failures.stream().map(Failure::words).collect(Collectors.joining("; ")) + ".";
    }
}
