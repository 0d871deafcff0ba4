/** Decides who is asked into a consult: the fewest people who together know what is needed, and who is asked next. */
@NullMarked
package rafter.core.consult;

import org.jspecify.annotations.NullMarked;
