/** Decides what happened to a ticket, whose turn it is, and which message belongs to which ticket. */
@NullMarked
package rafter.core.ticket;

import org.jspecify.annotations.NullMarked;
