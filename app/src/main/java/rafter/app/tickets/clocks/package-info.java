/** Clocks shown, explained and reckoned anew, and the steps they fire. */
@NullMarked
package rafter.app.tickets.clocks;

import org.jspecify.annotations.NullMarked;
