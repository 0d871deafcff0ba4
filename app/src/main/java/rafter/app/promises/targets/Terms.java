package rafter.app.promises.targets;

import java.time.ZoneId;
import rafter.core.target.Editions;
import rafter.core.time.WorkingTime;

/**
 * What is promised, and the hours in which it counts.
 *
 * @param editions all that has been in force
 * @param hours the hours of the default calendar
 * @param zone the zone in which people here read times
 */
public record Terms(Editions editions, WorkingTime hours, ZoneId zone) {}
