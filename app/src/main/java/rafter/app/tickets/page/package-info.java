/** The page of a ticket. */
@NullMarked
package rafter.app.tickets.page;

import org.jspecify.annotations.NullMarked;
