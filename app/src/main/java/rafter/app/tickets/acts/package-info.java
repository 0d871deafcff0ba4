/** What happens to tickets: what arrives, what we do, and what time does; the events and the row that follows from them. */
@NullMarked
package rafter.app.tickets.acts;

import org.jspecify.annotations.NullMarked;
