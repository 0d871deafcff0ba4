package rafter.app.handout.consults;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Secrets;

/**
 * The addresses of rooms. That of somebody from outside holds the number of their invitation and what nobody can make without the key of this
 * installation; it is theirs alone.
 */
@Component
class RoomPages {

    private static final int LONG = 40;

    private final Secrets secrets;
    private final String address;

    RoomPages(Secrets secrets, RafterSettings settings) {
        this.secrets = secrets;
        this.address = settings.address().toString();
    }

    /** Where colleagues find a room. */
    String ofConsult(long consult) {
        return address + "/consults/" + consult;
    }

    /** Where somebody from outside finds the room that they are asked into. */
    String ofGuest(long guest) {
        return address + "/room/" + token(guest);
    }

    String token(long guest) {
        return guest + "-" + secrets.sign("room " + guest).substring(0, LONG);
    }

    /** The invitation whose room has this address; empty when it is none of ours. */
    OptionalLong guest(String token) {
        String number = token.replaceFirst("-.*", "");
        if (!number.matches("\\d{1,18}")) {
            return OptionalLong.empty();
        }
        long guest = Long.parseLong(number);
        boolean ours = MessageDigest.isEqual(
                token(guest).getBytes(StandardCharsets.UTF_8), token.getBytes(StandardCharsets.UTF_8));
        return ours ? OptionalLong.of(guest) : OptionalLong.empty();
    }
}
