package rafter.app.handout.consults;

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

    private static final String WHAT = "room";

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
        return secrets.signed(WHAT, guest);
    }

    /** The invitation whose room has this address; empty when it is none of ours. */
    OptionalLong guest(String token) {
        return secrets.unsigned(WHAT, token);
    }
}
