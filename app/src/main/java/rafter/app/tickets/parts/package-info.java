/** The parts of the work on a ticket: who watches, tasks, time with its stopwatch, how it was resolved, what it is a part of. */
@NullMarked
package rafter.app.tickets.parts;

import org.jspecify.annotations.NullMarked;
