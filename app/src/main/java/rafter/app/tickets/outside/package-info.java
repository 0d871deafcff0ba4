/** Conversations with third parties inside a ticket, unseen by the customer, and reminding them. */
@NullMarked
package rafter.app.tickets.outside;

import org.jspecify.annotations.NullMarked;
