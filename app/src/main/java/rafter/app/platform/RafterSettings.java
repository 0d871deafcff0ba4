package rafter.app.platform;

import java.net.URI;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What is set from outside, as {@code rafter.*} or {@code RAFTER_*}.
 *
 * @param address where people reach this Rafter
 * @param secretKey guards the mailbox passwords in the database
 * @param firstAdministrator the address of the administrator that is made when there is nobody yet
 * @param firstPassword their password
 * @param intake how mail comes in
 */
@ConfigurationProperties("rafter")
public record RafterSettings(
        @DefaultValue("http://127.0.0.1:8400") URI address,
        @DefaultValue("") String secretKey,
        @DefaultValue("") String firstAdministrator,
        @DefaultValue("") String firstPassword,
        @DefaultValue Intake intake) {

    /**
     * How mail comes in.
     *
     * @param workers how many messages are processed at once; none: this node only serves pages
     * @param watch whether this node watches mailboxes
     * @param poll how long to wait between two looks into a mailbox whose server does not tell
     */
    public record Intake(
            @DefaultValue("4") int workers,
            @DefaultValue("true") boolean watch,
            @DefaultValue("20s") Duration poll) {}
}
