/** The pages on which administrators say when the team is open. */
@NullMarked
package rafter.app.promises.hours;

import org.jspecify.annotations.NullMarked;
