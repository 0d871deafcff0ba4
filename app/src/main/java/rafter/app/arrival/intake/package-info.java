/** The way in: fetching mail, keeping it raw, and making it an entry on a ticket. */
@NullMarked
package rafter.app.arrival.intake;

import org.jspecify.annotations.NullMarked;
