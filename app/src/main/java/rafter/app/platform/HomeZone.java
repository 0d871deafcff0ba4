package rafter.app.platform;

import java.time.ZoneId;

/** The zone in which people here read times. */
public interface HomeZone {

    /** As it is now; an administrator can change it. */
    ZoneId zone();
}
