package rafter.app.platform;

import java.time.Duration;

/**
 * What holds for the whole of this Rafter.
 *
 * @param name the organisation, as customers know it
 * @param reopenFor how long a resolved ticket takes answers
 * @param acknowledge whether a new ticket is acknowledged
 * @param secret signs the marks in reply addresses
 * @param version rises with every change
 */
public record Workspace(String name, Duration reopenFor, boolean acknowledge, byte[] secret, int version) {}
