/** Decides when the team is open: working time between two instants, and the instant at which an amount of it has passed. */
@NullMarked
package rafter.core.time;

import org.jspecify.annotations.NullMarked;
