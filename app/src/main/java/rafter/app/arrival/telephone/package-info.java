/** Telephone calls: from their first ring on they belong to a ticket, and telephone is a channel of tickets. */
@NullMarked
package rafter.app.arrival.telephone;

import org.jspecify.annotations.NullMarked;
