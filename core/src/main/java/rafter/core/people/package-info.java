/** Who of those that write to us may be one and the same. */
@NullMarked
package rafter.core.people;

import org.jspecify.annotations.NullMarked;
