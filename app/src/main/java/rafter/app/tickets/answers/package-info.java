/** Draft answers: made of how tickets were resolved, kept for the help site. */
@NullMarked
package rafter.app.tickets.answers;

import org.jspecify.annotations.NullMarked;
