package rafter.outside;

import com.icegreen.greenmail.mail.MailAddress;
import com.icegreen.greenmail.smtp.SmtpConnection;
import com.icegreen.greenmail.smtp.SmtpManager;
import com.icegreen.greenmail.smtp.SmtpState;
import com.icegreen.greenmail.smtp.commands.SmtpCommand;
import com.icegreen.greenmail.smtp.commands.SmtpCommandRegistry;
import java.io.IOException;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The commands of the SMTP server; an empty sender is one (RFC 5321, 4.5.5), and what goes wrong with a command ends no more than that. */
final class SteadyCommands extends SmtpCommandRegistry {

    /** Stands for an empty sender, which the library has no value for. */
    static final MailAddress NOBODY = new MailAddress("nobody@null-sender.invalid");

    @Override
    public @Nullable SmtpCommand getCommand(String name) {
        SmtpCommand command = super.getCommand(name);
        return command == null ? null : new Steady(command);
    }

    private static final class Steady extends SmtpCommand {
        private final SmtpCommand command;

        Steady(SmtpCommand command) {
            this.command = command;
        }

        @Override
        public void execute(SmtpConnection connection, SmtpState state, SmtpManager manager, String line)
                throws IOException {
            if (line.toUpperCase(Locale.ROOT).replace(" ", "").startsWith("MAILFROM:<>")) {
                state.clearMessagePreservingAuthenticationState();
                state.getMessage().setReturnPath(NOBODY);
                connection.send("250 OK");
                return;
            }
            try {
                command.execute(connection, state, manager, line);
            } catch (RuntimeException odd) {
                connection.send("451 that was not understood");
            }
        }
    }
}
