package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import rafter.core.ticket.Turn;

/**
 * A stretch of a clock's life in which one side had the turn, {@code [from, to)}.
 *
 * @param turn whose turn it was
 * @param counts whether working time in it counted; otherwise the clock was held
 * @param working the working time in it, counted or not
 */
public record Segment(Instant from, Instant to, Turn turn, boolean counts, Duration working) {}
