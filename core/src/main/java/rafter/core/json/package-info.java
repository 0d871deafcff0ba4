/** JSON for what is kept: strict in reading, so that a fault in what was kept is found where it is read. */
@NullMarked
package rafter.core.json;

import org.jspecify.annotations.NullMarked;
