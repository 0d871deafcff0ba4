package rafter.app.arrival.mail;

/**
 * How to reach and enter a mail server.
 *
 * @param security how the connection is kept private
 * @param login empty: the server asks for none
 */
public record MailServer(String host, int port, Security security, String login, String password) {

    /** How a connection is kept private. */
    public enum Security {
        NONE("none"),
        STARTTLS("STARTTLS"),
        TLS("TLS");

        private final String word;

        Security(String word) {
            this.word = word;
        }

        /** The word a person reads. */
        public String word() {
            return word;
        }
    }

    @Override
    public String toString() {
        return host + ":" + port + " as " + login;
    }
}
