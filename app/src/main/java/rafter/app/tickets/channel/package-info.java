/** The ways by which customers reach us and we them, as far as tickets need to know of them. */
@NullMarked
package rafter.app.tickets.channel;

import org.jspecify.annotations.NullMarked;
