/** Decides how figures are taken from what happened, and how sure they are. */
@NullMarked
package rafter.core.measure;

import org.jspecify.annotations.NullMarked;
