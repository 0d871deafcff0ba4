package rafter.app.tickets.acts;

import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Secrets;
import rafter.core.id.TicketNumber;

/**
 * The addresses of the pages on which customers see their requests. An address holds the number of the ticket and what nobody can make
 * without the key of this installation, so that it need not be stored and stays the same.
 */
@Component
public class RequestPages {

    private static final String WHAT = "request page";

    private final Secrets secrets;
    private final String address;

    RequestPages(Secrets secrets, RafterSettings settings) {
        this.secrets = secrets;
        this.address = settings.address().toString();
    }

    /** The address of a ticket's page. */
    public String address(TicketNumber number) {
        return address + "/request/" + secrets.signed(WHAT, number.value());
    }

    /** The ticket whose page has this address; nothing when it is none of ours. */
    public Optional<TicketNumber> of(String token) {
        return secrets.unsigned(WHAT, token).stream()
                .mapToObj(TicketNumber::new)
                .findFirst();
    }
}
