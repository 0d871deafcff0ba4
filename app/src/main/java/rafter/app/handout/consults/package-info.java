/** Consults: asking others in who know what is needed, and the room in which they talk beside the ticket. */
@NullMarked
package rafter.app.handout.consults;

import org.jspecify.annotations.NullMarked;
