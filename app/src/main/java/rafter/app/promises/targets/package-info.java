/** The promises in force and the clocks that follow from them. */
@NullMarked
package rafter.app.promises.targets;

import org.jspecify.annotations.NullMarked;
