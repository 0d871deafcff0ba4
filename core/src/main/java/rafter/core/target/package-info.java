/** Decides when each promise on a ticket is due, what time counted towards it, and whether it was kept. */
@NullMarked
package rafter.core.target;

import org.jspecify.annotations.NullMarked;
