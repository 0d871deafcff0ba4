/** What customers say of how they were helped: asked some time after a ticket was resolved, and answered on a page of its own. */
@NullMarked
package rafter.app.tickets.rating;

import org.jspecify.annotations.NullMarked;
