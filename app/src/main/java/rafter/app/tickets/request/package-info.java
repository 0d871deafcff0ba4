/** The page on which a customer sees their request. */
@NullMarked
package rafter.app.tickets.request;

import org.jspecify.annotations.NullMarked;
