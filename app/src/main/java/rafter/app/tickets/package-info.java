/** Tickets: what happens to them, their page, and answering. */
@NullMarked
package rafter.app.tickets;

import org.jspecify.annotations.NullMarked;
