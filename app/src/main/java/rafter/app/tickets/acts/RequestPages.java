package rafter.app.tickets.acts;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Secrets;
import rafter.core.id.Id;
import rafter.core.id.TicketNumber;

/**
 * The addresses of the pages on which customers see their requests. An address holds the number of the ticket and what nobody can make
 * without the key of this installation, so that it need not be stored and stays the same.
 */
@Component
public class RequestPages {

    private static final int LONG = 40;

    private final Secrets secrets;
    private final String address;

    RequestPages(Secrets secrets, RafterSettings settings) {
        this.secrets = secrets;
        this.address = settings.address().toString();
    }

    /** The address of a ticket's page. */
    public String address(TicketNumber number) {
        return address + "/request/" + token(number);
    }

    private String token(TicketNumber number) {
        return number + "-" + secrets.sign("request page " + number).substring(0, LONG);
    }

    /** The ticket whose page has this address; nothing when it is none of ours. */
    public Optional<TicketNumber> of(String token) {
        return Id.read(token.replaceFirst("-.*", ""), TicketNumber::new)
                .filter(number -> MessageDigest.isEqual(
                        token(number).getBytes(StandardCharsets.UTF_8), token.getBytes(StandardCharsets.UTF_8)));
    }
}
