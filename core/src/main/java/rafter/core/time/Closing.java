package rafter.core.time;

import java.time.ZoneId;

/**
 * A stretch in which a closing or a holiday holds.
 *
 * @param name what people call it
 * @param holiday whether it comes from a holiday set
 * @param zone the zone by which its edges were reckoned
 */
public record Closing(Interval time, String name, boolean holiday, ZoneId zone) {}
