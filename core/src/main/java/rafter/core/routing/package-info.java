/** Decides in which queue a ticket waits and at which place, who can take it and who fits best, and who is asked next. Performs nothing. */
@NullMarked
package rafter.core.routing;

import org.jspecify.annotations.NullMarked;
